"""A score belongs to its piece for ever: whatever becomes of the board, nothing moves unasked."""

import random

import pytest
from shared import TODAY, keys, published

DATE = TODAY.isoformat()
DAY = f"/api/days/{DATE}"
NEAP = '## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up'
EBB = '## Conditioning "Ebb": 3 rounds for time, cap 12:00\n10 burpee\n10 air squat'
LIFT = '## Strength "Lift": 3 sets, build\n5 deadlift'
ENTRIES = {"Neap": "5+12", "Ebb": "7:10", "Lift": "80"}
OTHER = '## Conditioning "Undertow": every 2:00 x 5, score total reps\nmax box jump @ 60/50 cm'


def board(*pieces: str) -> str:
    return "# Day\n\n" + "\n\n".join(pieces) + "\n"


@pytest.fixture
def coach(browser_of, gym):
    client = browser_of("Carla")
    published(client, board(NEAP, EBB, LIFT))
    for title, key in keys(client, DAY).items():
        body = {"entered": ENTRIES[title], "tier": 0, "track": 0, "version": 0}
        answer = client.put(f"{DAY}/pieces/{key}/scores/{gym['Anna']}", json=body)
        assert answer.status_code == 200, answer.text
    return client


def save(client, text: str, **answers: int | None):
    version = client.get(DAY).json()["version"]
    told = [{"key": key, "place": place} for key, place in answers.items()]
    return client.put(DAY, json={"text": text, "version": version, "answers": told})


def standing(client) -> dict[str, str]:
    """What stands where: the score of each piece on the board, by its title."""
    sheet = client.get(f"{DAY}/sheet").json()
    titles = {one["key"]: one["title"] for one in sheet["pieces"]}
    return {titles[s["piece_key"]]: s["entered"] for s in sheet["scores"]}


def kept(client) -> int:
    sheet = client.get(f"{DAY}/sheet").json()
    return len(sheet["scores"]) + sum(len(one["scores"]) for one in sheet["aside"])


@pytest.mark.parametrize(
    "text",
    [
        board(LIFT, EBB, NEAP),
        board(OTHER, NEAP, EBB, LIFT),
        board(NEAP, OTHER, EBB, OTHER.replace("Undertow", "Race"), LIFT),
        board(NEAP.replace("20 sit-up", "20 sit-up\n5 pull-up"), EBB, LIFT),
        board(NEAP.replace("12:00", "15:00"), EBB, LIFT),
    ],
    ids=["reordered", "one inserted", "two inserted", "a line added", "longer"],
)
def test_scores_stay_with_their_piece(coach, text):
    assert save(coach, text).status_code == 200
    assert standing(coach) == ENTRIES


def test_a_renamed_piece_takes_its_score_along(coach):
    assert save(coach, board(NEAP.replace("Neap", "Spring"), EBB, LIFT)).status_code == 200
    assert standing(coach) == {"Spring": "5+12", "Ebb": "7:10", "Lift": "80"}


def test_a_removed_piece_is_asked_about_and_nothing_is_saved_until_then(coach):
    before = coach.get(DAY).json()
    asked = save(coach, board(EBB, LIFT))
    assert asked.status_code == 409
    assert [one["title"] for one in asked.json()["questions"]] == ["Neap"]
    assert asked.json()["titles"] == ["Ebb", "Lift"]
    assert coach.get(DAY).json() == before
    assert standing(coach) == ENTRIES


def test_set_aside_put_onto_a_piece_and_back_again(coach):
    key = keys(coach, DAY)["Neap"]
    spring = NEAP.replace("Neap", "Spring").replace("12:00", "10:00").replace("push-up", "dip")
    assert save(coach, board(OTHER, EBB, LIFT), **{key: None}).status_code == 200
    assert "Neap" not in standing(coach)
    assert kept(coach) == 3
    assert save(coach, board(spring, EBB, LIFT)).status_code == 200
    to = keys(coach, DAY)["Spring"]
    assert coach.post(f"{DAY}/pieces/{key}/put", json={"to": to}).json() == {"moved": 1}
    assert standing(coach)["Spring"] == "5+12"
    assert coach.post(f"{DAY}/pieces/{to}/put", json={"to": key}).json() == {"moved": 1}
    assert "Spring" not in standing(coach)
    assert kept(coach) == 3


def test_scores_are_not_put_over_others(coach):
    found = keys(coach, DAY)
    refused = coach.post(f"{DAY}/pieces/{found['Neap']}/put", json={"to": found["Ebb"]})
    assert refused.status_code == 409
    assert "Anna Test" in refused.json()["detail"]
    assert standing(coach) == ENTRIES


def test_a_piece_that_comes_back_brings_its_scores(coach):
    key = keys(coach, DAY)["Neap"]
    assert save(coach, board(EBB, LIFT), **{key: None}).status_code == 200
    assert save(coach, board(EBB, LIFT, NEAP)).status_code == 200
    assert standing(coach) == ENTRIES
    assert keys(coach, DAY)["Neap"] == key


def test_another_format_that_cannot_read_the_scores_is_asked_about(coach):
    timed = NEAP.replace("AMRAP 12:00", "3 rounds for time")
    asked = save(coach, board(timed, EBB, LIFT))
    assert [one["why"] for one in asked.json()["questions"]] == ["unreadable"]
    key = keys(coach, DAY)["Neap"]
    assert save(coach, board(timed, EBB, LIFT), **{key: None}).status_code == 200
    # With the piece as it was, the score is still read.
    (aside,) = coach.get(f"{DAY}/sheet").json()["aside"]
    assert aside["scores"][0]["display"] == "5+12"


def test_an_answer_may_name_the_piece_that_was_meant(coach):
    key = keys(coach, DAY)["Neap"]
    new = '## Conditioning "Mill Race": AMRAP 9:00\n8 wall ball @ 9/6 kg'
    assert save(coach, board(new, EBB, LIFT)).status_code == 409
    assert save(coach, board(new, EBB, LIFT), **{key: 0}).status_code == 200
    assert standing(coach)["Mill Race"] == "5+12"


def test_jots_heats_and_ends_point_at_the_identity_too(coach, gym):
    key = keys(coach, DAY)["Neap"]
    note = {
        "key": "device-0001",
        "person_id": gym["Bert"],
        "round": 1,
        "number": 100,
        "noted_at": f"{DATE}T10:00:00Z",
    }
    coach.post(f"{DAY}/pieces/{key}/jots", json={"jots": [note]})
    assert save(coach, board(LIFT, EBB, NEAP.replace("Neap", "Spring"))).status_code == 200
    (person,) = coach.get(f"{DAY}/pieces/{key}/jots").json()["people"]
    assert person["rounds"] == {"1": 100}


@pytest.mark.parametrize("seed", range(12))
def test_no_row_of_edits_moves_or_loses_a_score_unasked(coach, seed):
    chance = random.Random(seed)
    pieces = {"Neap": NEAP, "Ebb": EBB, "Lift": LIFT}
    order = list(pieces)
    names = dict(zip(order, order, strict=True))
    for step in range(8):
        what = chance.choice(["reorder", "rename", "line", "insert", "duplicate", "remove"])
        one = chance.choice(order)
        before = (dict(pieces), list(order), dict(names))
        if what == "reorder":
            order.insert(chance.randrange(len(order)), order.pop(order.index(one)))
        elif what == "rename":
            fresh = f"Name {step}"
            pieces[one] = pieces[one].replace(f'"{names[one]}"', f'"{fresh}"')
            names[one] = fresh
        elif what == "line" and one != "Lift":
            pieces[one] += f"\n{step + 3} lunge"
        elif what == "insert":
            other = f"New {step}"
            pieces[other] = OTHER.replace("Undertow", other)
            names[other] = other
            order.insert(chance.randrange(len(order) + 1), other)
        text = board(*(pieces[name] for name in order))
        if what == "duplicate":
            text = board(*(pieces[name] for name in [*order, one]))
        elif what == "remove":
            text = board(*(pieces[name] for name in order if name != one))
        answer = save(coach, text)
        if answer.status_code == 409:
            # Asked: nothing changed, and it was about scores.
            assert answer.json()["questions"]
            pieces, order, names = before
        elif what == "remove":
            assert one not in ENTRIES
            order.remove(one)
        stood = standing(coach)
        wanted = {names[name]: ENTRIES[name] for name in order if name in ENTRIES}
        assert stood == wanted, (what, one, text)
        if what == "duplicate" and answer.status_code == 200:
            save(coach, board(*(pieces[name] for name in order)))
    assert kept(coach) == 3

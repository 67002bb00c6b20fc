"""Beginning a board: from an earlier day or piece, or with a piece kept by name."""

from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse

TO = "2026-06-10"
NEAP = """# Neap
date: 2026-06-01

## Strength: 4 sets, rest 1:30
5 front squat

## Conditioning "Undertow": AMRAP 12:00
10 kettlebell swing
10 burpee
"""
SPRING = "Spring\n\nwarm-up 3 rounds\n10 KBS\n\nEMOM 10\n5 burpees\n"


def write(client, date, text):
    answer = client.put(f"/api/days/{date}", json={"text": text, "version": 0})
    assert answer.status_code == 200, answer.text


def looked_for(client, **said):
    found = client.get("/api/earlier", params={"to": TO, **said})
    assert found.status_code == 200, found.text
    return found.json()


def test_earlier_days_come_newest_first_dated_for_the_day_wanted(browser_of):
    client = browser_of("Carla")
    write(client, "2026-06-01", NEAP)
    write(client, "2026-06-03", SPRING)
    write(client, TO, "# Itself\n\n## Rest: 2:00\n")
    spring, neap = looked_for(client)
    assert (spring["date"], neap["date"]) == ("2026-06-03", "2026-06-01")
    assert neap["board"]["text"] == NEAP.replace("2026-06-01", TO)
    assert neap["outline"]["pieces"][0]["role"] == "strength"
    assert not any(piece["found"] for piece in neap["board"]["pieces"])


def test_words_a_movement_by_any_name_a_programme_and_dates_narrow_the_list(browser_of):
    client = browser_of("Carla")
    write(client, "2026-06-01", NEAP)
    write(client, "2026-06-03", SPRING)

    def titles(**said):
        return [day["board"]["title"] for day in looked_for(client, **said)]

    assert titles(words="undertow amrap") == ["Neap"]
    assert titles(words="undertow spring") == []
    assert titles(movement="kettlebell swing") == ["Spring", "Neap"]
    assert titles(movement="front squat") == ["Neap"]
    assert titles(movement="pushups") == []
    write(client, "2026-06-04", "# Ebb\n\n## Warm-up: 3 rounds\n10 push ups\n")
    assert titles(movement="push-up") == ["Ebb"]
    assert titles(movement="squat 100%") == []
    assert titles(since="2026-06-02", until="2026-06-03") == ["Spring"]
    assert titles(until="2026-06-02") == ["Neap"]
    assert titles(programme="no such programme") == []
    assert titles(words="100%_") == []


def test_pieces_stand_apart_as_typed_and_those_looked_for_are_marked(browser_of):
    client = browser_of("Carla")
    write(client, "2026-06-03", SPRING)
    (day,) = looked_for(client, movement="burpee")
    warm_up, emom = day["board"]["pieces"]
    assert (warm_up["found"], emom["found"]) == (False, True)
    assert warm_up["text"] == "warm-up 3 rounds\n10 KBS"
    assert emom["text"] == "EMOM 10\n5 burpees"


def test_a_piece_is_offered_with_its_stated_step_too(browser_of):
    client = browser_of("Carla")
    write(client, "2026-06-01", NEAP)
    (day,) = looked_for(client)
    strength, conditioning = day["board"]["pieces"]
    assert strength["stepped"].startswith("## Strength: 5 sets")
    assert conditioning["stepped"] is None
    assert strength["stepped"] in day["board"]["stepped"]


def test_a_piece_is_kept_by_name_once_and_given_back_as_it_was_typed(browser_of):
    client = browser_of("Carla")
    form = {"name": "  Slipway   warm-up ", "text": "warm-up 3 rounds\n10 KBS\n\n"}
    kept = client.post("/api/pieces", json=form).json()
    assert (kept["name"], kept["text"]) == ("Slipway warm-up", "warm-up 3 rounds\n10 KBS")
    again = client.post("/api/pieces", json={**form, "name": "SLIPWAY WARM-UP"})
    assert (again.status_code, again.json()["detail"]) == (
        409,
        "a piece called SLIPWAY WARM-UP is kept already",
    )
    assert client.get("/api/pieces").json() == [kept]
    assert client.delete(f"/api/pieces/{kept['id']}").status_code == 204
    assert client.delete(f"/api/pieces/{kept['id']}").status_code == 404


def test_only_one_whole_piece_is_kept_under_a_name(browser_of):
    client = browser_of("Carla")
    for text in (NEAP, "", "just words"):
        refused = client.post("/api/pieces", json={"name": "Two", "text": text})
        assert refused.status_code == 422
        assert "one piece is kept under a name" in refused.json()["detail"]
    assert client.post("/api/pieces", json={"name": "   ", "text": NEAP}).status_code == 422


def test_what_is_kept_reads_as_the_piece_it_was(browser_of):
    client = browser_of("Carla")
    shelf = library()
    write(client, "2026-06-01", NEAP)
    (day,) = looked_for(client)
    for at, piece in enumerate(day["board"]["pieces"]):
        kept = client.post("/api/pieces", json={"name": f"Part {at}", "text": piece["text"]}).json()
        read = parse(kept["text"], shelf).session.pieces
        assert read == (parse(NEAP, shelf).session.pieces[at],)

"""The week and the library over HTTP: copy, move, clear, publish, look up."""

import datetime as dt

from shared import TODAY, publish

DAY, NEXT, OTHER = "2026-06-01", "2026-06-02", "2026-06-05"
BOARD = "# Neap\ndate: 2026-06-01\n\n## Conditioning: AMRAP 12:00\n10 kettlebell swing\n"


def write(client, date: str, text: str = BOARD, version: int = 0) -> None:
    answer = client.put(f"/api/days/{date}", json={"text": text, "version": version})
    assert answer.status_code == 200, answer.text


def test_a_week_runs_from_monday_and_tells_what_it_loads(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    week = client.get("/api/week/2026-06-04").json()
    assert week["monday"] == DAY
    assert len(week["days"]) == 7
    monday, tuesday = week["days"][:2]
    assert (monday["title"], tuesday["outline"]) == ("Neap", None)
    assert monday["load"]["work"]["hinge"] > 100


def test_a_copy_lands_on_an_empty_day_under_its_own_date(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    form = {"to": NEXT, "version": 0}
    source, target = client.post(f"/api/days/{DAY}/copy", json=form).json()
    assert source["text"] == BOARD
    assert target["text"] == BOARD.replace(DAY, NEXT)
    again = client.post(f"/api/days/{DAY}/copy", json={"to": NEXT, "version": 1})
    assert again.status_code == 409
    assert "holds a board already" in again.json()["detail"]


def test_moving_empties_the_source_and_clearing_can_be_undone(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    form = {"to": OTHER, "version": 0, "move": True}
    source, target = client.post(f"/api/days/{DAY}/copy", json=form).json()
    assert (source["text"], source["version"]) == ("", 2)
    assert target["version"] == 2
    cleared = client.post(f"/api/days/{OTHER}/clear", json={"version": 2}).json()
    assert cleared["text"] == ""
    write(client, OTHER, target["text"], cleared["version"])
    stale = client.post(f"/api/days/{OTHER}/clear", json={"version": 2})
    assert stale.status_code == 409
    assert stale.json()["newer"]["version"] == 4


def test_a_move_that_fails_changes_nothing(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    form = {"to": NEXT, "version": 7, "move": True}
    assert client.post(f"/api/days/{DAY}/copy", json=form).status_code == 409
    assert client.get(f"/api/days/{DAY}").json()["text"] == BOARD
    assert client.get(f"/api/days/{NEXT}").json()["version"] == 0


def test_a_scored_day_is_cleared_only_when_its_scores_are_set_aside(browser_of, gym):
    client = browser_of("Carla")
    write(client, DAY)
    score = {"entered": "5+2", "tier": 0, "track": 0}
    client.put(f"/api/days/{DAY}/pieces/1/scores/{gym['Anna']}", json=score)
    refused = client.post(f"/api/days/{DAY}/clear", json={"version": 1})
    assert refused.status_code == 409
    assert refused.json()["questions"][0]["scores"][0]["display"] == "5+2"
    cleared = client.post(f"/api/days/{DAY}/clear", json={"version": 1, "aside": True}).json()
    assert cleared["text"] == ""
    (aside,) = client.get(f"/api/days/{DAY}/sheet").json()["aside"]
    assert aside["scores"][0]["display"] == "5+2"
    client.put(f"/api/days/{DAY}", json={"text": BOARD, "version": 2})
    (back,) = client.get(f"/api/days/{DAY}/sheet").json()["scores"]
    assert (back["piece_key"], back["display"]) == ("1", "5+2")


def test_a_scored_day_moves_only_with_its_scores(browser_of, gym):
    client = browser_of("Carla")
    write(client, DAY)
    score = {"entered": "5+2", "tier": 0, "track": 0}
    client.put(f"/api/days/{DAY}/pieces/1/scores/{gym['Anna']}", json=score)
    form = {"to": NEXT, "version": 0, "move": True}
    refused = client.post(f"/api/days/{DAY}/copy", json=form)
    assert refused.status_code == 409
    assert "scores are kept" in refused.json()["detail"]
    moved = client.post(f"/api/days/{DAY}/copy", json={**form, "carry": True})
    assert moved.status_code == 200, moved.text
    (there,) = client.get(f"/api/days/{NEXT}/sheet").json()["scores"]
    assert (there["piece_key"], there["display"]) == ("1", "5+2")
    # An old page of the day that was left does not write over what comes after.
    old = client.put(f"/api/days/{DAY}", json={"text": BOARD, "version": 1})
    assert old.status_code == 409


def test_athletes_see_a_day_only_once_it_is_published(browser_of):
    carla, anna = browser_of("Carla"), browser_of("Anna")
    date = TODAY.isoformat()
    write(carla, date)
    piece = f"/api/days/{date}/pieces/1/standings"
    mine = f"/api/me/days/{date}/pieces/1/score"
    score = {"entered": "5", "tier": 0, "track": 0}
    assert anna.get(f"/api/me/days/{date}").json()["written"] is False
    assert "swing" not in anna.get(f"/api/me/days/{date}").text
    assert anna.get(piece).status_code == 404
    assert anna.put(mine, json=score).status_code == 404
    publish(carla, f"/api/days/{date}")
    assert anna.get(f"/api/me/days/{date}").json()["written"] is True
    assert anna.get(piece).status_code == 200
    assert anna.put(mine, json=score).status_code == 200
    publish(carla, f"/api/days/{date}", shown=False)
    assert anna.get(piece).status_code == 404


def test_the_library_is_searched_filtered_and_tells_where_it_was_used(browser_of):
    client = browser_of("Carla")
    yesterday = (TODAY - dt.timedelta(days=1)).isoformat()
    write(client, yesterday, BOARD)
    publish(client, f"/api/days/{yesterday}")
    found = client.get("/api/movements", params={"q": "kettlbell swng"}).json()["found"]
    assert found[0]["name"] == "kettlebell swing"
    query = {"pattern": "pull", "kit": "rings"}
    pulls = client.get("/api/movements", params=query).json()["found"]
    assert {line["name"] for line in pulls} >= {"ring row", "ring muscle-up"}
    bare = client.get("/api/movements", params={"kit": "none"}).json()["found"]
    assert all(line["kit"] == [] for line in bare)
    page = client.get("/api/movements/kb swings").json()
    assert page["movement"]["name"] == "kettlebell swing"
    assert page["used"] == [yesterday]
    assert "kettlebell swing" in page["ladder"]["rungs"]
    assert client.get("/api/movements/zorbing").status_code == 404


def test_a_day_steps_forward_by_what_is_accepted(browser_of):
    client = browser_of("Carla")
    sprints = "# Speed\n\n## Power: intervals 0:07/2:00 x 6\nmax sprint\n"
    board = f"{sprints}\n## Core: 3 rounds\n8 v-up\n"
    write(client, DAY, board)
    labels = [step["label"] for step in client.get(f"/api/days/{DAY}/steps").json()]
    assert labels == ["0:07/2:00 → 0:10/3:00", "3 rounds → 4 rounds", "8 v-up: 8 → 9"]
    made = client.post(f"/api/days/{DAY}/forward", json={"accept": ["sprint 3"]}).json()
    assert made["date"] == "2026-06-08"
    assert made["text"] == board.replace("0:07/2:00", "0:10/3:00")
    assert client.post(f"/api/days/{DAY}/forward", json={"accept": []}).status_code == 409
    assert client.post(f"/api/days/{DAY}/forward", json={"accept": ["sprint 9"]}).status_code == 422


def test_a_load_steps_by_what_most_lifted(browser_of, gym):
    client = browser_of("Carla")
    write(client, DAY, "# Bar\n\n## Strength: 5 sets\n5 strict press @ 40/27.5 kg\n")
    publish(client, f"/api/days/{DAY}")

    def offered() -> list[str]:
        return [step["label"] for step in client.get(f"/api/days/{DAY}/steps").json()]

    assert offered()[1] == "strict press @ 40/27.5 kg → 42.5/30 kg"
    for name, kg in (("Anna", 30), ("Bert", 35), ("Emma", 37.5)):
        place = f"/api/days/{DAY}/pieces/1/scores/{gym[name]}"
        form = {"entered": f"{kg} kg", "version": 0, "tier": 0, "track": 0}
        assert client.put(place, json=form).status_code == 200
    # Most of the first track stayed under 40 kg; nobody of the second wrote anything down.
    assert offered()[1] == "strict press @ 40/27.5 kg → 40/30 kg (most lifted 35 kg)"
    made = client.post(f"/api/days/{DAY}/forward", json={"accept": ["load 4"]}).json()
    assert "5 strict press @ 40/30 kg" in made["text"]


def test_the_next_time_is_told_from_the_scores_and_copied_with_its_step(browser_of, gym):
    client = browser_of("Carla")
    board = "# Ebb\n\n## Conditioning: AMRAP 12:00, target 6-8 rounds\n10 push-up\n8 sit-up\n"
    write(client, DAY, board)
    publish(client, f"/api/days/{DAY}")

    def advice() -> dict:
        (found,) = client.get(f"/api/days/{DAY}/next-time").json()
        return found["advice"]

    more = [
        client.post("/api/athletes", json={"name": name, "tier": 0, "track": 0}).json()["id"]
        for name in ("Finn Test", "Gerd Test")
    ]
    for person in [gym["Anna"], gym["Bert"], gym["Dora"], gym["Emma"], more[0]]:
        score(client, person)
    assert advice() == {"told": "Too few scores to say: 5 of 6.", "step": None}
    score(client, more[1])
    assert advice()["told"].startswith("10 → 14 push-up")
    later = str(dt.date.fromisoformat(DAY) + dt.timedelta(weeks=2))

    def hints(text: str) -> list[dict]:
        found = client.post("/api/testrun", json={"text": text, "date": later}).json()["findings"]
        return [one for one in found if one["code"] == "next-time"]

    (hint,) = hints(board)
    assert "10 → 14 push-up" in hint["message"]
    assert any("14 push-up" in edit["text"] for edit in hint["repairs"][0]["edits"])
    assert hints(board.replace("10 push-up", "11 push-up")) == []
    assert hints(board.replace("rounds\n", "rounds, meant next-time\n", 1)) == []
    made = client.post(f"/api/days/{DAY}/forward", json={"accept": [advice()["step"]]}).json()
    assert "14 push-up" in made["text"]


def score(client, person: int) -> None:
    place = f"/api/days/{DAY}/pieces/1/scores/{person}"
    form = {"entered": "10+0", "version": 0, "tier": 0, "track": 0}
    assert client.put(place, json=form).status_code == 200


def test_a_named_board_is_kept_repeated_and_forgotten(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    publish(client, f"/api/days/{DAY}")
    kept = client.post("/api/bank", json={"date": DAY}).json()
    assert kept["name"] == "Neap"
    assert client.post("/api/bank", json={"date": DAY}).status_code == 409
    again = client.post(f"/api/bank/{kept['id']}/place", json={"to": NEXT, "version": 0}).json()
    assert again["text"] == BOARD.replace(DAY, NEXT)
    place = f"/api/bank/{kept['id']}/place"
    assert client.post(place, json={"to": NEXT, "version": 1}).status_code == 409
    (listed,) = client.get("/api/bank").json()
    assert (listed["name"], listed["held"]) == ("Neap", 1 if TODAY.isoformat() >= DAY else 0)
    assert client.delete(f"/api/bank/{kept['id']}").status_code == 204
    assert client.get("/api/bank").json() == []
    write(client, OTHER, "## Rest: 2:00")
    assert client.post("/api/bank", json={"date": OTHER}).status_code == 422


def test_weeks_seen_together_end_with_the_week_of_the_date(browser_of):
    client = browser_of("Carla")
    write(client, DAY)
    write(client, "2026-05-19", BOARD.replace(DAY, "2026-05-19").replace("swing", "snatch"))
    client.post("/api/bank", json={"date": DAY})
    told = client.get("/api/week/2026-06-04/season?weeks=2").json()
    assert (told["first"], told["written"]) == ("2026-05-25", 1)
    assert [one["movement"] for one in told["often"]] == ["kettlebell swing"]
    assert [one["movement"] for one in told["gone"]] == ["kettlebell snatch"]
    assert told["due"] == [{"title": "Neap", "last": None}], "it was never shown"
    assert client.get("/api/week/2026-06-04/season?weeks=4").json()["written"] == 2
    assert client.get("/api/week/2026-06-04/season?weeks=1").status_code == 422


def test_a_weeks_theme_stands_on_its_days_and_is_not_written_over_unseen(browser_of):
    client, other = browser_of("Carla"), browser_of("Carla")
    write(client, DAY)
    kept = client.put(f"/api/week/{DAY}/theme", json={"text": " Grip   first ", "version": 0})
    assert kept.json() == {"text": "Grip first", "version": 1}
    assert client.get(f"/api/days/{OTHER}").json()["theme"] == "Grip first"
    assert client.get("/api/days/2026-06-08").json()["theme"] == ""
    late = other.put(f"/api/week/{NEXT}/theme", json={"text": "Legs", "version": 0})
    assert late.status_code == 409
    again = other.put(f"/api/week/{NEXT}/theme", json={"text": "Legs", "version": 1})
    assert again.json()["version"] == 2
    assert client.get(f"/api/week/{OTHER}").json()["theme"] == "Legs"


def test_a_closing_day_is_told_in_its_week(browser_of):
    coach = browser_of("Carla")
    found = coach.get("/api/settings").json()
    closed = [{"first": str(TODAY), "last": str(TODAY), "reason": "Harbour fair"}]
    wanted = {**found["settings"], "closed": closed}
    body = {"settings": wanted, "version": found["version"]}
    assert coach.put("/api/settings", json=body).status_code == 200
    week = coach.get(f"/api/week/{TODAY}").json()
    told = {one["day"]["date"]: one["closed"] for one in week["days"]}
    assert told.pop(str(TODAY)) == "Harbour fair"
    assert set(told.values()) == {None}


def test_an_even_pace_is_planned_on_the_athletes_own_day_alone(browser_of):
    client, anna = browser_of("Carla"), browser_of("Anna")
    even = "## Conditioning: AMRAP 15:00, pace steady\n15 pull-up\n200 m run\n"
    write(client, DAY, f"# Ebb\n\n{even}\n## Conditioning: AMRAP 8:00\n10 burpee\n")
    publish(client, f"/api/days/{DAY}")
    day = anna.get(f"/api/me/days/{DAY}").json()
    (key,) = day["plans"]
    assert key == day["view"]["pieces"][0]["key"]
    assert "a round" in day["plans"][key]

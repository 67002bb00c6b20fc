"""Figures as the application serves them, and as the command line prints them."""

from __future__ import annotations

import json

from typer.testing import CliRunner

from pine_ladder.cli import app


def test_a_member_is_told_how_a_movement_goes(browser_of):
    athlete = browser_of("Anna")
    found = athlete.get("/api/figures/thrusters", params={"tempo": "31X1"}).json()
    assert found["movement"] == "thruster"
    assert found["view"] == "side" and len(found["frames"]) >= 24
    keys = [frame["key"] for frame in found["frames"] if frame["key"]]
    assert keys[:2] == ["standing", "bottom"] and keys[-1] == "standing"
    assert found["cycle_s"] > 4
    assert athlete.get("/api/figures/wrist circle").status_code == 404
    assert athlete.get("/api/figures/thruster", params={"tempo": "fast"}).status_code == 422


def test_signs_of_several_movements_come_at_once(browser_of):
    athlete = browser_of("Anna")
    found = athlete.get("/api/figures", params={"of": ["burpee", "nothing", "air squat"]}).json()
    assert [(each["movement"], each["frame"]["key"]) for each in found] == [
        ("burpee", "on the floor"),
        ("air squat", "bottom"),
    ]


def call(*words: str) -> tuple[int, str]:
    done = CliRunner().invoke(app, ["figure", *words])
    return done.exit_code, done.output


def test_the_command_line_lists_tells_draws_and_measures():
    code, said = call("--list", "--json")
    assert code == 0 and len(json.loads(said)) >= 220
    code, said = call("deadlifts", "--json", "--stature", "1.6")
    told = json.loads(said)
    assert (code, told["movement"], told["stature_m"]) == (0, "deadlift", 1.6)
    assert set(told) >= {"view", "cycle_s", "frames"}
    assert {"head", "shoulder_left", "toe_right"} <= told["frames"][0]["joints"].keys()
    for picture in ("--svg", "--strip"):
        code, said = call("air squat", picture)
        assert code == 0 and said.startswith("<svg")
    code, said = call("air squat", "--check")
    assert code == 0 and "hip below knee holds" in said
    assert "1 of 1 figures hold" in said


def test_the_command_line_says_what_it_does_not_know():
    code, said = call("front squta")
    assert code == 1 and "Did you mean front squat?" in said
    code, said = call("wrist circle")
    assert code == 1 and "no figure" in said
    assert call()[0] == 2

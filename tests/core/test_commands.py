"""Every command that reads a board, on boards as coaches write them: each answers in its form."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from pine_ladder.cli import app
from pine_ladder.core.notation import parse

PLAIN = json.loads((Path(__file__).parent.parent / "plain" / "coaches.json").read_text("utf-8"))
BOARDS = Path(__file__).parent.parent / "boards"
PROMPT = 'minutes = 45\npeople = 1\n[kit]\n"dumbbell 15 kg" = 1\n'


def run(*words: str, code: int = 0) -> str:
    ran = CliRunner().invoke(app, list(words))
    assert ran.exit_code == code, (words, ran.output[-2000:], ran.exception)
    return ran.output


@pytest.fixture(scope="module")
def files(tmp_path_factory: pytest.TempPathFactory) -> list[str]:
    """Boards as coaches write them, those with questions among them."""
    folder = tmp_path_factory.mktemp("plain")
    out = []
    for board in PLAIN:
        file = folder / f"{board['id']}.txt"
        file.write_text(board["plain"], "utf-8")
        out.append(str(file))
    return out


def test_all_boards_are_read_at_once_with_their_questions_and_ways_out(files):
    read = json.loads(run("board", "read", "--json", *files))
    assert [one["file"] for one in read] == files
    questions = [found for one in read for found in one["findings"] if found["readings"]]
    assert len(questions) > 5
    assert all(
        set(way) == {"label", "exact"} or way["label"]
        for found in questions
        for way in found["readings"]
    )


def test_a_board_is_read_in_words_too(files):
    assert "## " in run("board", "read", *files[:5])


@pytest.mark.parametrize("board", sorted(BOARDS.glob("*.board")), ids=lambda file: file.stem)
def test_every_command_answers_for_a_board(board: Path):
    file = str(board)
    printed = run("board", "print", file)
    assert parse(printed).session.pieces == parse(board.read_text("utf-8")).session.pieces
    assert json.loads(run("board", "check", file, "--json"))["findings"] is not None
    assert json.loads(run("board", "clock", file, "--json"))["pieces"]
    assert json.loads(run("board", "testrun", file, "--json", "--athletes", "20"))["pieces"]
    (dose,) = json.loads(run("board", "dose", file, "--json"))
    assert dose["file"] == file
    assert 0 < max(dose["dose"].values()) <= 100
    made = json.loads(run("draft", "warmup", file, "--json"))
    assert made["warm_up"].startswith("## Warm-up")


def test_drafts_come_as_text_and_as_a_table_and_a_refusal_as_none(tmp_path):
    prompt = tmp_path / "ask.toml"
    prompt.write_text(PROMPT)
    words = ("draft", "day", "--prompt", str(prompt), "--boards", str(BOARDS))
    made = json.loads(run(*words, "--json", "--count", "2"))
    assert [set(one) for one in made] == [{"text", "reasons", "constraints", "minutes"}] * 2
    assert {key for one in made for reason in one["reasons"] for key in reason} == {
        "line", "reason", "from",
    }  # fmt: skip
    assert set(made[0]["minutes"]) == {"p10", "p50", "p90"}
    assert json.loads(run(*words, "--json", "--count", "2")) == made
    assert "Draft 1" in run(*words)
    prompt.write_text('minutes = 20\npieces = [{role = "strength", format = "AMRAP 30:00"}]')
    refused = json.loads(run(*words, "--json", code=1))
    assert refused["none"].startswith("minutes: ")


def test_a_day_before_is_a_file_of_the_folder_or_a_text(tmp_path):
    prompt = tmp_path / "ask.toml"
    prompt.write_text(
        'recent = [{ file = "falling-tide.board", date = 2026-03-02 }, '
        '{ text = "## Strength: 6 sets, rest 3:00\\n4 deadlift @ 90%", date = "2026-03-03" }]\n'
    )
    words = ("draft", "day", "--prompt", str(prompt), "--boards", str(BOARDS), "--json")
    made = json.loads(run(*words, "--count", "1"))
    assert any("light after yesterday" in one["name"] for one in made[0]["constraints"])
    prompt.write_text('recent = ["no-such.board"]')
    assert "there is no such board" in run(*words, code=2)

"""Every way out that is offered: applied, it reads, settles its finding and keeps the rest."""

from __future__ import annotations

import re
from itertools import groupby
from pathlib import Path

import pytest
from examples import examples
from hypothesis import example, given, note, settings
from hypothesis import strategies as st
from plans import sessions

from pine_ladder.core import plan
from pine_ladder.core.checks import check
from pine_ladder.core.movements import Library, library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.edits import apply, heading_text
from pine_ladder.core.notation.parser import READ_AS
from pine_ladder.core.notation.printer import exercise_text

BOARDS_TRIED = 12
"""Each board's every way out is read again: few boards, many ways out."""
BOARDS = sorted((Path(__file__).parents[1] / "boards").glob("*.board"))


def errors(text: str) -> int:
    return sum(f.severity == "error" for f in parse(text).findings)


def numbers(text: str) -> list[str]:
    """All numbers of a board in its exact form, version by version.

    A version with the numbers of that before it counts once: spelt alike, they are one.
    """
    session = parse(text).session
    tasks = [
        task
        for piece in session.pieces
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out)
        for task in line.tasks
    ]
    told = [
        [re.findall(r"\d+", exercise_text(version)) for version in task.versions] for task in tasks
    ]
    kept = [found for versions in told for found, _ in groupby(versions)]
    headings = [re.findall(r"\d+", heading_text(piece)) for piece in session.pieces]
    return [one for found in (*headings, *kept) for one in found]


def findings(text: str) -> list[plan.Finding]:
    parsed = parse(text)
    return [*parsed.findings, *check(parsed.session)]


def slip(word: str, at: int, kind: str) -> str:
    """A word with one slip of the pen in it."""
    at = min(at, len(word) - 2)
    match kind:
        case "drop":
            return word[:at] + word[at + 1 :]
        case "double":
            return word[: at + 1] + word[at:]
        case "swap":
            return word[:at] + word[at + 1] + word[at] + word[at + 2 :]
    return word[:at] + "q" + word[at + 1 :]


@st.composite
def slips(draw: st.DrawFn) -> str:
    """A board with slips in some of its words."""
    if draw(st.booleans()):
        text = print_session(draw(sessions()))
    else:
        text = draw(st.sampled_from(BOARDS)).read_text()
    words = list(re.finditer(r"[A-Za-z]{4,}", text))
    chosen = draw(st.lists(st.sampled_from(words), max_size=3, unique=True)) if words else []
    for word in sorted(chosen, key=lambda m: m.start(), reverse=True):
        kind = draw(st.sampled_from(["drop", "double", "swap", "other"]))
        other = slip(word[0], draw(st.integers(1, 6)), kind)
        text = text[: word.start()] + other + text[word.end() :]
    return text


@given(slips())
@example("## Rset: 0:01\n\n## Rst: 0:01\n")
@settings(deadline=None, max_examples=examples(BOARDS_TRIED))
def test_a_way_out_reads_and_settles_its_finding(text: str):
    note(text)
    before = errors(text)
    for found in findings(text):
        for repair in found.repairs:
            after = apply(text, repair.edits)
            assert errors(after) <= before, (found.message, repair.label)
            if found.code == READ_AS:
                continue
            again = [
                f for f in findings(after) if (f.code, f.message) == (found.code, found.message)
            ]
            same = [f for f in findings(text) if (f.code, f.message) == (found.code, found.message)]
            assert len(again) < len(same), (found.message, repair.label)


@given(slips())
@settings(deadline=None, max_examples=examples(40))
def test_a_way_out_of_a_misspelt_movement_keeps_the_rest_of_its_line(text: str):
    lines = text.splitlines()
    for found in parse(text).findings:
        if found.code != "unknown-movement":
            continue
        for repair in found.repairs:
            after = apply(text, repair.edits)
            assert numbers(after) == numbers(text), repair.label
            line, typed = after.splitlines()[found.line - 1], lines[found.line - 1]
            for word in ("alternating", "each side", "unbroken", "tempo", " | ", " + ", "—"):
                assert line.count(word) >= typed.count(word), repair.label


@pytest.mark.parametrize(
    ("typed", "mended"),
    [
        ("10 ketlebell swing 24/16", "10 kettlebell swing @ 24/16 kg"),
        ("10 ketlebell swing 24/16, unbroken", "10 kettlebell swing, unbroken @ 24/16 kg"),
        ("8 revers lunge alternating", "8 reverse lunge, alternating"),
        ("10 goblt squat @ 16 kg | 8 goblt squat @ 12 kg", None),
        ("2) 12 dumbell snatch, alternating @ 22.5/15 kg", None),
    ],
)
def test_numbers_and_details_stay_when_a_name_is_mended(typed: str, mended: str | None):
    text = f"## Conditioning: EMOM 10:00\n1) rest\n{typed}"
    for _ in range(3):
        unknown = [f for f in parse(text).findings if f.code == "unknown-movement"]
        if not unknown:
            break
        text = apply(text, unknown[0].repairs[0].edits)
    line = text.splitlines()[2]
    assert re.findall(r"[\d.]+", line) == re.findall(r"[\d.]+", typed)
    if mended:
        printed = print_session(parse(text).session).splitlines()[2]
        assert printed.split(") ")[-1] == mended
    assert not [f for f in parse(text).findings if f.code == "unknown-movement"]


OPPOSITES = (
    ("decline", "incline"), ("front", "back"), ("over", "under"), ("single", "double"),
    ("left", "right"), ("half", "full"), ("high", "low"), ("forward", "backward"),
    ("weighted", "assisted"), ("lateral", "front"), ("strict", "kipping"),
)  # fmt: skip


def test_no_movement_is_ever_suggested_for_its_opposite():
    shelf = library()
    rarer = Library(
        [m for m in shelf.movements if not re.search(r"decline|lateral|front|half|single", m.name)]
    )
    for movement in shelf.movements:
        if rarer.find(movement.name):
            continue
        near = rarer.nearest(movement.name)
        if near is None:
            continue
        for one, other in OPPOSITES:
            names = movement.name.split(), near.name.split()
            assert not (one in names[0] and other in names[1]), (movement.name, near.name)
            assert not (other in names[0] and one in names[1]), (movement.name, near.name)


@pytest.mark.parametrize("piece", ["4 Tabata", "20 AMRAP", "AMRAP", "EMOM", "every", "5 tabatas"])
def test_a_format_that_is_suggested_is_one(piece: str):
    text = f"## Conditioning: {piece}\n5 burpee"
    for found in parse(text).findings:
        for repair in found.repairs:
            assert errors(apply(text, repair.edits)) == 0, repair.label

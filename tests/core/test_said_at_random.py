"""Days said at random, in the many ways coaches have, read as the exact boards they mean."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from pine_ladder.core.notation import parse
from tests import spoken

DAYS = 150
"""Days of each way to tell them."""


def meant(text: str) -> list[dict[str, object]]:
    """The pieces of a board as records, without what stands beside the plan."""
    return [
        {
            "role": piece.role,
            "format": {k: v for k, v in piece.format.model_dump().items() if k != "said"},
            "work": [
                [(work.movement, work.amount, work.load) for work in task.versions]
                for block in piece.blocks
                for line in block.lines
                for task in line.tasks
            ],
            "rest": piece.rest,
            "cap": piece.cap_s,
        }
        for piece in parse(text).session.pieces
    ]


@pytest.mark.parametrize("tell", [spoken.day, spoken.sentences, spoken.table])
def test_a_day_reads_as_it_is_meant_however_it_is_told(
    tell: Callable[[int], tuple[str, str]],
):
    days = [tell(seed) for seed in range(DAYS)]
    differ = [typed for typed, exact in days if meant(typed) != meant(exact)]
    assert not differ, differ[0]


@pytest.mark.parametrize("tell", [spoken.day, spoken.sentences, spoken.table])
def test_the_exact_boards_of_such_days_have_no_finding(tell):
    findings = [parse(tell(seed)[1]).findings for seed in range(0, DAYS, 10)]
    assert not [finding for day in findings for finding in day if finding.severity == "error"]

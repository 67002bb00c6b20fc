"""Pieces that are told to be like another one: `AMRAP 3 - same again`, `both: 8 burpees`."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core.notation.reader.parts import Part

_AGAIN = re.compile(r"\bsame\b|\brepeat|\bagain\b|\bas above\b", re.IGNORECASE)
_BOTH = re.compile(r"\s*(?:both|each|same for (?:both|all)|all)\b", re.IGNORECASE)


_BACK = re.compile(
    r"\W*(?:(?:and|then|now|go|work|come)\s+)*(?:the same\s+)?"
    r"(?:backwards?|back (?:up|down|again|the other way|the way you came)|in reverse(?: order)?)"
    r"\W*",
    re.IGNORECASE,
)


def go_back(part: Part, text: str) -> bool:
    """Take the work of a part once more from its end where a row says `then the same backwards`."""
    if not part.works or not _BACK.fullmatch(text):
        return False
    if part.facts.scheme:
        part.facts.scheme = (*part.facts.scheme, *reversed(part.facts.scheme[:-1]))
    else:
        last = part.works[-1].row
        part.works += [replace(work, row=last, tiers=dict(work.tiers)) for work in part.works[::-1]]
    return True


def share_work(parts: Sequence[Part]) -> None:
    """Give pieces of which only the clock is told the work that a row below says is for both."""
    for place, part in enumerate(parts):
        again = part.fresh and part.facts.form and _AGAIN.search(part.typed)
        earlier = [one for one in parts[:place] if one.works and one.facts.form == part.facts.form]
        if again and earlier and not part.exactly:
            part.works = [
                replace(work, row=part.number, tiers=dict(work.tiers)) for work in earlier[-1].works
            ]
        if not part.works or not any(_BOTH.match(note) for note in part.works[0].notes):
            continue
        for before in reversed(parts[:place]):
            if before.rest_only:
                continue
            if not before.fresh or before.facts.form != part.facts.form or before.exactly:
                break
            before.works = [replace(work, tiers=dict(work.tiers)) for work in part.works]

"""Pieces that are told to be like another one: `AMRAP 3 - same again`, `both: 8 burpees`."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core.notation.reader.borders import LOOSE
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


def without_sums(parts: Sequence[Part]) -> list[Part]:
    """The parts without those that only say how long the parts of a role take together: `Warm-up,
    10 min`, then `General: 2 min row, 2 min bike` and `Specific: 5 squats with the empty bar`.
    """
    out: list[Part] = []
    for at, part in enumerate(parts):
        below = parts[at + 1] if at + 1 < len(parts) else None
        sums = part.role in LOOSE and part.fresh and not part.facts.frames and not part.exactly
        if below is not None and sums and below.role == part.role and below.works:
            below.notes[:0] = [(part.number, part.typed.strip()), *part.notes]
        else:
            out.append(part)
    return out


MOST_BLOCKS = 12
"""Blocks of a piece up to which rounds of several are written out."""


def in_rounds(parts: Sequence[Part]) -> list[Part]:
    """The parts, AMRAPs of one length that are done in rounds of them all as the blocks of one:
    `2 rounds of`, `AMRAP 4 …`, `rest 2 min`, `AMRAP 4 …`. Rounds of others are told.
    """
    out: list[Part] = []
    at = 0
    while at < len(parts):
        first, end = parts[at], at + 1
        while first.around > 1 and end < len(parts) and _goes_on(parts[end], first):
            end += 1
        group = [part for part in parts[at:end] if not part.rest_only]
        rests = {part.facts.rest for part in parts[at:end] if part.facts.rest}
        if len(group) > 1 and len(rests) < 2 and first.around * len(group) <= MOST_BLOCKS:
            first.works = [
                replace(work, block=turn * len(group) + place, tiers=dict(work.tiers))
                for turn in range(first.around)
                for place, part in enumerate(group)
                for work in part.works
            ]
            first.notes += [note for part in group[1:] for note in part.notes]
            first.facts.rest = next(iter(rests), ())
            out.append(first)
        else:
            if len(group) > 1:
                first.notes.append((first.number, first.typed.strip()))
            out += parts[at:end]
        at = end
    return out


def _goes_on(part: Part, first: Part) -> bool:
    """Whether a part is one of the AMRAPs that a part begins rounds of, or the rest behind one."""
    alike = part.facts.form == "amrap" and part.facts.length == first.facts.length
    return part.rest_only or (alike and not (part.role or part.label or part.around))


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

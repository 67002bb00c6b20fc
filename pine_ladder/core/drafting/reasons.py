"""The reasons of a draft: why each piece and each line is as it is."""

from __future__ import annotations

from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.drafting.builder import Builder
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.plan import Frozen


class Reason(Frozen):
    """Why a line of a draft is as it is, and the board it comes from."""

    line: int
    reason: str
    source: str


def reasons_of(
    session: plan.Session,
    builder: Builder,
    sources: Mapping[int, str],
    before: int,
    material: Material,
) -> list[Reason]:
    """A reason for each line of work, and for each piece."""
    out = []
    spared = _spared(material)
    for number, piece in enumerate(session.pieces):
        source = sources.get(number - before, "formats and library")
        what = {
            plan.Role.WARM_UP: _why_warm_up(material),
            plan.Role.COOL_DOWN: "easy moving, and long holds for what was loaded hardest",
        }.get(piece.role, _why_piece(piece, material, spared))
        out.append(Reason(line=piece.line, reason=what, source=source))
        for line in piece.lines:
            for task in line.tasks:
                name = task.versions[0].movement
                reason = builder.reasons.get(name, "prepares or eases what the day loads")
                if task.versions[0].instead:
                    reason += "; a version for those with a limit"
                if len(task.versions) > 1:
                    reason += "; an easier version for who needs it"
                out.append(Reason(line=line.line, reason=reason, source=source))
    return out


def _why_warm_up(material: Material) -> str:
    told = "raises, and prepares the day's joints and patterns by easier rungs"
    amrap = material.prompt.style.warm_up == "AMRAP"
    return f"{told}, as an easy AMRAP" if amrap else told


def _spared(material: Material) -> list[str]:
    """Sentences on the regions that are left alone for the day before and the day after."""
    return [
        f"{', '.join(sorted(regions))} {told} and is left alone"
        for regions, told in (
            (material.hard_yesterday, "came hard the day before"),
            (material.hard_tomorrow, "comes hard the day after"),
        )
        if regions
    ]


def _why_piece(piece: plan.Piece, material: Material, spared: list[str]) -> str:
    words = []
    if piece.purpose:
        words.append(f"for {piece.purpose.value}")
    elif piece.role is plan.Role.STRENGTH:
        words.append("strength first, while everybody is fresh")
    else:
        words.append("work for heart and lungs that leaves the lift fresh")
    words += spared
    if piece.purpose is plan.Purpose.POWER and material.prompt.style.power == "paired":
        words.append("power is paired here: each rests while the other works")
    if piece.teams:
        words.append(f"teams of {piece.teams.size} share the kit and rest in turn")
    if material.prompt.theme == "deload":
        words.append("a lighter week")
    return "; ".join(words)

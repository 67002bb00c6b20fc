"""Constraints of a draft, each with its value and its bound."""

from __future__ import annotations

from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.checks import Ground, check
from pine_ladder.core.checks.whole_day import check_day
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.day.kit import at_once
from pine_ladder.core.dose import dose_of_session
from pine_ladder.core.dose.regions import impact
from pine_ladder.core.drafting.builder import EASY_TO_LEARN, MOST_NEW
from pine_ladder.core.drafting.edges import movements_of
from pine_ladder.core.drafting.material import LIGHT_TODAY, THERE, Material, meets, runs
from pine_ladder.core.drafting.wishes import FAMILIES
from pine_ladder.core.movements import Movement
from pine_ladder.core.movements.library import stresses
from pine_ladder.core.pace.rep_times import sample
from pine_ladder.core.pace.runs import run
from pine_ladder.core.plan import Frozen

EXPLAIN_S = 30
"""To say how one piece goes, before it (common practice, no source)."""
TOLD = ("over-class", "kit-short", "no-warm-up", "no-cool-down")
"""Findings that are constraints of their own, or for the coach to weigh."""


class Constraint(Frozen):
    """A constraint as it stands in a draft."""

    name: str
    ok: bool
    value: float | str
    bound: float | str


class Minutes(Frozen):
    """Length of a day in minutes, with explaining and changing over."""

    p10: float
    p50: float
    p90: float


def minutes_of(session: plan.Session, material: Material) -> Minutes:
    """The length of a day on the class clock."""
    laid = outline(session, material.library)
    explain = EXPLAIN_S * sum(
        piece.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN, plan.Role.REST)
        for piece in session.pieces
    )
    low, high = laid.planned_low_s + explain, laid.planned_high_s + explain
    return Minutes(
        p10=round(low / 60, 1), p50=round((low + high) / 120, 1), p90=round(high / 60, 1)
    )


def every_version(session: plan.Session, material: Material) -> list[Movement]:
    """The movements of every version of a day, alternatives among them."""
    found = []
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for version in task.versions:
                    for unit in (*version.units, *version.instead):
                        movement = material.library.find(unit.movement)
                        if movement is not None:
                            found.append(movement)
    return list(dict.fromkeys(found))


def landings_of(session: plan.Session, material: Material) -> float:
    """Landings of a day as written, those of the jumps among its reps."""
    dose_free = 0.0
    for piece in session.pieces:
        from_piece = _reps(piece, material)
        for movement, reps in from_piece:
            dose_free += impact(movement, 0.0, reps, movement.landings * reps)
    return dose_free


def _reps(piece: plan.Piece, material: Material) -> list[tuple[Movement, float]]:
    done = run(piece, sample(20, 0), material.library)
    out = []
    for name, reps in done.reps.items():
        movement = material.library.find(name)
        if movement is not None:
            out.append((movement, float(reps.mean())))
    return out


def constraints_of(session: plan.Session, material: Material) -> list[Constraint]:
    """Every constraint of a prompt on a day, those that hold among them."""
    prompt = material.prompt
    movements = every_version(session, material)
    length = minutes_of(session, material)
    out = [
        Constraint(
            name="minutes", ok=length.p90 <= prompt.minutes, value=length.p90, bound=prompt.minutes
        )
    ]
    if prompt.kit is not None:
        out.append(_kit(session, material))
    if prompt.no_running:
        running = [movement.name for movement in movements if runs(movement)]
        out.append(_none("no running", running))
    if prompt.avoid:
        met = [
            movement.name
            for movement in movements
            for word in prompt.avoid
            if meets(word, movement)
        ]
        out.append(_none("avoided", met))
    for word in prompt.want:
        there = any(material.is_meant(word, movement) for movement in movements)
        out.append(
            Constraint(
                name=f"wanted: {word}",
                ok=there,
                value="there" if there else "missing",
                bound="there",
            )
        )
    if prompt.landings_max is not None:
        count = round(landings_of(session, material))
        out.append(
            Constraint(
                name="landings",
                ok=count <= prompt.landings_max,
                value=count,
                bound=prompt.landings_max,
            )
        )
    for limit in prompt.limits:
        out.append(_limit(session, limit, material))
    dose = dose_of_session(session, material.library)
    for regions, when in (
        (material.hard_yesterday, "after yesterday"),
        (material.hard_tomorrow, "before tomorrow"),
    ):
        for region in sorted(regions):
            value = dose.of(region)
            out.append(
                Constraint(
                    name=f"{region.value} light {when}",
                    ok=value <= LIGHT_TODAY,
                    value=value,
                    bound=LIGHT_TODAY,
                )
            )
    if material.used:
        new = [
            one.name
            for one in _written(session, material)
            if not material.used[one.name] and one.demand > EASY_TO_LEARN
        ]
        out.append(
            Constraint(
                name="new movements", ok=len(new) <= MOST_NEW, value=len(new), bound=MOST_NEW
            )
        )
    out += _wishes(session, material)
    out.append(_findings(session, material))
    return out


def _written(session: plan.Session, material: Material) -> list[Movement]:
    hard = [p for p in session.pieces if p.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)]
    return movements_of(hard, material.library)


def _none(name: str, found: Sequence[str]) -> Constraint:
    return Constraint(
        name=name, ok=not found, value=", ".join(sorted(set(found))) or "none", bound="none"
    )


def _kit(session: plan.Session, material: Material) -> Constraint:
    """Whether there is enough of every kit for all who work at once."""
    assert material.kit is not None
    short = []
    for piece in session.pieces:
        people = at_once(piece, material.prompt.people)
        needs: dict[str, int] = {}
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for unit in task.versions[0].units:
                    movement = material.library.find(unit.movement)
                    for need in movement.kit if movement else ():
                        if not THERE.isdisjoint(need.split(" or ")):
                            continue
                        each = material.each(movement, need) if movement else 1
                        needs[need] = max(needs.get(need, 0), people * each)
        short += [
            f"{need}: {count} needed, {material.count(need.split(' or '))} there"
            for need, count in needs.items()
            if material.count(need.split(" or ")) < count
        ]
    return Constraint(name="kit", ok=not short, value="; ".join(short) or "enough", bound="enough")


def _limit(session: plan.Session, limit: str, material: Material) -> Constraint:
    """Whether every line has a version that asks nothing of a limit."""
    without = []
    for piece in session.pieces:
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                told = [
                    unit.movement
                    for version in task.versions
                    for unit in (*version.units, *version.instead)
                ]
                if told and all(stresses(limit, name) for name in told):
                    without.append(told[0])
    count = f"{len(without)} lines without"
    return Constraint(
        name=f"{limit}: a version in every line",
        ok=not without,
        value=count,
        bound="0 lines without",
    )


def _wishes(session: plan.Session, material: Material) -> list[Constraint]:
    """Whether each piece that was wished for is there, in its order."""
    hard = [p for p in session.pieces if p.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)]
    out = []
    for number, wish in enumerate(material.prompt.pieces, start=1):
        if wish.role in (plan.Role.WARM_UP, plan.Role.COOL_DOWN):
            continue
        kind = FAMILIES.get(wish.family)
        there = any(
            piece.role is wish.role and (kind is None or isinstance(piece.format, kind))
            for piece in hard
        )
        out.append(
            Constraint(
                name=f"piece {number}",
                ok=there,
                value="there" if there else "missing",
                bound=wish.said or wish.role.value,
            )
        )
    return out


def _findings(session: plan.Session, material: Material) -> Constraint:
    """Whether nothing of what coaches check is to be remarked."""
    prompt = material.prompt
    ground = Ground(
        material.library,
        kit=material.kit,
        class_size=prompt.people,
        class_s=60 * prompt.minutes,
        style=prompt.style,
    )
    found = [*check(session, ground), *check_day(session, ground)]
    told = sorted({one.code for one in found if one.severity != "error" and one.code not in TOLD})
    serious = [code for code in told if code not in MILD]
    return Constraint(
        name="findings", ok=not serious, value=", ".join(serious) or "none", bound="none"
    )


MILD = (
    "scored-without-standard",
    "no-standard",
    "unclear-score",
    "same-region",
    "slower-after",
    "work-without-standard",
    "kit-size",
)
"""Hints that leave a day as it is: what a score counts is said on the sheet."""


def broken(constraints: Sequence[Constraint]) -> list[Constraint]:
    """Those that do not hold."""
    return [constraint for constraint in constraints if not constraint.ok]

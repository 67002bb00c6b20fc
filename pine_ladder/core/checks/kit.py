"""Kit: what the class would need at once and the gym has not, and sizes that it has not."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import barbell
from pine_ladder.core.checks.traversal import At, Ground, finding, tasks, with_heading, with_version
from pine_ladder.core.day.kit import at_once, held
from pine_ladder.core.units import lb_to_kg, number_text

SAME_KG = 0.35
"""Kilograms within which a size is the one that is written: 53 lb are the bell of 24 kg."""
SAME_BAR_KG = 0.75
"""The same of a bar: 43 kg are loaded as 42.5."""
SAME_BOX_CM = 1.5
"""The same of a box: 24 in is the one of 60 cm."""
_KG_OR_CM = {"kg": 1.0, "lb": lb_to_kg(1), "cm": 1.0, "in": 2.54}
"""Kilograms or centimetres in one of a unit."""
_SIZE = re.compile(
    r"(dumbbell|kettlebell|box|wall ball|slam ball)s?\s+(\d+(?:[.,]\d+)?)\s*(kg|lb|cm|in)"
)


def sizes_that_are_not_there(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Loads and heights that no dumbbell, bell, box or bar of the gym has, with the nearest that
    has: one hint a line. Kit whose sizes the gym has not listed is not asked for.
    """
    if ground.kit is None:
        return []
    sizes = _sizes(ground.kit)
    found = []
    for at in tasks(session):
        wrong = next(_wrong(at, ground, sizes), None)
        if wrong is not None:
            found.append(wrong)
    return found


def _sizes(kit: Mapping[str, int]) -> dict[str, list[float]]:
    """The sizes of kit by its kind, in kg or cm, from names such as `kettlebell 16 kg`."""
    out: dict[str, list[float]] = {}
    for name, count in kit.items():
        said = _SIZE.match(name.lower())
        if said is None or not count:
            continue
        value = float(said[2].replace(",", "."))
        out.setdefault(said[1], []).append(value * _KG_OR_CM[said[3]])
    return {kind: sorted(values) for kind, values in out.items()}


def _wrong(at: At, ground: Ground, sizes: Mapping[str, list[float]]) -> Iterator[plan.Finding]:
    for tier, version in enumerate(at.task.versions):
        movement = ground.library.find(version.movement)
        load = version.load
        if movement is None or not movement.kit or not isinstance(load, plan.Weight | plan.Height):
            continue
        kind = movement.kit[0]
        factor = _KG_OR_CM[load.unit]
        for place, value in enumerate(load.values):
            same = {"barbell": SAME_BAR_KG, "box": SAME_BOX_CM}.get(kind, SAME_KG)
            near = _nearest(kind, value * factor, same, ground, sizes)
            if near is None or any(abs(one - value * factor) <= same for one in near):
                continue
            digits = 0 if load.unit == "in" else 1
            shown = [number_text(round(one / factor, digits)) for one in near]
            said = f"{number_text(value)} {load.unit}"
            repairs = [
                with_version(
                    at, tier, f"make it {other} {load.unit}",
                    load=load.model_copy(
                        update={"values": _with(load.values, place, float(other))}
                    ),
                )
                for other in shown
            ]  # fmt: skip
            what = "bar loaded to" if kind == "barbell" else kind
            yield finding(
                "kit-size",
                at.line.line,
                f"The gym has no {what} {said}. Nearest: {' and '.join(shown)} {load.unit}.",
                "hint",
                repairs,
            )


def _with(values: tuple[float, ...], place: int, value: float) -> tuple[float, ...]:
    return (*values[:place], value, *values[place + 1 :])


def _nearest(
    kind: str, wanted: float, same: float, ground: Ground, sizes: Mapping[str, list[float]]
) -> list[float] | None:
    """The sizes next to one that is wanted, below and above; None where none are known."""
    if kind == "barbell":
        if not ground.plates:
            return None
        below = barbell(wanted, ground.plates, ground.bars)
        if below is None:
            return None
        step = 2 * min(ground.plates)
        above = barbell(wanted + step, ground.plates, ground.bars)
        found = {round(below.kg, 2)} | ({round(above.kg, 2)} if above else set())
        return sorted(found)
    owned = sizes.get(kind)
    if not owned:
        return None
    lower = [size for size in owned if size <= wanted + same][-1:]
    upper = [size for size in owned if size > wanted + same][:1]
    return [*lower, *upper]


def kit_for_the_class(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Kit that the class would need at once and the gym has not: one hint a piece.

    Stations and teams who take turns share.
    """
    if ground.kit is None:
        return []
    found = []
    for piece in session.pieces:
        heats = piece.heats or 1
        needed = at_once(piece, ground.class_size)
        short: dict[str, int] = {}
        for line in (*piece.buy_in, *piece.lines, *piece.cash_out):
            for task in line.tasks:
                for part in task.versions[0].units:
                    movement = ground.library.find(part.movement)
                    for kit in movement.kit if movement else ():
                        there = held(kit, ground.kit)
                        if there and there < needed:
                            short[kit] = there
        if not short:
            continue
        waves = -(-needed * heats // min(short.values()))
        *others, last = (f"a {kit} (the gym has {count})" for kit, count in short.items())
        listed = f"{', '.join(others)} and {last}" if others else last
        found.append(
            finding(
                "kit-short",
                piece.line,
                f"{needed} need {listed} at once: {waves} heats, or pairs who share",
                "hint",
                [with_heading(piece, f"make it {waves} heats", heats=waves)],
            )
        )
    return found

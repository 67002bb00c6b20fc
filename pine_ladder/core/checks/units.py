"""Units that slipped: pounds written as kilograms, inches as centimetres, seconds as counts."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding, versions, with_version
from pine_ladder.core.notation.printer import amount_text, load_text
from pine_ladder.core.units import lb_to_kg, number_text

FEW = 5
"""A bare number of a hold below this is not in seconds (judgement)."""
MINUTE_S = 60
BELLS_LB = (53.0, 62.0, 70.0)
"""Bells sold in pounds that would be giants in kilograms (common practice, no source)."""


def pounds_written_as_kilograms(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A bell or dumbbell whose kilograms are the pounds it is sold in."""
    found = []
    for at, tier, exercise in versions(session):
        load, movement = exercise.load, ground.library.find(exercise.movement)
        if not isinstance(load, plan.Weight) or movement is None:
            continue
        handheld = any("bell" in kit and kit != "barbell" for kit in movement.kit)
        sold = [value for value in load.values if value in BELLS_LB]
        if load.unit == "kg" and handheld and sold:
            pounds = load.model_copy(update={"unit": "lb"})
            found.append(
                finding(
                    "unit-slip",
                    at.line.line,
                    f"{load_text(load)} for a {movement.name}: {number_text(sold[0])} lb, "
                    f"about {lb_to_kg(sold[0]):.0f} kg, is a usual bell; are pounds meant?",
                    repairs=[with_version(at, tier, f"write {load_text(pounds)}", load=pounds)],
                )
            )
    return found


def inches_written_as_centimetres(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A box height that is an inch size in centimetres, or the other way round."""
    found = []
    for at, tier, exercise in versions(session):
        load = exercise.load
        if not isinstance(load, plan.Height):
            continue
        top = max(load.values)
        if (load.unit == "cm" and top in (20, 24, 30)) or (load.unit == "in" and top >= 40):
            other = load.model_copy(update={"unit": "in" if load.unit == "cm" else "cm"})
            found.append(
                finding(
                    "unit-slip",
                    at.line.line,
                    f"a box of {load_text(load)}: is {number_text(top)} {other.unit} meant?",
                    "hint",
                    [with_version(at, tier, f"write {load_text(other)}", load=other)],
                )
            )
    return found


def holds_written_as_counts(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A hold or a stretch with a bare number: twenty planks are twenty seconds of one."""
    found = []
    for at, tier, exercise in versions(session):
        amount, movement = exercise.amount, ground.library.find(exercise.movement)
        if movement is None or movement.measure != "time" or not isinstance(amount, plan.Reps):
            continue
        if amount.grow or amount.high:
            continue
        # So few are minutes, or done so many times.
        seconds = amount.low * (MINUTE_S if amount.low < FEW else 1)
        timed = plan.Duration(seconds=seconds)
        length = amount_text(timed)
        found.append(
            finding(
                "hold-counted",
                at.line.line,
                f"{amount.low} {movement.name}: it is held for a time; are {length} meant?",
                "warning",
                [with_version(at, tier, f"write {length}", amount=timed)],
            )
        )
    return found

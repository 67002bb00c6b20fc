"""Strength, power and skill made anew, and one pattern slowly and then fast."""

from __future__ import annotations

from collections.abc import Callable

from pine_ladder.core import plan
from pine_ladder.core.dose.regions import regions_of
from pine_ladder.core.drafting.builder import (
    PULL,
    PUSH,
    STRENGTH_PATTERNS,
    Builder,
    Slot,
    block,
    in_a_workout,
    is_heavy_lift,
    is_lift,
    whole_minutes,
)
from pine_ladder.core.drafting.conditioning import conditioning
from pine_ladder.core.drafting.material import Material, lands, technical
from pine_ladder.core.movements import Movement, Pattern

SCHEMES = ((5, 5, 75), (5, 3, 80), (4, 6, 70), (4, 8, 65), (6, 2, 85), (3, 10, 60))
"""Sets, reps and percentage of a strength piece, which leave reps in hand (Epley 1985)."""


def strength(builder: Builder, slot: Slot) -> plan.Piece | None:
    """A lift in sets, with a second one that leaves it fresh where there is the time."""
    heavy = any(is_heavy_lift(movement) for movement in builder.material.allowed_in_pairs)
    lifts = builder.pick(1, is_heavy_lift if heavy else is_lift, slot.spare, pairs=heavy)
    lifts = lifts or builder.pick(1, in_a_workout, slot.spare)
    if not lifts:
        return None
    lift = lifts[0]
    if "barbell" not in lift.kit and "trap bar" not in lift.kit:
        return _many_of(builder, slot, lift)
    usual = [one for one in SCHEMES if one[0] * (2.6 if one[2] >= 75 else 2.2) <= slot.minutes + 1]
    sets, reps, percent = builder.rng.choice(usual or [(3, 5, 70)])
    if builder.material.prompt.theme == "deload":
        sets, percent = max(2, sets - 2), min(percent, 65)
    rest = 150 if percent >= 80 else 120 if percent >= 70 else 90
    main = plan.Exercise(
        amount=plan.Reps(low=reps),
        movement=lift.name,
        load=heavy_load(builder.material, lift, percent),
        tempo=builder.rng.choice((None, None, "30X1", "31X1")) if percent <= 75 else None,
    )
    exercises = [main]
    if slot.minutes >= sets * (rest + 60) / 60 and builder.rng.random() < 0.6:
        shares = regions_of(lift)
        spare = frozenset(region for region, share in shares.items() if share > 0.5) | slot.spare
        other = builder.pick(
            1,
            lambda one: (
                one.patterns[0] in (*STRENGTH_PATTERNS, Pattern.BRACE)
                and one.demand <= 0.6
                and not lands(one)
                and "barbell" not in one.kit
            ),
            spare,
        )
        exercises += [builder.exercise(one, 25.0, 0.9) for one in other]
    return plan.Piece(
        role=slot.role,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(exercises),),
        rest=plan.Span(low_s=rest, high_s=None),
        purpose=slot.purpose,
    )


def _many_of(builder: Builder, slot: Slot, lift: Movement) -> plan.Piece:
    """Strength with what is at hand: where the load is light, slow reps and more of them."""
    other = builder.pick(
        1,
        lambda one: (
            one.patterns[0] in (*STRENGTH_PATTERNS, Pattern.BRACE)
            and one.patterns[0] is not lift.patterns[0]
            and 0.3 <= one.demand <= 0.7
            and not lands(one)
            and "barbell" not in one.kit
        ),
        slot.spare,
    )
    exercises = [builder.exercise(one, 28.0, 1.1) for one in (lift, *other)]
    slow = builder.rng.choice(("30X1", "40X1", "31X1"))
    exercises = [
        exercise.model_copy(update={"tempo": slow})
        if isinstance(exercise.amount, plan.Reps) and at == 0 and lift.seconds >= 1.5
        else exercise
        for at, exercise in enumerate(exercises)
    ]
    sets = max(3, min(5, round(slot.minutes / (2.2 + 0.5 * len(other)))))
    return plan.Piece(
        role=slot.role,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(exercises),),
        rest=plan.Span(low_s=builder.rng.choice((60, 75, 90)), high_s=None),
        purpose=slot.purpose,
    )


ACCESSORY_MIN = 9.0
"""Minutes of a class that are left over from which on lighter lifts fill them (judgement)."""


def accessory(builder: Builder, slot: Slot) -> plan.Piece | None:
    """Lighter lifts in sets, of the regions that the day has spared, to fill a class."""
    lifts = builder.pick(
        1,
        lambda move: (
            move.patterns[0] in STRENGTH_PATTERNS
            and move.measure == "reps"
            and 0.25 <= move.demand <= 0.6
            and not lands(move)
            and not technical(move)
            and "barbell" not in move.kit
        ),
        slot.spare,
    )
    if not lifts:
        return None
    made = _many_of(builder, slot._replace(minutes=min(12.0, slot.minutes)), lifts[0])
    return made.model_copy(update={"purpose": None})


def heavy_load(material: Material, lift: Movement, percent: int) -> plan.Load | None:
    """The load of a strength set: a percentage where somebody has tested the lift, else an effort;
    a weight that is at hand for what is no bar.
    """
    if "barbell" in lift.kit or "trap bar" in lift.kit:
        if material.best_of(lift):
            return plan.Percent(low=percent)
        return plan.Effort(rpe=8 if percent >= 75 else 7)
    return material.load(lift, 1.15)


def power(builder: Builder, slot: Slot) -> plan.Piece | None:
    """Jumps or fast lifts in threes to fives, or sprints with twelve times their rest."""
    kinds = ["jump", "lift", "sprint"]
    builder.rng.shuffle(kinds)
    kinds.sort(key=builder.kinds.count)
    if slot.family == "intervals":
        kinds.insert(0, "sprint")
    for kind in kinds:
        made = _power_of(builder, slot, kind)
        if made is not None:
            builder.kinds.append(kind)
            return made
    return None


def _power_of(builder: Builder, slot: Slot, kind: str) -> plan.Piece | None:
    material = builder.material
    sets = builder.rng.choice((4, 5, 6))
    if kind == "sprint":
        chosen = builder.pick(1, lambda one: one.name in ("sprint", "bike", "row", "shuttle run"))
        if not chosen:
            return None
        work = builder.rng.choice((8, 10, 10))
        rest = 12 * work
        rounds = max(3, min(8, int(60 * slot.minutes / (work + rest))))
        exercise = plan.Exercise(amount=plan.Max(), movement=chosen[0].name)
        return plan.Piece(
            role=slot.role,
            format=plan.Intervals(work_s=work, rest_s=rest, rounds=rounds),
            blocks=(block([exercise]),),
            pace="hard",
            purpose=plan.Purpose.POWER,
        )
    if kind == "jump":
        jumps = builder.pick(
            1,
            lambda one: Pattern.JUMP in one.patterns[:1] and one.landings >= 1 and one.demand < 0.8,
            pairs=True,
        )
        exercises = [
            plan.Exercise(amount=plan.Reps(low=builder.rng.choice((3, 4, 5))), movement=jump.name)
            for jump in jumps
        ]
    else:
        lifts = builder.pick(1, is_heavy_lift, pairs=True)
        exercises = [
            plan.Exercise(
                amount=plan.Reps(low=5), movement=lift.name, load=heavy_load(material, lift, 60)
            )
            for lift in lifts
        ]
        sets = 3
    if not exercises:
        return None
    rest_s = 120
    if material.prompt.style.power == "paired":
        other = builder.pick(1, _quick_upper, slot.spare)
        exercises += [plan.Exercise(amount=plan.Reps(low=4), movement=one.name) for one in other]
        rest_s = 75 if other else rest_s
    return plan.Piece(
        role=slot.role,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(exercises),),
        rest=plan.Span(low_s=rest_s, high_s=None),
        purpose=plan.Purpose.POWER,
    )


def _quick_upper(movement: Movement) -> bool:
    """Whether a movement is fast with the arms alone, and pairs with jumps and lifts."""
    return (
        movement.patterns[0] in (Pattern.PRESS, Pattern.PULL)
        and movement.measure == "reps"
        and movement.reference_kg is None
        and not lands(movement)
        and movement.demand <= 0.6
        and movement.seconds <= 2
    )


def skill(builder: Builder, slot: Slot) -> plan.Piece | None:
    """Practice of something that has to be learnt, for quality."""
    chosen = builder.pick(1, technical, slot.spare) or builder.pick(1, in_a_workout, slot.spare)
    if not chosen:
        return None
    exercises = [builder.exercise(movement, 12.0, 0.7) for movement in chosen]
    exercises += [
        builder.exercise(one, 15.0)
        for one in builder.pick(1, lambda one: one.patterns[0] is Pattern.BRACE, slot.spare)
    ]
    return plan.Piece(
        role=slot.role,
        format=plan.Every(interval_s=120, rounds=max(2, int(slot.minutes // 2))),
        blocks=(block(exercises),),
        for_quality=True,
        purpose=slot.purpose,
    )


def slow_and_fast(builder: Builder, slot: Slot) -> list[plan.Piece]:
    """A push and a pull slowly in sets, then the same two fast: one pattern all the day."""
    pair = [
        one
        for patterns in (PUSH, PULL)
        for one in builder.pick(
            1,
            lambda one, patterns=patterns: (
                one.patterns[0] in patterns  # type: ignore[misc]
                and one.measure == "reps"
                and 0.35 <= one.demand <= 0.75
                and one.seconds <= 4
            ),
            slot.spare,
        )
    ]
    if len(pair) < 2:
        return []
    slow = [builder.exercise(one, 14.0).model_copy(update={"tempo": "30X1"}) for one in pair]
    half = slot.minutes / 2
    sets = max(3, min(5, round(half / 2.5)))
    first = plan.Piece(
        role=plan.Role.STRENGTH,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(slow),),
        rest=plan.Span(low_s=60, high_s=None),
        purpose=plan.Purpose.SAME_PATTERN,
    )
    fast = [builder.exercise(one, 22.0, 0.85) for one in pair]
    second = plan.Piece(
        role=plan.Role.CONDITIONING,
        format=plan.Amrap(length_s=60 * whole_minutes(half - 1, 3)),
        blocks=(block(fast),),
        purpose=plan.Purpose.SAME_PATTERN,
    )
    return [first, second]


MAKERS: dict[plan.Role, Callable[[Builder, Slot], plan.Piece | None]] = {
    plan.Role.CONDITIONING: conditioning,
    plan.Role.STRENGTH: strength,
    plan.Role.POWER: power,
    plan.Role.SKILL: skill,
}

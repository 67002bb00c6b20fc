"""Pieces made anew: formats by what a slot is for, movements that go together, fitting numbers."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from typing import NamedTuple

from pine_ladder.core import plan
from pine_ladder.core.dose import Region
from pine_ladder.core.dose.regions import regions_of
from pine_ladder.core.drafting.material import Material, lands, technical
from pine_ladder.core.movements import Movement, Pattern
from pine_ladder.core.pace.rep_times import constants, in_a_row

NICE = (3, 4, 5, 6, 8, 10, 12, 15, 18, 20, 24, 30)
LENGTHS_M = (100, 150, 200, 250, 300, 400, 500)
TASK_S = 30.0
"""Seconds that a task of a round is meant to take (judgement)."""
MUSCLES = (Region.SQUAT, Region.HINGE, Region.PRESS, Region.PULL)
STRENGTH_PATTERNS = (Pattern.SQUAT, Pattern.HINGE, Pattern.PRESS, Pattern.PULL, Pattern.LUNGE)
PUSH, PULL = (Pattern.PRESS,), (Pattern.PULL,)


MOST_NEW, EASY_TO_LEARN = 2, 0.3
"""Movements of a day that the gym's boards do not know, of those that ask something of anybody."""


class Slot(NamedTuple):
    """A piece to be made: its role, about how many minutes, the family of format ("" for any), what
    it is for, and the regions that it should leave alone.
    """

    role: plan.Role
    minutes: float
    family: str = ""
    purpose: plan.Purpose | None = None
    spare: frozenset[Region] = frozenset()


class Chosen(NamedTuple):
    """Movements with the reason that each was chosen for."""

    movement: Movement
    reason: str


class Builder:
    """Makes pieces of some material, by one source of chance."""

    def __init__(self, material: Material, rng: random.Random) -> None:
        self.material, self.rng = material, rng
        self.reasons: dict[str, str] = {}
        self.chosen: list[str] = []
        self.kinds: list[str] = []
        self.taken: set[int] = set()

    def pick(
        self,
        count: int,
        fits: Callable[[Movement], bool],
        spare: frozenset[Region] = frozenset(),
        apart: bool = True,
        shared: bool = False,
        pairs: bool = False,
    ) -> list[Movement]:
        """Movements that fit, each of another region where they are to be `apart`; as many as there
        are. Where the work is `shared` in teams, kit for one of each is enough; in `pairs`, two
        take turns with it.
        """
        pool = [
            one
            for one in (self.material.allowed_in_pairs if pairs else self.material.allowed)
            if fits(one)
            and (shared or pairs or self.material.for_all(one))
            and self.material.rested(one)
            and not _loads(one, spare)
        ]
        weights = {one.name: self.material.weight(one, self.rng, self.chosen) for one in pool}
        pool.sort(key=lambda one: (-weights[one.name], one.name))
        out: list[Movement] = []
        seen: set[object] = set()
        for one in pool:
            key = _kind(one)
            if (apart and key in seen) or not self._known_enough(one):
                continue
            seen.add(key)
            out.append(one)
            self.chosen.append(one.name)
            self._why(one)
            if len(out) == count:
                break
        return out

    def _known_enough(self, movement: Movement) -> bool:
        """Whether a movement is known here, or one more that is new may still come today."""
        used = self.material.used
        if not used or used[movement.name] or movement.demand <= EASY_TO_LEARN:
            return True
        new = {
            name for name in self.chosen if not used[name] and self._demand(name) > EASY_TO_LEARN
        }
        return movement.name in new or len(new) < MOST_NEW

    def _demand(self, name: str) -> float:
        movement = self.material.library.find(name)
        return movement.demand if movement else 0.0

    def _why(self, movement: Movement) -> None:
        """Keep the reason that a movement came for."""
        ago = self.material.days_since.get(movement.name)
        kind = movement.patterns[0].value
        if self.material.wanted(movement):
            reason = "asked for"
        elif ago is None and self.material.prompt.recent:
            reason = f"{kind} that did not come in the last days"
        elif ago is not None:
            reason = f"{kind}, last done {ago} days of training ago"
        elif movement.kit and self.material.kit is not None:
            reason = f"{kind} with kit that is there: {movement.kit[0]}"
        else:
            reason = f"{kind} for the balance of the piece"
        self.reasons[movement.name] = reason

    def reps(self, movement: Movement, seconds: float = TASK_S) -> int:
        """A usual number of reps that takes about so long: fewer the harder the movement is."""
        most = max(3.0, 0.7 * in_a_row(movement, constants()))
        wanted = min(seconds / movement.seconds, most)
        number = min(NICE, key=lambda nice: abs(nice - wanted))
        alternating = movement.sides == "alternating"
        return number + number % 2 if alternating else number

    def exercise(
        self, movement: Movement, seconds: float = TASK_S, share: float = 1.0
    ) -> plan.Exercise:
        """A task of about so many seconds."""
        amount: plan.Amount
        if movement.measure == "time":
            amount = plan.Duration(seconds=5 * max(3, round(seconds / 5)))
        elif movement.measure == "distance":
            wanted = seconds / movement.seconds
            if movement.patterns[0] is Pattern.ENGINE:
                metres = min(LENGTHS_M, key=lambda one: abs(one - wanted))
            else:
                metres = max(10, 10 * round(min(wanted, 60) / 10))
            amount = plan.Distance(metres=(float(metres),))
        else:
            amount = plan.Reps(low=self.reps(movement, seconds))
        side = plan.Side.ALTERNATING if _one_armed(movement) else None
        return plan.Exercise(
            amount=amount,
            movement=movement.name,
            load=self.material.load(movement, share),
            side=side,
        )

    def windowed(self, movement: Movement) -> plan.Exercise:
        """As many as possible of a movement in a window."""
        if movement.measure == "time":
            return self.exercise(movement, 30.0)
        side = plan.Side.ALTERNATING if _one_armed(movement) else None
        load = self.material.load(movement, 0.9)
        return plan.Exercise(amount=plan.Max(), movement=movement.name, load=load, side=side)


def _kind(movement: Movement) -> object:
    """Return the main region of a movement, or its pattern: two of a piece should differ."""
    shares = {r: s for r, s in regions_of(movement).items() if r in MUSCLES}
    top = max(shares, key=lambda region: shares[region], default=None)
    return movement.patterns[0] if top is None or shares[top] < 0.5 else top


def _loads(movement: Movement, regions: frozenset[Region]) -> bool:
    shares = regions_of(movement)
    return any(shares.get(region, 0.0) > 0.5 for region in regions)


def _one_armed(movement: Movement) -> bool:
    """Whether a movement is done with one implement in turn."""
    single = movement.name in ("dumbbell snatch", "kettlebell snatch", "one-arm kettlebell swing")
    return single or movement.sides == "alternating"


def lines(exercises: Sequence[plan.Exercise]) -> tuple[plan.Line, ...]:
    """A line for each exercise."""
    return tuple(plan.Line(tasks=(plan.Task(versions=(one,)),)) for one in exercises)


def block(exercises: Sequence[plan.Exercise], numbered: bool = False) -> plan.Block:
    """A block of a line for each exercise."""
    return plan.Block(lines=lines(exercises), numbered=numbered)


def _in_a_workout(movement: Movement) -> bool:
    """Whether a movement is done for many reps, and is no stretch and no plain walk."""
    return (
        movement.patterns[0] is not Pattern.MOBILITY
        and not movement.easy
        and movement.name != "sprint"
        and movement.demand >= 0.35
        and movement.seconds <= 8
        and (movement.measure != "time" or movement.demand >= 0.5)
    )


def _in_a_warm_up(movement: Movement) -> bool:
    return movement.demand <= 0.45 and movement.reference_kg is None and movement.seconds <= 7


def _lift(movement: Movement) -> bool:
    """Whether a movement is trained heavy in sets of few reps."""
    return (
        movement.reference_kg is not None
        and movement.patterns[0] in STRENGTH_PATTERNS
        and movement.measure == "reps"
        and bool({"barbell", "trap bar", "dumbbell", "kettlebell"} & set(movement.kit))
    )


def _heavy_lift(movement: Movement) -> bool:
    return _lift(movement) and "barbell" in movement.kit


def conditioning(builder: Builder, slot: Slot) -> plan.Piece | None:
    """A conditioning piece: a format by chance, or of the family that is wished for."""
    makers: dict[str, Callable[[Builder, Slot], plan.Piece | None]] = {
        "amrap": _amrap,
        "emom": _emom,
        "for time": _for_time,
        "ladder": _ladder,
        "chipper": _chipper,
        "intervals": _intervals,
        "every": _every,
        "tabata": _tabata,
        "continuous": _continuous,
    }
    in_teams = ("amrap", "for time", "every")
    usual = {
        plan.Purpose.HARD_ENGINE: ("intervals", "every", "amrap", "emom", "for time"),
        plan.Purpose.EASY_ENGINE: ("continuous", "amrap"),
        plan.Purpose.GRUNT: ("every", "emom", "intervals"),
    }
    families = usual.get(slot.purpose, tuple(makers)[:8]) if slot.purpose else tuple(makers)[:8]
    if builder.material.prompt.teams > 1:
        families = tuple(one for one in families if one in in_teams) or in_teams
    family = slot.family if slot.family in makers else builder.rng.choice(families)
    made = makers[family](builder, slot)
    return made and _with(made, purpose=slot.purpose, teams=_teams(builder))


def _with(piece: plan.Piece, **changes: object) -> plan.Piece:
    told = {field: value for field, value in changes.items() if value is not None}
    return piece.model_copy(update=told)


def _teams(builder: Builder) -> plan.Teams | None:
    size = builder.material.prompt.teams
    return plan.Teams(size=size, how="alternate") if size > 1 else None


def _whole(minutes: float, least: int = 1) -> int:
    return max(least, round(minutes))


def _movements(builder: Builder, slot: Slot, count: int) -> list[Movement]:
    easy = slot.purpose is plan.Purpose.EASY_ENGINE
    grunt = slot.purpose is plan.Purpose.GRUNT

    def fits(movement: Movement) -> bool:
        if easy:
            return movement.easy or (
                movement.patterns[0] in (Pattern.ENGINE, Pattern.CARRY, Pattern.BRACE)
                and movement.demand <= 0.6
            )
        if grunt and (movement.patterns[0] is Pattern.JUMP or technical(movement)):
            return False
        return _in_a_workout(movement)

    teams = builder.material.prompt.teams > 1
    out = builder.pick(count, fits, slot.spare, shared=teams)
    if grunt and not any(Pattern.CARRY in one.patterns for one in out):
        carries = builder.pick(
            1, lambda one: one.patterns[0] is Pattern.CARRY and bool(one.kit), slot.spare
        )
        out = [*out[: count - len(carries)], *carries]
    return out


def _amrap(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 3, 4)))
    if not chosen:
        return None
    form = plan.Amrap(length_s=60 * _whole(slot.minutes))
    exercises = [builder.exercise(one, builder.rng.choice((20.0, 30.0))) for one in chosen]
    pace = "steady" if slot.purpose is plan.Purpose.EASY_ENGINE else None
    piece = plan.Piece(role=slot.role, format=form, blocks=(block(exercises),), pace=pace)
    return piece


def _emom(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    minutes = max(len(chosen), len(chosen) * round(slot.minutes / len(chosen)))
    if minutes > slot.minutes + 1:
        minutes -= len(chosen)
    form = plan.Emom(length_s=60 * max(minutes, len(chosen)))
    exercises = [builder.exercise(one, 36.0) for one in chosen]
    return plan.Piece(
        role=slot.role, format=form, blocks=(block(exercises, numbered=True),), aim_s=40
    )


def _for_time(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    rounds = builder.rng.choice((3, 4, 5))
    each = 60 * slot.minutes * 0.7 / rounds / len(chosen)
    exercises = [builder.exercise(one, min(each, 75.0)) for one in chosen]
    piece = plan.Piece(
        role=slot.role,
        format=plan.ForTime(rounds=rounds),
        blocks=(block(exercises),),
        cap_s=60 * _whole(slot.minutes, 3),
    )
    return piece


LADDERS = (
    (21, 15, 9), (10, 8, 6, 4, 2), (12, 9, 6, 3), (15, 12, 9, 6), (30, 20, 10), (27, 21, 15, 9),
    (40, 30, 20, 10), (50, 40, 30, 20, 10), (10, 9, 8, 7, 6, 5, 4, 3, 2, 1),
)  # fmt: skip
"""Usual ladders that fall (common practice, no source)."""


def _ladder(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = [one for one in _movements(builder, slot, 4) if one.measure == "reps"][:2]
    if len(chosen) < 2:
        return None
    each = sum(one.seconds for one in chosen) * 1.3
    near = sorted(LADDERS, key=lambda one: abs(sum(one) * each - 45 * slot.minutes))
    scheme = builder.rng.choice(near[:2])
    exercises = [
        plan.Exercise(movement=one.name, load=builder.material.load(one, 0.9)) for one in chosen
    ]
    return plan.Piece(
        role=slot.role,
        format=plan.ForTime(scheme=scheme),
        blocks=(block(exercises),),
        cap_s=60 * _whole(slot.minutes, 3),
    )


def _chipper(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((4, 5)))
    if len(chosen) < 3:
        return None
    each = min(60 * slot.minutes * 0.7 / len(chosen), 110.0)
    exercises = [builder.exercise(one, each) for one in chosen]
    return plan.Piece(
        role=slot.role,
        format=plan.ForTime(),
        blocks=(block(exercises),),
        cap_s=60 * _whole(slot.minutes, 3),
    )


def _intervals(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3, 4)))
    if not chosen:
        return None
    work, rest = builder.rng.choice(((40, 20), (30, 30), (45, 15), (60, 30)))
    rounds = max(1, round(60 * slot.minutes / ((work + rest) * len(chosen))))
    return plan.Piece(
        role=slot.role,
        format=plan.Intervals(work_s=work, rest_s=rest, rounds=rounds),
        blocks=(block([builder.windowed(one) for one in chosen]),),
        score=plan.ScoreKind.TOTAL_REPS,
    )


def _every(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = _movements(builder, slot, builder.rng.choice((2, 3)))
    if not chosen:
        return None
    interval = builder.rng.choice((90, 120, 150, 180))
    rounds = max(1, round(60 * slot.minutes / interval))
    if slot.purpose is plan.Purpose.GRUNT:
        exercises = [_many(builder, one) for one in chosen]
        rounds = max(1, round(60 * slot.minutes / interval / len(exercises)))
        numbered = True
    else:
        share = interval * 0.6 / len(chosen)
        exercises, numbered = [builder.exercise(one, share) for one in chosen], False
    return plan.Piece(
        role=slot.role,
        format=plan.Every(interval_s=interval, rounds=rounds),
        blocks=(block(exercises, numbered=numbered),),
    )


def _many(builder: Builder, movement: Movement) -> plan.Exercise:
    """Fifteen to twenty plain reps, for hard simple work."""
    one = builder.exercise(movement, 45.0)
    if isinstance(one.amount, plan.Reps):
        one = one.model_copy(update={"amount": plan.Reps(low=min(20, max(16, one.amount.low)))})
    return one


def _tabata(builder: Builder, slot: Slot) -> plan.Piece | None:
    count = max(1, min(4, round(slot.minutes / 5)))
    chosen = [one for one in _movements(builder, slot, 6) if one.measure == "reps"][:count]
    if not chosen:
        return None
    blocks = tuple(
        block([plan.Exercise(movement=one.name, load=builder.material.load(one, 0.7))])
        for one in chosen
    )
    rest = plan.Span(low_s=60, high_s=None) if len(blocks) > 1 else None
    return plan.Piece(role=slot.role, format=plan.Tabata(), blocks=blocks, rest=rest)


def _continuous(builder: Builder, slot: Slot) -> plan.Piece | None:
    chosen = builder.pick(
        builder.rng.choice((1, 2)), lambda one: one.easy and one.measure == "time", apart=False
    )
    if not chosen:
        return _amrap(builder, slot)
    length = 60 * _whole(slot.minutes) // len(chosen)
    exercises = [
        plan.Exercise(amount=plan.Duration(seconds=length), movement=one.name) for one in chosen
    ]
    return plan.Piece(
        role=slot.role,
        format=plan.Continuous(length_s=length * len(chosen)),
        blocks=(block(exercises),),
        pace="steady",
    )


SCHEMES = ((5, 5, 75), (5, 3, 80), (4, 6, 70), (4, 8, 65), (6, 2, 85), (3, 10, 60))
"""Sets, reps and percentage of a strength piece, which leave reps in hand (Epley 1985)."""


def strength(builder: Builder, slot: Slot) -> plan.Piece | None:
    """A lift in sets, with a second one that leaves it fresh where there is the time."""
    heavy = any(_heavy_lift(movement) for movement in builder.material.allowed_in_pairs)
    lifts = builder.pick(1, _heavy_lift if heavy else _lift, slot.spare, pairs=heavy)
    lifts = lifts or builder.pick(1, _in_a_workout, slot.spare)
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
        one.model_copy(update={"tempo": slow})
        if isinstance(one.amount, plan.Reps) and at == 0 and lift.seconds >= 1.5
        else one
        for at, one in enumerate(exercises)
    ]
    sets = max(3, min(5, round(slot.minutes / (2.2 + 0.5 * len(other)))))
    return plan.Piece(
        role=slot.role,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(exercises),),
        rest=plan.Span(low_s=builder.rng.choice((60, 75, 90)), high_s=None),
        purpose=slot.purpose,
    )


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
        )
        exercises = [
            plan.Exercise(amount=plan.Reps(low=builder.rng.choice((3, 4, 5))), movement=one.name)
            for one in jumps
        ]
    else:
        lifts = builder.pick(1, _heavy_lift)
        exercises = [
            plan.Exercise(
                amount=plan.Reps(low=5), movement=one.name, load=heavy_load(material, one, 60)
            )
            for one in lifts
        ]
        sets = 3
    if not exercises:
        return None
    return plan.Piece(
        role=slot.role,
        format=plan.Sets(low=sets, high=None),
        blocks=(block(exercises),),
        rest=plan.Span(low_s=120, high_s=None),
        purpose=plan.Purpose.POWER,
    )


def skill(builder: Builder, slot: Slot) -> plan.Piece | None:
    """Practice of something that has to be learnt, for quality."""
    chosen = builder.pick(1, technical, slot.spare) or builder.pick(1, _in_a_workout, slot.spare)
    if not chosen:
        return None
    exercises = [builder.exercise(one, 12.0, 0.7) for one in chosen]
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
        format=plan.Amrap(length_s=60 * _whole(half - 1, 3)),
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

"""Scaling: for each athlete and line the version that keeps the session's intent, with a reason.

The tier's version stands unless something noted speaks against it: a limit, the athlete's rung, a
longest set, a best, or a load the gym cannot make. A coach's override comes before all of it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from pine_ladder.core import plan
from pine_ladder.core.athletes.loads import Loading, barbell, from_rack, improvised
from pine_ladder.core.athletes.members import Member, Rack, athletes
from pine_ladder.core.movements import Library, Movement, Swap
from pine_ladder.core.movements.library import Ladder, stresses
from pine_ladder.core.notation.printer import exercise_text, load_text
from pine_ladder.core.notation.task import read_task
from pine_ladder.core.notation.tokens import Slip
from pine_ladder.core.pace.rep_times import best, tempo_seconds
from pine_ladder.core.plan import Frozen, for_track
from pine_ladder.core.units import clock_text, lb_to_kg, number_text

IN_RESERVE = 6
"""Reps left after a working set that should not break (common practice, no source)."""
IN_A_ROW = 8
"""Not this many in a row: a rung down rather than lose the pace (common practice, no source)."""
AGREE = "agree a version with the coach"


class Version(Frozen):
    """What one athlete does of one task: as board text, with its load by itself, what to load and
    why it differs.

    `own` is true where it is not simply the tier's version; `agree` where no version fits and the
    coach is to be asked.
    """

    text: str
    movement: str
    exercise: plan.Exercise
    load: str = ""
    loading: str = ""
    reason: str = ""
    own: bool = False
    overridden: bool = False
    agree: bool = False


def recommend(
    task: plan.Task,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str] | None = None,
) -> Version:
    """The version of a task for an athlete, with its reason in a sentence.

    `schools` names, by movement, the gym's way of counting a swap where the trade has two.
    """
    written = for_track(task.version(member.tier), member.track)
    if written.parts:
        return _complex(task, written, member, library, rack)
    key = task.versions[0].movement
    if key in member.overrides:
        return _overridden(written, member.overrides[key], library, rack, member)
    exercise, reason, agree = written, "", False
    movement = library.find(written.movement)
    if movement is not None:
        exercise, reason, agree = _within_limits(written, movement, member, library, schools or {})
        if not reason:
            exercise, reason = _on_their_rung(written, movement, member, library, schools or {})
        if not agree:
            exercise, missing, agree = _with_the_kit(exercise, member, library, rack, schools or {})
            reason = "; ".join(filter(None, (reason, missing)))
    loaded, loading, lighter = loaded_for(exercise, member, library, rack)
    reason = reason or lighter
    return Version(
        text=exercise_text(loaded),
        movement=loaded.movement,
        exercise=loaded,
        load=load_text(loaded.load) if loaded.load else "",
        loading=loading,
        reason=reason,
        own=loaded != written or agree,
        agree=agree,
    )


def _complex(
    task: plan.Task, written: plan.Exercise, member: Member, library: Library, rack: Rack
) -> Version:
    """A bracketed complex: each part scaled, the reasons together."""
    parts = [
        recommend(plan.Task(versions=(part,)), member, library, rack) for part in written.parts
    ]
    exercise = written.model_copy(update={"parts": tuple(part.exercise for part in parts)})
    return Version(
        text=exercise_text(exercise),
        movement="",
        exercise=exercise,
        loading="; ".join(part.loading for part in parts if part.loading),
        reason="; ".join(part.reason for part in parts if part.reason),
        own=any(part.own for part in parts),
        agree=any(part.agree for part in parts),
    )


def read_override(text: str, library: Library) -> plan.Exercise:
    """An override as an exercise; raises Slip where it is not one version of one known movement."""
    reading = read_task(text, library)
    if reading.slips:
        raise Slip(reading.slips[0].message)
    if len(reading.tasks) != 1 or len(reading.tasks[0].versions) != 1:
        raise Slip("one movement in one version, as in 8 ring row")
    return reading.tasks[0].versions[0]


def _overridden(
    written: plan.Exercise, text: str, library: Library, rack: Rack, member: Member
) -> Version:
    try:
        own = read_override(text, library)
    except Slip:
        # The movement has left the library since: what was said still stands in words.
        own = plan.Exercise(movement=text)
    update: dict[str, object] = {}
    if own.amount is None:
        update["amount"] = written.amount
    if own.side is None and own.amount is None:
        update["side"] = written.side
    exercise = own.model_copy(update=update)
    stressed = [lim.limit for lim in member.profile.limits if stresses(lim.limit, own.movement)]
    reason = "set by the coach"
    if stressed:
        reason += f", knowing of the {' and '.join(stressed)}"
    return Version(
        text=exercise_text(exercise),
        movement=exercise.movement,
        exercise=exercise,
        load=load_text(exercise.load) if exercise.load else "",
        loading=_words_of_load(exercise, library, rack),
        reason=reason,
        own=True,
        overridden=True,
    )


def allowed(name: str, member: Member) -> bool:
    """Whether nothing that an athlete is careful with speaks against a movement."""
    return not any(stresses(lim.limit, name) for lim in member.profile.limits)


def _within_limits(
    written: plan.Exercise,
    movement: Movement,
    member: Member,
    library: Library,
    schools: Mapping[str, str],
) -> tuple[plan.Exercise, str, bool]:
    """Another movement where a limit speaks against this one; true where none is known."""
    limits = [lim.limit for lim in member.profile.limits if stresses(lim.limit, movement.name)]
    if not limits:
        return written, "", False
    told = " and ".join(limits)
    for swap in library.swaps_for(movement.name):
        if swap.because in limits and allowed(swap.instead, member):
            ratio = swap_ratio(swap, schools)
            instead = library.find(swap.instead)
            if instead is not None:
                exercise = swapped(written, movement, instead, ratio)
                return exercise, f"{told} noted: {instead.name} instead of {movement.name}", False
    other = _easier(movement, member, library) or _alike(movement, member, library)
    if other is not None:
        exercise = swapped(written, movement, other, 1.0)
        return exercise, f"{told} noted: {other.name} instead of {movement.name}", False
    return written, f"{told} noted and no other version is known: {AGREE}", True


def _easier(movement: Movement, member: Member, library: Library) -> Movement | None:
    """The nearest lower rung of its ladder that no limit speaks against."""
    ladder = library.ladder_of(movement.name)
    if ladder is None:
        return None
    below = ladder.rungs[: ladder.rungs.index(movement.name)]
    return next((library.find(rung) for rung in reversed(below) if allowed(rung, member)), None)


def _alike(movement: Movement, member: Member, library: Library) -> Movement | None:
    """A movement of the same pattern and measure, no more demanding, with no more kit."""
    fits = [
        other
        for other in library.movements
        if other.name != movement.name
        and other.patterns[0] == movement.patterns[0]
        and other.measure == movement.measure
        and other.demand <= movement.demand
        and set(other.kit) <= set(movement.kit)
        and allowed(other.name, member)
    ]
    return min(fits, key=lambda m: _likeness(m, movement, library), default=None)


LEAST_DEMAND = 0.4
"""What stands in for a movement asks at least this share of its demand (judgement)."""


def _likeness(other: Movement, movement: Movement, library: Library) -> tuple[bool, float, str]:
    """How well a movement of the same pattern stands in for one, best first: what stands on a
    ladder is what coaches know each other's rungs by, then what asks about as much.
    """
    apart = library.ladder_of(other.name) is None
    return apart, movement.demand - other.demand, other.name


def swapped(
    written: plan.Exercise, movement: Movement, instead: Movement, ratio: float
) -> plan.Exercise:
    """The exercise with another movement, its amount by the ratio, its load where it still fits."""
    update: dict[str, object] = {"movement": instead.name, "instead": ()}
    amount = written.amount
    if isinstance(amount, plan.Reps) and ratio != 1:
        low = max(1, round(amount.low * ratio))
        high = max(low + 1, round(amount.high * ratio)) if amount.high else None
        update["amount"] = amount.model_copy(update={"low": low, "high": high})
    if instead.measure == "time" and movement.measure == "reps" and isinstance(amount, plan.Reps):
        seconds = max(5, round(amount.low * movement.seconds / 5) * 5)
        update["amount"] = plan.Duration(seconds=seconds)
    keeps_load = set(instead.kit) & set(movement.kit) and instead.reference_kg
    if not keeps_load:
        update["load"] = None
    elif isinstance(written.load, plan.Weight) and movement.reference_kg and instead.reference_kg:
        factor = min(1.0, instead.reference_kg / movement.reference_kg)
        values = tuple(max(0.5, round(value * factor * 2) / 2) for value in written.load.values)
        update["load"] = written.load.model_copy(update={"values": values})
    if instead.sides != movement.sides:
        update["side"] = None
    return written.model_copy(update=update)


def _with_the_kit(
    exercise: plan.Exercise,
    member: Member,
    library: Library,
    rack: Rack,
    schools: Mapping[str, str],
) -> tuple[plan.Exercise, str, bool]:
    """Another movement where kit is missing; the coach's own alternative first."""
    movement = library.find(exercise.movement)
    missing = [kit for kit in movement.kit if not rack.has(kit)] if movement else []
    if movement is None or not missing:
        return exercise, "", False
    told = f"no {' and no '.join(missing)} here"

    def fits(name: str) -> Movement | None:
        movement = library.find(name)
        there = movement is not None and all(rack.has(kit) for kit in movement.kit)
        return movement if there and allowed(name, member) else None

    for other in exercise.instead:
        if fits(other.movement):
            amount = other.amount or exercise.amount
            own = other.model_copy(update={"amount": amount, "instead": ()})
            return own, f"{told}: the coach’s {other.movement}", False
    for swap in library.swaps_for(movement.name):
        found = fits(swap.instead)
        if found and swap.because.removeprefix("no ") in missing:
            return (
                swapped(exercise, movement, found, swap_ratio(swap, schools)),
                f"{told}: {found.name} instead",
                False,
            )
    if set(missing) <= {"dumbbell", "kettlebell"}:
        return exercise, f"{told}: something of that weight", False
    ladder = library.ladder_of(movement.name)
    below = ladder.rungs[: ladder.rungs.index(movement.name)] if ladder else ()
    alike = sorted(
        (
            m
            for m in library.movements
            if m.patterns[0] == movement.patterns[0]
            and m.measure == movement.measure
            and LEAST_DEMAND * movement.demand <= m.demand <= movement.demand
            and m.name != movement.name
            and not _is_skill(m, library)
        ),
        key=lambda m: _likeness(m, movement, library),
    )
    for name in (*reversed(below), *(m.name for m in alike)):
        if found := fits(name):
            own = swapped(exercise, movement, found, 1.0)
            return own, f"{told}: {found.name} instead", False
    return exercise, f"{told}: {AGREE}", True


def _is_skill(movement: Movement, library: Library) -> bool:
    """Whether a movement is bodyweight's upper half of a ladder: no stand-in for missing kit."""
    ladder = library.ladder_of(movement.name)
    return (
        ladder is not None
        and not movement.kit
        and 2 * ladder.rungs.index(movement.name) >= len(ladder.rungs)
    )


def _on_their_rung(
    written: plan.Exercise,
    movement: Movement,
    member: Member,
    library: Library,
    schools: Mapping[str, str],
) -> tuple[plan.Exercise, str]:
    """A lower rung where the athlete stands on one, or has too few in a row."""
    ladder = library.ladder_of(movement.name)
    if ladder is None:
        return written, ""
    at = ladder.rungs.index(movement.name)
    pinned = member.profile.rungs.get(ladder.name)
    if pinned in ladder.rungs[:at] and allowed(pinned, member):
        lower = library.find(pinned)
        if lower is not None:
            reason = f"stands on {lower.name} of the {ladder.name.lower()} ladder"
            ratio = rung_ratio(movement, lower, library, schools)
            return swapped(written, movement, lower, ratio), reason
    known = member.profile.longest.get(movement.name)
    amount = written.amount
    if known is None or not isinstance(amount, plan.Reps) or movement.measure == "time":
        return written, ""
    if known >= min(amount.low, IN_A_ROW):
        return written, ""
    lower = _rung_with(ladder, at, min(amount.low, IN_A_ROW), member, library)
    if lower is None:
        return written, ""
    reason = f"{number_text(known)} {movement.name} in a row so far: {lower.name} keeps the pace"
    ratio = rung_ratio(movement, lower, library, schools)
    return swapped(written, movement, lower, ratio), reason


def swap_ratio(swap: Swap, schools: Mapping[str, str]) -> float:
    """How many of the swap stand for one, by the gym's school where the trade has two."""
    school = schools.get(swap.movement)
    return next((s.ratio for s in swap.schools if s.name == school), swap.ratio)


def rung_ratio(
    movement: Movement, lower: Movement, library: Library, schools: Mapping[str, str]
) -> float:
    """One for one down a ladder, unless the trade counts the lower rung otherwise."""
    swaps = library.swaps_for(movement.name)
    found = next((s for s in swaps if s.because == "skill" and s.instead == lower.name), None)
    return swap_ratio(found, schools) if found else 1.0


def _rung_with(
    ladder: Ladder, at: int, reps: float, member: Member, library: Library
) -> Movement | None:
    """The next rung down that is not known to be too hard; the trade's usual swap comes first."""
    below = ladder.rungs[:at]
    swaps = library.swaps_for(ladder.rungs[at])
    usual = [s.instead for s in swaps if s.because == "skill" and s.instead in below]
    for rung in (*usual, *reversed(below)):
        if member.profile.longest.get(rung, math.inf) >= reps and allowed(rung, member):
            return library.find(rung)
    return None


def loaded_for(
    exercise: plan.Exercise, member: Member, library: Library, rack: Rack
) -> tuple[plan.Exercise, str, str]:
    """The exercise with a load this athlete and the gym can manage; what to load; why lighter."""
    movement = library.find(exercise.movement)
    if movement is None or exercise.load is None:
        return exercise, "", ""
    one = athletes([member], library)
    top = best(movement, one, library)
    known = _known(movement, member)
    load = exercise.load
    if isinstance(load, plan.Percent) and top is not None:
        parent = library.find(movement.parent or movement.name) or movement
        of = best(parent, one, library)
        if of is None:
            return exercise, "", ""
        share, slower = _for_tempo((load.low + (load.high or load.low)) / 2, exercise)
        kg = share / 100 * float(of[0])
        made = made_of(movement, kg, rack)
        of_others = " of what other bests suggest" if member.bests else " of a usual best"
        about = "" if _known(parent, member) else of_others
        words = f"{made.words}" if made else f"{kg:.0f} kg"
        if slower:
            exercise = exercise.model_copy(update={"load": plan.Percent(low=share)})
        return exercise, f"{words} ({share:.0f} %{about})", slower
    if isinstance(load, plan.Bodyweight):
        made = made_of(movement, load.factor * float(one.body_kg[0]), rack)
        return exercise, made.words if made else "", ""
    if not isinstance(load, plan.Weight):
        return exercise, "", ""
    asked = load.values[0] if load.unit == "kg" else lb_to_kg(load.values[0])
    reason, wanted = "", asked
    inferred = bool(member.bests)
    if (known or inferred) and top is not None and isinstance(exercise.amount, plan.Reps):
        most = float(top[0]) / (1 + (_lasting(exercise) + IN_RESERVE) / 30)
        if asked > most:
            wanted = most
            reason = (
                f"{asked:.0f} kg is {asked / float(top[0]):.0%} of "
                f"{'a best of' if known else 'what other bests suggest,'} {float(top[0]):.0f}: "
                f"lighter, so that {exercise.amount.low} go without a break"
            )
            if _lasting(exercise) > exercise.amount.low:
                reason += f" at tempo {exercise.tempo}"
    made = made_of(movement, wanted, rack)
    if made is None:
        return exercise, "", reason
    if reason or (load.unit == "kg" and abs(made.kg - asked) > 0.01 and not load.count > 1):
        own = plan.Weight(values=(round(made.kg, 2),), count=load.count)
        if not reason:
            reason = (
                f"the gym has no {number_text(asked)} kg: {number_text(made.kg)} is nearest below"
            )
        return exercise.model_copy(update={"load": own}), made.words, reason
    return exercise, made.words, reason


USUAL_REP_S = 3.0
"""A rep without a tempo lasts about so long; slower ones weigh like more of them (judgement)."""


def _lasting(exercise: plan.Exercise) -> float:
    """The reps of a set as they are felt: slow ones count for as many as go in their time."""
    assert isinstance(exercise.amount, plan.Reps)
    return exercise.amount.low * max(1.0, tempo_seconds(exercise.tempo) / USUAL_REP_S)


def _for_tempo(share: float, exercise: plan.Exercise) -> tuple[float, str]:
    """A percentage that a set at its tempo still goes with (Epley 1985), and why it is lower."""
    if not exercise.tempo or not isinstance(exercise.amount, plan.Reps):
        return share, ""
    most = math.floor(100 / (1 + _lasting(exercise) / 30))
    if share <= most or _lasting(exercise) <= exercise.amount.low:
        return share, ""
    seconds = exercise.amount.low * tempo_seconds(exercise.tempo)
    return most, (
        f"tempo {exercise.tempo} makes {exercise.amount.low} last {clock_text(seconds)}: "
        f"a lighter bar, {most} % rather than {share:.0f} %"
    )


def _known(movement: Movement, member: Member) -> bool:
    bests = member.bests
    return movement.name in bests or (movement.parent or "") in bests


def made_of(movement: Movement, kg: float, rack: Rack) -> Loading | None:
    """The load the gym makes of it: plates on a bar, or a dumbbell or bell from the rack."""
    for what in ("dumbbell", "kettlebell"):
        if what in movement.kit:
            made = from_rack(kg, rack.sizes(what), what)
            return made or Loading(kg=kg, words=improvised(kg))
    if "barbell" in movement.kit:
        return barbell(kg, rack.plates, rack.bars, rack.labels)
    return None


def _words_of_load(exercise: plan.Exercise, library: Library, rack: Rack) -> str:
    movement, load = library.find(exercise.movement), exercise.load
    if movement is None or not isinstance(load, plan.Weight):
        return ""
    kg = load.values[0] if load.unit == "kg" else lb_to_kg(load.values[0])
    made = made_of(movement, kg, rack)
    return made.words if made else ""

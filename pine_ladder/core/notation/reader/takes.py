"""One work of a part of a clause: each token gives it an amount, a load or a detail.

What a token can give is a function for its kind; one that finds no place for it leaves it to the
notes of the work.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence

from pine_ladder.core import plan
from pine_ladder.core.movements import Movement
from pine_ladder.core.notation.reader.around import Around
from pine_ladder.core.notation.reader.counts import LEAST_PERCENT, MOST_PERCENT, by_ones
from pine_ladder.core.notation.reader.lexicon import special
from pine_ladder.core.notation.reader.loads import (
    BY_PAIR,
    take_load,
    take_one_arm,
    take_side,
    take_tempo,
    take_unbroken,
)
from pine_ladder.core.notation.reader.naming import (
    best_move,
    named_by_itself,
    qualified,
    with_its_object,
)
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Bare, Scope, Work, on_foot, own_words
from pine_ladder.core.units import M_PER_FT

PAIR_OF_SIDES = 60
"""Reps up to which an equal pair is one number for each side: `10/10`."""
_COUNTING = re.compile(
    r"(?:\b(?:minus|less|up to)|(?:^|[a-z,;(]\s*)\b(?<!every )(?<!each )"
    r"(?:minute|min|round|rd|set|week|wk|day|part|number|no))"
    r"\.?\s*$",
    re.IGNORECASE,
)
"""Words behind which a number counts something else, or is taken off."""
METRES = ("m", "metre", "metres", "meter", "meters")
LONGEST_TRIP_M = 50
"""Metres up to which a maximum is a number of trips, beyond them an effort."""
SHORTEST_WAY_FT = 5
"""Feet from which on `25'` of a carry or a crawl is a way."""
FEW_REPS = 12
"""Reps of a set up to which numbers between strokes are sets, and no loads: `5/5/3/3/1`."""
LITTLE = (
    "and",
    "odd",
    "even",
    "reps",
    "on",
    "every",
    "each time",
    "sets",
    "intervals",
    "remaining",
)
"""Kinds of token that say nothing where they are left over alone."""
_ONE_ARM = re.compile(r"\b(?:(?:single|one|1)[\s-]arm|sa\b)", re.IGNORECASE)


def work_of(part: Sequence[Token], scope: Scope) -> Work | None:
    """One work of a part; None where it says nothing that a work could have."""
    if not part:
        return None
    work, move = Work(scope.row, part[0].start), best_move(part, scope)
    if move is not None:
        _name(work, part, move, scope)
    left: list[Token] = []
    before: Token | None = None
    coded = any(token.kind == "tempo code" for token in part)
    little = ("filler", "at", "slash", "reps", "sets", *(["tempo"] if coded else []))
    for at, token in enumerate(part):
        compound = work.compound and token.kind == "movement"
        taken = token is move or compound or token.kind in little
        take = TAKES.get(token.kind)
        around = Around(before, part[at + 1 :], move, scope)
        if not taken and not (take is not None and take(work, token, around)):
            left.append(token)
        before = token if token.kind != "filler" else before
    if move is None:
        left = named_by_itself(work, part, left, scope)
    else:
        left = qualified(work, part, move, left, scope)
        left = with_its_object(work, part, move, left, scope)
    left = _with_implement(work, left, scope)
    left = _way(work, left, scope)
    work.notes += _notes(left, scope)
    if work.sets and work.amount is None and not work.times and _by_first(part):
        # `10 x wall walks`: a number of them, and no sets of them.
        work.amount, work.sets = plan.Reps(low=work.sets[0]), ()
    if work.one_arm and (one_armed := scope.library.find(f"one-arm {work.name}")) is not None:
        work.name, work.known, work.one_arm = one_armed.name, one_armed, False
    return work if _says(work) else None


def _by_first(part: Sequence[Token]) -> bool:
    """Whether a part begins with `10 x` and goes on with what is done."""
    kinds = [token.kind for token in part if token.kind != "filler"]
    return kinds[:1] == ["by"] and not {"max", "scheme"} & set(kinds)


def _name(work: Work, part: Sequence[Token], move: Token, scope: Scope) -> None:
    """Name a work after its movement, and after a style that makes it another one."""
    work.said = scope.said(move.start, move.end)
    work.name = str(move.means["movement"]) or own_words(work.said)
    work.like = str(move.means.get("like", ""))
    at = part.index(move)
    near = [token for token in part[max(0, at - 1) : at + 2] if token.kind == "movement"]
    if len(near) > 1 and not _shares(near):
        # `squat clean thrusters`: two names in one breath are one of the coach's own.
        work.said = scope.said(near[0].start, near[-1].end)
        work.name, work.known, work.compound = own_words(work.said), None, True
        return
    for one in (*part[max(0, at - 1) : at], *part[at + 1 :]):
        if one.kind == "style" and (other := special(scope.library, str(one.value), work.name)):
            work.name = other
    work.known = scope.library.find(work.name)
    work.one_arm = bool(_ONE_ARM.search(work.said)) and "one-arm" not in work.name


def _shares(near: Sequence[Token]) -> bool:
    """Whether one of two names says more of the other, or says the same."""
    first, second = (set(str(token.means["movement"]).split()) for token in near[:2])
    return bool(first & second) or not (first and second)


def _with_implement(work: Work, left: list[Token], scope: Scope) -> list[Token]:
    """Take the implement, where that makes it another movement: `front squats, 2 DB`."""
    for one in left:
        if one.kind != "implement":
            continue
        work.implement = str(one.means["implement"])
        other = scope.library.find(f"{work.implement} {work.name}") if work.implement else None
        if work.known is not None and other is not None:
            work.name, work.known = other.name, other
            return [token for token in left if token is not one]
    return left


STEADILY = ("steady", "moderate", "slow and steady")
"""Ways that are no easy one."""


def _way(work: Work, left: list[Token], scope: Scope) -> list[Token]:
    """Take a way of doing it that makes it another movement: `run 5 km easy`."""
    for one in left if work.known is not None else ():
        way = scope.text[one.start : one.end].lower()
        other = special(scope.library, way, work.name) if one.kind == "easy" else None
        alone = all(token is one or token.kind == "filler" for token in left)
        if one.kind == "easy" and other is None and alone and way not in STEADILY:
            other = f"easy {work.name}"  # `40 min Z2 bike`
        if other is not None and (known := scope.library.find(other)) is not None:
            work.name, work.known = known.name, known
            return [token for token in left if token is not one]
    return left


def _says(work: Work) -> bool:
    given = (work.amount, work.load, work.side, work.tempo, work.bare, work.pause_s, work.aim)
    told = work.named or work.implement or work.one_arm or work.unbroken or work.sets
    return bool(told or work.percents) or any(one is not None for one in given)


def _notes(left: Sequence[Token], scope: Scope) -> list[str]:
    """Words that are left of a part; those that stand together as one."""
    out: list[str] = []
    run: list[Token] = []
    longest = 24

    def told() -> str:
        while run and run[-1].kind in LITTLE:
            run.pop()
        while run and run[0].kind in LITTLE and len(run) == 1:
            run.pop()
        if not run or (len(run) == 1 and run[0].means.get("role") == "skill"):
            return ""  # `10 min handstand practice`
        said = scope.said(run[0].start, run[-1].end)
        return said.lower() if all(token.kind == "style" for token in run) else said

    for token in left:
        gap = scope.text[run[-1].end : token.start] if run else ""
        near = len(gap) <= longest and re.fullmatch(r"[\s\w'-]*", gap)
        if run and not near:
            out.append(told())
            run = []
        run.append(token)
    out.append(told())
    return [one for one in out if re.search(r"\w", one)]


# -- amounts -----------------------------------------------------------------------------------


def _times_n(work: Work, token: Token, around: Around) -> bool:
    """`x 3`: reps, or sets where the reps are known."""
    del around
    if work.amount is None and len(token.value) == 1:
        work.amount, work.times = plan.Reps(low=token.value[0]), True
        return True
    if work.amount is None and not work.sets:
        work.amount = plan.Reps(low=token.value[0], high=token.value[1])  # `chin-up x 3-5`
        return True
    if not work.sets:
        work.sets = tuple(token.value)
        return True
    return False


def _by(work: Work, token: Token, around: Around) -> bool:
    """`3 x`: sets; `2 x 20 kg` after them: implements."""
    if not work.sets:
        work.sets = (int(token.value),)
        return True
    return bool(around.after) and around.after[0].kind in ("weight", "pair", "number")


def _number(work: Work, token: Token, around: Around) -> bool:
    value, before = token.value, around.before
    if _COUNTING.search(around.scope.text[: token.start]):
        return False
    if value != int(value) or (around.by and work.amount is not None):
        return _bare(work, (value,), around)
    if before is not None and before.kind == "at":
        return _bare(work, (value,), around)
    kinds = ("dumbbell", "kettlebell")
    after = around.after[0] if around.after else None
    held = after is not None and after.kind == "implement" and after.means["implement"] in kinds
    if held and value <= BY_PAIR:
        work.count = int(value)
        return True
    if work.amount is None:
        work.amount = plan.Reps(low=int(value))
        work.notes += [token.means["more"]] if "more" in token.means else []
        return True
    return around.past(token) and _bare(work, (value,), around)


def _singles(work: Work, token: Token, around: Around) -> bool:
    """`3 singles`: so many sets of one."""
    before, amount = around.before, work.amount
    reps = {"single": 1, "double": 2, "triple": 3}[token.kind]
    if before is None or before.kind != "number" or work.sets:
        if amount is None and not work.sets:
            work.amount = plan.Reps(low=reps)  # `power snatch EMOM x 10, singles`
        return work.amount is not amount
    if not isinstance(amount, plan.Reps) or amount.high is not None:
        return False
    work.sets, work.amount = (amount.low,), plan.Reps(low=reps)
    return True


def _range(work: Work, token: Token, around: Around) -> bool:
    low, high = token.value[0], token.value[1]
    at = around.before is not None and around.before.kind == "at"
    if at and work.load is None and LEAST_PERCENT <= low < high <= MOST_PERCENT:
        work.load = plan.Percent(low=low, high=high)  # `3 reps @ 75-85`
        return True
    if work.aim is not None and work.aim.low == int(token.value[0]):
        return True
    if work.amount is not None:
        return False
    work.amount = plan.Reps(low=int(token.value[0]), high=int(token.value[1]))
    return True


def _scheme(work: Work, token: Token, around: Around) -> bool:
    del around
    if work.amount is not None and work.amount != plan.Reps(low=1):
        return False
    steps = tuple(token.value[0])
    if len(steps) == 2 and steps[1] == 1:
        steps = by_ones(*steps)  # `10-1 burpees`
    work.amount = plan.Scheme(values=steps)
    return True


MOST_LOADS = 3
"""More numbers between slashes than tiers can have are the steps of a scheme."""


def _pair(work: Work, token: Token, around: Around) -> bool:
    """`10/10`: a number for each side; any other pair is a load by track."""
    value = token.value
    if _COUNTING.search(around.scope.text[: token.start]):
        return False
    lift = work.known is not None and work.known.reference_kg is not None
    many = len(value) > 2 and all(one == int(one) and one <= FEW_REPS for one in value)
    steps = len(value) > MOST_LOADS and all(one == int(one) for one in value)
    if (steps or (many and lift)) and work.amount is None:
        work.amount = plan.Scheme(values=tuple(int(one) for one in value))
        return True
    equal = len(value) == 2 and value[0] == value[1] == int(value[0])
    if equal and work.amount is None and value[0] <= PAIR_OF_SIDES:
        work.amount, work.side = plan.Reps(low=int(value[0])), work.side or plan.Side.EACH
        return True
    return _bare(work, value, around)


_TWO_SIDED = re.compile(
    r"single|one[- ]|side|step|lunge|split|pistol|kick|leg|arm|half|bird|dead bug|cross"
    r"|turkish|windmill"
)
"""Words in the names of movements that have a left and a right."""


def two_sided(movement: Movement) -> bool:
    """Whether a movement has a left and a right: then five and five are five each side."""
    loose = {"dumbbell", "kettlebell"} & set(movement.kit)
    named = _TWO_SIDED.search(movement.name)
    return movement.sides == "alternating" or bool(loose) or bool(named)


def _bare(work: Work, values: tuple[float, ...], around: Around) -> bool:
    """A load without a unit: settled once the movement is known."""
    if work.load is not None or work.bare is not None:
        return False
    if around.by and work.sets and work.sets[-1] <= BY_PAIR:
        work.bare, work.sets = Bare(values, work.sets[-1]), ()
    else:
        work.bare = Bare(values)
    return True


def _other_side(work: Work) -> bool:
    return work.side in (plan.Side.LEFT, plan.Side.RIGHT)


def _time(work: Work, token: Token, around: Around) -> bool:
    value, before = token.value, around.before
    if around.after and around.after[0].kind == "down":
        return False
    pauses = before is not None and before.value in ("pause", "paused", "hold")
    behind = around.after[0] if around.after else None
    if behind is not None and behind.value in ("pause", "pauses") and len(value) == 1:
        work.pause_s = float(value[0])
        return True
    if pauses and work.amount is not None:
        work.pause_s = float(value[0])
        return True
    if isinstance(work.amount, plan.Duration) and _other_side(work):
        return bool(work.amount.seconds == value[0])
    if work.amount is not None and work.amount != plan.Max():
        return False
    high = value[1] if len(value) > 1 and value[1] > value[0] else None
    if value[0] > 0:
        work.most = work.amount is not None
        work.amount = plan.Duration(seconds=value[0], high_s=high)
    return bool(value[0] > 0)


def _prime(work: Work, token: Token, around: Around) -> bool:
    """`2'`: minutes, or feet of what goes a way."""
    del around
    numbers, joint = token.value
    if work.amount is not None:
        return False
    if work.known is not None and on_foot(work.known) and numbers[0] > SHORTEST_WAY_FT:
        work.amount = plan.Distance(metres=(round(M_PER_FT * numbers[0], 3),))
        return True
    high = round(60 * numbers[1]) if len(numbers) > 1 and joint == "-" else None
    work.amount = plan.Duration(seconds=round(60 * numbers[0]), high_s=high)
    work.feet = numbers[0]
    return True


def _second_mark(work: Work, token: Token, around: Around) -> bool:
    """`20"`: seconds, or the inches of a box."""
    boxed = work.known is not None and "box" in (*work.known.kit, work.name)
    boxed = boxed or (around.past(token) and work.amount is not None)
    if boxed and work.load is None:
        work.load = plan.Height(values=tuple(token.value), unit="in")
        return True
    if work.amount is not None:
        return False
    work.amount = plan.Duration(seconds=round(token.value[0]))
    work.inches = tuple(token.value)
    return True


def _distance(work: Work, token: Token, around: Around) -> bool:
    del around
    metres, joint = token.value
    if isinstance(work.amount, plan.Distance) and _other_side(work):
        return bool(work.amount.metres[0] == metres[0])
    if work.amount == plan.Max() and metres[0] <= LONGEST_TRIP_M:
        work.amount = plan.Trips(distance_m=metres[0])
        return True
    if work.amount == plan.Max():
        # `max effort 500 m row`
        work.amount = None
        work.notes.append("max effort")
    if work.amount is not None:
        return False
    ranges = joint == "-" and len(metres) > 1
    work.amount = (
        plan.Distance(metres=metres[:1], high_m=metres[1])
        if ranges
        else plan.Distance(metres=metres[:2])
    )
    return True


def _cal(work: Work, token: Token, around: Around) -> bool:
    del around
    numbers, joint = token.value
    if work.amount is not None:
        return False
    if joint == "-" and len(numbers) > 1 and numbers[0] > numbers[-1]:
        work.amount = plan.Scheme(values=tuple(int(number) for number in numbers), unit="cal")
        return True
    many = numbers[:2] if joint == "/" else numbers[:1]
    work.amount = plan.Calories(calories=tuple(int(one) for one in many))
    return True


def _calories(work: Work, token: Token, around: Around) -> bool:
    """Calories told by their word: `14 of the calories`, `max cal`."""
    del token
    before = around.before.kind if around.before is not None else ""
    if isinstance(work.amount, plan.Reps) and work.amount.high is None and before == "number":
        work.amount = plan.Calories(calories=(work.amount.low,))
        return True
    if work.bare is not None and before == "pair":
        values = work.bare.values
        work.amount, work.bare = plan.Calories(calories=tuple(int(v) for v in values)), None
        return True
    if work.amount == plan.Max() or work.most:
        work.measured = "calories"
        return True
    return False


def _remaining(work: Work, token: Token, around: Around) -> bool:
    """`max burpees in the time left`."""
    del token, around
    work.left_time = True
    return True


def _of_max(work: Work, token: Token, around: Around) -> bool:
    """`70 % of 1RM`."""
    del token, around
    return isinstance(work.load, plan.Percent)


def _goal(work: Work, token: Token, around: Around) -> bool:
    """`aim 15-20`: the reps the coach aims at."""
    del token
    ranges = around.after[0] if around.after else None
    most = isinstance(work.amount, plan.Max) or not work.named
    if not most or ranges is None or ranges.kind != "range":
        return False
    work.aim = plan.Aim(low=int(ranges.value[0]), high=int(ranges.value[1]))
    return True


def _held(work: Work, token: Token, around: Around) -> bool:
    """`3 s in the hole`: a pause."""
    del around
    work.pause_s = work.pause_s or float(token.value)
    return True


def _max(work: Work, token: Token, around: Around) -> bool:
    del token
    after = around.after[0] if around.after else None
    if after is not None and after.kind == "filler":
        unit = around.scope.text[after.start : after.end].lower()
        work.measured = "distance" if unit in METRES else work.measured
    if after is not None and after.kind == "percent":
        return False  # `light to moderate, max 80 %`: a load that is not gone beyond.
    if work.amount is None:
        work.amount = plan.Max()
        return True
    work.most = isinstance(work.amount, plan.Duration)
    return work.most


Take = Callable[[Work, Token, Around], bool]
TAKES: dict[str, Take] = {
    "times n": _times_n,
    "held": _held,
    "by": _by,
    "number": _number,
    "range": _range,
    "scheme": _scheme,
    "pair": _pair,
    "time": _time,
    "prime": _prime,
    "seconds or inches": _second_mark,
    "distance": _distance,
    "cal": _cal,
    "calories": _calories,
    "max": _max,
    **dict.fromkeys(("single", "double", "triple"), _singles),
    "remaining": _remaining,
    "goal": _goal,
    **dict.fromkeys(("rep max", "of 1rm"), _of_max),
    **dict.fromkeys(
        ("weight", "percent", "rpe", "bodyweight", "height", "heavy", "light"), take_load
    ),
    **dict.fromkeys(("each side", "alternating", "left", "right"), take_side),
    "one arm": take_one_arm,
    "unbroken": take_unbroken,
    "tempo code": take_tempo,
}
"""Functions that give a token to a work, by its kind; True where it found a place."""

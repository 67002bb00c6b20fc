"""Loads and details of a work: weight, percent, effort, height, side, arm, tempo."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.around import Around
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Bare, Work

BY_PAIR = 2
"""Implements up to which `2 x 20` is a load and no sets."""


def take_load(work: Work, token: Token, around: Around) -> bool:
    """Give a work its load; a feel gives way to a weight. True where it was taken."""
    made = load_of(token)
    added = around.before is not None and around.before.kind == "adding"
    if made is None or added:
        return False  # `add 1 kg from last time`
    if token.kind == "percent" and len(token.value) > 2:
        work.percents = tuple(token.value)
        return True
    given = work.load is not None or work.bare is not None
    if (isinstance(made, plan.Feel) and given) or not (
        work.load is None or isinstance(work.load, plan.Feel)
    ):
        return False
    if isinstance(made, plan.Weight | plan.Height) and (several := _by_tier(token)):
        work.bare = Bare(several, work.count, made.unit)  # `11 box jumps 24/20/16 in`
        return True
    if isinstance(made, plan.Weight):
        count = work.count
        if around.by and work.sets:
            count, work.sets = work.sets[-1], ()
        made = made.model_copy(update={"count": count if count <= BY_PAIR else 1})
        numbers, _, joint = token.value
        if joint == "-" and len(numbers) > 1:
            work.notes.append(around.scope.said(token.start, token.end))
    work.load = made
    return True


TIERS = 3
"""Loads between strokes from which on they are the tiers'."""


def _by_tier(token: Token) -> tuple[float, ...]:
    """The loads of a token that are one for each tier; none where it says one by track."""
    values = tuple(token.value[0])
    joint = token.value[2] if token.kind == "weight" else "/"
    return values if len(values) >= TIERS and joint == "/" else ()


def load_of(token: Token) -> plan.Load | None:
    """The load a token says."""
    value = token.value
    if token.kind == "weight":
        numbers, unit, joint = value
        many = numbers[:2] if joint == "/" else numbers[:1]
        return plan.Weight(values=tuple(many), unit=unit)
    if token.kind == "percent":
        return plan.Percent(low=value[0], high=value[1] if len(value) > 1 else None)
    if token.kind == "rpe":
        hardest = 10
        return plan.Effort(rpe=value[0]) if 1 <= value[0] <= hardest else None
    if token.kind == "bodyweight":
        return plan.Bodyweight(factor=value)
    if token.kind == "height":
        return plan.Height(values=tuple(value[0][:2]), unit=value[1])
    if token.kind == "heavy":
        return plan.Feel(word="heavy")
    if token.kind == "light":
        return plan.Feel(word="light")
    return None


def take_side(work: Work, token: Token, around: Around) -> bool:
    """Give a work its side; left and right together are each side. True where it was taken."""
    if token.kind == "each side" and _of_weights(work, token, around):
        return False
    if work.side is None:
        work.side = plan.Side(token.kind)
        return True
    if {token.kind, work.side.value} == {"left", "right"}:
        work.side = plan.Side.EACH
        return True
    return token.kind == work.side.value


_WEIGHTS = ("weight", "pair")


def _of_weights(work: Work, token: Token, around: Around) -> bool:
    """Whether a bare `each` is said of the weights before it: `2 KB 16/12 kg each`."""
    bare = around.scope.text[token.start : token.end].lower() == "each"
    weighed = around.before is not None and around.before.kind in _WEIGHTS
    return bare and weighed and (work.load is not None or work.bare is not None)


def take_one_arm(work: Work, token: Token, around: Around) -> bool:
    """Say that one arm works. True where it was taken."""
    del token, around
    work.one_arm = True
    return True


def take_unbroken(work: Work, token: Token, around: Around) -> bool:
    """Say that it is done without a break. True where it was taken."""
    del token, around
    work.unbroken = True
    return True


def take_tempo(work: Work, token: Token, around: Around) -> bool:
    """Give a work its tempo. True where it was taken."""
    del around
    work.tempo = work.tempo or str(token.value)
    return work.tempo == str(token.value)

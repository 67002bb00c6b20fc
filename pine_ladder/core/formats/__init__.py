"""The formats of a piece, a module each: text, form, and the rules that fit."""

from pine_ladder.core.formats.accumulate import ACCUMULATE
from pine_ladder.core.formats.amrap import AMRAP
from pine_ladder.core.formats.continuous import CONTINUOUS
from pine_ladder.core.formats.emom import EMOM
from pine_ladder.core.formats.every import EVERY
from pine_ladder.core.formats.for_time import FOR_TIME
from pine_ladder.core.formats.intervals import INTERVALS
from pine_ladder.core.formats.kind import FormatKind, FormField, RuleName, plural, span, times
from pine_ladder.core.formats.rest import REST
from pine_ladder.core.formats.rounds import ROUNDS
from pine_ladder.core.formats.sets import SETS
from pine_ladder.core.formats.tabata import TABATA
from pine_ladder.core.plan import Format

FORMATS: dict[str, FormatKind] = {
    kind.name: kind
    for kind in (
        ROUNDS,
        SETS,
        AMRAP,
        EVERY,
        EMOM,
        INTERVALS,
        TABATA,
        FOR_TIME,
        ACCUMULATE,
        CONTINUOUS,
        REST,
    )
}
"""Every format by the name plans and forms call it, in the order menus show them."""


def kind_of(form: Format) -> FormatKind:
    """The kind a piece's format is of."""
    return FORMATS[form.kind]


__all__ = [
    "FORMATS",
    "FormField",
    "FormatKind",
    "RuleName",
    "kind_of",
    "plural",
    "span",
    "times",
]

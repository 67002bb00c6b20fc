"""Names of work: the library's movement, or one in the coach's own words."""

from __future__ import annotations

import re
from collections.abc import Sequence

from pine_ladder.core import plan
from pine_ladder.core.notation.reader.lexicon import NO_MOVES, PROSE, special
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Scope, Work, own_words

AMOUNTS = (
    "number", "range", "scheme", "time", "distance", "cal", "prime", "max", "by",
    "seconds or inches", "pair",
)  # fmt: skip
"""Kinds of token that say how much."""
LOADS = ("weight", "percent", "rpe", "bodyweight", "height", "heavy", "light")
NO_NAME = re.compile(
    r"(?:per|to|change|min|cap|between|before|after|until|then|if|not|no|all|every|works?|rests?"
    r"|holds?|runs?|about|people|persons?|athlete|coach|week|wk|day|station|group|class|bpm|times?"
    r"|minutes?|hours?|attempt|contact|extra|lengths?|out|miss|of|in|on|am|pm|to|different|more"
    r"|less|total|left|points?|kids?)s?\b"
)
"""Beginnings that no name of a movement has."""
_NAMING = (
    "word", "implement", "style", "station", "role", "sets", "rounds", "easy", "hard", "down",
    "single", "double", "triple", "off", "on",
)  # fmt: skip
_JOINING = ("filler", "and", "slash")
MOST_NAME, MOST_WORDS, SHORTEST = 60, 5, 4
"""Characters and words of a name at most, and characters of its longest word at least."""


def best_move(part: Sequence[Token], scope: Scope) -> Token | None:
    """The movement of several that were said together: the one that says the most."""
    moves = [
        token for token in part if token.kind == "movement" and not _is_place(token, part, scope)
    ]
    if not moves:
        return None
    first = moves[0]
    for other in moves[1:]:
        names = [
            str(one.means["movement"]) or scope.said(one.start, one.end) for one in (first, other)
        ]
        if len(names[1]) > len(names[0]) and _words(names[0]) & _words(names[1]):
            first = other
    return first


def _is_place(move: Token, part: Sequence[Token], scope: Scope) -> bool:
    """Whether a movement is where another one is done: `10 bag drags in plank`."""
    at = part.index(move)
    if not at or scope.text[part[at - 1].start : part[at - 1].end].lower() != "in":
        return False
    before = [token.kind for token in part[: at - 1]]
    return "word" in before and "movement" not in before


def _words(name: str) -> set[str]:
    return set(re.findall(r"[a-z0-9']+", name.lower()))


def _leads(part: Sequence[Token], scope: Scope) -> bool:
    """Whether a part stands first in its row."""
    return part[0].start <= scope.first + 3


def qualified(
    work: Work, part: Sequence[Token], move: Token, left: list[Token], scope: Scope
) -> list[Token]:
    """A movement with a word before it that the trade does not know as a style is one of its own.

    `2 pancake good mornings` are no good mornings; `2 slow good mornings` are.
    """
    if work.name in ("bike", "ski machine"):
        return left  # Whatever stands before it is its make or its mood.
    at = part.index(move)
    behind = part[at + 1] if at + 1 < len(part) else None
    word = scope.text[behind.start : behind.end].lower() if behind is not None else ""
    if behind is not None and behind.kind in ("word", "role") and word.rstrip("s") in HEADS:
        # `frog jumps` are jumps, whatever a frog is.
        work.name = own_words(scope.said(move.start, behind.end))
        work.known = scope.library.find(work.name)
        return [token for token in left if token is not behind]
    way = behind is not None and behind.kind in ("word", "implement", "style")
    if way and (other := special(scope.library, word, work.name)):
        work.name, work.known = other, scope.library.find(other)
        return [token for token in left if token is not behind]
    run: list[Token] = []
    most = 3
    while at and part[at - 1].kind in ("word", "implement") and len(run) < most:
        at -= 1
        run.insert(0, part[at])
    own = [str(token.value) for token in run if token.kind == "word"]
    sets = any(token.kind == "by" for token in part)
    heads = at == 0 and _leads(part, scope) and (scope.names or scope.listed or sets)
    if not own:
        return left
    if own[-1] in BODY_PARTS and own[-1] not in work.name:
        work.name = own_words(scope.said(run[-1].start, move.end))
        work.known = scope.library.find(work.name)
        return [token for token in left if token is not run[-1]]
    if not (heads or (at and part[at - 1].kind in AMOUNTS)):
        return left
    if any(len(one) < SHORTEST - 1 or one in PROSE for one in own):
        return left
    work.name = own_words(scope.said(run[0].start, move.end))
    work.known = scope.library.find(work.name)
    return [token for token in left if token not in run]


BODY_PARTS = frozenset(
    ("leg", "calf", "hip", "neck", "wrist", "hamstring", "glute", "tibialis", "ankle", "adductor")
)
"""Words that make another movement of the one behind them: a leg curl is no curl."""
HEADS = frozenset(
    ("jump", "hop", "walk", "press", "curl", "raise", "hold", "throw", "carry", "kick", "crawl",
     "pull", "push", "row", "squat", "lunge", "swing", "slam", "reach", "twist", "march")
)  # fmt: skip
"""Words behind a movement's name that make it another movement."""
_OBJECT = re.compile(r"burpee|jump|hop|step|bound|throw|toss")
"""Movements that are done over, to or onto something."""
_TOWARDS = ("to", "over", "onto", "off", "around")


def with_its_object(
    work: Work, part: Sequence[Token], move: Token, left: list[Token], scope: Scope
) -> list[Token]:
    """Name a jump or a burpee with the thing it goes to: `burpee to a plate`.

    Heights are loads unless a noun stands behind them: `box jump to 24 in`, `burpee to 6 in bar`.
    """
    at = part.index(move) + 1
    if not _OBJECT.search(work.name.lower()) or at >= len(part):
        return left
    if scope.text[part[at].start : part[at].end].lower() not in _TOWARDS:
        return left
    end, noun = at + 1, -1
    most = 4
    while end < len(part) and end - at <= most:
        kind = part[end].kind
        if kind in ("word", "implement", "goal") and str(part[end].value) not in PROSE:
            noun = end
        elif kind not in ("filler", "style", "height", "seconds or inches"):
            break
        end += 1
    if noun < 0:
        return left
    inside = part[at : noun + 1]
    work.name = own_words(scope.said(move.start, inside[-1].end))
    work.known = scope.library.find(work.name)
    heights = [token for token in inside if token.kind in ("height", "seconds or inches")]
    if heights:
        work.load, work.inches = None, ()
        work.notes.append(scope.said(heights[0].start, heights[0].end))
        work.amount = None if isinstance(work.amount, plan.Duration) else work.amount
        bare = f"{move.means['movement']} to {scope.said(inside[-1].start, inside[-1].end)}"
        if work.known is None and (known := scope.library.find(bare)) is not None:
            work.name, work.known = known.name, known  # `burpees to a 6" target`
    return [token for token in left if token not in inside]


def named_by_itself(
    work: Work, part: Sequence[Token], left: list[Token], scope: Scope
) -> list[Token]:
    """Name a work in the coach's own words: what follows its amount up to the next figure.

    In a list the name may stand before the amount; where the piece gives the amounts, alone.
    """
    counted = work.amount is not None or bool(work.sets)
    body = [token.kind for token in part if token.kind not in ("filler", "reps")]
    if not scope.open or not body or not (counted or scope.names):
        return left
    words_first = body[0] in ("word", "style", "implement")
    timed = part[-1].kind in ("time", "prime", "each side") and scope.loose
    leads = words_first and ((scope.listed and _leads(part, scope)) or timed)
    amount_first = body[0] in (*AMOUNTS, "times n", "one arm")
    if counted and not (amount_first or scope.names or leads):
        return left
    if not counted and not (words_first and _leads(part, scope)):
        return left
    run = _run(part, scope)
    content = [
        token for token in run if token.kind not in _JOINING and token.kind not in ("on", "off")
    ]
    heads = [token for token in run if token.kind == "role" and _head(token, scope)]
    if not heads and not any(token.kind in ("word", "implement") for token in run):
        return left
    words = scope.said(run[0].start, run[-1].end)
    said = _words(words)
    if scope.talk or (PROSE | NO_MOVES) & said or NO_NAME.match(words.lower()):
        return left
    longest = max(map(len, said), default=0)  # `4 min ×` names nothing.
    if len(content) > MOST_WORDS or len(words) > MOST_NAME or longest < SHORTEST:
        return left
    if not re.match(r"[A-Za-z0-9]", words):
        return left
    work.name = own_words(words)
    return [token for token in left if token not in run]


def _head(token: Token, scope: Scope) -> bool:
    """Whether a word that may be a role is the head of a name: `12 lateral jumps`."""
    return scope.text[token.start : token.end].lower().rstrip("s") in HEADS


_AT_A_PLACE = re.compile(r"on (?:the|a)\b", re.IGNORECASE)


def _run(part: Sequence[Token], scope: Scope) -> list[Token]:
    """The words that stand together, up to a figure or a place; none after a load."""
    run: list[Token] = []
    for token in part:
        if run and _AT_A_PLACE.match(scope.text, token.start):
            break  # `4 lay-to-stand on the rope`
        place = run and token.kind == "movement"  # `bag drags in plank`
        if token.kind in _NAMING or place or (run and token.kind in _JOINING):
            run.append(token)
        elif run:
            break
        elif token.kind in ("rest", "cap", "score", "at", *LOADS):
            return []
    while run and run[-1].kind in _JOINING:
        run.pop()
    return run

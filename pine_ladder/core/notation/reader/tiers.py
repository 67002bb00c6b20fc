"""Rows and sections that say what a tier does instead of what is written."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.reader.layout import Row
from pine_ladder.core.notation.reader.lexer import tokens
from pine_ladder.core.notation.reader.lexicon import special
from pine_ladder.core.notation.reader.loads import load_of
from pine_ladder.core.notation.reader.token import Token
from pine_ladder.core.notation.reader.work import Bare, Scope, Work
from pine_ladder.core.notation.reader.works import read_works

RANKS = {
    0: r"rx'?d?|r\s?x|as written|prescribed|l(?:evel|vl)?\s?3|advanced|adv|elite|performance|perf"
    r"|competitor|comp",
    1: r"sc(?:l|aled?|aling)?(?!\s?2\b)(?:\s?1)?|int(?:er)?(?:mediate)?|l(?:evel|vl)?\s?2|fitness"
    r"|mid(?:dle)?|medium",
    2: r"beg(?:inners?)?|l(?:evel|vl)?\s?1|foundations?|novices?|newer (?:folks?|people)|newbies?"
    r"|rookies?|basics?|starters?|sc(?:aled)?\s?2|on-?ramp",
}
"""Names of tiers from the hardest to the easiest; common practice, no source."""
_NAMED = {rank: re.compile(rf"\s*(?:{said})\s*", re.IGNORECASE) for rank, said in RANKS.items()}
_ROW = re.compile(
    rf"[\s(*•-]*(?:for\s+)?(?P<name>{'|'.join(RANKS.values())})\b"
    r"\s*(?P<mark>[:=|\-]|$|\s{2,}|(?=\d|@)|,|\()",
    re.IGNORECASE,
)
_SUB = re.compile(
    r"\s*(?:scale[ds]?(?:\s+to)?|sub(?:s|stitutes?|stitute)?|scaling(?: options?)?|options?|mods?"
    r"|modif\w+)\b\s*(?P<mark>[:\-]|$|(?=\d|[a-z]))",
    re.IGNORECASE,
)
_UNABLE = re.compile(
    r"[\s(]*(?:and\s+)?(?:if you (?:can't|cannot|don't have|do not have|haven't)"
    r"|(?:no|can't|cannot)\b(?!\s*(?:score|rest|time|clock)))",
    re.IGNORECASE,
)
_TOO_MUCH = re.compile(
    r"\s*if (?P<what>[a-z' -]{3,30}?) (?:is|are)(?: (?:not|too|a)\b|n't\b)[^,]{0,20}?"
    r"(?:,|\b(?:do|use|go|then|try|make it)\b)",
    re.IGNORECASE,
)
"""`If wall walks are too much do inchworms`."""
_SUB_OF = re.compile(r"\s*(?P<what>[a-z][a-z0-9' /-]{1,30}?) subs?\s*[:=]\s*(?=\S)", re.IGNORECASE)
"""`MU sub = 60 pull-ups`."""
_OF_IT = re.compile(r"tier (\d) of it \(([^)]*)\): ")
_LEVEL = re.compile(r"\s*(?:lane|group|wave|level)\s*(\d)\s*[:)\-]\s*", re.IGNORECASE)


LIKE = 0.4
"""How like a work a movement is at least that stands in for it."""


def told_of_it(text: str) -> str | None:
    """A written-out cell of a tier's column as a note: `INT: ring row`; None for any other row."""
    found = _OF_IT.match(text)
    return f"{found[2]}: {text[found.end() :]}" if found else None


def rank_named(text: str) -> int | None:
    """The rank of a tier's name, 0 the hardest; None for no tier."""
    return next((rank for rank, said in _NAMED.items() if said.fullmatch(text)), None)


def tier_of(row: Row, library: Library) -> tuple[int | None, int]:
    """The tier a row speaks of, and where its text goes on; None for a row of no tier."""
    if found := _OF_IT.match(row.text):
        return int(found[1]), found.end()
    if row.cells and (rank := rank_named(row.cells[0].strip())) is not None and len(row.cells) > 1:
        found = _ROW.match(row.text)
        return rank, found.end("name") if found else len(row.cells[0])
    if found := _ROW.match(row.text):
        rank = rank_named(found["name"])
        ahead = row.text[found.end() :].strip()
        if rank is not None and (found["mark"] or not ahead or ahead[0] in "@0123456789"):
            return rank, found.end()
    if found := _SUB.match(row.text):
        return 1, found.end()
    if (found := _UNABLE.match(row.text)) and sum(
        token.kind == "movement" for token in tokens(row.text, library)
    ) > 1:
        return 1, found.end()
    if found := (_TOO_MUCH.match(row.text) or _SUB_OF.match(row.text)):
        return 1, found.start("what")
    return None, 0


def give_tiers(works: list[Work], tier: int, body: Sequence[Token], scope: Scope) -> bool:
    """Give the works what a tier does instead; True where something of it found no place."""
    if not works:
        return True
    if any(one.match(scope.text) for one in (_UNABLE, _TOO_MUCH, _SUB_OF)):
        first = next((token for token in body if token.kind == "movement"), None)
        mine = [
            work for work in works if first is not None and work.name == first.means["movement"]
        ]
        if mine and first is not None:
            rest = list(body[list(body).index(first) + 1 :])
            while rest and rest[0].kind in ("sub", "equals", "colon"):
                rest = rest[1:]
            return give_tiers(mine[:1], tier, rest, replace_text(scope))
    of_it = bool(_OF_IT.match(scope.text))
    targets = [works[-1]] if of_it else works
    items = _items(body, scope)
    if tier == 0:
        return not _as_written(targets, items)
    left = False
    numbered = [target for target in targets if target.named and not target.place] or targets
    given = [
        item
        for item in items
        if item.named or item.amount is not None or item.load is not None or item.bare is not None
    ]
    positional = len(given) == len(items) == len(numbered) > 1 and all(
        closest(item, numbered, tier, scope.library) is work or _fits(item, work)
        for item, work in zip(given, numbered, strict=True)
    )
    for at, item in enumerate(items):
        if item.styles:
            left = not _styled(item, targets, tier, scope.library) or left
            continue
        target = numbered[at] if positional else _target(item, targets, tier, scope.library)
        if target is None:
            left = True
            continue
        for work in target if isinstance(target, list) else [target]:
            work.tiers[tier] = instead_of(work, item, work.tiers.get(tier), scope.library)
    return left


def replace_text(scope: Scope) -> Scope:
    """The scope without what its row begins with, so that it is not read twice."""
    return replace(scope, text=" " * 4 + scope.text[4:])


def _styled(item: Work, works: list[Work], tier: int, library: Library) -> bool:
    """A way to do the movement: the library's own under that name, or a note on it."""
    for work in works if len(works) == 1 else []:
        base = work.tiers.get(tier) or replace(work, tiers={}, notes=[], instead=[])
        plain = re.sub(r"^(?:strict|kipping|band|overhead) ", "", work.name)
        other = next(
            (name for style in item.styles if (name := special(library, style, plain))), None
        )
        known = {"full", "same", "all", "strict", "kipping"}
        if other is None and not known & set(item.styles):
            return False
        made = (
            replace(base, name=other, known=library.find(other))
            if other
            else replace(base, notes=list(item.styles))
        )
        for one in item.instead:
            name = next((said for way in one.styles if (said := special(library, way, plain))), "")
            if name:
                made.instead = [*made.instead, replace(base, name=name, known=library.find(name))]
        work.tiers[tier] = made
        return True
    return False


def _items(body: Sequence[Token], scope: Scope) -> list[Work]:
    """The items of a tier's row, each as a work or as a load or an amount alone."""
    parts: list[list[Token]] = [[]]
    for at, token in enumerate(body):
        spaced = (
            token.kind in ("slash", "dash")
            and 0 < at < len(body) - 1
            and (body[at - 1].end < token.start and token.end < body[at + 1].start)
        )
        if (
            token.kind in ("comma", "semicolon", "stop", "then", "plus", "pipe")
            or spaced
            or token.kind == "and"
        ):
            parts.append([])
        else:
            parts[-1].append(token)
    out: list[Work] = []
    for part in parts:
        tokens_of = [one for one in part if one.kind not in ("sub",)]
        if not [one for one in tokens_of if one.kind != "filler"]:
            continue
        works, loose = read_works(tokens_of, scope)
        if not works and (ways := _ways(tokens_of, scope)):
            first, *others = ways
            more = [Work(scope.row, 0, styles=way) for way in others]
            out.append(Work(scope.row, 0, styles=first, instead=more))
            continue
        if not works:
            works = _amounts_alone(tokens_of, scope)
        if works:
            out += works
        elif loose:
            out.append(Work(scope.row, 0, notes=loose))
    return out


def _ways(part: Sequence[Token], scope: Scope) -> list[list[str]]:
    """`strict`, `kipping or band`: the ways of doing it that ` or ` parts; none of other words."""
    tokens = [token for token in part if token.kind != "filler"]
    out: list[list[str]] = [[]]
    for one in tokens:
        if one.kind == "or":
            out.append([])
        elif one.kind in ("style", "word", "implement"):
            out[-1].append(scope.text[one.start : one.end].strip().lower())
        else:
            return []
    most = 2
    return out if all(0 < len(way) <= most for way in out) else []


def _amounts_alone(part: Sequence[Token], scope: Scope) -> list[Work]:
    work = Work(scope.row, part[0].start)
    for at, token in enumerate(part):
        load = load_of(token)
        if load is not None:
            if isinstance(load, plan.Weight) and at and part[at - 1].kind == "by":
                load = load.model_copy(update={"count": min(2, part[at - 1].value)})
            work.load = load
        elif token.kind == "pair":
            work.bare = Bare(token.value)
            if at and part[at - 1].kind == "by":
                work.bare = Bare(token.value, part[at - 1].value)
        elif token.kind == "number" and work.amount is None and work.load is None:
            work.amount = plan.Reps(low=int(token.value))
        elif token.kind == "distance":
            work.amount = plan.Distance(metres=token.value[0][:2])
        elif token.kind == "cal":
            work.amount = plan.Calories(calories=tuple(int(v) for v in token.value[0][:2]))
        elif token.kind == "time":
            work.amount = plan.Duration(seconds=token.value[0])
        elif token.kind == "implement":
            work.notes.append(str(token.means.get("implement", "")))
        elif token.kind in ("word", "style"):
            work.notes.append(scope.said(token.start, token.end))
    found = work.load is not None or work.bare is not None or work.amount is not None
    return [work] if found else []


def _fits(item: Work, work: Work) -> bool:
    if item.named:
        return False
    if item.load is not None or item.bare is not None:
        return work.load is not None or work.bare is not None
    return type(item.amount) is type(work.amount)


def _target(item: Work, works: list[Work], tier: int, library: Library) -> list[Work] | Work | None:
    """The works an item of a tier's row speaks of."""
    free = [work for work in works if tier not in work.tiers and work.named]
    if item.named:
        return closest(item, works, tier, library)
    if item.load is not None or item.bare is not None:
        hint = next(
            (note for note in item.notes if note in ("dumbbell", "kettlebell", "barbell")), ""
        )
        heights = isinstance(item.load, plan.Height)
        loaded = [
            work for work in works
            if (work.load is not None or work.bare is not None)
            and not isinstance(work.load, plan.Feel)
            and isinstance(work.load, plan.Height) == heights
            and (work.tiers.get(tier) is None or work.tiers[tier].load in (None, work.load))
        ]  # fmt: skip
        if hint:
            hinted = [
                work
                for work in loaded
                if hint in work.name or (work.known and any(hint in kit for kit in work.known.kit))
            ]
            loaded = hinted or loaded
        if not loaded:
            return None
        first = loaded[0]
        return [work for work in loaded if (work.load, work.bare) == (first.load, first.bare)]
    if item.amount is not None:
        alike = [work for work in free if type(work.amount) is type(item.amount)]
        return (
            alike[0]
            if len(alike) == 1 or (alike and not isinstance(item.amount, plan.Reps))
            else None
        )
    return None


def closest(item: Work, works: Sequence[Work], tier: int, library: Library) -> Work | None:
    """The work that a movement stands in for: its own name, its ladder, its swaps, its pattern."""
    best: tuple[float, Work] | None = None
    for at, work in enumerate(works):
        if not work.named:
            continue
        score = _likeness(item, work, library)
        if tier in work.tiers and work.tiers[tier].name != work.name:
            score -= 1.5
        score -= at * 0.01
        if best is None or score > best[0]:
            best = (score, work)
    return best[1] if best is not None and best[0] > LIKE else None


def _likeness(item: Work, work: Work, library: Library) -> float:
    if item.name == work.name:
        return 4
    short = set(re.findall(r"[a-z]+", (item.said or "").lower().rstrip("s")))
    if short and short < set(re.findall(r"[a-z]+", work.name)):
        return 3.5
    words = set(re.findall(r"[a-z]{3,}", (item.like or item.name).lower())) & set(
        re.findall(r"[a-z]{3,}", (work.like or work.name).lower())
    )
    score = 0.8 * len(words)
    ladder = library.ladder_of(work.name)
    if ladder is not None and item.name in ladder.rungs:
        score += 2
    if item.known and work.known:
        shared = set(item.known.patterns) & set(work.known.patterns)
        score += 1.0 * bool(shared)
        score += 0.3 * bool(set(item.known.groups) & set(work.known.groups))
    if "single-under" in (item.name, work.name) and "double-under" in (item.name, work.name):
        score += 2
    return score


def instead_of(work: Work, item: Work, before: Work | None, library: Library) -> Work:
    """The version of a tier: the work with what the item changes."""
    base = before or replace(work, tiers={}, notes=[], instead=[])
    if item.named:
        short = set(re.findall(r"[a-z]+", (item.said or item.name).lower().rstrip("s")))
        # `thrusters 35/25` is short for the work's own; `pull-ups` alone is what is done instead.
        ladder = library.ladder_of(work.name) if item.known is not None else None
        changes = item.amount is not None or item.load is not None or item.bare is not None
        easier = ladder is not None and item.name in ladder.rungs and not changes
        within = bool(short) and short < set(re.findall(r"[a-z]+", work.name))
        if item.name != work.name and within and not easier:
            item = replace(item, name=work.name, known=work.known)
        changed = replace(
            item,
            tiers={},
            amount=item.amount if item.amount is not None else base.amount,
            side=item.side if item.side is not None or item.amount is not None else base.side,
            notes=list(item.notes),
        )
        if changed.load is None and item.name == work.name:
            changed.load = base.load
        return changed
    made = replace(base)
    plain = re.sub(r"^(?:strict|kipping|band|overhead) ", "", work.name)
    for note in item.notes:
        if other := special(library, note.strip().lower(), plain):
            made.name, made.known = other, library.find(other)
    if item.load is not None:
        load = item.load
        if isinstance(load, plan.Weight) and isinstance(work.load, plan.Weight) and load.count == 1:
            load = load.model_copy(update={"count": work.load.count})
        made.load = load
    if item.bare is not None:
        values, count, _ = item.bare
        if isinstance(work.load, plan.Weight):
            made.load = work.load.model_copy(
                update={"values": tuple(values[:2]), "count": max(count, work.load.count)}
            )
        elif isinstance(work.load, plan.Height):
            made.load = work.load.model_copy(update={"values": tuple(values[:2])})
        elif work.load is None:
            made.bare = item.bare
    if item.amount is not None:
        made.amount = item.amount
    return made


def _as_written(works: list[Work], items: list[Work]) -> bool:
    """The first tier's row: loads and movements of what is written above without them."""
    took = False
    if len(items) == len(works) > 1:
        for work, item in zip(works, items, strict=True):
            if work.load is None and work.bare is None and not item.named:
                work.load, work.bare = item.load, item.bare
        return True
    for item in items:
        if item.load is None and item.bare is None:
            took = took or item.named
            continue
        for work in works:
            hint = next(
                (note for note in item.notes if note in ("dumbbell", "kettlebell", "barbell")), ""
            )
            weighted = work.known is not None and (work.known.reference_kg is not None)
            if (
                work.load is None
                and work.bare is None
                and (weighted or (hint and hint in work.name))
            ):
                work.load, work.bare = item.load, item.bare
                took = True
            elif work.load is None and isinstance(item.load, plan.Height) and "box" in work.name:
                work.load, took = item.load, True
    return took

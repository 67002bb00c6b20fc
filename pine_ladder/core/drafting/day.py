"""A day drafted: many days by chance from the material, those that keep every constraint, and of
these some that differ. A seed gives the same drafts again.
"""

from __future__ import annotations

import random
from collections.abc import Mapping, Sequence

from pine_ladder.core import plan
from pine_ladder.core.drafting.builder import Builder, Slot
from pine_ladder.core.drafting.conditioning import conditioning
from pine_ladder.core.drafting.constraints import (
    Constraint,
    Minutes,
    broken,
    constraints_of,
    minutes_of,
)
from pine_ladder.core.drafting.edges import cool_down, loads_most, warm_up
from pine_ladder.core.drafting.fitting import CHANGE_MIN, even, fitted, least_minutes, length
from pine_ladder.core.drafting.material import Material
from pine_ladder.core.drafting.prompt import Prompt
from pine_ladder.core.drafting.reasons import Reason, reasons_of
from pine_ladder.core.drafting.slots import EXPLAIN_MIN, held_again, own_piece, slots_of, wished
from pine_ladder.core.drafting.strength import ACCESSORY_MIN, MAKERS, accessory, slow_and_fast
from pine_ladder.core.drafting.versions import with_versions
from pine_ladder.core.movements import Library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.plan import Frozen

TRIES, ENOUGH = 60, 4
"""Days that are tried, at most, and days that keep everything for each draft that is asked for."""
HOPELESS = 40
"""Where so many days in a row all break the same constraint, no other will keep it."""
FROM_BOARDS = 0.45
"""Share of slots filled from the gym's own boards, where one fits."""
UNLIKE = 0.5
"""Two drafts share at most this part of their movements."""


class Draft(Frozen):
    """A day as it is proposed: an ordinary board, a reason for each line, and what it keeps."""

    text: str
    reasons: tuple[Reason, ...]
    constraints: tuple[Constraint, ...]
    minutes: Minutes


class Refused(Exception):
    """No day keeps everything that is asked for; the message says which constraint, and why."""


def draft_day(
    prompt: Prompt,
    library: Library,
    boards: Mapping[str, plan.Session],
    seed: int = 1,
    count: int = 3,
) -> list[Draft]:
    """Some drafts that differ; raises Refused where none keeps every constraint."""
    material = Material(prompt, library, boards)
    _possible(prompt, material)
    out: list[Draft] = []
    kept: list[Draft] = []
    failed: dict[str, tuple[int, Constraint]] = {}
    tried = 0
    for number in range(TRIES):
        if len(out) == count or len(kept) >= ENOUGH * count:
            break
        if tried >= HOPELESS and any(times == tried for times, _ in failed.values()):
            break
        rng = random.Random(f"{seed}:{number}")
        made = _one(material, rng)
        if made is None:
            continue
        tried += 1
        wrong = broken(made.constraints)
        for one in wrong:
            failed[one.name] = (failed.get(one.name, (0, one))[0] + 1, one)
        if not wrong:
            kept.append(made)
            if all(_differ(made, other, material, UNLIKE) for other in out):
                out.append(made)
    # Where little may come, drafts are nearer to each other.
    for share in (0.65, 0.85):
        for made in kept:
            if len(out) < count and all(_differ(made, other, material, share) for other in out):
                out.append(made)
    if not out:
        raise Refused(_why(failed, material))
    return out


def _why(failed: Mapping[str, tuple[int, Constraint]], material: Material) -> str:
    if not failed:
        allowed = len(material.allowed)
        return f"movements: only {allowed} movements are left, too few for a day"
    _, one = max(failed.values(), key=lambda each: each[0])
    return f"{one.name}: {one.value} where {one.bound} is asked for"


def _possible(prompt: Prompt, material: Material) -> None:
    """Raise Refused where the pieces that are wished for do not fit into the time by themselves."""
    told, parts = 0.0, []
    for wish in prompt.pieces:
        least = least_minutes(wish, material)
        told += least + CHANGE_MIN + EXPLAIN_MIN
        parts.append(f"{wish.said or wish.role.value} takes {least:.0f} min")
    if prompt.pieces and told - CHANGE_MIN > prompt.minutes:
        raise Refused(
            f"minutes: {', '.join(parts)}, with explaining and changing over {told:.0f} min, "
            f"more than {prompt.minutes}"
        )
    for word in prompt.want:
        if not any(material.is_meant(word, pair) for pair in material.allowed_in_pairs):
            raise Refused(f"wanted: “{word}” may not come: kit, avoid or landings forbid it")


def _one(material: Material, rng: random.Random) -> Draft | None:
    """One day by chance, with all that it keeps and breaks."""
    builder = Builder(material, rng)
    sources: dict[int, str] = {}
    work = _work(material, builder, rng, sources)
    if not work:
        return None
    prompt = material.prompt
    limits = tuple(prompt.limits)
    work = [with_versions(piece, material, prompt.levels, limits) for piece in work]
    room = prompt.minutes - sum(length(piece, material) for piece in work) - 2
    before: list[plan.Piece] = []
    wished = {wish.role for wish in prompt.pieces}
    if room >= 4 or plan.Role.WARM_UP in wished:
        before = warm_up(work, material, rng, min(10.0, room - 3))
        before = [with_versions(piece, material, {}, limits) for piece in before]
    after: list[plan.Piece] = []
    if (prompt.minutes >= 40 and room >= 10) or plan.Role.COOL_DOWN in wished:
        after = [with_versions(cool_down(work, material, rng), material, {}, limits)]
    session = _session([*before, *work, *after], material, rng)
    if session is None:
        return None
    reasons = reasons_of(session, builder, sources, len(before), material)
    return Draft(
        text=print_session(session),
        reasons=tuple(reasons),
        constraints=tuple(constraints_of(session, material)),
        minutes=minutes_of(session, material),
    )


def _session(
    pieces: Sequence[plan.Piece], material: Material, rng: random.Random
) -> plan.Session | None:
    """The day as it reads back from its own text: its lines stand where they are said to."""
    prompt = material.prompt
    made = plan.Session(
        title=rng.choice(TITLES),
        class_s=60 * prompt.minutes,
        theme=prompt.theme,
        pieces=tuple(pieces),
    )
    text = print_session(made)
    read = parse(text, material.library)
    if any(finding.severity == "error" for finding in read.findings):
        return None
    return read.session


TITLES = (
    "Ebb", "Flood", "Lee Shore", "Long Swell", "Fair Wind", "Cross Sea", "High Water", "Low Water",
    "Head Wind", "Following Sea", "Ground Swell", "Offshore", "Landfall", "Mooring", "Windward",
    "Leeward", "Anchor Watch", "Short Sea", "Spring Range", "Neap Range",
)  # fmt: skip


def _work(
    material: Material, builder: Builder, rng: random.Random, sources: dict[int, str]
) -> list[plan.Piece]:
    """The pieces between warm-up and cool-down."""
    prompt = material.prompt
    slots = slots_of(material, rng)
    one_pattern = prompt.purpose is None and prompt.style.day == "one pattern"
    if (prompt.purpose is plan.Purpose.SAME_PATTERN or one_pattern) and not prompt.pieces:
        pair = slow_and_fast(
            builder, Slot(plan.Role.CONDITIONING, sum(s.minutes for s, _ in slots))
        )
        if pair:
            return pair
    out: list[plan.Piece] = []
    for slot, wish in slots:
        spare = frozenset(region for piece in out for region in loads_most(piece, material.library))
        apart = slot._replace(spare=spare if len(slots) <= 3 else frozenset())
        piece = wished(builder, apart, wish) if wish else held_again(slot, material, out)
        if piece is None and rng.random() < FROM_BOARDS:
            own = own_piece(apart, material, builder, rng)
            if own is not None and own.piece.lines not in [piece.lines for piece in out]:
                piece = own.piece
                sources[len(out)] = own.source
        if piece is None:
            maker = MAKERS.get(slot.role, conditioning)
            piece = maker(builder, apart) or maker(builder, slot)
        if piece is not None:
            told = wish is not None and wish.whole
            out.append(piece if told else fitted(piece, slot.minutes, material))
    if not prompt.pieces and prompt.teams == 1 and prompt.purpose in FILLED:
        out += _filling(out, builder)
    return even(out, material) if len(out) > 2 else out


FILLED = (None, plan.Purpose.STRENGTH, plan.Purpose.SKILL)
"""Purposes whose days take lighter lifts where minutes are left over."""
EDGES_MIN = 15.0
"""Minutes of warm-up, cool-down and a word to the class (common practice, no source)."""


def _filling(out: Sequence[plan.Piece], builder: Builder) -> list[plan.Piece]:
    """Lighter lifts for the minutes that the pieces of a day leave over, where they are many."""
    material = builder.material
    left = material.prompt.minutes - EDGES_MIN - sum(length(piece, material) for piece in out)
    if left < ACCESSORY_MIN or not out:
        return []
    loaded = frozenset(region for piece in out for region in loads_most(piece, material.library))
    slot = Slot(plan.Role.STRENGTH, left - CHANGE_MIN, "", None)._replace(spare=loaded)
    made = accessory(builder, slot)
    made = made or accessory(builder, slot._replace(spare=frozenset()))
    return [made] if made is not None else []


def _differ(one: Draft, other: Draft, material: Material, share: float) -> bool:
    """Whether two drafts share at most a part of their movements, and differ in their formats where
    these are free.
    """
    mine, theirs = (_features(draft, material) for draft in (one, other))
    same = len(mine[0] & theirs[0]) / max(1, min(len(mine[0]), len(theirs[0])))
    free = not material.prompt.pieces
    return same <= share and (mine[1] != theirs[1] or not free)


def _features(draft: Draft, material: Material) -> tuple[set[str], tuple[str, ...]]:
    session = parse(draft.text, material.library).session
    hard = [p for p in session.pieces if p.role not in (plan.Role.WARM_UP, plan.Role.COOL_DOWN)]
    names = {
        task.versions[0].movement for piece in hard for line in piece.lines for task in line.tasks
    }
    return names, tuple(f"{piece.role.value} {piece.format}" for piece in hard)

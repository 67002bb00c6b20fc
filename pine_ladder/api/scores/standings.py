"""Standings of a piece: by the gym's school or one asked for, whole or filtered."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from fastapi import Query, Response
from pydantic import BaseModel

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import GymDate, Id, Key, Place, as_json
from pine_ladder.api.scores.sheet import scored_piece, visible_day
from pine_ladder.core import plan
from pine_ladder.core.scores.chart_scale import Tick, axis_of, ticks
from pine_ladder.core.scores.kinds import reps_in_round, score_kind
from pine_ladder.core.scores.standings import (
    AgeBand,
    Entry,
    School,
    Section,
    born_in,
    by_lowest,
    is_tabata,
    keys_on_line,
    standings,
)
from pine_ladder.store.athletes import members as member_store
from pine_ladder.store.models import GymClass
from pine_ladder.store.scores import sheet

members = router("member", "scores")


class StandingsOut(BaseModel):
    """The standings of a piece: sections by tier, or one of all, as the gym's school has it; and
    the line they lie on, with its ticks and the ends of a gap that is not drawn to scale.
    """

    piece_key: str
    title: str
    kind: plan.ScoreKind
    school: School
    pace: str | None
    sections: tuple[Section, ...]
    ticks: tuple[Tick, ...]
    cut: tuple[float, float] | None


def _tier_rounds(piece: plan.Piece, entries: Sequence[Entry]) -> dict[int, int]:
    """Reps of a round by tier, where they are the same on all tracks and in all rounds."""
    if piece.grow_reps:
        return {}
    sizes: dict[int, set[int]] = {}
    for entry in entries:
        sizes.setdefault(entry.tier, set()).add(reps_in_round(piece, 1, entry.tier, entry.track))
    return {tier: size.pop() for tier, size in sizes.items() if len(size) == 1}


@members.get(
    "/days/{date}/pieces/{key}/standings",
    response_model=StandingsOut,
    responses={403: {"model": Problem}, 404: {"model": Problem}},
)
def piece_standings(
    date: GymDate,
    key: Key,
    db: Database,
    me: Myself,
    track: Annotated[Place | None, Query(description="Keep one track alone")] = None,
    tier: Annotated[Place | None, Query(description="Keep one tier alone")] = None,
    age: Annotated[AgeBand | None, Query(description="Keep an age alone; for coaches")] = None,
    class_id: Annotated[Id | None, Query(description="Keep those of a class; for coaches")] = None,
    school: Annotated[School | None, Query(description="How tiers rank; the gym's if left")] = None,
) -> Response:
    """The standings of a piece, ties sharing a rank. Who hides is left out, except for themselves.

    Doubted scores are shown as such.
    """
    day = visible_day(db, date, me)
    piece = scored_piece(db, day, key)
    kind = score_kind(piece)
    assert kind is not None
    gym_school, lowest = member_store.schools_of_standings(db)
    rows = [row for row in sheet.placings(db, key) if tier is None or row.tier == tier]
    if class_id is not None:
        if me.role != "coach":
            raise ApiError(403, "only coaches see who came to a class")
        held = db.get(GymClass, class_id)
        here = {one.person_id for one in held.attendance} if held else set()
        rows = [row for row in rows if row.person_id in here]
    if age is not None:
        if me.role != "coach":
            raise ApiError(403, "Only coaches filter by age: it would tell who is how old.")
        first, last = born_in(age, date.year)
        rows = [row for row in rows if row.born is not None and first <= row.born <= last]
    hidden = {row.person_id for row in rows if row.hidden} - {me.id}
    found = sheet.entries(rows, hidden)
    if lowest and is_tabata(piece):
        found = by_lowest(found)
    chosen = school or gym_school
    rounds = _tier_rounds(piece, found)
    shown = [one for one in found if track is None or one.track == track]
    keys, in_rounds = keys_on_line(shown, kind, rounds)
    axis = axis_of(keys)
    return as_json(
        StandingsOut(
            piece_key=key,
            title=piece.title,
            kind=kind,
            school=chosen,
            pace=piece.pace,
            sections=standings(found, track, chosen, kind, rounds),
            ticks=ticks(axis, kind, int(in_rounds)),
            cut=axis.broken(),
        )
    )

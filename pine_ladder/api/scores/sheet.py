"""Scores: the coach's sheet, standings, and an athlete's own day."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Annotated

from fastapi import Depends, Query
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, Shelf, router
from pine_ladder.api.athletes.learning import after_a_score
from pine_ladder.api.athletes.members import tier_at, track_at
from pine_ladder.api.days.days import day_for, existing_day, hour_of
from pine_ladder.api.errors import ApiError, Problem, not_found
from pine_ladder.api.forms import GymDate, Id, Key, Place
from pine_ladder.api.scores.forms import (
    Aside,
    Entered,
    MyDay,
    Read,
    ReadForm,
    ScoreConflict,
    ScoreForm,
    ScoreOut,
    Sheet,
    SheetPiece,
    SheetRow,
)
from pine_ladder.core import plan
from pine_ladder.core.athletes.heart import Target, TimeIn, asked, time_in
from pine_ladder.core.athletes.members import Member, Profile, at_home
from pine_ladder.core.athletes.pace_plan import pace_plan
from pine_ladder.core.athletes.plausibility import doubt
from pine_ladder.core.athletes.scaling_sheet import own_session
from pine_ladder.core.day.athlete_view import view
from pine_ladder.core.day.hour_ruler import Outline
from pine_ladder.core.movements import Library
from pine_ladder.core.scores.kinds import ABSENT, Rounds, Score, score_kind
from pine_ladder.core.scores.pacing import paced
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.scores.shorthand.examples import example_of
from pine_ladder.core.scores.shorthand.qualifiers import tier_told
from pine_ladder.core.scores.shorthand.suggestions import meant
from pine_ladder.core.scores.standings import rank_of, standings
from pine_ladder.store.athletes import members as member_store
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import held_by, id_of, keys_of, piece_of, read_board
from pine_ladder.store.days.week_themes import theme_of
from pine_ladder.store.floor import classes as floor
from pine_ladder.store.floor.hearts import kept_of, strap_of
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.gym.programmes import followers
from pine_ladder.store.models import Day, Person, ScoreRow
from pine_ladder.store.scores import sheet
from pine_ladder.usecases import scores

members = router("member", "scores")
coaches = router("coach", "scores")


UNREAD = "the board has changed and this no longer reads: write it anew"


def _scored(db: Database, day: Day, hour: Outline) -> list[tuple[SheetPiece, plan.Piece]]:
    session = read_board(day.text, gym_of(db).movements_as_written).session
    return [
        (
            SheetPiece(
                key=out.key,
                title=out.title,
                format=out.format,
                kind=out.score,
                example=example_of(piece),
            ),
            piece,
        )
        for out, piece in zip(hour.pieces, session.pieces, strict=True)
        if out.score is not None
    ]


def hidden_from(db: Database, me: Person) -> frozenset[int]:
    """Whom this person is not shown, and cannot be ranked against: who hides, but themselves."""
    return frozenset() if me.role == "coach" else member_store.hidden_people(db) - {me.id}


def _ranks(
    rows: list[ScoreRow], hidden: frozenset[int] = frozenset()
) -> dict[tuple[int, int], int]:
    """Ranks in tier sections by piece and person. Teams share one."""
    found = {}
    # Where a piece is only ticked off, nobody is ahead.
    ranked = [row for row in rows if row.kind != plan.ScoreKind.DONE]
    for piece in {row.piece_id for row in ranked}:
        own = [row for row in ranked if row.piece_id == piece]
        for section in standings(sheet.entries(map(sheet.placing_of, own), hidden)):
            found.update({(piece, p.entry.athlete_id): p.rank for p in section.places})
    return found


def rank_in_tier(db: Database, day: Day, row: ScoreRow, me: Person) -> int | None:
    """A score's rank on its piece in its tier's section, as `me` may know it; None for none."""
    ranks = _ranks(sheet.scores_of(db, day, str(row.piece_id)), hidden_from(db, me))
    return ranks.get((row.piece_id, row.person_id))


def score_out(
    row: ScoreRow,
    rank: int | None,
    reading: str | None = None,
    pieces: Mapping[str, plan.Piece] | None = None,
    hidden: frozenset[int] = frozenset(),
) -> ScoreOut:
    """A score as answered; `pieces` by key let its rounds be read against the piece's pace.

    Team mates who are `hidden` from the reader are left out.
    """
    absent = row.value.get("absent")
    if absent:
        reading = ABSENT[absent]
    piece = (pieces or {}).get(str(row.piece_id))
    rounds = Rounds.model_validate(row.rounds) if row.rounds else None
    went = paced(piece, rounds, row.tier.position, row.track.position) if piece else None
    return ScoreOut(
        piece_key=str(row.piece_id),
        person_id=row.person_id,
        tier=row.tier.position,
        track=row.track.position,
        entered=row.entered,
        display=row.display,
        reading=reading if absent or row.order_key is not None else UNREAD,
        version=row.version,
        rank=rank,
        doubt=row.doubt,
        standing=row.standing,
        pacing=went.words if went else None,
        team=[one for one in row.team or [] if one not in hidden],
    )


def visible_day(db: Database, date: dt.date, me: Person) -> Day:
    """The day of a date if this person may see it, or a 404."""
    day = day_for(db, date, me)
    if day is None:
        raise not_found(f"session on {date.isoformat()}")
    return day


def scored_piece(db: Database, day: Day, key: str) -> plan.Piece:
    """The piece of a day that keeps a score, or a 404."""
    piece = piece_of(db, day, key)
    if piece is None or score_kind(piece) is None:
        raise not_found("such scored piece on this day")
    return piece


def _doubt(
    db: Database, piece: plan.Piece, score: Score, form: ReadForm | ScoreForm, person: int | None
) -> str | None:
    """Why an entry is unlikely, by the movements' pace and the athlete's own bests."""
    bests = member_store.profile_of(db, person)[0].bests if person else {}
    return doubt(piece, score, gym_of(db).movements, form.tier, form.track, bests) or score.doubt


def _as_told(db: Database, form: Entered) -> tuple[Entered, tuple[str, ...]]:
    """The form with the tier that its entry names, if any, and the gym's tiers in order."""
    names = gym_of(db).tiers
    told, entered = tier_told(form.entered, names)
    if told is None:
        return form, names
    return form.model_copy(update={"tier": told, "entered": entered}), names


def write(
    db: Database,
    day: Day,
    key: str,
    person: Person,
    form: ScoreForm,
    me: Person,
    source: str = "",
) -> ScoreOut | None:
    """Keep somebody's entry, or take their score back with an empty one; raises ApiError.

    In a team of the piece, its other members get the same score.
    """
    piece = scored_piece(db, day, key)
    asked, (form, names) = form, _as_told(db, form)
    team = floor.team_of(db, key, person.id) if piece.teams else []
    wanted = scores.Write(
        piece_key=key,
        person=person,
        tier=tier_at(db, form.tier),
        track=track_at(db, form.track),
        entered=form.entered,
        version=form.version,
        request_key=form.request_key,
        by=me,
        team=tuple(team),
        source=source,
    )
    scores.lock_cell(db, wanted)
    mates = [one for one in team if one != person.id]
    try:
        if not scores.landed(db, wanted):
            if not form.entered.strip():
                scores.clear_score(db, day, wanted)
            else:
                read = read_score(form.entered, piece, form.tier, form.track)
                wanted = wanted._replace(doubt=_doubt(db, piece, read, form, person.id))
                scores.save_score(db, day, piece, wanted)
            scores.share(db, day, piece, wanted, mates)
    except scores.KeyTaken:
        raise ApiError(422, "this entry was sent before as another one: type it again") from None
    except scores.StaleScore as stale:
        newer = score_out(stale.newer, None).model_dump(mode="json") if stale.newer else None
        shown = stale.newer.display if stale.newer else "nothing"
        raise ApiError(
            409, f"someone else scored this in the meantime: {shown}", newer=newer
        ) from None
    except ValueError as refusal:
        raise ApiError(422, str(refusal)) from None
    row = scores.cell_of(db, wanted)
    if row is None:
        return None
    reading = read_score(row.entered, piece, row.tier.position, row.track.position).reading
    if form.tier != asked.tier:
        reading = f"{names[form.tier]}: {reading or row.display}"
    rank = rank_in_tier(db, day, row, me)
    return score_out(row, rank, reading, {key: piece}, hidden_from(db, me))


@coaches.get("/days/{date}/sheet", responses={404: {"model": Problem}})
def read_sheet(date: GymDate, db: Database) -> Sheet:
    """The score sheet: scored pieces, athletes (those who came first), scores and ranks."""
    day = existing_day(db, date)
    came: dict[int, list[dt.time]] = {}
    for held in sorted(days.classes_of(db, day), key=lambda one: one.start):
        for one in held.attendance:
            came.setdefault(one.person_id, []).append(held.start)
    people = sorted(followers(db, day), key=lambda p: p.id not in came)
    rows = sheet.scores_of(db, day)
    ranks = _ranks(rows)
    found = _scored(db, day, hour_of(db, day.text, keys_of(db, day)))
    pieces = [piece for piece, _ in found]
    by_key = {piece.key: held for piece, held in found}
    ids = {int(piece.key) for piece in pieces}
    titles = {one.row.id: one.row.title for one in held_by(db, day)}
    return Sheet(
        date=date,
        pieces=pieces,
        aside=[
            Aside(
                key=str(piece),
                title=titles.get(piece, ""),
                scores=[score_out(row, None) for row in rows if row.piece_id == piece],
            )
            for piece in dict.fromkeys(row.piece_id for row in rows)
            if piece not in ids
        ],
        rows=[
            SheetRow(
                person_id=p.id,
                name=p.name,
                tier=p.tier.position,
                track=p.track.position,
                classes=came.get(p.id, []),
            )
            for p in people
        ],
        scores=[
            score_out(row, ranks.get((row.piece_id, row.person_id)), pieces=by_key)
            for row in rows
            if row.piece_id in ids
        ],
    )


@coaches.post("/days/{date}/pieces/{key}/read", responses={404: {"model": Problem}})
def read(date: GymDate, key: Key, form: ReadForm, db: Database, me: Myself) -> Read:
    """Understand an entry without keeping it: how it is read, or why it is refused."""
    return _read(db, existing_day(db, date), key, form, form.person_id, hidden_from(db, me))


def _read(
    db: Database,
    day: Day,
    key: str,
    form: ReadForm,
    person_id: int | None,
    hidden: frozenset[int],
) -> Read:
    piece = scored_piece(db, day, key)
    told, names = _as_told(db, form)
    score = read_score(form.entered, piece, form.tier, form.track, names)
    key_of = score.order_key
    if key_of is not None:
        score = score.model_copy(update={"doubt": _doubt(db, piece, score, told, person_id)})
    near = meant(score, form.entered, piece, form.tier, form.track)
    if key_of is None:
        return Read(score=score, rank=None, meant=near)
    placed = sheet.entries(sheet.placings(db, key), hidden)
    others = [entry for entry in placed if entry.athlete_id != person_id]
    return Read(score=score, rank=rank_of(key_of, told.tier, others), meant=near)


@coaches.put(
    "/days/{date}/pieces/{key}/scores/{person_id}",
    dependencies=[Depends(after_a_score)],
    responses={
        404: {"model": Problem},
        409: {"model": ScoreConflict},
        422: {"model": Problem},
    },
)
def write_score(
    date: GymDate, key: Key, person_id: Id, form: ScoreForm, db: Database, me: Myself
) -> ScoreOut | None:
    """Keep an athlete's score, or take it back with an empty entry."""
    person = db.get(Person, person_id)
    if person is None or not person.trains:
        raise not_found("such athlete")
    return write(db, existing_day(db, date), key, person, form, me)


@members.get("/me/days/{date}")
def my_day(
    date: GymDate,
    db: Database,
    shelf: Shelf,
    me: Myself,
    tier: Place | None = None,
    track: Place | None = None,
    home: Annotated[bool, Query(description="With the kit I have at home")] = False,
) -> MyDay:
    """The day in my version, with my scores. Tier and track default to mine."""
    own_tier = me.tier.position if tier is None else tier
    own_track = me.track.position if track is None else track
    day = day_for(db, date, me)
    text = day.text if day else ""
    keys = keys_of(db, day) if day else ()
    hour = hour_of(db, text, keys, date)
    (mine,) = member_store.members_of(db, [me])
    mine = mine.model_copy(update={"tier": own_tier, "track": own_track})
    own, words = own_session(
        read_board(text, shelf).session,
        mine,
        shelf,
        at_home(mine.profile) if home else member_store.rack_of(db),
        member_store.schools_of(db),
    )
    rows = sheet.scores_of(db, day) if day else []
    hidden = hidden_from(db, me)
    ranks = _ranks(rows, hidden)
    scored = _scored(db, day, hour) if day else []
    by_key = {piece.key: held for piece, held in scored}
    ranges = _hearts(own, hour, mine.profile, date, shelf)
    return MyDay(
        date=date,
        written=day is not None,
        theme=theme_of(db, day.programme_id, date)[0] if day else "",
        tier=own_tier,
        track=own_track,
        view=view(own, shelf, 0, own_track, words, keys, mine.profile.unit),
        outline=hour,
        pieces=[piece for piece, _ in scored],
        scores=[
            score_out(row, ranks.get((row.piece_id, row.person_id)), None, by_key, hidden)
            for row in rows
            if row.person_id == me.id
        ],
        hearts=ranges,
        strap=strap_of(db, me.id),
        heart_times=_heart_times(db, me, ranges) if day else {},
        plans=_plans(own, hour, mine, shelf),
    )


def _plans(own: plan.Session, hour: Outline, mine: Member, shelf: Library) -> dict[str, str]:
    """Pace plans of the pieces that ask for an even pace, by their keys."""
    found = {
        out.key: pace_plan(piece, mine.model_copy(update={"tier": 0}), shelf)
        for piece, out in zip(own.pieces, hour.pieces, strict=True)
    }
    return {key: told for key, told in found.items() if told is not None}


def _hearts(
    own: plan.Session, hour: Outline, known: Profile, date: dt.date, shelf: Library
) -> dict[str, Target]:
    """What easy and hard parts ask of somebody's heart, as far as it can be said."""
    found = {
        out.key: asked(piece, shelf, known.heart, known.born, date.year)
        for piece, out in zip(own.pieces, hour.pieces, strict=True)
    }
    return {key: range_ for key, range_ in found.items() if range_ is not None}


def _heart_times(db: Session, me: Person, ranges: Mapping[str, Target]) -> dict[str, TimeIn]:
    """How long somebody's heart was where, of the pieces they wore a strap in."""
    kept = kept_of(db, me.id, map(id_of, ranges))
    return {str(number): time_in(ranges[str(number)], seconds) for number, seconds in kept.items()}


@members.post("/me/days/{date}/pieces/{key}/read", responses={404: {"model": Problem}})
def my_reading(date: GymDate, key: Key, form: ReadForm, db: Database, me: Myself) -> Read:
    """Understand my entry without keeping it."""
    return _read(db, visible_day(db, date, me), key, form, me.id, hidden_from(db, me))


@members.put(
    "/me/days/{date}/pieces/{key}/score",
    dependencies=[Depends(after_a_score)],
    responses={
        403: {"model": Problem},
        404: {"model": Problem},
        409: {"model": ScoreConflict},
        422: {"model": Problem},
    },
)
def write_my_score(
    date: GymDate, key: Key, form: ScoreForm, db: Database, me: Myself
) -> ScoreOut | None:
    """Keep my own score."""
    if not me.trains:
        raise ApiError(403, "coaches score on the score sheet")
    if date > gym_of(db).today:
        raise ApiError(422, "this day is still to come")
    return write(db, visible_day(db, date, me), key, me, form, me)

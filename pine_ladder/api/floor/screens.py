"""Walls: links for displays, and what a display shows."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Mapping

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, router
from pine_ladder.api.errors import Problem, not_found
from pine_ladder.api.floor.remote import ClockOut, clock_out
from pine_ladder.api.forms import Form, Id
from pine_ladder.api.links import Shown, shown
from pine_ladder.api.live import WITHDRAWN, Hub, Message, stream
from pine_ladder.core import plan
from pine_ladder.core.day.athlete_view import BoardView, view
from pine_ladder.core.day.kit import kit_line
from pine_ladder.core.floor.briefing import Brief, briefing, briefing_of
from pine_ladder.core.floor.remote import Running
from pine_ladder.core.floor.round_times import strip_of
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.poses import Cycle, cycle
from pine_ladder.core.scores.history import change_words
from pine_ladder.store.athletes.members import changes_shown, hidden_people
from pine_ladder.store.days.days import find_day
from pine_ladder.store.days.pieces import id_of, keys_of, read_board
from pine_ladder.store.floor import clock
from pine_ladder.store.floor.bookings import planned, signed
from pine_ladder.store.floor.classes import jots_of
from pine_ladder.store.gym.calendar import now
from pine_ladder.store.gym.loaded import gym_of, work_on
from pine_ladder.store.models import Day, GymClass, Programme, ScoreRow, WallLink
from pine_ladder.store.people.people import active_people
from pine_ladder.store.scores import history
from pine_ladder.store.scores.sheet import TRUSTED, scores_by_person
from pine_ladder.usecases import screens as displays

everyone = router("public", "walls")
coaches = router("coach", "walls")


SHOWN = ("clock", "again", "day", "class", "score", "jots")
"""Changes that may be seen on a display."""


class ResultOut(BaseModel):
    """What somebody of the class has done of the piece so far, `tier` by position; what changed
    since their last time, where they let it be shown.
    """

    name: str
    tier: int
    shown: str
    change: str = ""


class NextClass(BaseModel):
    """The class that begins next today, and how many come."""

    start: dt.time
    coming: int
    size: int


class WallOut(BaseModel):
    """What a display shows: the gym's name, its tiers, the board of today with the kit that any
    version of it needs and its movements to be shown, the class that is next and what tomorrow is
    called; the clock if one runs, with the results as they come.
    """

    gym: str
    date: dt.date
    board: BoardView | None
    kit: list[str]
    movements: list[Brief]
    tiers: list[str]
    clock: ClockOut | None
    results: list[ResultOut]
    next: NextClass | None
    tomorrow: str


class WallLinkForm(Form):
    """A display to make a link for."""

    name: str = Field(min_length=1, max_length=60, examples=["Main wall"])
    programme: Id | None = Field(
        default=None, description="Of this programme alone; None shows whichever is on the clock"
    )


class WallLinkOut(BaseModel):
    """A display link; the wall is at /wall/ and the token, `shown` as it is seen from outside."""

    token: str
    name: str
    programme: int | None
    shown: Shown


@coaches.get("/walls")
def list_walls(request: Request, db: Database) -> list[WallLinkOut]:
    """The gym's display links."""
    return [_wall_link_out(request, one) for one in displays.links_of(db)]


def _wall_link_out(request: Request, row: WallLink) -> WallLinkOut:
    return WallLinkOut(
        token=row.token,
        name=row.name,
        programme=row.programme_id,
        shown=shown(request, f"/wall/{row.token}"),
    )


@coaches.post("/walls", status_code=201, responses={404: {"model": Problem}})
def make_wall(form: WallLinkForm, request: Request, db: Database) -> WallLinkOut:
    """A new link for a display, which needs no sign-in."""
    if form.programme is not None and db.get(Programme, form.programme) is None:
        raise not_found("such programme")
    row = displays.make_link(db, form.name, form.programme)
    return _wall_link_out(request, row)


@coaches.delete("/walls/{token}", status_code=204)
def withdraw_wall(token: str, db: Database) -> None:
    """Withdraw a link: displays that use it go dark."""
    displays.withdraw(db, token)


def _on_the_clock(db: Session, link: WallLink) -> tuple[GymClass | None, clock.Stood | None]:
    """The class whose clock was pressed last today, of the display's programme, and its clock."""
    work_on(db, link.programme_id)
    held = clock.on_the_wall(db, gym_of(db).today_began, link.programme_id)
    return held, clock.stands(db, held.id) if held else None


def wall_out(db: Session, link: WallLink) -> WallOut:
    """What a display shows now: the class whose clock was pressed last today, of any programme or
    of the one that the display is for.
    """
    today, shelf = gym_of(db).today, gym_of(db).movements
    held, stood = _on_the_clock(db, link)
    day = db.get_one(Day, held.day_id) if held else find_day(db, today)
    session = _shown_session(day, stood, shelf)
    return WallOut(
        gym=gym_of(db).row.name,
        date=day.date if day else today,
        board=view(session, shelf, keys=keys_of(db, day)) if day and session else None,
        kit=_kit(session, shelf, len(gym_of(db).tiers)) if session else [],
        movements=list(briefing_of(session.pieces, shelf)) if session and not stood else [],
        tiers=gym_of(db).tiers,
        clock=clock_out(db, held, stood, shelf) if held and stood else None,
        results=_results(db, held, stood.state) if held and stood else [],
        next=_next_class(db, today),
        tomorrow=_title(db, today + dt.timedelta(days=1), shelf),
    )


def _shown_session(
    day: Day | None, stood: clock.Stood | None, shelf: Library
) -> plan.Session | None:
    """The board of a day that may be seen: published, or already on the clock."""
    if day is None or not (day.published or stood):
        return None
    return read_board(day.text, shelf).session


def _next_class(db: Session, today: dt.date) -> NextClass | None:
    zone, moment = gym_of(db).zone, now(db)
    for one in planned(db, today):
        if not one.cancelled and dt.datetime.combine(today, one.start, zone) > moment:
            coming = signed(db, today, one.start, one.size).coming
            return NextClass(start=one.start, coming=len(coming), size=one.size)
    return None


def _title(db: Session, date: dt.date, shelf: Library) -> str:
    """What a published day is called; empty for one that is not shown yet."""
    day = find_day(db, date)
    if day is None or not day.published or not day.text.strip():
        return ""
    session = read_board(day.text, shelf).session
    return session.title or ", ".join(piece.title for piece in session.pieces if piece.lines)


def _results(db: Session, class_: GymClass, state: Running) -> list[ResultOut]:
    """What the class has done of the piece, tier by tier, the best first: the score that is kept,
    else the end that was pressed, else the rounds that were noted. Who hides is left out, and so
    is a score that waits for a coach.
    """
    ends = {finish.athlete_id: finish.shown for finish in state.finishes}
    rounds, strip = jots_of(db, state.key), strip_of(state.piece)
    laps = strip is not None and strip.unit == "s"
    here = {one.person_id for one in class_.attendance} | ends.keys() | rounds.keys()
    here -= hidden_people(db)
    people = active_people(db, here)
    kept = scores_by_person(db, id_of(state.key))
    changed = _changes(db, class_, state.key, kept)
    found: list[tuple[tuple[int, int, float], ResultOut]] = []
    for person in people:
        score, noted = kept.get(person.id), rounds.get(person.id, {})
        tier = score.tier.position if score else person.tier.position
        if score and score.standing in TRUSTED:
            order, shown = (0, -(score.order_key or 0.0)), score.display
        elif score:
            # A score that needs checking is shown to all once a coach has accepted it.
            continue
        elif person.id in ends:
            order, shown = (1, float(list(ends).index(person.id))), ends[person.id]
        elif noted and laps:
            count = len(noted)
            order, shown = (2, -float(count)), f"{count} round{'s' if count > 1 else ''}"
        else:
            continue
        result = ResultOut(
            name=person.name, tier=tier, shown=shown, change=changed.get(person.id, "")
        )
        found.append(((tier, *order), result))
    return [result for _, result in sorted(found, key=lambda one: (one[0], one[1].name))]


def _changes(
    db: Session, class_: GymClass, key: str, kept: Mapping[int, ScoreRow]
) -> dict[int, str]:
    """What changed since the last time, of those who let it be shown and did the same version."""
    now = {number: row for number, row in kept.items() if row.standing in TRUSTED}
    allowed = changes_shown(db) & now.keys() if now else frozenset()
    before = history.last_times(db, db.get_one(Day, class_.day_id), key, frozenset(allowed))
    words = {}
    for number, then in before.items():
        row = now[number]
        numbers = history.number_of(then), history.number_of(row)
        same = (then.tier_id, then.track_id) == (row.tier_id, row.track_id)
        if same and numbers[0] is not None and numbers[1] is not None:
            words[number] = change_words(ScoreKind(row.kind), numbers[0], numbers[1])
    return words


def _kit(session: plan.Session, shelf: Library, tiers: int) -> list[str]:
    """Kit to lay out, by its name alone: what it weighs depends on who lifts it."""
    names = (
        re.sub(r" [\d.]+(/[\d.]+)?( kg| lb| cm| in)?$", "", one)
        for tier in range(tiers)
        for one in kit_line(session, shelf, tier)
    )
    return list(dict.fromkeys(names))


def _wall_link(db: Session, token: str) -> WallLink:
    found = db.get(WallLink, token)
    if found is None:
        raise not_found("such display link: a coach makes one under Run")
    return found


@everyone.get("/wall/{token}", responses={404: {"model": Problem}})
def read_wall(token: str, db: Database) -> WallOut:
    """What a display shows. The link is the key: it opens board and clock and nothing else."""
    return wall_out(db, _wall_link(db, token))


@everyone.get("/wall/{token}/figures", responses={404: {"model": Problem}})
def wall_figures(token: str, db: Database) -> list[Cycle]:
    """The figures of the piece that is on the clock, for the briefing and beside its lines; of the
    whole board while none is.
    """
    shelf, today = gym_of(db).movements, gym_of(db).today
    _, stood = _on_the_clock(db, _wall_link(db, token))
    if stood is not None:
        briefs = briefing(stood.state.piece, shelf)
    else:
        session = _shown_session(find_day(db, today), None, shelf)
        briefs = briefing_of(session.pieces, shelf) if session else ()
    found = (cycle(brief.movement, shelf) for brief in briefs)
    return [each for each in found if each is not None]


class WallBest(BaseModel):
    """Somebody's own best of the last days, and what changed."""

    name: str
    piece: str
    shown: str
    change: str


LATELY = dt.timedelta(days=6)
MOST_BESTS = 6


@everyone.get("/wall/{token}/bests", responses={404: {"model": Problem}})
def wall_bests(token: str, db: Database) -> list[WallBest]:
    """Own bests of the last seven days, of those who let it be shown: for an idle display."""
    link, today = _wall_link(db, token), gym_of(db).today
    work_on(db, link.programme_id)
    allowed = changes_shown(db) - hidden_people(db)
    found = history.own_bests(db, today - LATELY, today, allowed)[:MOST_BESTS]
    return [
        WallBest(
            name=best.row.person.name,
            piece=best.piece,
            shown=best.row.display,
            change=change_words(ScoreKind(best.row.kind), best.before, best.now),
        )
        for best in found
    ]


def _own_hearts(message: Message, programme: int | None) -> Message | None:
    """The hearts of a display's own programme; of all where it has none, None where none beats."""
    tiles = [
        {key: value for key, value in tile.items() if key != "programme_id"}
        for tile in message["tiles"]
        if programme is None or tile.get("programme_id") == programme
    ]
    return {**message, "tiles": tiles} if tiles else None


@everyone.get(
    "/wall/{token}/live", response_class=StreamingResponse, responses={404: {"model": Problem}}
)
def wall_live(token: str, request: Request, db: Database) -> StreamingResponse:
    """What a display shows, and again at every change, as server-sent events."""
    programme = _wall_link(db, token).programme_id
    engine = request.app.state.engine
    hub: Hub = request.app.state.hub

    def answer(message: Message) -> Message | None:
        if message["what"] == "hearts":
            return _own_hearts(message, programme)
        if message["what"] not in SHOWN:
            return None
        with Session(engine) as own:
            link = own.get(WallLink, token)
            if link is None:
                return {"what": WITHDRAWN}
            return hub.together.ask(
                link.programme_id,
                lambda: {"what": "wall", **wall_out(own, link).model_dump(mode="json")},
            )

    return stream(hub, answer)

"""A piece on the clock: where it stands, and what each press of the remote does to it.

A running piece is one immutable record; a press gives the next one. All times are seconds since
the epoch on the database's clock, or positions: seconds since the piece's first beat began,
negative in the lead-in.
"""

from __future__ import annotations

from typing import Literal, get_args

from pydantic import Field

from pine_ladder.core import plan
from pine_ladder.core.floor.briefing import briefing
from pine_ladder.core.floor.cues import Beat, Changes, Script, script
from pine_ladder.core.movements import Library
from pine_ladder.core.plan import Frozen
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.units import clock_text

LEAD_IN_S = 10
LONGER_S = 15
MOST_HEATS = 12

Press = Literal[
    "start",
    "pause",
    "resume",
    "skip",
    "add round",
    "longer rest",
    "restart",
    "start heat",
    "finish",
    "unfinish",
    "board",
    "clock",
    "show next",
    "show before",
    "show none",
    "end",
]

PRESSES: tuple[Press, ...] = get_args(Press)
IN_ANY_ORDER: tuple[Press, ...] = ("finish", "unfinish")
"""Presses that mean the same whatever was pressed in between on the same piece."""
MAY_WAIT: tuple[Press, ...] = ("pause", "resume", "skip")
"""Presses that a remote without a connection keeps, and sends later with their moment."""


class Refusal(Exception):
    """The press does nothing where the clock stands; the message says why."""


class Finish(Frozen):
    """An athlete's end of an open piece: the position, less their heat's start."""

    athlete_id: int
    seconds: float

    @property
    def shown(self) -> str:
        """The time as the clock showed it when it was pressed, a whole second at the least."""
        return clock_text(max(1, int(self.seconds)))


class Running(Frozen):
    """A piece loaded on the clock.

    `began` is the moment of position 0; None before the start and while it is held at the position
    `held`. `heats` are the positions at which each heat began. `shown` is the movement of the
    briefing that is being explained, by its place; None while none is.
    """

    key: str
    piece: plan.Piece
    began: float | None = None
    held: float | None = None
    lead_s: int = LEAD_IN_S
    heats: tuple[float, ...] = (0.0,)
    waves: int = Field(default=1, ge=1, le=MOST_HEATS)
    changes: Changes = Changes()
    finishes: tuple[Finish, ...] = ()
    layout: Literal["board", "clock"] = "board"
    shown: int | None = None
    ended: bool = False

    @property
    def started(self) -> bool:
        """Whether the lead-in has begun."""
        return self.began is not None or self.held is not None

    def at(self, now: float) -> float | None:
        """The position at a moment; None before the start."""
        if self.held is not None:
            return self.held
        return None if self.began is None else now - self.began


def load(key: str, piece: plan.Piece, waves: int | None = None) -> Running:
    """A piece put on the clock, waiting; `waves` heats start one after the other."""
    return Running(key=key, piece=piece, waves=min(waves or piece.heats or 1, MOST_HEATS))


def beat_at(played: Script, position: float) -> Beat | None:
    """The beat at a position; None in the lead-in and after the end."""
    found = None
    for beat in played.beats:
        if beat.start_s is None or beat.start_s > position:
            break
        found = beat
    if found is None or found.start_s is None:
        return None
    if found.length_s is not None and position >= found.start_s + found.length_s:
        return None
    return found


def _moved(state: Running, by: float) -> Running:
    """The same moment at a later position."""
    if state.held is not None:
        return state.model_copy(update={"held": state.held + by})
    assert state.began is not None
    return state.model_copy(update={"began": state.began - by})


def _skip(state: Running, played: Script, position: float) -> Running:
    """To the next beat; an open beat is closed where it stands."""
    if position < 0:
        return _moved(state, -position)
    beat = beat_at(played, position)
    if beat is None or beat.start_s is None:
        raise Refusal("the piece is over")
    if beat.length_s is None:
        if beat is played.beats[-1]:
            return _end(state, position)
        closed = {**state.changes.closed, beat.id: position - beat.start_s}
        return state.model_copy(
            update={"changes": state.changes.model_copy(update={"closed": closed})}
        )
    return _moved(state, beat.start_s + beat.length_s - position)


def _end(state: Running, position: float) -> Running:
    return state.model_copy(update={"held": position, "began": None, "ended": True})


def _add_round(state: Running, played: Script, position: float) -> Running:
    if not played.add_words:
        raise Refusal("this piece has no rounds to add")
    beat = beat_at(played, position) or played.beats[-1]
    block = int(beat.id.split(".")[0])
    added = {**state.changes.added, block: state.changes.added.get(block, 0) + 1}
    return state.model_copy(update={"changes": state.changes.model_copy(update={"added": added})})


def _longer_rest(state: Running, played: Script, position: float) -> Running:
    """More seconds on the rest that runs, or else on the next one."""
    for beat in played.beats:
        over = beat.start_s is not None and beat.length_s is not None
        if over and position >= beat.start_s + beat.length_s:  # type: ignore[operator]
            continue
        if beat.kind == "rest":
            more = state.changes.longer.get(beat.id, 0.0) + LONGER_S
            longer = {**state.changes.longer, beat.id: more}
            return state.model_copy(
                update={"changes": state.changes.model_copy(update={"longer": longer})}
            )
    raise Refusal("no rest is left in this piece")


def _finish(state: Running, position: float, athlete_id: int | None, heat: int) -> Running:
    if score_kind(state.piece) is not plan.ScoreKind.TIME:
        raise Refusal("this piece is not scored by time: nobody finishes it alone")
    if athlete_id is None:
        raise Refusal("who has finished?")
    if heat > len(state.heats):
        raise Refusal(f"heat {heat} has not begun")
    seconds = position - state.heats[heat - 1]
    if seconds <= 0:
        raise Refusal(f"heat {heat} has not begun")
    kept = tuple(f for f in state.finishes if f.athlete_id != athlete_id)
    return state.model_copy(
        update={"finishes": (*kept, Finish(athlete_id=athlete_id, seconds=round(seconds, 2)))}
    )


def _show(state: Running, what: Press, library: Library) -> Running:
    """The next movement of the briefing, or the one before; after the last there is none."""
    if state.began is not None:
        raise Refusal("the piece is on the clock: hold it to show a movement")
    many = len(briefing(state.piece, library))
    if many == 0:
        raise Refusal("no movement of this piece has a figure")
    if what == "show none":
        shown = None
    elif what == "show next":
        shown = 0 if state.shown is None else state.shown + 1
    else:
        shown = (many if state.shown is None else state.shown) - 1
    inside = shown is not None and 0 <= shown < many
    return state.model_copy(update={"shown": shown if inside else None})


def press(
    state: Running,
    what: Press,
    now: float,
    library: Library,
    athlete_id: int | None = None,
    heat: int = 1,
    lead_s: int | None = None,
) -> Running:
    """The state after a press of the remote at the moment `now`; raises Refusal.

    `athlete_id` and `heat` go with finish and unfinish, `lead_s` with start and restart.
    """
    lead = state.lead_s if lead_s is None else lead_s
    if what in ("start", "restart"):
        if what == "start" and state.started:
            raise Refusal("the clock is already running")
        fresh = load(state.key, state.piece, state.waves)
        return fresh.model_copy(
            update={"began": now + lead, "lead_s": lead, "layout": "clock"},
        )
    if what in ("board", "clock"):
        return state.model_copy(update={"layout": what, "shown": None})
    if what in ("show next", "show before", "show none"):
        return _show(state, what, library)
    if what == "add round" and not state.started:
        return _add_round(state, script(state.piece, library, state.changes), 0)
    position = state.at(now)
    if position is None:
        raise Refusal("start the clock first")
    played = script(state.piece, library, state.changes)
    match what:
        case "pause":
            if state.held is not None:
                raise Refusal("the clock is already held")
            return state.model_copy(update={"held": position, "began": None})
        case "resume":
            if state.held is None:
                raise Refusal("the clock is running")
            return state.model_copy(
                update={"began": now - state.held, "held": None, "ended": False, "shown": None}
            )
        case "skip":
            return _skip(state, played, position)
        case "add round":
            return _add_round(state, played, position)
        case "longer rest":
            return _longer_rest(state, played, position)
        case "start heat":
            if len(state.heats) >= state.waves:
                raise Refusal("all heats have started")
            return state.model_copy(update={"heats": (*state.heats, max(0.0, position))})
        case "finish":
            return _finish(state, position, athlete_id, heat)
        case "unfinish":
            kept = tuple(f for f in state.finishes if f.athlete_id != athlete_id)
            return state.model_copy(update={"finishes": kept})
    return _end(state, position)

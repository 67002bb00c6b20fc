"""Loading the demo gym: three weeks of sessions up to today, with plausible scores."""

from __future__ import annotations

import datetime as dt
import math
import random
from importlib import resources

from sqlalchemy import text
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.clock import clock
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.outline import piece_keys, planned_length
from pine_ladder.core.plan import ScoreKind
from pine_ladder.core.rough import CHANGE_S, amount_seconds
from pine_ladder.core.scoring import read_score, reps_in_round, score_kind
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS
from pine_ladder.core.units import clock_text
from pine_ladder.demo import people as cast
from pine_ladder.store.models import (
    Attendance,
    BankedBoard,
    Base,
    ClassTime,
    Day,
    Gym,
    GymClass,
    Kit,
    Person,
    Programme,
    ScoreRow,
    ScoreTrail,
    Tier,
    Track,
)
from pine_ladder.store.people import hash_password

SEED = 1861
WEEKS = 3
STARTS = (dt.time(6, 30), dt.time(12, 15), dt.time(18, 0))
PLACES = 12
DRAFTS = 2
"""Days ahead that are written but not yet published."""
SUNDAY = 6
STRENGTH_BASE_KG = {"deadlift": 118, "back squat": 92, "front squat": 74, "strict press": 46}
TRACK_STRENGTH = (1.0, 0.66)
TIER_STRENGTH = (1.12, 1.0, 0.82)


def reset(db: Session) -> None:
    """Empty every table."""
    names = ", ".join(table.name for table in Base.metadata.sorted_tables)
    db.execute(text(f"truncate {names} restart identity cascade"))


def load_demo(db: Session, today: dt.date) -> bool:
    """Load the demo gym once; False when there is a gym already."""
    if db.query(Gym).first():
        return False
    db.add(Gym(name="Kittiwake Hall", class_min=60, change_s=60, demo=True))
    tiers = [Tier(position=i, name=name) for i, name in enumerate(DEFAULT_TIERS)]
    tracks = [Track(position=i, name=name) for i, name in enumerate(DEFAULT_TRACKS)]
    programme = Programme(name="Daily")
    db.add_all([*tiers, *tracks, programme])
    db.add_all(ClassTime(weekday=d, start=s) for d in range(6) for s in STARTS)
    db.add_all(Kit(name=name, count=count) for name, count in cast.KIT.items())
    password = hash_password(cast.PASSWORD)
    coaches = [
        Person(
            name=name,
            email=email,
            password_hash=password,
            role="coach",
            tier=tiers[0],
            track=tracks[0],
        )
        for name, email in cast.COACHES
    ]
    athletes = []
    for name, tier, track, _pace, _strength in cast.ATHLETES:
        email = cast.ATHLETE_EMAILS.get(name)
        athletes.append(
            Person(
                name=name,
                email=email,
                password_hash=password if email else None,
                role="athlete",
                tier=tiers[tier],
                track=tracks[track],
            )
        )
    db.add_all([*coaches, *athletes])
    db.flush()
    boards = sorted(
        (f for f in (resources.files(__package__) / "boards").iterdir()), key=lambda f: f.name
    )
    texts = [board.read_text("utf-8") for board in boards if board.name.endswith(".board")]
    dates = [today - dt.timedelta(days=n) for n in range(WEEKS * 7 - 1, -1, -1)]
    dates = [date for date in dates if date.weekday() != SUNDAY or date == today]
    for back, date in enumerate(reversed(dates)):
        _write_day(db, programme, coaches, athletes, date, texts[back % len(texts)], back)
    for board in (texts[0], texts[6]):
        db.add(BankedBoard(name=parse(board).session.title, text=board))
    for ahead in range(1, DRAFTS + 1):
        date = today + dt.timedelta(days=ahead)
        session = parse(texts[-ahead]).session.model_copy(update={"date": date})
        draft = print_session(session)
        db.add(Day(programme_id=programme.id, date=date, text=draft, saved_by=coaches[0]))
    db.flush()
    return True


def _write_day(
    db: Session,
    programme: Programme,
    coaches: list[Person],
    athletes: list[Person],
    date: dt.date,
    board: str,
    back: int,
) -> None:
    """One day with its classes and scores; today, only the early class has been held."""
    chance = random.Random(SEED + back)
    session = parse(board).session.model_copy(update={"date": date})
    day = Day(
        programme_id=programme.id,
        date=date,
        text=print_session(session),
        published=True,
        saved_by=coaches[back % len(coaches)],
    )
    db.add(day)
    db.flush()
    coming = chance.sample(range(len(athletes)), chance.randint(24, 33))
    # Those who can sign in are there when the demo is opened.
    signed = [i for i, person in enumerate(athletes) if person.email and i not in coming]
    coming = signed + coming
    for number, start in enumerate(STARTS):
        seats = [i for at, i in enumerate(coming) if at % len(STARTS) == number][:PLACES]
        held = GymClass(day_id=day.id, start=start, coach=coaches[number % len(coaches)])
        db.add(held)
        db.flush()
        db.add_all(Attendance(class_id=held.id, person_id=athletes[i].id) for i in seats)
        if back == 0 and number > 0:
            continue
        for i in seats:
            _score(db, day, session, athletes[i], i, coaches[number % len(coaches)], chance)


def _score(
    db: Session,
    day: Day,
    session: plan.Session,
    person: Person,
    number: int,
    coach: Person,
    chance: random.Random,
) -> None:
    for key, piece in zip(piece_keys(session), session.pieces, strict=True):
        if score_kind(piece) is None or chance.random() < 0.06:
            continue
        tier, track = person.tier.position, person.track.position
        entered = plausible(piece, tier, track, number, chance)
        score = read_score(entered, piece, tier, track)
        if score.problems:
            raise ValueError(f"{key}: {entered}: {score.problems[0]}")
        row = ScoreRow(
            day_id=day.id,
            piece_key=key,
            person=person,
            tier=person.tier,
            track=person.track,
            entered=entered,
            kind=score.kind.value,
            value=score.value,
            display=score.display,
            order_key=score.order_key,
        )
        db.add(row)
        db.add(
            ScoreTrail(
                day_id=day.id,
                piece_key=key,
                person_id=person.id,
                changed_by_id=coach.id,
                before=None,
                after={"entered": entered, "display": score.display},
            )
        )


def plausible(piece: plan.Piece, tier: int, track: int, number: int, chance: random.Random) -> str:
    """An entry such an athlete might hand in on such a piece (invented, never a check value)."""
    _name, _tier, _track, pace, strength = cast.ATHLETES[number]
    pace *= math.exp(chance.gauss(0, 0.05))
    kind = score_kind(piece)
    if kind is ScoreKind.LOAD:
        lift = piece.lines[0].tasks[0].versions[0].movement
        best = STRENGTH_BASE_KG.get(lift, 60) * TRACK_STRENGTH[track] * TIER_STRENGTH[tier]
        kilograms = best * strength * math.exp(chance.gauss(0, 0.03))
        return f"{max(20, round(kilograms / 2.5) * 2.5):g}"
    if kind is ScoreKind.DONE:
        return "done"
    if kind is ScoreKind.TIME:
        return _time(piece, tier, track, pace)
    if kind is ScoreKind.STEP:
        assert isinstance(piece.format, plan.Every)
        step = 0
        while _round_seconds(piece, tier, step + 1) * pace < piece.format.interval_s:
            step += 1
        return str(max(1, step))
    if kind is ScoreKind.ROUNDS:
        assert isinstance(piece.format, plan.Amrap)
        return _rounds(piece, piece.format.length_s / pace, tier, track)
    return _jotted(piece, tier, pace, chance)


def _round_seconds(piece: plan.Piece, tier: int, round_: int) -> float:
    grow = (piece.grow_reps or 0) * (round_ - 1)
    total = 0.0
    for line in piece.lines:
        for task in line.tasks:
            exercise = task.version(tier)
            if isinstance(exercise.amount, plan.Reps):
                amount = exercise.amount.model_copy(update={"low": exercise.amount.low + grow})
                exercise = exercise.model_copy(update={"amount": amount})
            total += 1.3 * amount_seconds(exercise, None, library(), round_) + CHANGE_S
    return total


def _rounds(piece: plan.Piece, seconds: float, tier: int, track: int) -> str:
    rounds = 0
    while (one := _round_seconds(piece, tier, rounds + 1)) <= seconds:
        seconds -= one
        rounds += 1
    reps = int(reps_in_round(piece, rounds + 1, tier, track) * seconds / one)
    return f"{rounds}+{reps}" if reps else f"{rounds}"


def _time(piece: plan.Piece, tier: int, track: int, pace: float) -> str:
    timed = clock(piece)
    if timed.at_least_s:
        return clock_text(timed.at_least_s * (1.05 + 0.5 * abs(pace - 0.8)))
    length = planned_length(piece.model_copy(update={"cap_s": None}), library())
    seconds = (length.low_s + length.high_s) / 2 * 1.2 * pace
    if piece.cap_s and seconds > piece.cap_s:
        return f"cap+{max(1, round((seconds - piece.cap_s) / 3))}"
    return clock_text(seconds)


def _jotted(piece: plan.Piece, tier: int, pace: float, chance: random.Random) -> str:
    """Reps window by window, falling off a little."""
    length = 20 if isinstance(piece.format, plan.Tabata) else 60
    if isinstance(piece.format, plan.Every):
        length = piece.format.interval_s
    lines = [line for line in piece.lines if not line.is_rest]
    counts = []
    for line in lines:
        exercise = line.tasks[0].version(tier)
        one = exercise.model_copy(update={"amount": plan.Reps(low=1)})
        seconds = amount_seconds(one, None, library())
        if isinstance(exercise.amount, plan.Trips):
            seconds = exercise.amount.distance_m * 0.42
        counts.append(length / (seconds * 1.35 * pace))
    rounds = 8 if isinstance(piece.format, plan.Tabata) else 3
    if isinstance(piece.format, plan.Tabata):
        counts = [sum(counts) / len(counts)]
    jotted = [
        max(1, round(count * (1 - 0.03 * r) + chance.gauss(0, 0.8)))
        for r in range(rounds)
        for count in counts
    ]
    return " ".join(map(str, jotted))

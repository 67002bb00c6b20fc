"""Loading the demo gym: six weeks of sessions up to today, with plausible scores."""

from __future__ import annotations

import datetime as dt
import random
from importlib import resources

from sqlalchemy import text, update
from sqlalchemy.orm import Session

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Profile
from pine_ladder.core.athletes.plausibility import doubt
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.scores.kinds import score_kind
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS
from pine_ladder.core.week.earlier import pieces_of
from pine_ladder.demo import hearts
from pine_ladder.demo import people as cast
from pine_ladder.demo import simulated_scores as truth
from pine_ladder.store.days.days import find_day
from pine_ladder.store.days.pieces import keys_of
from pine_ladder.store.gym.loaded import work_on
from pine_ladder.store.models import (
    Attendance,
    BankedBoard,
    ClassTime,
    Day,
    EffortRow,
    Follow,
    Gym,
    GymClass,
    KeptPiece,
    Kit,
    MailRow,
    Person,
    ProfileRow,
    Programme,
    ScoreRow,
    ScoreTrail,
    SignUp,
    Tier,
    Track,
    empty_every_table,
)
from pine_ladder.store.people.people import hash_password
from pine_ladder.usecases.mail import queue_letter
from pine_ladder.usecases.piece_matching import settle
from pine_ladder.usecases.week_letters import write_week

SEED = 1861
WEEKS = 6
STARTS = (dt.time(6, 30), dt.time(12, 15), dt.time(18, 0))
PLACES = 12
DRAFTS = 2
"""Days ahead that are written but not yet published."""
SUNDAY = 6
CLUB_DAYS, CLUB_START, CLUB_SIZE = (1, 3), dt.time(19, 15), 9
"""The second line: weekdays (Tuesday and Thursday), time, and how many follow it."""
CLUB_AWAY = 0.2
LETTER_WEEKS = 4


class NotTheDemo(Exception):
    """The database holds somebody's gym; nothing of it is touched."""


def _no_other_gym(db: Session) -> Gym | None:
    gym = db.query(Gym).first()
    if gym is not None and not gym.demo:
        raise NotTheDemo(f"this database holds {gym.name}, which is not the demo: nothing was done")
    return gym


def reset(db: Session) -> None:
    """Empty every table of the demo; raises NotTheDemo for any other gym."""
    _no_other_gym(db)
    empty_every_table(db)


ZONE = "Europe/Lisbon"


def load_demo(db: Session, today: dt.date, weeks: int = WEEKS) -> bool:
    """Load the demo gym once; False when it is there already, NotTheDemo where another gym is.

    Of two processes that load at once, one does and the other finds it done.
    """
    db.execute(text("select pg_advisory_xact_lock(7410227)"))
    if _no_other_gym(db):
        return False
    db.add(Gym(name="Kittiwake Hall", class_min=60, change_s=60, demo=True, zone=ZONE))
    tiers = [Tier(position=i, name=name) for i, name in enumerate(DEFAULT_TIERS)]
    tracks = [Track(position=i, name=name) for i, name in enumerate(DEFAULT_TRACKS)]
    programme, club = Programme(name="Daily"), Programme(name="Barbell Club")
    db.add_all([*tiers, *tracks, programme, club])
    db.flush()
    db.add_all(
        ClassTime(programme_id=programme.id, weekday=d, start=s) for d in range(6) for s in STARTS
    )
    db.add_all(ClassTime(programme_id=club.id, weekday=d, start=CLUB_START) for d in CLUB_DAYS)
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
    for person in athletes:
        if noted := cast.told(person.name):
            record = Profile.model_validate(noted).model_dump(mode="json")
            db.add(ProfileRow(person_id=person.id, record=record))
    boards = sorted(
        (f for f in (resources.files(__package__) / "boards").iterdir()), key=lambda f: f.name
    )
    texts = [board.read_text("utf-8") for board in boards if board.name.endswith(".board")]
    dates = [today - dt.timedelta(days=n) for n in range(weeks * 7 - 1, -1, -1)]
    dates = [date for date in dates if date.weekday() != SUNDAY or date == today]
    for back, date in enumerate(reversed(dates)):
        _write_day(db, programme, coaches, athletes, date, texts[back % len(texts)], back)
    for board in (texts[0], texts[6]):
        db.add(BankedBoard(name=parse(board).session.title, text=board))
    for name, board, at in (("Slipway warm-up", texts[2], 0), ("Harbour walk-out", texts[2], -1)):
        db.add(KeptPiece(name=name, text=pieces_of(board, library())[at]))
    for ahead in range(1, DRAFTS + 1):
        date = today + dt.timedelta(days=ahead)
        session = parse(texts[-ahead]).session.model_copy(update={"date": date})
        draft = print_session(session)
        day = Day(programme_id=programme.id, date=date, text=draft, saved_by=coaches[0])
        db.add(day)
        db.flush()
        settle(db, day, {})
        _sign_up(db, programme, athletes, date, ahead)
    _club(db, programme, club, coaches, athletes, dates)
    hearts.straps(db, athletes)
    db.flush()
    hearts.seconds_of_weeks(db, athletes, but=find_day(db, today))
    _letters(db, today)
    return True


def _letters(db: Session, today: dt.date) -> None:
    """Four weeks of weekly words, which go to the letterbox once it is there."""
    monday = today - dt.timedelta(days=today.weekday())
    for back in range(LETTER_WEEKS - 1, -1, -1):
        first = monday - dt.timedelta(weeks=back)
        write_week(db, queue_letter, first, first + dt.timedelta(days=6), "")
        written = dt.datetime.combine(first - dt.timedelta(days=1), CLUB_START, dt.UTC)
        own = MailRow.key.startswith(f"week/{first}/")
        db.execute(update(MailRow).where(own).values(made_at=written))
    work_on(db, None)


def _club(
    db: Session,
    programme: Programme,
    club: Programme,
    coaches: list[Person],
    athletes: list[Person],
    dates: list[dt.date],
) -> None:
    """The second line: a few who lift on two evenings, beside the day's own classes."""
    chance = random.Random(f"{SEED}/club")
    lifters = [person for person in athletes if person.email][:2]
    lifters += chance.sample([p for p in athletes if p not in lifters], CLUB_SIZE - len(lifters))
    for person in lifters:
        for one in (programme, club):
            db.add(Follow(person_id=person.id, programme_id=one.id))
    texts = sorted(
        (file.name, file.read_text("utf-8"))
        for file in (resources.files(__package__) / "boards" / "club").iterdir()
        if file.name.endswith(".board")
    )
    truth_of = truth.members(SEED)
    shelf, gym = library(), truth.medians(library(), SEED)
    places = [athletes.index(person) for person in lifters]
    evenings = [date for date in dates if date.weekday() in CLUB_DAYS][-len(texts) :]
    for date, (_, board) in zip(evenings, texts, strict=False):
        session = parse(board).session.model_copy(update={"date": date})
        day = Day(
            programme_id=club.id,
            date=date,
            text=print_session(session),
            published=True,
            saved_by=coaches[-1],
        )
        db.add(day)
        db.flush()
        settle(db, day, {})
        if date == dates[-1]:
            continue
        held = GymClass(day_id=day.id, start=CLUB_START, coach=coaches[-1])
        db.add(held)
        db.flush()
        here = [place for place in places if chance.random() > CLUB_AWAY]
        db.add_all(Attendance(class_id=held.id, person_id=athletes[i].id) for i in here)
        for key, piece in zip(keys_of(db, day), session.pieces, strict=True):
            if score_kind(piece) is None:
                continue
            scored = [truth_of[i] for i in here]
            entered = truth.entries(piece, scored, shelf, gym, chance)
            for member, entry in zip(scored, entered, strict=True):
                _score(db, day, key, piece, athletes[member.id], entry, coaches[-1])


def _sign_up(
    db: Session, programme: Programme, athletes: list[Person], date: dt.date, ahead: int
) -> None:
    """Who comes on a day ahead; the evening class is full, with two who wait."""
    if date.weekday() == SUNDAY:
        return
    chance = random.Random(f"{SEED}/signed/{ahead}")
    coming = chance.sample(athletes, len(athletes))
    for start, count in zip(STARTS, (5, 7, PLACES + 2), strict=True):
        for person in coming[:count]:
            db.add(SignUp(programme_id=programme.id, date=date, start=start, person_id=person.id))
            db.flush()
        coming = coming[count:]


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
    truth_of = truth.members(SEED)
    day = Day(
        programme_id=programme.id,
        date=date,
        text=print_session(session),
        published=True,
        saved_by=coaches[back % len(coaches)],
    )
    db.add(day)
    db.flush()
    settle(db, day, {})
    keys = keys_of(db, day)
    coming = chance.sample(range(len(athletes)), chance.randint(24, 33))
    # Those who can sign in are there when the demo is opened.
    signed = [i for i, person in enumerate(athletes) if person.email and i not in coming]
    coming = signed + coming
    shelf, gym = library(), truth.medians(library(), SEED)
    for number, start in enumerate(STARTS):
        seats = [i for at, i in enumerate(coming) if at % len(STARTS) == number][:PLACES]
        coach = coaches[number % len(coaches)]
        held = GymClass(day_id=day.id, start=start, coach=coach)
        db.add(held)
        db.flush()
        db.add_all(Attendance(class_id=held.id, person_id=athletes[i].id) for i in seats)
        if back == 0 and number > 0:
            continue
        for i in seats:
            if athletes[i].email:
                felt = random.Random(f"{SEED}/{back}/{i}")
                effort = round(felt.uniform(4.5, 8.5) * 2) / 2
                minutes = felt.choice((50, 55, 60))
                db.add(
                    EffortRow(
                        day_id=day.id, person_id=athletes[i].id, effort=effort, minutes=minutes
                    )
                )
        for key, piece in zip(keys, session.pieces, strict=True):
            if score_kind(piece) is None:
                continue
            scored = [truth_of[i] for i in seats if chance.random() > 0.06]
            entered = truth.entries(piece, scored, shelf, gym, chance)
            for member, entry in zip(scored, entered, strict=True):
                slipped = back == 0 and (member.name, piece.title) == cast.SLIP[:2]
                told = cast.SLIP[2] if slipped else entry
                _score(db, day, key, piece, athletes[member.id], told, coach)


def _score(
    db: Session,
    day: Day,
    key: str,
    piece: plan.Piece,
    person: Person,
    entered: str,
    coach: Person,
) -> None:
    score = read_score(entered, piece, person.tier.position, person.track.position)
    if score.problems:
        raise ValueError(f"{key}: {entered}: {score.problems[0]}")
    why = doubt(piece, score, library(), person.tier.position, person.track.position)
    row = ScoreRow(
        day_id=day.id,
        piece_id=int(key),
        person=person,
        tier=person.tier,
        track=person.track,
        entered=entered,
        kind=score.kind.value,
        value=score.value,
        display=score.display,
        order_key=score.order_key,
        reps=score.total_reps,
        rounds=score.rounds.model_dump(mode="json") if score.rounds else None,
        doubt=why,
        standing="doubted" if why else "fine",
    )
    trail = ScoreTrail(
        day_id=day.id,
        piece_id=int(key),
        person_id=person.id,
        changed_by_id=coach.id,
        before=None,
        after={"entered": entered, "display": score.display, "version": 1},
    )
    db.add_all([row, trail])

"""Bringing in what a gym has kept elsewhere: looked at first, kept whole, taken back as one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from sqlalchemy import delete, select, text
from sqlalchemy.orm import Session

from pine_ladder.core.athletes.members import Profile
from pine_ladder.core.imports import ImportQuestion, Kind, Skipped, guess_columns, kind_of_table
from pine_ladder.core.imports.gym import GymFacts, Member, Row
from pine_ladder.core.imports.headings import missing
from pine_ladder.core.imports.others import (
    Best,
    Thing,
    Weekly,
    read_bests,
    read_classes,
    read_kit,
)
from pine_ladder.core.imports.people import NormalPerson, read_people
from pine_ladder.core.imports.questions import Asked
from pine_ladder.core.imports.scores import Normal, read_scores
from pine_ladder.core.plan import Frozen
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.store.models import (
    ClassTime,
    Kit,
    Person,
    ProfileRow,
    ScoreImport,
    Tier,
    Track,
)
from pine_ladder.usecases import importing

WRITTEN_MONTH_FIRST = ("America/", "US/")
"""Zones of countries that write the month first, but for those that do not."""
DAY_FIRST_THERE = ("America/Argentina", "America/Sao_Paulo", "America/Mexico", "America/Bogota")
LEDGER_HEADS = ("date", "piece", "person", "entered", "board", "tier", "track")


class Looked(Frozen):
    """What a table means for the gym; nothing is kept yet.

    `columns` are the fields by heading; `new`, `same` and `changed` count what would be added, what
    is there to the letter and what would be changed.
    """

    what: Kind
    rows: int
    headings: tuple[str, ...] = ()
    columns: dict[str, str]
    questions: tuple[ImportQuestion, ...]
    new: int
    same: int
    changed: int
    skipped: tuple[Skipped, ...]
    first: tuple[tuple[str, ...], ...] = ()
    saved: int | None = None
    """The number of the import, where it was kept: by it, it is taken back."""


class _Read(NamedTuple):
    """A table as it is understood, in what is kept."""

    what: Kind
    columns: dict[int, str]
    asked: Asked
    skipped: list[Skipped]
    scores: Sequence[Normal] = ()
    people: Sequence[NormalPerson] = ()
    bests: Sequence[Best] = ()
    classes: Sequence[Weekly] = ()
    kit: Sequence[Thing] = ()


def facts_of(db: Session) -> GymFacts:
    """What an import has to know of the gym."""
    gym = gym_of(db)
    tiers = list(db.scalars(select(Tier).order_by(Tier.position)))
    tracks = list(db.scalars(select(Track).order_by(Track.position)))
    at_tier = {tier.id: at for at, tier in enumerate(tiers)}
    at_track = {track.id: at for at, track in enumerate(tracks)}
    people = [
        Member(
            one.id, one.name, one.email, at_tier[one.tier_id], at_track[one.track_id], one.active
        )
        for one in db.scalars(select(Person).order_by(Person.id)).unique()
    ]
    zone = str(gym.zone)
    american = zone.startswith(WRITTEN_MONTH_FIRST) and not zone.startswith(DAY_FIRST_THERE)
    return GymFacts(
        people=people,
        tiers=[tier.name for tier in tiers],
        tracks=[track.name for track in tracks],
        unit=gym.movements_as_written.unit,
        today=gym.today,
        month_first=american,
    )


Table = tuple[Sequence[str], Sequence[tuple[int, Sequence[str]]]]
"""The headings of a table, and its rows with the line each stands on."""


def look(
    db: Session,
    table: Table,
    what: Kind | None = None,
    answers: Mapping[str, str] | None = None,
    columns: Mapping[str, str] | None = None,
) -> Looked:
    """What a table means for the gym; ValueError, in a sentence, where it says nothing."""
    read = _read(db, table, what, answers, columns)
    return _told(db, table, read)


def bring_in(
    db: Session,
    table: Table,
    what: Kind | None,
    answers: Mapping[str, str],
    by: Person | None,
    columns: Mapping[str, str] | None = None,
) -> Looked:
    """Keep what is new in a table; all of it or, where anything fails, nothing."""
    # Of two who press at once the second reads what the first has saved.
    db.execute(text("select pg_advisory_xact_lock(:lock)"), {"lock": importing.LOCK})
    read = _read(db, table, what, answers, columns)
    told = _told(db, table, read)
    if read.what == "scores":
        row, _ = importing.bring_in(db, _ledger(read.scores), _named(read.scores), by)
    else:
        made: dict[str, Any] = {"scores": [], "days": [], "people": [], "before": []}
        keep = {"people": _keep_people, "bests": _keep_bests}.get(read.what)
        if keep is not None:
            keep(db, read, made)
        elif read.what == "classes":
            _keep_classes(db, read.classes, made)
        else:
            _keep_kit(db, read.kit, made)
        row = ScoreImport(made=made, by_id=by.id if by else None)
        db.add(row)
        db.flush()
    return told.model_copy(update={"saved": row.id})


def _read(
    db: Session,
    table: Table,
    what: Kind | None,
    answers: Mapping[str, str] | None,
    columns: Mapping[str, str] | None,
) -> _Read:
    heads, rows = table
    cells = [row for _, row in rows]
    kind: Kind = what or kind_of_table(heads, cells)
    fields = guess_columns(kind, heads, cells)
    if columns:
        said = {heads.index(head): field for head, field in columns.items() if head in heads}
        fields = {at: f for at, f in fields.items() if f not in said.values() and at not in said}
        fields |= {at: field for at, field in said.items() if field}
    if lacks := missing(kind, fields):
        known = ", ".join(head for head in heads if head)
        raise ValueError(
            f"No column holds the {' or the '.join(lacks)}: the columns are {known}. "
            "Name one of them, or say what the file holds."
        )
    named = [
        Row(line, {field: row[at].strip() if at < len(row) else "" for at, field in fields.items()})
        for line, row in rows
    ]
    gym, asked = facts_of(db), Asked(answers)
    library = gym_of(db).movements_as_written
    at = {field: heads[place] for place, field in fields.items()}
    heading = at.get("entered", "")
    match kind:
        case "scores":
            scores = read_scores(named, gym, library, asked, heading)
            out = _Read(kind, fields, asked, scores.skipped, scores=scores.rows)
        case "people":
            people = read_people(named, gym, asked)
            out = _Read(kind, fields, asked, people.skipped, people=people.people)
        case "bests":
            bests = read_bests(named, gym, library, asked, heading)
            out = _Read(kind, fields, asked, bests.skipped, bests=bests.bests)
        case "classes":
            classes = read_classes(named)
            out = _Read(kind, fields, asked, classes.skipped, classes=classes.classes)
        case "kit":
            kit = read_kit(named, library)
            out = _Read(kind, fields, asked, kit.skipped, kit=kit.kit)
    if asked.wrong:
        raise ValueError("; ".join(asked.wrong))
    return out


def _told(db: Session, table: Table, read: _Read) -> Looked:
    heads, rows = table
    skipped = list(read.skipped)
    new = same = changed = 0
    if read.what == "scores":
        ledger = importing.look(db, _ledger(read.scores), _named(read.scores))
        new = sum(line.what == "new" for line in ledger.lines)
        same = sum(line.what == "there" for line in ledger.lines)
        skipped += [
            Skipped(row=line.line, why=line.why)
            for line in ledger.lines
            if line.what not in ("new", "there")
        ]
    elif read.what == "people":
        new = sum(person.what == "new" for person in read.people)
        same = sum(person.what == "same" for person in read.people)
        changed = sum(person.what == "changed" for person in read.people)
    else:
        held: list[Best | Weekly | Thing] = [*read.bests, *read.classes, *read.kit]
        kinds = [_differs(db, one) for one in held]
        new, same, changed = (kinds.count(one) for one in ("new", "same", "changed"))
    return Looked(
        what=read.what,
        rows=len(rows),
        headings=tuple(dict.fromkeys(head for head in heads if head)),
        columns={heads[at]: field for at, field in read.columns.items()},
        questions=tuple(read.asked.questions),
        new=new,
        same=same,
        changed=changed,
        skipped=tuple(sorted(skipped, key=lambda one: one.row)),
        first=tuple(tuple(row) for _, row in rows[:5]),
    )


def _ledger(scores: Sequence[Normal]) -> Table:
    """Scores as the table that `importing` takes; people of the gym by their number."""
    return LEDGER_HEADS, [
        (
            score.line,
            [score.date.isoformat(), score.piece, _cell(score), score.entered, score.board, "", ""],
        )
        for score in scores
    ]


def _cell(normal: Normal) -> str:
    return f"#{normal.person_id}" if normal.person_id else normal.person


def _named(scores: Sequence[Normal]) -> dict[str, int]:
    """Who is meant by each name of the table: a number of the gym, 0 for somebody new."""
    return {_cell(score): score.person_id or 0 for score in scores}


def _differs(db: Session, best: Best | Weekly | Thing) -> str:
    """Whether a best, a class or a piece of kit is new, the same or changed."""
    match best:
        case Best():
            kept = _profile(db, best.person_id).bests.get(best.lift) if best.person_id else None
            return "new" if kept is None else "changed" if best.kg > kept else "same"
        case Weekly():
            return "same" if _class(db, best) is not None else "new"
        case Thing():
            thing = db.scalars(select(Kit).where(Kit.name == best.name)).one_or_none()
            return "new" if thing is None else "same" if thing.count == best.number else "changed"


def _profile(db: Session, person_id: int) -> Profile:
    row = db.get(ProfileRow, person_id)
    return Profile.model_validate(row.record) if row else Profile()


def _class(db: Session, weekly: Weekly) -> ClassTime | None:
    programme = gym_of(db).programme.id
    query = select(ClassTime).where(
        ClassTime.programme_id == programme,
        ClassTime.weekday == weekly.weekday,
        ClassTime.start == weekly.start,
    )
    return db.scalars(query).first()


def _save_profile(db: Session, person_id: int, profile: Profile) -> None:
    row = db.get(ProfileRow, person_id)
    if row is None:
        db.add(ProfileRow(person_id=person_id, record=profile.model_dump(mode="json")))
    else:
        row.record, row.version = profile.model_dump(mode="json"), row.version + 1
    db.flush()


def _keep_people(db: Session, read: _Read, made: dict[str, Any]) -> None:
    tiers = list(db.scalars(select(Tier).order_by(Tier.position)))
    tracks = list(db.scalars(select(Track).order_by(Track.position)))
    for one in read.people:
        if one.what == "new":
            person = Person(
                name=one.name,
                email=one.email or None,
                role="athlete",
                tier=tiers[one.tier or 0],
                track=tracks[one.track or 0],
            )
            db.add(person)
            db.flush()
            made["people"].append(person.id)
        else:
            known = db.get(Person, one.id)
            assert known is not None
            person = known
            if one.what == "changed":
                before = {"email": person.email, "tier": person.tier_id, "track": person.track_id}
                made["before"].append({"person": person.id, **before})
                person.email = one.email or person.email
                person.tier_id = tiers[one.tier].id if one.tier is not None else person.tier_id
                person.track_id = tracks[one.track].id if one.track is not None else person.track_id
        profile = _profile(db, person.id)
        update: dict[str, Any] = {}
        if one.born and profile.born is None:
            update["born"] = one.born
        if one.notes and not profile.notes:
            update["notes"] = one.notes
        if update:
            made["before"].append({"profile": person.id, "was": {f: None for f in update}})
            _save_profile(db, person.id, profile.model_copy(update=update))
    db.flush()


def _keep_bests(db: Session, read: _Read, made: dict[str, Any]) -> None:
    tier = db.scalars(select(Tier).order_by(Tier.position)).first()
    track = db.scalars(select(Track).order_by(Track.position)).first()
    new: dict[str, int] = {}
    for one in read.bests:
        number = one.person_id or new.get(one.person.casefold())
        if number is None:
            person = Person(name=one.person, role="athlete", tier=tier, track=track)
            db.add(person)
            db.flush()
            number = new[one.person.casefold()] = person.id
            made["people"].append(number)
        profile = _profile(db, number)
        kept = profile.bests.get(one.lift)
        if kept is None or one.kg > kept:
            made["before"].append({"best": number, "lift": one.lift, "was": kept})
            bests = {**profile.bests, one.lift: one.kg}
            _save_profile(db, number, profile.model_copy(update={"bests": bests}))


def _keep_classes(db: Session, classes: Sequence[Weekly], made: dict[str, Any]) -> None:
    made["classes"] = []
    for class_ in classes:
        if _class(db, class_) is None:
            row = ClassTime(
                programme_id=gym_of(db).programme.id,
                weekday=class_.weekday,
                start=class_.start,
                minutes=class_.minutes,
                size=class_.size,
            )
            db.add(row)
            db.flush()
            made["classes"].append(row.id)


def _keep_kit(db: Session, kit: Sequence[Thing], made: dict[str, Any]) -> None:
    for kit_name in kit:
        row = db.scalars(select(Kit).where(Kit.name == kit_name.name)).one_or_none()
        made["before"].append({"kit": kit_name.name, "was": row.count if row else None})
        if row is None:
            db.add(Kit(name=kit_name.name, count=kit_name.number))
        else:
            row.count = kit_name.number
    db.flush()


def take_back(db: Session, row: ScoreImport) -> importing.TakenBack:
    """Undo an import as one: what it changed is as it was, what it made and is unused is gone."""
    for was in reversed(row.made.get("before", [])):
        if "kit" in was:
            if was["was"] is None:
                db.execute(delete(Kit).where(Kit.name == was["kit"]))
            elif thing := db.scalars(select(Kit).where(Kit.name == was["kit"])).one_or_none():
                thing.count = was["was"]
        elif "best" in was:
            profile = _profile(db, was["best"])
            bests = {**profile.bests, was["lift"]: was["was"]}
            bests = {lift: kg for lift, kg in bests.items() if kg is not None}
            _save_profile(db, was["best"], profile.model_copy(update={"bests": bests}))
        elif "profile" in was:
            fresh = Profile()
            update = {field: getattr(fresh, field) for field in was["was"]}
            profile = _profile(db, was["profile"]).model_copy(update=update)
            _save_profile(db, was["profile"], profile)
        elif person := db.get(Person, was["person"]):
            person.email, person.tier_id = was["email"], was["tier"]
            person.track_id = was["track"]
    for number in row.made.get("classes", []):
        db.execute(delete(ClassTime).where(ClassTime.id == number))
    db.flush()
    return importing.take_back(db, row)

"""The command line for a gym in its database: set up, passwords, learning, backup and restore."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from pine_ladder.cli.reading import Json, print_json
from pine_ladder.core.tiers import DEFAULT_TIERS, DEFAULT_TRACKS

gym = typer.Typer(no_args_is_help=True, help="Setting up a gym in the database.")


@gym.command("migrate")
def gym_migrate() -> None:
    """Bring the database to this program: its tables, then its boards. Says what reads anew."""
    from pine_ladder.store.database import database_url
    from pine_ladder.usecases.upgrade import upgrade

    for day in upgrade(database_url()):
        before, after = ", ".join(day.before) or "nothing", ", ".join(day.after) or "nothing"
        pieces = f"{before} → {after}" if before != after else before
        scores = f"; {day.scores} scores read anew" if day.scores else ""
        typer.echo(f"▸ {day.date}: {pieces}{scores}")


@gym.command("open")
def gym_open(
    name: str,
    coach: Annotated[str, typer.Option(help="the first coach's name")],
    email: Annotated[str, typer.Option(help="the first coach's e-mail address")],
    zone: Annotated[str, typer.Option(help="time zone, as in Europe/Lisbon")],
    pounds: Annotated[bool, typer.Option("--lb", help="loads are in lb where none says")] = False,
    tier: Annotated[list[str] | None, typer.Option(help="a tier, as written first")] = None,
    track: Annotated[list[str] | None, typer.Option(help="a load track")] = None,
    classes: Annotated[
        list[str] | None, typer.Option("--class", help='classes of a weekday: "Monday 6:30, 18:00"')
    ] = None,
) -> None:
    """Open a gym in an empty database with its first coach; asks for the coach's password."""
    from sqlalchemy.orm import Session

    from pine_ladder.core.day.calendar import read_named_days, zone_of
    from pine_ladder.core.tiers import read_names
    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.people import people
    from pine_ladder.usecases import setup

    try:
        zone_of(zone)
        tiers = read_names(tier or DEFAULT_TIERS, "tier")
        tracks = read_names(track or DEFAULT_TRACKS, "track")
        weekly = read_named_days(classes or ())
    except ValueError as error:
        raise typer.BadParameter(str(error)) from None
    password = typer.prompt("Password", hide_input=True, confirmation_prompt=True)
    if why := people.weakness(password, name, coach, email):
        raise typer.BadParameter(why)
    new = setup.NewGym(
        name=" ".join(name.split()),
        zone=zone,
        coach=" ".join(coach.split()),
        email=email,
        password_hash=people.hash_password(password),
        unit="lb" if pounds else "kg",
        tiers=tiers,
        tracks=tracks,
        weekly=weekly,
    )
    with Session(connect(database_url())) as db, db.begin():
        try:
            setup.open_gym(db, new)
        except setup.AlreadyOpen:
            raise typer.BadParameter("this database holds a gym already") from None
    typer.echo(f"{new.name} is open; {new.coach} signs in with {people.address_of(email)}")


@gym.command("code")
def gym_code(
    kept: Annotated[
        Path | None, typer.Option("--in", help="a file that holds the code until it is used")
    ] = None,
) -> None:
    """Print the set-up code of an empty database; exit 1 where a gym is open. It stays the same
    until it is used where a file keeps it.
    """
    import os

    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.usecases import setup

    with Session(connect(database_url())) as db, db.begin():
        try:
            last = kept.read_text("utf-8").strip() if kept and kept.exists() else ""
            code = setup.code_to_open(db, last)
        except setup.AlreadyOpen:
            if kept is not None:
                kept.unlink(missing_ok=True)
            raise typer.Exit(1) from None
    if kept is not None:
        handle = os.open(kept, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(handle, "w", encoding="utf-8") as out:
            out.write(code + "\n")
    typer.echo(code)


@gym.command("reset-password")
def gym_reset_password(address: str) -> None:
    """Set a new password for whoever signs in with an address, and sign them out everywhere."""
    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.people import people
    from pine_ladder.usecases import signing_in

    with Session(connect(database_url())) as db:
        person = people.person_by_email(db, address)
        if person is None:
            raise typer.BadParameter(f"nobody signs in with {address}")
        name = person.name
    password = typer.prompt(f"New password of {name}", hide_input=True, confirmation_prompt=True)
    if why := people.weakness(password, name, address):
        raise typer.BadParameter(why)
    with Session(connect(database_url())) as db, db.begin():
        person = people.person_by_email(db, address)
        assert person is not None
        signing_in.forgot_password(db, person, people.hash_password(password))
    typer.echo(f"{name} signs in with the new password, and is signed out everywhere else")


def backup_command(
    file: Path,
    keep: Annotated[
        int, typer.Option(help="FILE is a folder: a file a day in it, this many of them kept")
    ] = 0,
) -> None:
    """Write the whole gym to a file."""
    import datetime as dt

    from pine_ladder.store.backup import BackupError, backup
    from pine_ladder.store.backups import file_of, prune
    from pine_ladder.store.database import database_url

    folder = file
    if keep:
        folder.mkdir(parents=True, exist_ok=True)
        file = file_of(folder, dt.datetime.now(dt.UTC).date())
    try:
        about = backup(database_url(), file)
    except BackupError as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(1) from None
    typer.echo(f"{about.gym} as of {about.made_at:%Y-%m-%d %H:%M} is in {file}")
    if keep:
        # Only files it made itself, and only once the new one is there.
        prune(folder, keep)


def restore_command(
    file: Path,
    replace: Annotated[
        bool, typer.Option("--replace", help="put it in place of the gym that is there")
    ] = False,
) -> None:
    """Bring a gym back from a file; all of it or nothing."""
    from pine_ladder.jobs.backup import folder_said
    from pine_ladder.store.backup import BackupError
    from pine_ladder.store.database import database_url
    from pine_ladder.usecases.restoring import restore

    try:
        about, erased = restore(database_url(), file, replace, folder_said())
    except BackupError as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(1) from None
    made = f"{about.made_at:%Y-%m-%d %H:%M}"
    typer.echo(f"{about.gym} is as it was at {made}; start the application anew")
    if erased:
        people = "1 person was" if erased == 1 else f"{erased} people were"
        typer.echo(f"{people} erased after this backup was made and are erased again")


def export_command(folder: Path) -> None:
    """Write everything in open formats into a folder: records as JSON lines with their schema,
    tables as CSV, boards as text.
    """
    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.usecases.open_records import everything

    if folder.exists() and any(folder.iterdir()):
        typer.echo(f"{folder} is not empty: name a new folder", err=True)
        raise typer.Exit(1)
    with Session(connect(database_url(), patient=True)) as db:
        for path, content in everything(db):
            file = folder / path
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_bytes(content)
    typer.echo(f"everything is in {folder}")


def take_command(place: Path) -> None:
    """Take a gym from the records of an export, a folder or a zip, into an empty database.

    Nobody has a password then, and screens and calendars need new addresses.
    """
    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.records import RecordsError
    from pine_ladder.usecases.open_records import take_everything
    from pine_ladder.usecases.upgrade import upgrade

    upgrade(database_url())
    with Session(connect(database_url(), patient=True)) as db, db.begin():
        try:
            about = take_everything(db, place)
        except RecordsError as error:
            typer.echo(str(error), err=True)
            raise typer.Exit(1) from None
    typer.echo(f"{about.gym}: {sum(about.records.values())} records are taken")
    typer.echo("Nobody has a password: gym reset-password ADDRESS, for a coach")


def import_command(
    file: Path,
    what: Annotated[
        str | None,
        typer.Option(help="scores, people, bests, classes or kit; told by the file where not said"),
    ] = None,
    accept_guesses: Annotated[
        bool, typer.Option("--accept-guesses", help="take the guess of every question")
    ] = False,
    answers: Annotated[
        Path | None, typer.Option(help="a JSON file of answers by the id of their question")
    ] = None,
    save: Annotated[bool, typer.Option("--save", help="keep it; without it, only say")] = False,
    as_json: Json = False,
) -> None:
    """Bring in a table kept elsewhere (CSV or XLSX): say what it means, and with --save keep it.

    Exit 1 where it cannot be read, or is to be saved with questions that nobody answered.
    """
    import json
    from typing import get_args

    from sqlalchemy.orm import Session

    from pine_ladder.core.imports import Kind
    from pine_ladder.files.sheets import read_table
    from pine_ladder.store.database import connect, database_url
    from pine_ladder.usecases import moving_in

    if what is not None and what not in get_args(Kind):
        raise typer.BadParameter(f"{what}: one of {', '.join(get_args(Kind))}")
    said: dict[str, str] = {}
    if answers is not None:
        said = {str(k): str(v) for k, v in json.loads(answers.read_text("utf-8")).items()}
    kind: Kind | None = what  # type: ignore[assignment]
    with Session(connect(database_url(), patient=True)) as db, db.begin():
        try:
            table = read_table(file.read_bytes())
            held = (table.heads, table.rows)
            looked = moving_in.look(db, held, kind, said)
            left = [question for question in looked.questions if question.id not in said]
            if save and left and not accept_guesses:
                names = ", ".join(question.id for question in left)
                raise ValueError(
                    f"Answer first, or take the guesses with --accept-guesses: {names}."
                )
            if save:
                looked = moving_in.bring_in(db, held, looked.what, said, None)
        except (OSError, ValueError) as error:
            if as_json:
                print_json({"error": str(error)})
            else:
                typer.echo(str(error), err=True)
            raise typer.Exit(1) from None
    if as_json:
        print_json(looked.model_dump(mode="json", exclude={"first", "headings"}))
        return
    columns = ", ".join(f"{head} → {field}" for head, field in looked.columns.items())
    typer.echo(f"{looked.rows} rows of {looked.what}; {columns}")
    for one in looked.questions:
        answer = said.get(one.id, f"{one.guess} (guess)")
        typer.echo(f"? {one.id}: {one.text} {' / '.join(one.choices)} → {answer}")
    for left_out in looked.skipped:
        typer.echo(f"line {left_out.row} is left out: {left_out.why}")
    typer.echo(f"new {looked.new}, same {looked.same}, changed {looked.changed}")
    if looked.saved:
        typer.echo(f"kept as import {looked.saved}")


@gym.command("there")
def gym_there() -> None:
    """Say which gym the database holds; exit 1 where it holds none."""
    from pine_ladder.store.backup import gym_in
    from pine_ladder.store.database import connect, database_url

    with connect(database_url()).connect() as db:
        name = gym_in(db)
    typer.echo(name or "no gym is set up yet")
    raise typer.Exit(name is None)


@gym.command("learn")
def gym_learn() -> None:
    """Fit athletes' and movements' pace to the gym's scores."""
    from sqlalchemy.exc import OperationalError
    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.usecases.learning import relearn

    try:
        with Session(connect(database_url(), patient=True)) as db, db.begin():
            learnt = relearn(db)
    except OperationalError:
        typer.echo("The database went away: nothing was learnt.", err=True)
        raise typer.Exit(1) from None
    if learnt is None:
        typer.echo("Another process is learning.")
    else:
        typer.echo(f"Learnt from {sum(learnt.counts.values())} scores.")


@gym.command("demo")
def gym_demo(
    start_over: Annotated[bool, typer.Option("--reset", help="forget what was entered")] = False,
) -> None:
    """Load the demo gym once; with --reset, anew."""
    from sqlalchemy.orm import Session

    from pine_ladder.core.day.calendar import day_of, zone_of
    from pine_ladder.demo import ZONE, NotTheDemo, load_demo, reset
    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.gym.calendar import now
    from pine_ladder.usecases.learning import relearn

    with Session(connect(database_url(), patient=True)) as db, db.begin():
        try:
            if start_over:
                reset(db)
            fresh = load_demo(db, day_of(now(db), zone_of(ZONE)))
        except NotTheDemo as error:
            typer.echo(str(error), err=True)
            raise typer.Exit(1) from None
        if fresh:
            relearn(db)
    typer.echo("demo gym loaded" if fresh else "kept what is there")

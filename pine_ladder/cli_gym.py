"""The command line for a gym in its database: set up, passwords, learning, backup and restore."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Annotated

import typer

from pine_ladder.core.tiers import DEFAULT_TIERS

gym = typer.Typer(no_args_is_help=True, help="Setting up a gym in the database.")


@gym.command("migrate")
def gym_migrate() -> None:
    """Bring the database to the current schema."""
    from pine_ladder.store.database import database_url, migrate

    migrate(database_url())


@gym.command("init")
def gym_init(
    name: str,
    coach: Annotated[str, typer.Option(help="the first coach's name")],
    email: Annotated[str, typer.Option(help="the first coach's e-mail address")],
    zone: Annotated[str, typer.Option(help="time zone, as in Europe/Lisbon")],
) -> None:
    """Set up a gym with its first coach; asks for the coach's password."""
    from sqlalchemy.orm import Session

    from pine_ladder.core.day.calendar import zone_of
    from pine_ladder.core.tiers import DEFAULT_TRACKS
    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.gym import people
    from pine_ladder.store.models import Gym, Person, Programme, Tier, Track

    password = typer.prompt("Password", hide_input=True, confirmation_prompt=True)
    if why := people.weakness(password, name, coach, email):
        raise typer.BadParameter(why)
    try:
        zone_of(zone)
    except ValueError as error:
        raise typer.BadParameter(str(error)) from None
    with Session(connect(database_url())) as db, db.begin():
        if db.query(Gym).first():
            raise typer.BadParameter("this database holds a gym already")
        tiers = [Tier(position=i, name=tier) for i, tier in enumerate(DEFAULT_TIERS)]
        tracks = [Track(position=i, name=track) for i, track in enumerate(DEFAULT_TRACKS)]
        db.add_all([Gym(name=name, zone=zone), Programme(name="Daily"), *tiers, *tracks])
        db.add(
            Person(
                name=coach,
                email=people.address_of(email),
                password_hash=people.hash_password(password),
                role="coach",
                tier=tiers[0],
                track=tracks[0],
            )
        )


@gym.command("reset-password")
def gym_reset_password(address: str) -> None:
    """Set a new password for whoever signs in with an address, and sign them out everywhere."""
    from sqlalchemy.orm import Session

    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.gym import people

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
        people.forgot_password(db, person, people.hash_password(password))
    typer.echo(f"{name} signs in with the new password, and is signed out everywhere else")


def backup_command(file: Path) -> None:
    """Write the whole gym to a file."""
    from pine_ladder.store.backup import BackupError, backup
    from pine_ladder.store.database import database_url

    try:
        about = backup(database_url(), file)
    except BackupError as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(1) from None
    typer.echo(f"{about.gym} as of {about.made_at:%Y-%m-%d %H:%M} is in {file}")


def restore_command(
    file: Path,
    replace: Annotated[
        bool, typer.Option("--replace", help="put it in place of the gym that is there")
    ] = False,
) -> None:
    """Bring a gym back from a file; all of it or nothing."""
    from pine_ladder.store.backup import BackupError, restore
    from pine_ladder.store.database import database_url

    try:
        about = restore(database_url(), file, replace)
    except BackupError as error:
        typer.echo(str(error), err=True)
        raise typer.Exit(1) from None
    made = f"{about.made_at:%Y-%m-%d %H:%M}"
    typer.echo(f"{about.gym} is as it was at {made}; start the application anew")


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
    """Fit athletes' and movements' pace to the gym's scores, giving way to other programs."""
    from sqlalchemy.exc import OperationalError
    from sqlalchemy.orm import Session

    from pine_ladder.store.athletes.learning import relearn
    from pine_ladder.store.database import connect, database_url

    os.nice(5)
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
    from pine_ladder.store.athletes.learning import relearn
    from pine_ladder.store.database import connect, database_url
    from pine_ladder.store.gym.calendar import now

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

"""The gym's tables to take away, and a backup of everything."""

from __future__ import annotations

import datetime as dt
import tempfile
from pathlib import Path as FilePath
from typing import Annotated, Literal

from fastapi import Path, Request, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pine_ladder.api.access import Database, Myself, router
from pine_ladder.api.errors import ApiError, Problem
from pine_ladder.api.forms import Form
from pine_ladder.core.athletes.questionnaire import IntakeLine
from pine_ladder.files.tables import read_csv, write_csv
from pine_ladder.store.backup import BackupError, backup
from pine_ladder.store.backups import is_late, nights
from pine_ladder.store.exports import TABLES
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.usecases.open_records import zipped
from pine_ladder.usecases.profiles import StaleProfile
from pine_ladder.usecases.questionnaire import take_in

coaches = router("coach", "exchange")

TakenIn = Annotated[Literal["bests", "classes", "kit"], Path()]
TableName = Annotated[Literal["people", "scores", "bests", "classes", "kit"], Path()]


@coaches.get("/tables/{table}")
def table_file(table: TableName, db: Database) -> Response:
    """A table of the gym as CSV."""
    content = write_csv(*TABLES[table](db))
    headers = {"Content-Disposition": f'attachment; filename="{table}.csv"'}
    return Response(content, media_type="text/csv; charset=utf-8", headers=headers)


class TableForm(Form):
    """A table as CSV, as it goes out; with `keep` false it is looked at alone."""

    text: str = Field(max_length=2_000_000)
    keep: bool = False


@coaches.post("/tables/{table}", responses={422: {"model": Problem}})
def take_table_in(table: TakenIn, form: TableForm, db: Database, me: Myself) -> list[IntakeLine]:
    """What a table of bests, class times or kit means, line by line; kept where that is said.

    Refused lines are left out; nothing that the table does not name is taken away.
    """
    try:
        return take_in(db, table, read_csv(form.text), me, form.keep)
    except (ValueError, StaleProfile) as error:
        said = str(error) or "somebody has changed bests in the meantime: look at it again"
        raise ApiError(422, said) from None


@coaches.get("/everything")
def everything_file(request: Request, db: Database) -> Response:
    """All the gym's records in open formats, in one zip: JSON lines with their schema, tables as
    CSV, boards as text. What signs somebody in is left out, and what is an athlete's alone.
    """
    headers = {"Content-Disposition": f'attachment; filename="gym-{gym_of(db).today}.zip"'}
    with Session(request.app.state.engine) as whole:
        content = zipped(whole)
    return Response(content, media_type="application/zip", headers=headers)


@coaches.post("/backup", responses={503: {"model": Problem}})
def backup_file(request: Request, db: Database) -> Response:
    """The whole gym in one file, as the command line makes it."""
    url = request.app.state.engine.url.render_as_string(hide_password=False)
    with tempfile.TemporaryDirectory() as folder:
        file = FilePath(folder) / "gym.backup"
        try:
            backup(url, file)
        except BackupError as error:
            raise ApiError(503, str(error)) from None
        content = file.read_bytes()
    headers = {"Content-Disposition": f'attachment; filename="gym-{gym_of(db).today}.backup"'}
    return Response(content, media_type="application/zip", headers=headers)


class NightOut(BaseModel):
    """The backup of a night: the gym's date, its size in bytes."""

    date: dt.date
    size: int


class NightsOut(BaseModel):
    """Nightly backups: the server's folder (none: it has none), those in it newest first, and
    whether one is overdue.
    """

    folder: str | None
    made: list[NightOut]
    late: bool


@coaches.get("/backups")
def nightly_backups(request: Request, db: Database) -> NightsOut:
    """What nights there is a backup of."""
    folder = request.app.state.watch.folder
    made = nights(folder) if folder else []
    return NightsOut(
        folder=str(folder) if folder else None,
        made=[NightOut(date=night.date, size=night.size) for night in made],
        late=is_late(gym_of(db).row, gym_of(db).today, made),
    )

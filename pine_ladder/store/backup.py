"""A gym in one file, and back: PostgreSQL's own dump with what it is and a checksum beside it.

The file is a zip of two members: `about.json` and `gym.dump` (pg_dump's custom format). What is
restored replaces everything or nothing.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import json
import os
import shutil
import subprocess
import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path

from pydantic import BaseModel, ValidationError
from sqlalchemy import Connection, text
from sqlalchemy.engine import URL, make_url

from pine_ladder import __version__
from pine_ladder.store.database import connect, newest_schema, schema_of

ABOUT, DUMP = "about.json", "gym.dump"
BEFORE = "before_restore"
"""Where the present gym waits while another takes its place."""


class BackupError(Exception):
    """Why a backup cannot be made or taken, in a sentence."""


class About(BaseModel):
    """What a backup is: by which version, of which schema, when, of which gym, and the dump's
    SHA-256.
    """

    version: str
    schema_is: str
    made_at: dt.datetime
    gym: str
    sha256: str


def _program(name: str) -> str:
    """PostgreSQL's own program of that name, the newest installed."""
    found = sorted(
        Path("/usr/lib/postgresql").glob(f"*/bin/{name}"),
        key=lambda path: int(path.parent.parent.name),
    )
    program = str(found[-1]) if found else shutil.which(name)
    if program is None:
        raise BackupError(f"{name} of PostgreSQL is not installed")
    return program


def _run(name: str, url: URL, *arguments: str) -> None:
    environment = {
        **os.environ,
        "PGHOST": url.host or "",
        "PGPORT": str(url.port or 5432),
        "PGUSER": url.username or "",
        "PGPASSWORD": url.password or "",
        "PGDATABASE": url.database or "",
    }
    done = subprocess.run(
        [_program(name), *arguments],
        env=environment, cwd="/", capture_output=True, text=True, check=False,
    )  # fmt: skip
    if done.returncode:
        lines = done.stderr.strip().splitlines() or [""]
        raise BackupError(f"{name}: {lines[0][:300]}")


def _digest(file: Path) -> str:
    with file.open("rb") as held:
        return hashlib.file_digest(held, "sha256").hexdigest()


def gym_in(db: Connection) -> str | None:
    """The name of the gym a database holds; None where there is none."""
    if db.scalar(text("select to_regclass('public.gym')")) is None:
        return None
    name = db.scalar(text("select name from gym"))
    return None if name is None else str(name)


def backup(url: str, file: Path) -> About:
    """Write the whole gym to a file, which only its owner can read; an older one of that name is
    replaced once the new one is complete. Raises BackupError.
    """
    engine = connect(url, patient=True)
    try:
        with engine.connect() as db:
            name = gym_in(db)
            if name is None:
                raise BackupError("this database holds no gym yet")
            schema, made_at = schema_of(db), db.scalar(text("select now()"))
    finally:
        engine.dispose()
    with tempfile.TemporaryDirectory() as folder:
        dump = Path(folder) / DUMP
        arguments = ("--format=custom", "--no-owner", "--no-privileges", "--schema=public")
        _run("pg_dump", make_url(url), *arguments, f"--file={dump}")
        about = About(
            version=__version__,
            schema_is=schema,
            made_at=made_at,
            gym=name,
            sha256=_digest(dump),
        )
        part = file.with_name(file.name + ".part")
        try:
            handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
            with os.fdopen(handle, "wb") as out, zipfile.ZipFile(out, "w") as whole:
                whole.writestr(ABOUT, about.model_dump_json(indent=2))
                whole.write(dump, DUMP)
            part.replace(file)
        except OSError as error:
            part.unlink(missing_ok=True)
            raise BackupError(f"{file} cannot be written: {error.strerror}") from None
    return about


def _opened(file: Path, folder: Path) -> tuple[About, Path]:
    """What a backup says of itself and its dump, once both are whole."""
    damaged = BackupError(f"{file} is damaged or no backup: nothing was changed")
    try:
        with zipfile.ZipFile(file) as whole:
            about = About.model_validate(json.loads(whole.read(ABOUT)))
            dump = Path(whole.extract(DUMP, folder))
    except OSError as error:
        raise BackupError(f"{file}: {error.strerror or 'cannot be read'}") from None
    except (zipfile.BadZipFile, KeyError, ValueError, ValidationError, EOFError):
        raise damaged from None
    except Exception as error:
        # Whatever else its decompression stumbles over.
        if type(error).__module__ == "zlib":
            raise damaged from None
        raise
    if _digest(dump) != about.sha256:
        raise damaged
    return about, dump


def put_in_place(url: str, file: Path, replace: bool, upgrade: Callable[[str], object]) -> About:
    """Put a backup in place of what the database holds, and `upgrade` it.

    Raises BackupError, and then leaves everything as it was: for a damaged file, a schema newer
    than this program's, or a gym that is there already unless it may be replaced.
    """
    engine = connect(url, patient=True)
    with tempfile.TemporaryDirectory() as made:
        about, dump = _opened(file, Path(made))
        if about.schema_is > newest_schema():
            raise BackupError(
                f"{file} was made by version {about.version}, which is newer than this program's "
                f"{__version__}: bring the program up to date first"
            )
        try:
            with engine.begin() as db:
                _finish_broken_off(db)
            with engine.begin() as db:
                there = gym_in(db)
                if there is not None and not replace:
                    raise BackupError(
                        f"this database holds {there} already: "
                        "say --replace to put the backup in its place"
                    )
                _set_aside(db)
            try:
                _run(
                    "pg_restore", make_url(url),
                    "--single-transaction", "--exit-on-error", "--no-owner", "--no-privileges",
                    "--schema=public", f"--dbname={make_url(url).database}", str(dump),
                )  # fmt: skip
                upgrade(url)
            except BaseException:
                with engine.begin() as db:
                    _put_back(db)
                raise
            with engine.begin() as db:
                db.execute(text(f"drop schema {BEFORE} cascade"))
        finally:
            engine.dispose()
    return about


def _set_aside(db: Connection) -> None:
    db.execute(text(f"alter schema public rename to {BEFORE}"))
    db.execute(text("create schema public"))


def _put_back(db: Connection) -> None:
    db.execute(text("drop schema if exists public cascade"))
    db.execute(text(f"alter schema {BEFORE} rename to public"))


def _finish_broken_off(db: Connection) -> None:
    """A restore that was killed: either its gym stands complete, or the one before comes back."""
    if db.scalar(text("select to_regnamespace(:name)"), {"name": BEFORE}) is None:
        return
    if gym_in(db) is None:
        _put_back(db)
    else:
        db.execute(text(f"drop schema {BEFORE} cascade"))

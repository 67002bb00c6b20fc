"""Shared by the commands: files and standard input, options, JSON."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

if TYPE_CHECKING:
    from pine_ladder.core.movements import Library
    from pine_ladder.core.plan import Session

File = Annotated[Path, typer.Argument(help="a .board file, or - for standard input")]
Json = Annotated[bool, typer.Option("--json", help="print JSON")]
Pounds = Annotated[bool, typer.Option("--lb", help="a load without a unit is in pounds, not kg")]
Partial = Annotated[
    bool, typer.Option("--partial", help="go on with what reads where lines cannot be read")
]


def text_of(file: Path) -> str:
    """The text of a file, or of standard input for `-`; ends where it cannot be read."""
    if str(file) == "-":
        return sys.stdin.read()
    try:
        return file.read_text("utf-8")
    except OSError as error:
        raise typer.BadParameter(f"{file}: {error.strerror}") from None
    except UnicodeDecodeError:
        raise typer.BadParameter(f"{file} is not UTF-8 text") from None


def movements(lb: bool) -> Library:
    """The library, with loads in pounds or kilograms where a board names no unit."""
    from pine_ladder.core.movements import library

    return library().in_unit("lb") if lb else library()


def session_of(file: Path, partial: bool, lb: bool) -> Session:
    """The board's session. Lines that cannot be read are named on standard error and end the
    command with 1, unless it goes on without them.
    """
    from pine_ladder.core.notation import parse

    parsed = parse(text_of(file), movements(lb))
    errors = [finding for finding in parsed.findings if finding.severity == "error"]
    for error in errors:
        typer.echo(f"{file}:{error.line}:{error.column}: error: {error.message}", err=True)
    if errors and not partial:
        typer.echo("nothing was done; --partial goes on without these lines", err=True)
        raise typer.Exit(1)
    return parsed.session


def print_json(value: Any) -> None:
    """Print a value as indented JSON."""
    typer.echo(json.dumps(value, ensure_ascii=False, indent=2))

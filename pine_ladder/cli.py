"""`pine-ladder`: boards and scores at the command line, and running the application."""

from __future__ import annotations

import json
import os
import sys
from importlib import resources
from pathlib import Path
from typing import Annotated, Any

import typer

from pine_ladder.cli_figures import figure_command
from pine_ladder.cli_gym import (
    backup_command,
    export_command,
    gym,
    import_command,
    restore_command,
)
from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.clock import Clock, clock
from pine_ladder.core.figures import Cycle
from pine_ladder.core.movements import Library, library
from pine_ladder.core.notation import parse, print_session
from pine_ladder.core.notation.printer import format_text
from pine_ladder.core.pace.calibration import Fit
from pine_ladder.core.pace.testrun import PieceRun, test_run, words_of
from pine_ladder.core.plan import Finding, Frozen, Role, Session
from pine_ladder.core.scores.kinds import Score
from pine_ladder.core.scores.shorthand import read_score
from pine_ladder.core.tiers import DEFAULT_TIERS
from pine_ladder.core.units import clock_text

app = typer.Typer(no_args_is_help=True, add_completion=False, help=__doc__)
board = typer.Typer(no_args_is_help=True, help="Boards as text: findings, clock, canonical form.")
score = typer.Typer(no_args_is_help=True, help="Scores in shorthand.")
pace = typer.Typer(no_args_is_help=True, help="The pace model and its fit.")
app.add_typer(board, name="board")
app.add_typer(score, name="score")
app.add_typer(pace, name="pace")
app.add_typer(gym, name="gym")
app.command("figure")(figure_command)
app.command("backup")(backup_command)
app.command("restore")(restore_command)
app.command("export")(export_command)
app.command("import")(import_command)

File = Annotated[Path, typer.Argument(help="a .board file, or - for standard input")]
Json = Annotated[bool, typer.Option("--json", help="print JSON")]
Pounds = Annotated[bool, typer.Option("--lb", help="a load without a unit is in pounds, not kg")]
Partial = Annotated[
    bool, typer.Option("--partial", help="go on with what reads where lines cannot be read")
]


class CheckOutput(Frozen):
    """What `board check --json` prints."""

    findings: tuple[Finding, ...]


class PieceClock(Clock):
    """One piece of `board clock --json`. Seconds; `total_s` is null where it is open."""

    role: Role
    name: str | None
    format: str


class ClockOutput(Frozen):
    """What `board clock --json` prints; `total_s` counts the pieces with an exact length."""

    title: str | None
    total_s: int
    open_pieces: int
    pieces: tuple[PieceClock, ...]


class TestrunOutput(Frozen):
    """What `board testrun --json` prints; pieces that only rest are left out."""

    __test__ = False
    pieces: tuple[PieceRun, ...]


def _text(file: Path) -> str:
    if str(file) == "-":
        return sys.stdin.read()
    try:
        return file.read_text("utf-8")
    except OSError as error:
        raise typer.BadParameter(f"{file}: {error.strerror}") from None
    except UnicodeDecodeError:
        raise typer.BadParameter(f"{file} is not UTF-8 text") from None


def _shelf(lb: bool) -> Library:
    return library().in_unit("lb") if lb else library()


def _session(file: Path, partial: bool, lb: bool) -> Session:
    """The board's session. Lines that cannot be read are named on standard error and end the
    command with 1, unless it goes on without them.
    """
    parsed = parse(_text(file), _shelf(lb))
    errors = [one for one in parsed.findings if one.severity == "error"]
    for one in errors:
        typer.echo(f"{file}:{one.line}:{one.column}: error: {one.message}", err=True)
    if errors and not partial:
        typer.echo("nothing was done; --partial goes on without these lines", err=True)
        raise typer.Exit(1)
    return parsed.session


def _print_json(value: Any) -> None:
    typer.echo(json.dumps(value, ensure_ascii=False, indent=2))


@board.command("check")
def board_check(file: File, as_json: Json = False, lb: Pounds = False) -> None:
    """Findings, the test-run's among them; exit 1 on errors."""
    parsed = parse(_text(file), _shelf(lb))
    ground, pieces = Ground(_shelf(lb)), parsed.session.pieces
    runs = [test_run(piece, ground.library, len(DEFAULT_TIERS)) for piece in pieces]
    foreseen = foresee(parsed.session, runs, ground, DEFAULT_TIERS)
    found = sorted(
        [*parsed.findings, *check(parsed.session, ground), *foreseen],
        key=lambda f: (f.line, f.column),
    )
    if as_json:
        _print_json(CheckOutput(findings=tuple(found)).model_dump(mode="json"))
    else:
        for one in found:
            typer.echo(f"{file}:{one.line}:{one.column}: {one.severity}: {one.message}")
        if not found:
            typer.echo("nothing to remark")
    raise typer.Exit(any(finding.severity == "error" for finding in found))


@board.command("clock")
def board_clock(
    file: File, as_json: Json = False, partial: Partial = False, lb: Pounds = False
) -> None:
    """Exact total, work and rest of every piece; exit 1 on errors."""
    session = _session(file, partial, lb)
    pieces = tuple(
        PieceClock(
            role=piece.role,
            name=piece.name,
            format=format_text(piece.format),
            **dict(clock(piece)),
        )
        for piece in session.pieces
    )
    exact = [piece.total_s for piece in pieces if piece.total_s is not None]
    summary = ClockOutput(
        title=session.title,
        total_s=sum(exact),
        open_pieces=len(pieces) - len(exact),
        pieces=pieces,
    )
    if as_json:
        _print_json(summary.model_dump(mode="json"))
        return
    for one in pieces:
        total = clock_text(one.total_s) if one.total_s is not None else "open"
        typer.echo(f"{total:>7}  {one.role.value}  {one.name or ''}  {one.format}")
    typer.echo(f"{clock_text(summary.total_s):>7}  and {summary.open_pieces} open")


@board.command("print")
def board_print(file: File, partial: Partial = False, lb: Pounds = False) -> None:
    """The board in canonical form; exit 1 on errors."""
    typer.echo(print_session(_session(file, partial, lb)), nl=False)


@board.command("testrun")
def board_testrun(
    file: File,
    as_json: Json = False,
    partial: Partial = False,
    lb: Pounds = False,
    athletes: Annotated[int, typer.Option(help="athletes a tier", min=1, max=20_000)] = 200,
    seed: Annotated[int, typer.Option(help="which sample of athletes")] = 1,
) -> None:
    """Predict what the athletes of each tier will do; exit 1 on errors."""
    session = _session(file, partial, lb)
    pieces = tuple(
        test_run(piece, library(), len(DEFAULT_TIERS), athletes, seed)
        for piece in session.pieces
        if piece.role is not Role.REST
    )
    if as_json:
        _print_json(TestrunOutput(pieces=pieces).model_dump(mode="json"))
        return
    for piece in pieces:
        typer.echo(piece.name or piece.role.value.capitalize())
        for one in piece.tiers:
            typer.echo(f"  {DEFAULT_TIERS[one.tier]:12} {words_of(one)}")


@pace.command("fit-library")
def fit_library_command(
    write: Annotated[bool, typer.Option("--write", help="write the fit to pace.toml")] = False,
    folds: Annotated[
        bool, typer.Option("--folds", help="fit again with each opinion left out once (minutes)")
    ] = False,
    as_json: Json = False,
) -> None:
    """Fit the pace model to the stated facts and second opinions; say of each what is predicted."""
    from pine_ladder.core.pace import calibration

    fit = calibration.fit_library()
    if write:
        Path(str(resources.files("pine_ladder.core") / "pace" / "pace.toml")).write_text(
            calibration.toml_of(fit)
        )
    fold = calibration.folds() if folds else None
    if as_json:
        told = fit.model_dump(mode="json")
        _print_json(told | {"folds": fold.model_dump(mode="json")} if fold else told)
    else:
        _print_fit(fit)
        if fold:
            typer.echo(
                f"left out in turn: error inside {fold.inside:.3f}, outside {fold.outside:.3f}"
            )
    raise typer.Exit(not all(one.holds for one in fit.facts))


def _print_fit(fit: Fit) -> None:
    for fact in fit.facts:
        mark = "holds" if fact.holds else "FAILS"
        stated = f"{fact.fact.low:g} to {fact.fact.high:g}"
        says = fact.fact.says + (f" ({fact.fact.source})" if fact.fact.source else "")
        typer.echo(f"{mark}  {stated:>12}  predicted {fact.predicted:7.2f}  {says}")
    typer.echo("second opinions, from memory: 10 %, middle and 90 % expected, and predicted:")
    for one in fit.opinions:
        both = " ".join(f"{v:8g}" for v in (*one.expected, *one.predicted))
        typer.echo(f"  {one.name:18} tier {one.tier} {both}  {one.error:+.2f}")
    typer.echo("moved furthest, in widths of what was believed before:")
    for moved in fit.moved[:MOVED_TOLD]:
        why = f"  because of: {'; '.join(moved.because)}" if moved.because else ""
        both = f"{moved.start:8.3f} {moved.value:8.3f}"
        typer.echo(f"  {moved.name:32} {both} {moved.widths:+.1f}{why}")
    typer.echo("left out of the fit, predicted by their neighbours alone:")
    for left in fit.left_out:
        error = left.predicted / left.seconds - 1
        both = f"{left.seconds:5.2f} s  {left.predicted:5.2f} s"
        typer.echo(f"  {left.name:20} {both} {error:+.0%}")


MOVED_TOLD = 20


@pace.command("outliers")
def pace_outliers(as_json: Json = False) -> None:
    """Movements whose seconds or sets lie far from those of their neighbours."""
    from pine_ladder.core.pace.outliers import outliers, upside_down

    found, turned = outliers(library()), upside_down(library())
    if as_json:
        rungs = [{"easier": lower, "harder": upper} for lower, upper in turned]
        _print_json({"outliers": [one.model_dump() for one in found], "upside_down": rungs})
        return
    for one in found:
        both = f"{one.value:8g} {one.usual:8g}"
        typer.echo(f"{one.name:32} {one.field:9} {both} {one.times:+5.1f}  {one.neighbours[0]}, …")
    for lower, upper in turned:
        typer.echo(f"{upper} has longer sets than {lower}, an easier rung")


SCHEMAS = ("plan", "check", "clock", "testrun", "score", "figure")


@app.command()
def schema(name: str) -> None:
    """Print the JSON Schema of a plan, or of check, clock, testrun, score or figure output."""
    if name not in SCHEMAS:
        raise typer.BadParameter(f"{name}: one of {', '.join(SCHEMAS)}")
    _print_json(schema_of(name))


def schema_of(name: str) -> dict[str, Any]:
    """JSON Schema of a plan, or of what board check, board clock, score parse and figure print."""
    models: dict[str, type[Frozen]] = {
        "plan": Session,
        "check": CheckOutput,
        "clock": ClockOutput,
        "testrun": TestrunOutput,
        "score": Score,
        "figure": Cycle,
    }
    return models[name].model_json_schema()


@score.command("parse")
def score_parse(
    entry: str,
    file: Annotated[Path, typer.Option("--board", help="the .board file")],
    piece: Annotated[int, typer.Option(help="number of the piece, from 1")],
    tier: Annotated[int, typer.Option(help="tier, 1 is as written")] = 1,
    as_json: Json = False,
    partial: Partial = False,
    lb: Pounds = False,
) -> None:
    """Read a score; exit 1 when it is refused, or when lines of the board cannot be read."""
    pieces = _session(file, partial, lb).pieces
    if not 1 <= piece <= len(pieces):
        raise typer.BadParameter(f"the board has {len(pieces)} pieces")
    if tier < 1:
        raise typer.BadParameter("tiers count from 1")
    read = read_score(entry, pieces[piece - 1], tier - 1)
    if as_json:
        _print_json(read.model_dump(mode="json"))
    else:
        typer.echo("; ".join(read.problems) or read.reading or read.display)
    raise typer.Exit(bool(read.problems))


@app.command()
def serve(
    host: str = "127.0.0.1",
    port: int = 8000,
    processes: int = 1,
    public_url: Annotated[
        str, typer.Option(help="where it is reached from outside, as https://gym.example")
    ] = "",
) -> None:
    """Serve the application on the database of PINE_LADDER_DATABASE_URL.

    Behind a proxy, PINE_LADDER_PROXIES names the addresses whose forwarded headers are believed.
    """
    import uvicorn

    from pine_ladder.api.serving import server_options

    if public_url:
        os.environ["PINE_LADDER_PUBLIC_URL"] = public_url
    uvicorn.run(
        "pine_ladder.api.app:create_app",
        host=host,
        port=port,
        workers=processes,
        **server_options(os.environ),
    )


@app.command()
def mail(
    port: Annotated[int, typer.Option(help="where letters are taken")] = 2525,
    page: Annotated[int, typer.Option(help="where they are shown in a browser")] = 2580,
    folder: Annotated[Path, typer.Option(help="where they are kept, as a maildir")] = Path(
        ".pine/letters"
    ),
) -> None:
    """A mail server for trying things out: it keeps every letter and sends none on."""
    import threading

    from pine_ladder.files.letterbox import Letterbox

    folder.parent.mkdir(parents=True, exist_ok=True)
    box = Letterbox(folder, port, page)
    box.start()
    typer.echo(
        f"letters: PINE_LADDER_SMTP=smtp://127.0.0.1:{port}, shown at http://127.0.0.1:{page}"
    )
    try:
        threading.Event().wait()
    except KeyboardInterrupt:
        box.stop()


@app.command()
def straps(
    port: Annotated[int, typer.Option(help="where they are heard")] = 8427,
    count: Annotated[int, typer.Option(help="how many there are", min=1, max=255)] = 12,
) -> None:
    """Heart rate straps for trying things out: made-up hearts, a value a second each."""
    import threading

    from pine_ladder.files.straps import Straps

    band = Straps(port, count)
    band.start()
    typer.echo(f"{count} straps: PINE_LADDER_STRAPS=127.0.0.1:{band.port}")
    try:
        threading.Event().wait()
    except KeyboardInterrupt:
        band.stop()


@app.command()
def openapi() -> None:
    """Print the OpenAPI description of the application."""
    from sqlalchemy import create_engine

    from pine_ladder.api.app import create_app

    _print_json(create_app(create_engine("postgresql+psycopg://")).openapi())


if __name__ == "__main__":
    app()

"""`pine-ladder board` and `pine-ladder score`: boards and scores as text.

What predicts, checks or draws is imported by the command that does so: printing a board must not
wait for what simulates a class.
"""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

from pine_ladder.cli.reading import (
    File,
    Json,
    Partial,
    Pounds,
    movements,
    print_json,
    session_of,
    text_of,
)

board = typer.Typer(no_args_is_help=True, help="Boards as text: findings, clock, canonical form.")
score = typer.Typer(no_args_is_help=True, help="Scores in shorthand.")


@board.command("check")
def board_check(file: File, as_json: Json = False, lb: Pounds = False) -> None:
    """Findings, the test-run's among them; exit 1 on errors."""
    from pine_ladder.cli.outputs import CheckOutput
    from pine_ladder.core.checks import Ground, check, foresee
    from pine_ladder.core.notation import parse
    from pine_ladder.core.pace.testrun import test_run
    from pine_ladder.core.tiers import DEFAULT_TIERS

    ground = Ground(movements(lb))
    parsed = parse(text_of(file), ground.library)
    runs = [test_run(piece, ground.library, len(DEFAULT_TIERS)) for piece in parsed.session.pieces]
    foreseen = foresee(parsed.session, runs, ground, DEFAULT_TIERS)
    findings = sorted(
        [*parsed.findings, *check(parsed.session, ground), *foreseen],
        key=lambda finding: (finding.line, finding.column),
    )
    if as_json:
        print_json(CheckOutput(findings=tuple(findings)).model_dump(mode="json"))
    else:
        for one in findings:
            typer.echo(f"{file}:{one.line}:{one.column}: {one.severity}: {one.message}")
        if not findings:
            typer.echo("nothing to remark")
    raise typer.Exit(any(finding.severity == "error" for finding in findings))


@board.command("clock")
def board_clock(
    file: File, as_json: Json = False, partial: Partial = False, lb: Pounds = False
) -> None:
    """Exact total, work and rest of every piece; exit 1 on errors."""
    from pine_ladder.cli.outputs import ClockOutput, PieceClock
    from pine_ladder.core.clock import clock
    from pine_ladder.core.notation.printer import format_text
    from pine_ladder.core.units import clock_text

    session = session_of(file, partial, lb)
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
        print_json(summary.model_dump(mode="json"))
        return
    for one in pieces:
        total = clock_text(one.total_s) if one.total_s is not None else "open"
        typer.echo(f"{total:>7}  {one.role.value}  {one.name or ''}  {one.format}")
    typer.echo(f"{clock_text(summary.total_s):>7}  and {summary.open_pieces} open")


@board.command("read")
def board_read(
    files: Annotated[list[Path], typer.Argument(help=".board files, or - for standard input")],
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """What was understood of boards as they were typed; exit 0 where all files could be opened."""
    from pine_ladder.cli.board_reading import reading_of

    shelf = movements(lb)
    read = [reading_of(str(file), text_of(file), shelf) for file in files]
    if as_json:
        print_json([one.model_dump(mode="json") for one in read])
        return
    for one in read:
        typer.echo(one.exact, nl=False)
        for finding in one.findings:
            typer.echo(
                f"{one.file}:{finding.line}:{finding.column}: {finding.severity}: {finding.message}"
            )
            for way in finding.readings:
                typer.echo(f"  {way.label}")
        for lost in one.left_over:
            typer.echo(f"{one.file}:{lost.line}:{lost.column}: left over: {lost.text}")


@board.command("print")
def board_print(file: File, partial: Partial = False, lb: Pounds = False) -> None:
    """The board in canonical form; exit 1 on errors."""
    from pine_ladder.core.notation import print_session

    typer.echo(print_session(session_of(file, partial, lb)), nl=False)


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
    from pine_ladder.cli.outputs import TestrunOutput
    from pine_ladder.core.pace.testrun import test_run, words_of
    from pine_ladder.core.plan import Role
    from pine_ladder.core.tiers import DEFAULT_TIERS

    session, library = session_of(file, partial, lb), movements(lb)
    pieces = tuple(
        test_run(piece, library, len(DEFAULT_TIERS), athletes, seed)
        for piece in session.pieces
        if piece.role is not Role.REST
    )
    if as_json:
        print_json(TestrunOutput(pieces=pieces).model_dump(mode="json"))
        return
    for piece in pieces:
        typer.echo(piece.name or piece.role.value.capitalize())
        for tier in piece.tiers:
            typer.echo(f"  {DEFAULT_TIERS[tier.tier]:12} {words_of(tier)}")


@board.command("dose")
def board_dose(
    files: Annotated[list[Path], typer.Argument(help=".board files, or - for standard input")],
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """Print the dose of boards by region, 0 to 100, warm-up to cool-down; exit 0."""
    from pine_ladder.cli.outputs import DoseOutput
    from pine_ladder.core.dose import dose_of_session
    from pine_ladder.core.notation import parse

    library = movements(lb)
    doses = [
        DoseOutput(
            file=str(file), dose=dose_of_session(parse(text_of(file), library).session, library)
        )
        for file in files
    ]
    if as_json:
        print_json([dose.model_dump(mode="json") for dose in doses])
        return
    for one in doses:
        parts = (f"{name} {value:.0f}" for name, value in one.dose.model_dump().items())
        typer.echo(f"{one.file}: {', '.join(parts)}")


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
    from pine_ladder.core.scores.shorthand import read_score

    pieces = session_of(file, partial, lb).pieces
    if not 1 <= piece <= len(pieces):
        raise typer.BadParameter(f"the board has {len(pieces)} pieces")
    if tier < 1:
        raise typer.BadParameter("tiers count from 1")
    read = read_score(entry, pieces[piece - 1], tier - 1)
    if as_json:
        print_json(read.model_dump(mode="json"))
    else:
        typer.echo("; ".join(read.problems) or read.reading or read.display)
    raise typer.Exit(bool(read.problems))

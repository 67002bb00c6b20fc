"""`pine-ladder figure`: movements drawn, told as numbers, measured."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Annotated

import typer

if TYPE_CHECKING:
    from pine_ladder.core.movements import Movement
    from pine_ladder.core.poses.library import Figure

Name = Annotated[str | None, typer.Argument(help="a movement, by any of its names")]


def figure_command(
    name: Name = None,
    *,
    as_json: Annotated[bool, typer.Option("--json", help="the motion, or the list, as JSON")] = (
        False
    ),
    svg: Annotated[bool, typer.Option("--svg", help="the turning position as a picture")] = False,
    strip: Annotated[bool, typer.Option("--strip", help="the key poses side by side")] = False,
    check: Annotated[bool, typer.Option("--check", help="measure every key pose")] = False,
    listed: Annotated[bool, typer.Option("--list", help="every movement that has one")] = False,
    sheet: Annotated[bool, typer.Option("--sheet", help="all figures on one sheet")] = False,
    tempo: Annotated[str | None, typer.Option(help="as on the board, 40X1")] = None,
    stature: Annotated[float, typer.Option(min=1.2, max=2.2, help="in metres")] = 1.75,
) -> None:
    """Draw a movement, tell its motion, or measure it against its standards."""
    from pine_ladder.core.movements import library
    from pine_ladder.core.poses import cycle, figure_of, names
    from pine_ladder.core.poses.drawing import pose_svg, sheet_svg, strip_svg
    from pine_ladder.core.poses.library import turning

    if listed:
        typer.echo(json.dumps(list(names())) if as_json else "\n".join(names()))
    elif sheet:
        typer.echo(sheet_svg([each for each in map(figure_of, names()) if each]))
    elif check:
        _print_checks([_found(name)] if name else [_found(each) for each in names()], as_json)
    elif name is None:
        raise typer.BadParameter("say which movement, or --list, --check or --sheet")
    else:
        movement, figure = _found(name)
        if svg or strip:
            typer.echo(
                strip_svg(figure, faults=True) if strip else pose_svg(figure, turning(figure))
            )
        else:
            told = cycle(movement.name, library(), tempo, stature)
            assert told is not None
            typer.echo(told.model_dump_json(exclude_none=False))


def _found(name: str) -> tuple[Movement, Figure]:
    """A movement and its figure; says what is near where there is none, and ends with 1."""
    from pine_ladder.core.movements import library
    from pine_ladder.core.poses import figure_of

    movement = library().find(name)
    figure = figure_of(movement.name) if movement else None
    if movement is None:
        near = library().nearest(name)
        hint = f" Did you mean {near.name}?" if near else ""
        typer.echo(f"There is no movement {name!r}.{hint}", err=True)
        raise typer.Exit(1)
    if figure is None:
        typer.echo(f"There is no figure of {movement.name} yet.", err=True)
        raise typer.Exit(1)
    return movement, figure


def _print_checks(found: list[tuple[Movement, Figure]], as_json: bool) -> None:
    from pine_ladder.cli.outputs import FigureCheck
    from pine_ladder.core.poses.standards import motion_faults, standards

    checks = [
        FigureCheck(
            movement=movement.name,
            standards=tuple(standards(figure)),
            faults=tuple(motion_faults(figure, figure.moves(movement))),
        )
        for movement, figure in found
    ]
    if as_json:
        typer.echo(json.dumps([each.model_dump(mode="json") for each in checks]))
    else:
        for each in checks:
            for standard in each.standards:
                word = "holds" if standard.holds else "FAILS"
                numbers = f"({standard.value:g} {standard.unit})"
                typer.echo(f"{each.movement} · {standard.pose}: {standard.what} {word} {numbers}")
            for fault in each.faults:
                typer.echo(f"{each.movement}: {fault}")
        good = sum(each.holds for each in checks)
        measured = sum(len(each.standards) for each in checks)
        typer.echo(f"{good} of {len(checks)} figures hold; {measured} standards measured.")
    if not all(each.holds for each in checks):
        raise typer.Exit(1)

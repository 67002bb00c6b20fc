"""`pine-ladder draft`: a day, a week, a warm-up or a cycle proposed, with its reasons."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from pine_ladder.cli.reading import File, Json, Pounds, movements, print_json, session_of

if TYPE_CHECKING:
    from pine_ladder.core import plan
    from pine_ladder.core.drafting.prompt import Before, Prompt
    from pine_ladder.core.movements import Library

draft = typer.Typer(no_args_is_help=True, help="Drafts: proposed with reasons, never published.")

Boards = Annotated[
    Path | None, typer.Option("--boards", help="a folder of the gym's boards, as material")
]
Prompted = Annotated[Path, typer.Option("--prompt", help="what is asked for, in TOML")]
Seed = Annotated[int, typer.Option(help="another seed gives other drafts")]


def _boards(folder: Path | None, library: Library) -> dict[str, plan.Session]:
    """The boards of a folder by their file names."""
    from pine_ladder.core.notation import parse

    if folder is None:
        return {}
    if not folder.is_dir():
        raise typer.BadParameter(f"{folder} is no folder")
    return {
        file.name: parse(file.read_text("utf-8"), library).session
        for file in sorted(folder.iterdir())
        if file.suffix in (".board", ".txt", ".md")
    }


def _days(told: Sequence[Any], at: Path, folder: Path | None, library: Library) -> list[Before]:
    """The boards of other days, the oldest first: files, or texts, with their dates."""
    import datetime as dt

    from pine_ladder.core.drafting.prompt import Before
    from pine_ladder.core.notation import parse

    out = []
    for day in told:
        said = {"file": day} if isinstance(day, str) else dict(day)
        text = str(said.get("text") or "")
        name = str(said.get("file") or said.get("board") or said.get("path") or "")
        if name:
            places = [at.parent / name, *([folder / name] if folder else []), Path(name)]
            file = next((place for place in places if place.is_file()), None)
            if file is None:
                raise ValueError(f"{name}: there is no such board.")
            text = file.read_text("utf-8")
        session = parse(text, library).session
        date = said.get("date") or session.date
        if isinstance(date, str):
            date = dt.date.fromisoformat(date)
        out.append(Before(session=session, date=date))
    return sorted(out, key=lambda each: (each.date is not None, each.date or dt.date.min))


def _prompt(file: Path, folder: Path | None, library: Library) -> tuple[Prompt, dict[str, Any]]:
    """The prompt of a file; exits with a sentence for one that cannot be read."""
    from pine_ladder.core.drafting.prompt import prompt_of

    try:
        table = tomllib.loads(file.read_text("utf-8"))
        recent, ahead = (
            _days(table.get(name, []), file, folder, library) for name in ("recent", "ahead")
        )
        return prompt_of(table, recent, ahead), table
    except (OSError, ValueError) as error:
        typer.echo(f"{file}: {error}", err=True)
        raise typer.Exit(2) from None


@draft.command("day")
def draft_day_command(
    prompt: Prompted,
    boards: Boards = None,
    seed: Seed = 1,
    count: Annotated[int, typer.Option(help="how many drafts", min=1, max=10)] = 3,
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """Propose days that differ; exit 1, with the constraint, where none is possible."""
    from pine_ladder.core.drafting import Refused, draft_day

    library = movements(lb)
    asked, _ = _prompt(prompt, boards, library)
    try:
        made = draft_day(asked, library, _boards(boards, library), seed, count)
    except Refused as why:
        _refused(str(why), as_json)
    if as_json:
        print_json([_as_json(one.model_dump(mode="json")) for one in made])
        return
    for number, one in enumerate(made, start=1):
        typer.echo(f"— Draft {number}, {one.minutes.p50:g} min —\n{one.text}")
        for reason in one.reasons:
            typer.echo(f"  line {reason.line}: {reason.reason} ({reason.source})")


def _refused(why: str, as_json: bool) -> None:
    """Say that there is no draft and why, and exit 1."""
    if as_json:
        print_json({"none": why})
    else:
        typer.echo(f"No draft: {why}", err=True)
    raise typer.Exit(1)


def _as_json(made: dict[str, Any]) -> dict[str, Any]:
    """A draft as it is printed: a reason names the board it is `from`."""
    for reason in made["reasons"]:
        reason["from"] = reason.pop("source")
    return made


@draft.command("week")
def draft_week_command(
    prompt: Prompted,
    boards: Boards = None,
    days: Annotated[int, typer.Option(help="training days of the week", min=1, max=7)] = 5,
    seed: Seed = 1,
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """Propose the days of a week, each with those before it in mind."""
    from pine_ladder.core.drafting import Refused
    from pine_ladder.core.drafting.week import draft_week

    library = movements(lb)
    asked, _ = _prompt(prompt, boards, library)
    try:
        made = draft_week(asked, library, _boards(boards, library), days, seed)
    except Refused as why:
        _refused(str(why), as_json)
    if as_json:
        print_json([_as_json(one.model_dump(mode="json")) for one in made])
        return
    for number, one in enumerate(made, start=1):
        typer.echo(f"— Day {number}, {one.minutes.p50:g} min —\n{one.text}")


@draft.command("warmup")
def draft_warmup_command(
    file: File,
    minutes: Annotated[float, typer.Option(help="about how long it may take")] = 8.0,
    seed: Seed = 1,
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """Propose a warm-up and a cool-down for a board."""
    from pine_ladder.core.drafting.week import edges_of

    library = movements(lb)
    made = edges_of(session_of(file, True, lb), library, minutes, seed)
    if as_json:
        print_json(made.model_dump(mode="json"))
        return
    typer.echo(f"{made.warm_up}\n\n{made.cool_down}")
    typer.echo(f"  the first round takes {made.loss - 1:.1%} longer than fresh")


@draft.command("cycle")
def draft_cycle_command(
    prompt: Prompted,
    boards: Boards = None,
    weeks: Annotated[int, typer.Option(help="how many weeks", min=4, max=12)] = 6,
    days: Annotated[int, typer.Option(help="training days a week", min=1, max=7)] = 3,
    seed: Seed = 1,
    as_json: Json = False,
    lb: Pounds = False,
) -> None:
    """Propose a cycle of weeks towards the first lift, machine or board that is wanted."""
    from pine_ladder.core.drafting import Refused
    from pine_ladder.core.drafting.cycle import Cycle, draft_cycle, goal_of, school_of

    library = movements(lb)
    asked, table = _prompt(prompt, boards, library)
    own = _boards(boards, library)
    school = school_of(str(table.get("school", asked.style.cycle)))
    try:
        goal = goal_of(asked.want, library, own, asked.bests)
        cycle = Cycle(goal=goal, weeks=weeks, days=days, school=school)
        made = list(draft_cycle(asked, library, own, cycle, seed))
    except Refused as why:
        _refused(str(why), as_json)
    if as_json:
        print_json([_as_json(one.model_dump(mode="json")) for one in made])
        return
    for one in made:
        typer.echo(f"— Week {one.week}, day {one.day}: {one.stress} —\n{one.text}")

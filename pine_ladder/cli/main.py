"""`pine-ladder`: boards and scores at the command line, and running the application.

Each command imports what it does when it runs, so that the line itself starts at once.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import Annotated

import typer

from pine_ladder.cli.boards import board, score
from pine_ladder.cli.drafts import draft
from pine_ladder.cli.figures import figure_command
from pine_ladder.cli.gym import (
    backup_command,
    export_command,
    gym,
    import_command,
    restore_command,
    take_command,
)
from pine_ladder.cli.reading import print_json

app = typer.Typer(no_args_is_help=True, add_completion=False, help=__doc__)
app.add_typer(board, name="board")
app.add_typer(score, name="score")
app.add_typer(gym, name="gym")
app.add_typer(draft, name="draft")
app.command("figure")(figure_command)
app.command("backup")(backup_command)
app.command("restore")(restore_command)
app.command("export")(export_command)
app.command("import")(import_command)
app.command("take")(take_command)


@app.command()
def schema(name: str) -> None:
    """Print the JSON Schema of a plan, or of check, clock, testrun, score or figure output."""
    from pine_ladder.cli.outputs import SCHEMAS, schema_of

    if name == "records":
        from pine_ladder.store.records import schema as of_records

        print_json(of_records())
        return

    if name not in SCHEMAS:
        raise typer.BadParameter(f"{name}: one of {', '.join(SCHEMAS)}")
    print_json(schema_of(name))


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

    print_json(create_app(create_engine("postgresql+psycopg://")).openapi())

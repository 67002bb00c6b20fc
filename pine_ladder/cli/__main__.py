"""`python -m pine_ladder.cli`."""

from pine_ladder.cli.main import app

app()

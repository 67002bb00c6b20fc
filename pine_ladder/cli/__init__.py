"""The command line: `pine-ladder`."""

from pine_ladder.cli.main import app

__all__ = ["app"]

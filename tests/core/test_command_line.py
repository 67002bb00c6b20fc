"""The command line starts without what the command at hand does not need."""

import subprocess
import sys

import pytest

HEAVY = ("numpy", "scipy", "numba", "sqlalchemy", "fastapi", "reportlab", "pine_ladder.core.pace")
TELL = """
import sys
from pine_ladder.cli import app
try:
    app(sys.argv[1:])
except SystemExit as end:
    print(*sorted(sys.modules), file=sys.stderr)
    sys.exit(end.code)
"""


@pytest.mark.parametrize(
    "command",
    [
        ("board", "print", "day.board"),
        ("board", "clock", "day.board", "--help"),
        ("score", "parse", "5+3", "--board", "day.board", "--piece", "1"),
        ("gym", "--help"),
    ],
)
def test_what_predicts_is_imported_by_what_predicts(command, tmp_path):
    (tmp_path / "day.board").write_text("## Conditioning: AMRAP 12:00\n10 burpee\n")
    ran = subprocess.run(
        [sys.executable, "-c", TELL, *command],
        cwd=tmp_path, capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert ran.returncode == 0, ran.stderr
    loaded = ran.stderr.split()
    assert "pine_ladder.cli.boards" in loaded
    assert [one for one in HEAVY if one in loaded] == []

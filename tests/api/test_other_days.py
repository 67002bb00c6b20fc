"""The files that know the date pass on other days: a few of them, at moments that are hard."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

HERE = Path(__file__).parent
FILES = ("test_calendar.py",)
MOMENTS = (
    "2025-12-31T23:55",  # a Wednesday, the last of a month and a year, five minutes before midnight
    "2026-10-25T00:30",  # a Sunday, the day the clocks change in Europe
    "2028-02-29T06:00",  # a leap day, ahead
)


@pytest.mark.parametrize("moment", MOMENTS)
def test_the_files_that_know_the_date_pass_at(moment):
    words = [sys.executable, "-m", "pytest", "-q", "-n", "0", "-p", "no:cacheprovider"]
    done = subprocess.run(
        [*words, *(str(HERE / name) for name in FILES)],
        env={**os.environ, "PINE_LADDER_TODAY": moment},
        cwd=HERE.parents[1],
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
    )
    assert done.returncode == 0, done.stdout[-3000:]

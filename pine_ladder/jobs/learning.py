"""Learning from scores: a fit by a process of its own, when it is due."""

from __future__ import annotations

import datetime as dt
import os
import subprocess
import sys

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from pine_ladder.jobs import Loop
from pine_ladder.store.database import DATABASE_URL
from pine_ladder.store.gym.calendar import stamped_now
from pine_ladder.usecases import learning

PAUSE = dt.timedelta(minutes=5)
"""The fit is not run more often than this while scores come in."""


LOOKS_S = 30.0
"""Seconds between looks whether a fit is due."""


def learn_if_due(engine: Engine) -> bool:
    """Fit anew where scores came in since the last fit and that one is long enough ago; whether.

    A fit takes seconds of one core, so it is done by a process of its own: clocks and displays are
    not kept waiting for it. What it learnt is in the database when this returns.
    CalledProcessError where the fit fails.
    """
    with Session(engine) as db:
        newest = learning.newest(db)
        recent = newest is not None and stamped_now(db) - newest.learned_at < PAUSE
        due = learning.is_stale(db) and not recent
    if due:
        url = engine.url.render_as_string(hide_password=False)
        subprocess.run(
            # It gives way to clocks and displays.
            ["nice", "-n", "5", sys.executable, "-m", "pine_ladder.cli", "gym", "learn"],
            env={**os.environ, DATABASE_URL: url},
            stdout=subprocess.DEVNULL,
            check=True,
        )
    return due


def learning_loop(engine: Engine) -> Loop:
    """The loop that learns from scores: at once after one is saved (`after_a_score`), and again
    when the pause after a fit is over, so that the last scores of a class are learnt the same hour.
    """
    return Loop("learning", lambda: learn_if_due(engine), LOOKS_S)

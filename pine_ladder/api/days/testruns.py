"""Test-runs: what a board is predicted to do, tier by tier, and what would put it right."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from pine_ladder.api.access import Database, Shelf, router
from pine_ladder.api.days.days import ground_of
from pine_ladder.api.forms import Form, GymDate, Key
from pine_ladder.core import plan
from pine_ladder.core.checks import foresee
from pine_ladder.core.notation.printer import target_text
from pine_ladder.core.notation.tokens import MAX_TEXT
from pine_ladder.core.pace.day import losses, words_of_loss
from pine_ladder.core.pace.testrun import TierRun, aim_of, test_run, words_of
from pine_ladder.core.plan import Finding, Role
from pine_ladder.store.days import days
from pine_ladder.store.days.pieces import keys_while_writing, read_board
from pine_ladder.store.gym.loaded import gym_of
from pine_ladder.usecases.coming_again import coming_again

coaches = router("coach", "testruns")


class TestrunForm(Form):
    """Board text as it stands in the editor; its date tells what the gym has done before."""

    text: str = Field(max_length=MAX_TEXT)
    date: GymDate | None = None


class TierPrediction(BaseModel):
    """A tier's prediction: its numbers, and in words."""

    name: str
    words: str
    aim: Literal["", "on target", "under", "over"]
    run: TierRun


class PiecePrediction(BaseModel):
    """A piece's predictions beside the coach's target, if it has one."""

    key: Key
    target: plan.Target | None
    target_words: str
    after: str
    """Its loss to the pieces before it, in a sentence; empty where that is hardly felt."""
    tiers: list[TierPrediction]


class Testrun(BaseModel):
    """A whole board test-run, and what the test-run noticed."""

    pieces: list[PiecePrediction]
    findings: list[Finding]


@coaches.post("/testrun")
def testrun(form: TestrunForm, db: Database, shelf: Shelf) -> Testrun:
    """Predict what each tier of the gym will do with a board."""
    session = read_board(form.text, shelf).session
    day = days.find_day(db, form.date) if form.date else None
    keys = keys_while_writing(db, day, session)
    names = gym_of(db).tiers
    known = days.known_movements(db, shelf, form.date or gym_of(db).today)
    runs = [
        test_run(piece, shelf, len(names)) if piece.role is not Role.REST and piece.lines else None
        for piece in session.pieces
    ]
    pieces = []
    tired = map(words_of_loss, losses(session, shelf), session.pieces)
    for piece, key, run, after in zip(session.pieces, keys, runs, tired, strict=True):
        if run is not None:
            tiers = [
                TierPrediction(
                    name=names[one.tier],
                    words=words_of(one),
                    aim=aim_of(piece.target, one),
                    run=one,
                )
                for one in run.tiers
            ]
            words = target_text(piece.target) if piece.target else ""
            pieces.append(
                PiecePrediction(
                    key=key, target=piece.target, target_words=words, after=after, tiers=tiers
                )
            )
    found = foresee(session, runs, ground_of(db, shelf, known), names)
    again = coming_again(db, session, form.date) if form.date else []
    return Testrun(pieces=pieces, findings=[*found, *again])

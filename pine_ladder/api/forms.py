"""What callers may send: numbers that fit their column, dates that calendars can hold."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import Response
from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field

FIRST, LAST = dt.date(2000, 1, 1), dt.date(2199, 12, 31)


class Form(BaseModel):
    """A body that is sent: finite numbers, no fields that nobody asked for."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


def _within(date: dt.date) -> dt.date:
    if not FIRST <= date <= LAST:
        raise ValueError(f"a day lies between {FIRST.year} and {LAST.year}")
    return date


def _moment_within(moment: dt.datetime) -> dt.datetime:
    if not FIRST <= moment.date() <= LAST:
        raise ValueError(f"a moment lies between {FIRST.year} and {LAST.year}")
    return moment


def _local(start: dt.time) -> dt.time:
    if start.tzinfo is not None:
        raise ValueError("a class begins at a time of the gym's own clock, without a zone")
    return start.replace(microsecond=0)


Id = Annotated[int, Field(ge=0, le=2**31 - 1)]
StepId = Annotated[int, Field(ge=0, le=2**63 - 1)]
Version = Annotated[int, Field(ge=0, le=2**31 - 2)]
Place = Annotated[int, Field(ge=0, le=50)]
"""The position of a tier or a track."""
Key = Annotated[str, Field(max_length=20)]
"""The identity of a piece, as text."""
RequestKey = Annotated[str, Field(min_length=8, max_length=80)]
GymDate = Annotated[dt.date, AfterValidator(_within)]
Moment = Annotated[AwareDatetime, AfterValidator(_moment_within)]
Start = Annotated[dt.time, AfterValidator(_local)]


def as_json(answer: BaseModel) -> Response:
    """A long answer as it is, without being checked and copied a second time."""
    return Response(answer.model_dump_json(), media_type="application/json")

"""No input gives a server error: hostile values by hand, and every operation by its description."""

from __future__ import annotations

import datetime as dt
import json
from typing import Annotated, Literal

import pytest
import schemathesis
from examples import examples
from fastapi.testclient import TestClient
from hostile import BOARDS, DATES, NUMBERS, WORDS
from hypothesis import given, settings
from pydantic import AwareDatetime, Field, TypeAdapter, ValidationError
from schemathesis.core import NotSet
from shared import TODAY, published

from pine_ladder.api.access import GUARD_HEADER
from pine_ladder.api.app import create_app
from pine_ladder.api.messages import OTHERWISE, sentence
from pine_ladder.api.request_limits import MAX_BODY

DATE = TODAY.isoformat()
DAY = f"/api/days/{DATE}"
BOARD = '# Neap\n\n## Conditioning "Neap": AMRAP 12:00\n10 push-up\n20 sit-up\n'
ENDLESS = {"live", "wall_live"}
LEAVES = {"sign_out", "password", "sign_in", "demo_sign_in"}
"""Operations that end the sign-in they are tried with, or wait on purpose."""


def raw(client: TestClient, method: str, path: str, body: bytes):
    headers = {"content-type": "application/json"}
    return client.request(method, path, content=body, headers=headers)


@pytest.mark.parametrize(
    "body",
    [
        b'{"text": "a\\u0000b", "version": 0}',
        b'{"text": "\\ud800", "version": 0}',
        b'{"text": "x", "version": NaN}',
        b'{"text": "x", "version": 1e999}',
        b'{"text": "x", "version": ' + b"9" * 5000 + b"}",
        b"[" * 100_000,
        b'{"a":' * 30_000,
        b"\xff\xfe",
        b'{"text": "x"',
        b"null",
        b'{"text": "x", "version": 0, "more": 1}',
    ],
    ids=lambda body: body[:24].decode("latin-1"),
)
def test_a_body_that_cannot_be_kept_is_refused_with_a_sentence(browser_of, body):
    answer = raw(browser_of("Carla"), "PUT", DAY, body)
    assert answer.status_code == 422, answer.text
    assert len(answer.json()["detail"]) > 10


@pytest.mark.parametrize(
    ("number", "said"),
    [
        (25_000, "number is 20000 at the most"),
        (-1, "number is 0 at the least"),
        ("many", "number is no number"),
        ([3], "number is no number"),
    ],
)
def test_a_field_that_is_refused_is_named_with_what_it_takes(browser_of, gym, number, said):
    client = browser_of("Carla")
    published(client, BOARD)
    jot = {
        "key": "k" * 20,
        "person_id": gym["Anna"],
        "round": 1,
        "noted_at": "2026-06-04T10:00:00Z",
    }
    answer = client.post(f"{DAY}/pieces/1/jots", json={"jots": [{**jot, "number": number}]})
    assert (answer.status_code, answer.json()["detail"]) == (422, said)


@pytest.mark.parametrize(
    ("kind", "given_", "said"),
    [
        (Annotated[int, Field(le=3)], 5, "is 3 at the most"),
        (Annotated[int, Field(ge=3)], 1, "is 3 at the least"),
        (Annotated[float, Field(gt=0)], 0, "is more than 0"),
        (Annotated[str, Field(max_length=2)], "abc", "is 2 letters long at the most"),
        (Annotated[str, Field(min_length=2)], "a", "has 2 letters or more"),
        (Annotated[list[int], Field(max_length=1)], [1, 2], "holds 1 at the most"),
        (Literal["a", "b"], "c", "is one of 'a' or 'b'"),
        (dt.date, "soon", "is no date, as 2026-06-04"),
        (dt.time, "late", "is no time of day, as 18:30"),
        (AwareDatetime, "2026-06-04T10:00:00", "is no moment without its zone"),
        (bool, "maybe", "is neither yes nor no"),
        (int, "x", "is no whole number"),
        (int, 1.5, "is no whole number"),
        (str, 3, "is not written as words"),
        (bytes, 3, OTHERWISE),
    ],
)
def test_each_rule_that_is_broken_is_told_in_words(kind, given_, said):
    with pytest.raises(ValidationError) as refused:
        TypeAdapter(kind).validate_python(given_)
    (error,) = refused.value.errors()
    assert sentence({**error, "loc": ("body", 0, "some_field")}) == f"some field {said}"


def test_a_body_beyond_all_bounds_is_not_read_to_its_end(browser_of):
    answer = raw(browser_of("Carla"), "PUT", DAY, b" " * (MAX_BODY + 1))
    assert answer.status_code == 413


@pytest.mark.parametrize("date", DATES)
def test_a_day_no_calendar_holds_is_refused(browser_of, date):
    client = browser_of("Carla")
    for path in (f"/api/days/{date}", f"/api/week/{date}", f"/api/days/{date}/floor"):
        assert client.get(path).status_code == 422, path


@pytest.mark.parametrize("number", NUMBERS)
def test_a_number_beyond_its_column_is_refused(browser_of, gym, number):
    client = browser_of("Carla")
    published(client, BOARD)
    score = {"entered": "5", "tier": 0, "track": 0, "version": number}
    asked = [
        client.put(f"{DAY}/pieces/1/scores/{gym['Anna']}", content=json.dumps(score)),
        client.get(f"{DAY}/pieces/1/standings", params={"class_id": int(number)}),
        client.get(f"/api/athletes/{int(number)}/profile"),
        client.get(f"/api/classes/{int(number)}/clock"),
        client.get(f"{DAY}/pieces/{int(number)}/standings"),
    ]
    assert {answer.status_code for answer in asked} <= {404, 422}


@pytest.mark.parametrize("word", WORDS)
def test_a_kit_of_any_name_breaks_no_screen(browser_of, word):
    client = browser_of("Carla")
    published(client, BOARD)
    found = client.get("/api/settings").json()
    kept = {"settings": {**found["settings"], "kit": {word: 3}}, "version": found["version"]}
    assert client.put("/api/settings", json=kept).status_code in (200, 422)
    for path in ("/api/words", "/api/gym", f"{DAY}/pieces/1/scaling", "/api/settings"):
        assert client.get(path).status_code == 200, path
    assert client.post("/api/testrun", json={"text": BOARD}).status_code == 200


@pytest.mark.parametrize("kind", [k for k in BOARDS if "NUL" not in k and len(BOARDS[k]) < 20_000])
def test_one_hostile_board_breaks_no_other_day(browser_of, kind):
    client, anna = browser_of("Carla"), browser_of("Anna")
    published(client, BOARDS[kind])
    days = (DAY, f"{DAY}/sheet", f"{DAY}/page", f"{DAY}/floor", f"{DAY}/pieces")
    for path in (f"/api/week/{DATE}", *days):
        assert client.get(path).status_code == 200, path
    for path in (f"/api/me/days/{DATE}", "/api/me/history", "/api/bests"):
        assert anna.get(path).status_code == 200, path
    assert client.post("/api/preview", json={"text": BOARDS[kind], "date": DATE}).status_code == 200


@pytest.mark.parametrize("role", ["Carla", "Anna", None])
def test_no_operation_answers_any_input_with_a_server_error(browser_of, stranger, engine, role):
    client = browser_of(role) if role else stranger
    published(browser_of("Carla"), BOARD)
    app = create_app(engine, learns=False)
    schema = schemathesis.openapi.from_dict(app.openapi())
    headers = {GUARD_HEADER: client.headers.get(GUARD_HEADER, "")}
    tried = 0
    for found in schema.get_all_operations():
        operation = found.ok()
        if operation.definition.raw["operationId"] in ENDLESS | LEAVES:
            continue
        tried += 1

        @settings(max_examples=examples(10), deadline=None, database=None)
        @given(case=operation.as_strategy())
        def no_server_error(case):
            body = None
            if not isinstance(case.body, NotSet):
                body = json.dumps(case.body, default=str).encode("utf-8", "surrogatepass")
            answer = client.request(
                case.method,
                case.formatted_path,
                params=case.query or None,
                content=body,
                headers={**headers, "content-type": "application/json"},
            )
            assert answer.status_code < 500, (case.method, case.formatted_path, case.body)

        no_server_error()
    assert tried > 70

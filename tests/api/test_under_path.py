"""Under a path of its host: whose word counts for it, and what is no path."""

from __future__ import annotations

import pytest

PATH = "x-forwarded-prefix"


def base(client, prefix: str) -> str:
    page = client.get("/week", headers={PATH: prefix}).text
    return page.split('<base href="', 1)[1].split('"', 1)[0]


@pytest.fixture
def trusting(monkeypatch):
    monkeypatch.setenv("PINE_LADDER_PROXIES", "127.0.0.1")


def test_nobody_s_word_counts_where_no_proxy_is_named(stranger, monkeypatch):
    monkeypatch.delenv("PINE_LADDER_PROXIES", raising=False)
    assert base(stranger, "/ladder") == "/"


@pytest.mark.parametrize(
    ("prefix", "under"),
    [("/ladder", "/ladder/"), ("/ladder/", "/ladder/"), ("/a/b-c", "/a/b-c/"), ("", "/")],
)
def test_a_proxy_says_the_path(stranger, trusting, prefix, under):
    assert base(stranger, prefix) == under


@pytest.mark.parametrize(
    "prefix", ["ladder", "//elsewhere.example", '/"><script>', "/a b", "/a%20b"]
)
def test_what_is_no_path_of_plain_letters_is_not_believed(stranger, trusting, prefix):
    assert base(stranger, prefix) == "/"


def test_the_path_may_be_left_on_what_is_asked_for(stranger, trusting):
    there = stranger.get("/ladder/api/front-door", headers={PATH: "/ladder"})
    assert there.json() == stranger.get("/api/front-door").json()

"""Ports of a gym's own program: a taken one is a sentence, a database keeps its own."""

from __future__ import annotations

import socket
import sys

import pytest
from cluster import ROOT, Cluster, free_port, gym_home, home

sys.path.insert(0, str(ROOT / "tools"))
from gym import listening


@pytest.fixture
def taken():
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        yield other.getsockname()[1]


def test_a_taken_port_is_told_with_what_to_set(taken):
    with pytest.raises(SystemExit) as ended:
        listening("127.0.0.1", str(taken))
    said = str(ended.value)
    assert f"port {taken}" in said
    assert "PINE_LADDER_PORT=" in said


@pytest.mark.parametrize("port", ["http", "0", "70000", ""])
def test_what_is_no_port_is_told(port):
    with pytest.raises(SystemExit, match="PINE_LADDER_PORT is a number"):
        listening("127.0.0.1", port)


def test_a_free_port_is_taken_as_it_is():
    port = free_port()
    assert listening("127.0.0.1", str(port)) == port


def test_a_database_keeps_its_port_unless_another_program_has_it(tmp_path, taken):
    server = Cluster(tmp_path)
    assert server.remembered_port() is None
    port = free_port()
    server.port_file.write_text(str(port))
    assert server.remembered_port() == port
    server.port_file.write_text(str(taken))
    assert server.remembered_port() is None


def test_a_command_that_failed_says_what_its_logs_said(tmp_path):
    server = Cluster(tmp_path)
    (tmp_path / "command.log").write_text("one\n" * 40 + "no space left\n")
    server.log.write_text("could not bind\n")
    said = server._why("pg_ctl")
    assert said.startswith("pg_ctl failed.")
    assert "no space left" in said
    assert f"The last lines of {server.log}:\n  could not bind" in said
    assert said.count("one") < 20


def test_a_gyms_data_lie_outside_the_checkout(monkeypatch, tmp_path):
    monkeypatch.delenv("PINE_LADDER_DATA", raising=False)
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    if not (home() / "gym" / "created").exists():
        assert not gym_home().is_relative_to(ROOT)
    monkeypatch.setenv("PINE_LADDER_DATA", str(tmp_path / "hall"))
    assert gym_home() == tmp_path / "hall"

"""The container files: each step's sources exist, and what they run is there."""

from __future__ import annotations

import os
import re
import shutil
import subprocess

import pytest
import yaml
from cluster import ROOT

FOLDER = ROOT / "container"
STEPS = re.sub(r"\\\n", " ", (FOLDER / "Containerfile").read_text("utf-8")).splitlines()
COMPOSE = yaml.safe_load((FOLDER / "compose.yaml").read_text("utf-8"))


def words(step: str) -> list[list[str]]:
    return [line.split()[1:] for line in STEPS if line.startswith(f"{step} ")]


def test_everything_that_is_copied_is_in_the_checkout():
    copied = [one for one in words("COPY") if not one[0].startswith("--from")]
    sources = [source for one in copied for source in one[:-1]]
    assert sources
    kept = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True)
    files = kept.stdout.splitlines() or [str(path.relative_to(ROOT)) for path in ROOT.rglob("*")]
    missing = [one for one in sources if not any(file.startswith(one) for file in files)]
    assert not missing


def test_the_front_end_is_built_where_the_second_stage_takes_it_from():
    (taken,) = [one for one in words("COPY") if one[0] == "--from=front"]
    assert taken[1:] == ["/app/web/dist/", "web/dist/"]
    assert any("vite build" in line for line in STEPS)


def test_what_the_container_starts_is_a_script_without_a_slip():
    (command,) = [line for line in STEPS if line.startswith("CMD")]
    script = re.findall(r'"([^"]+)"', command)[-1]
    assert (ROOT / script).is_file()
    subprocess.run(["sh", "-n", str(ROOT / script)], check=True)


def test_each_setting_of_the_compose_file_is_one_of_the_program():
    known = subprocess.run(
        ["grep", "-rhoE", "PINE_LADDER_[A-Z_]+", "pine_ladder", "tools"],
        cwd=ROOT, capture_output=True, text=True, check=True,
    ).stdout.split()  # fmt: skip
    said = COMPOSE["services"]["ladder"]["environment"]
    assert set(said) <= set(known)
    assert COMPOSE["services"]["ladder"]["build"]["dockerfile"] == "container/Containerfile"


@pytest.mark.skipif(shutil.which("sh") is None, reason="no shell")
def test_the_start_says_what_to_do_where_no_database_answers(tmp_path):
    """The script of the container, with a program that stands in for one that finds no database."""
    (tmp_path / "container").mkdir()
    shutil.copy(FOLDER / "start.sh", tmp_path / "container")
    program = tmp_path / ".venv" / "bin" / "pine-ladder"
    program.parent.mkdir(parents=True)
    program.write_text("#!/bin/sh\nexit 1\n")
    program.chmod(0o755)
    quick = tmp_path / "quick"
    quick.mkdir()
    (quick / "sleep").write_text("#!/bin/sh\n")
    (quick / "sleep").chmod(0o755)
    done = subprocess.run(
        ["sh", "container/start.sh"], cwd=tmp_path, check=False, capture_output=True, text=True,
        env={"PATH": f"{quick}:{os.environ['PATH']}"},
    )  # fmt: skip
    assert done.returncode == 1
    assert "PINE_LADDER_DATABASE_URL" in done.stderr

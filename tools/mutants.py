"""Faults planted in the core, a bounded number a module, and the share the tests catch.

`python tools/mutants.py [--most N] [module …]`, a module as `day/pieces`; without one, a few that
decide most. cosmic-ray makes the mutants; each is held against the tests named here for its
module, or all of the core's.
"""

from __future__ import annotations

import argparse
import ast
import difflib
import random
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from cosmic_ray.mutating import mutate_code  # type: ignore[import-untyped]
from cosmic_ray.plugins import get_operator, operator_names  # type: ignore[import-untyped]

ROOT = Path(__file__).resolve().parent.parent
CORE = ROOT / "pine_ladder" / "core"
MOST = 30
SEED = 7
#: A fault that makes the tests so many times slower than they are counts as caught.
SLOWER = 5
TESTS = {
    "clock": ("test_clock", "test_reference"),
    "day/piece_matching": ("test_piece_matching",),
    "day/calendar": ("test_calendar",),
    "floor/round_times": ("test_round_times", "test_vectors"),
    "scores/standings": ("test_standings", "test_reference"),
    "scores/pacing": ("test_pacing",),
    "athletes/plausibility": ("test_plausibility", "test_tiers"),
    "notation/bounds": ("test_hostile", "test_notation"),
    "scores/kinds": ("test_scores", "test_round_times", "test_qualifiers", "test_tiers"),
    "scores/history": ("test_progress", "../published/test_progress"),
    "athletes/loads": ("test_scaling", "test_tiers", "../published/test_strength"),
    "day/hour_ruler": ("test_day", "test_clock"),
    "floor/remote": ("test_remote",),
    "floor/heats": ("test_heats",),
    "week/progression": ("test_progression",),
    "week/balance": ("test_week",),
    "week/earlier": ("test_week", "test_form"),
    "notation/form": ("test_form",),
    "units": ("test_notation", "test_plain", "test_scores"),
}


def _bare(source: str) -> str | None:
    """What of a module runs: the types of its functions change nothing when they are read late.

    None for what is no Python: a fault that no interpreter would load is none.
    """
    try:
        tree = ast.parse(source)
    except SyntaxError:
        return None
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef):
            node.returns = None
        elif isinstance(node, ast.arg):
            node.annotation = None
        elif isinstance(node, ast.AnnAssign):
            node.annotation = ast.Constant(None)
    return ast.dump(tree)


def mutants(source: str) -> list[tuple[str, str]]:
    """All faults that can be planted in a module: what was done, and the text with it."""
    found = []
    runs = _bare(source)
    for name in operator_names():
        made = get_operator(name)
        if made.arguments():
            continue  # Operators that want a pattern of their own.
        operator, number = made(), 0
        while (changed := mutate_code(source, operator, number)) is not None:
            if _bare(changed) not in (runs, None):
                found.append((f"{name} {number}", changed))
            number += 1
    return found


def tests_pass(folder: Path, module: str, limit_s: float | None = None) -> bool:
    """Whether the tests of a module pass on the copy in a folder, within a time if one is given."""
    names = TESTS.get(module)
    chosen = [f"tests/core/{name}.py" for name in names] if names else ["tests/core"]
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-n0", "-p", "no:cacheprovider"]
    try:
        done = subprocess.run(
            [*command, *chosen],
            cwd=folder,
            env={"PINE_LADDER_EXAMPLES": "25", "PYTHONPATH": str(folder), "PATH": "/usr/bin:/bin"},
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            timeout=limit_s,
            check=False,
        )
    except subprocess.TimeoutExpired:
        return False
    return done.returncode == 0


def _changed(before: str, after: str) -> list[str]:
    lines = difflib.unified_diff(before.splitlines(), after.splitlines(), lineterm="", n=0)
    return [f"    {line}" for line in lines if not line.startswith(("---", "+++"))]


def try_module(module: str, most: int) -> tuple[int, int]:
    """How many of at most so many planted faults are caught, and of how many."""
    file = CORE / f"{module}.py"
    source = file.read_text("utf-8")
    every = mutants(source)
    chosen = random.Random(SEED).sample(every, min(most, len(every)))
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        for name in ("pine_ladder", "tests", "tools", "docs"):
            shutil.copytree(ROOT / name, folder / name)
        shutil.copy(ROOT / "pyproject.toml", folder)
        (folder / "web" / "src").mkdir(parents=True)
        for name in ("clock", "offline"):
            (folder / "web" / "src" / name).mkdir()
            vectors = Path("web/src") / name / "vectors.json"
            shutil.copy(ROOT / vectors, folder / vectors)
        target = folder / file.relative_to(ROOT)
        start = time.monotonic()
        if not tests_pass(folder, module):
            raise SystemExit(f"{module}: its tests fail without a fault planted")
        limit_s = SLOWER * (time.monotonic() - start)
        killed = 0
        for what, text in chosen:
            target.write_text(text, "utf-8")
            if not tests_pass(folder, module, limit_s):
                killed += 1
            else:
                print(
                    f"  survived in {module}: {what}", *_changed(source, text), sep="\n", flush=True
                )
    return killed, len(chosen)


def main() -> None:
    """Each module's share, and the whole."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("modules", nargs="*")
    parser.add_argument("--most", type=int, default=MOST)
    arguments = parser.parse_args()
    killed = tried = 0
    for module in arguments.modules or list(TESTS):
        own, of = try_module(module, arguments.most)
        print(f"{module}: {own} of {of} caught ({own / max(of, 1):.0%})", flush=True)
        killed, tried = killed + own, tried + of
    print(f"in all: {killed} of {tried} caught ({killed / max(tried, 1):.0%})")


if __name__ == "__main__":
    main()

"""Speed, side by side in one run: `make bench`. Ratios mean more than milliseconds."""

from __future__ import annotations

import re
import statistics
import time
from collections.abc import Callable
from itertools import count

import bundle
import floor
import imports
import keying
import slow
from cluster import ROOT
from rerun import rerun
from served import Site, served, throw_away

from pine_ladder.core.checks import Ground, check, foresee
from pine_ladder.core.day.athlete_view import view
from pine_ladder.core.day.hour_ruler import outline
from pine_ladder.core.movements import library
from pine_ladder.core.notation import parse
from pine_ladder.core.notation.heading import HEADING
from pine_ladder.core.notation.parser import forget_readings
from pine_ladder.core.notation.task import TASK
from pine_ladder.core.pace.rep_times import sample
from pine_ladder.core.pace.runs import run
from pine_ladder.core.pace.testrun import clear_test_runs, test_run
from pine_ladder.core.poses import Figure, figure_of
from pine_ladder.core.poses.key_poses import solve
from pine_ladder.core.tiers import DEFAULT_TIERS


def times(work: Callable[[], object], repeats: int = 60) -> list[float]:
    """Milliseconds of each of some runs, after a few to warm up."""
    for _ in range(5):
        work()
    out = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        out.append(1000 * (time.perf_counter() - start))
    return out


def row(name: str, measured: list[float], against: list[float] | None = None) -> None:
    """A line of the report: p50, p95, and the ratio of medians."""
    cuts = statistics.quantiles(measured, n=20)
    ratio = f"{statistics.median(measured) / statistics.median(against):6.2f} ×" if against else ""
    print(f"{name:58} {statistics.median(measured):8.2f} {cuts[-1]:8.2f} ms  {ratio}")


def forty_lines() -> str:
    """A board of about forty lines."""
    boards = sorted((ROOT / "pine_ladder" / "demo" / "boards").glob("*.board"))
    return "\n".join(board.read_text() for board in boards[:2]).replace("# Groyne Hop", "")


def bare_lark(text: str) -> None:
    """Lark alone on the same lines: the floor of any parse."""
    for line in text.splitlines():
        if line.startswith("##") and ":" in line:
            HEADING.parse(line.split(":", 1)[1])
        elif line and not re.match(r"[#>]|--|\w+:", line):
            TASK.parse(line)


def cold_parse(text: str) -> None:
    """A parse with nothing remembered from earlier typing."""
    forget_readings()
    parse(text)


def in_process(text: str) -> None:
    """What a preview computes."""
    parsed = parse(text)
    check(parsed.session)
    outline(parsed.session, library())
    view(parsed.session, library())


def over_http(text: str, site: Site) -> list[float]:
    """The same over HTTP, signed in, on a real server and database."""
    return times(lambda: site.send("POST", "/api/preview", {"text": text}).read())


def cold_session(text: str, count: int) -> None:
    """A whole session test-run for every tier, nothing remembered."""
    clear_test_runs()
    for piece in parse(text).session.pieces:
        test_run(piece, library(), 3, count)


def typed_session(text: str, at: list[int]) -> None:
    """A test-run while one line is typed: all other pieces are remembered."""
    at[0] += 1
    changed = text.replace("10 push press", f"{10 + at[0] % 80} push press")
    for piece in parse(changed).session.pieces:
        test_run(piece, library(), 3, 200)


FOUR_STATIONS = """## Conditioning: EMOM 20:00
1. {0} burpee
2. {0} dumbbell snatch @ 22.5/15 kg
3. {0} thruster @ 50/35 kg
4. {0} pull-up
"""


def repaired() -> list[float]:
    """What a coach waits for after a number of four stations was typed: reading, test-run, and what
    is offered where they are too full; nothing of it remembered.
    """

    typed = count(10)

    def answer() -> None:
        clear_test_runs()
        session = parse(FOUR_STATIONS.format(next(typed))).session
        runs = [test_run(piece, library(), 3) for piece in session.pieces]
        foresee(session, runs, Ground(library()), DEFAULT_TIERS)

    return times(answer, 30)


RACES = (
    ("an AMRAP of 12:00", "AMRAP 12:00\n10 burpee\n15 sit-up"),
    ("five rounds for time", "5 rounds for time\n30 air squat\n20 sit-up\n10 burpee"),
)


def against_simpy(board: str) -> tuple[list[float], list[float]]:
    """A piece for 200 athletes: stepped together, and one by one as SimPy processes."""
    (piece,) = parse(f"## Conditioning: {board}").session.pieces
    everybody = sample(200, 0)
    together = times(lambda: run(piece, everybody, library()), 20)
    singly = [everybody.only([n]) for n in range(200)]

    def one_by_one() -> None:
        for one in singly:
            rerun(piece, one, library())

    return together, times(one_by_one, 3)


def posed(figure: Figure) -> None:
    """Every key pose of a figure, from what is told to its joints."""
    for each in figure.pose.values():
        solve(figure.view, each, figure.load)


def main() -> None:
    """Print the report."""
    text = forty_lines()
    print(f"{'':58} {'p50':>8} {'p95':>8}")
    lark = times(lambda: bare_lark(text))
    row("Lark alone, each line of a 40-line board", lark)
    row("parse of that board, nothing remembered", times(lambda: cold_parse(text)), lark)
    row("parse of that board, as while typing", times(lambda: parse(text)), lark)
    here = times(lambda: in_process(text))
    row("preview in process (parse, check, clock, view)", here)
    with served() as site:
        row("preview over HTTP", over_http(text, site), here)
        print()
        slow.report(site)
        each, last = floor.fan_out(site)
        row(f"score sent until a display knows it, {floor.DISPLAYS} listening", each)
        row("the same until the last of them knows it", last)
        for scores in (10_000, 100_000, 1_000_000):
            told, bare = floor.standings(site, scores)
            row(f"bare SQL ranking of a piece of 200, {scores:,} stored", bare)
            row("its standings over HTTP", told, bare)
    with served() as site:
        keying.report(site)
    with throw_away() as url:
        imports.report(url)
    print()
    figure, squat = figure_of("front squat"), library().find("front squat")
    assert figure is not None and squat is not None
    row("key poses of a front squat, solved", times(lambda: posed(figure)))
    row("all of its motion", times(lambda: figure.moves(squat)))
    row(
        "test-run of the session, 200 athletes a tier, cold",
        times(lambda: cold_session(text, 200), 20),
    )
    at = [0]
    row("test-run while one line is typed", times(lambda: typed_session(text, at), 40))
    row("four overfull stations read, test-run and repaired, cold", repaired())
    for name, board in RACES:
        together, singly = against_simpy(board)
        row(f"{name}, 200 athletes together", together)
        row("the same as 200 SimPy processes", singly, together)
    print(
        f"\n{'first visit, kB compressed':40} {'scripts':>8} {'styles':>8} {'fonts':>8} {'bar':>8}"
    )
    for visit in bundle.visits():
        print(
            f"{visit.name:40} {visit.scripts:8.0f} {visit.styles:8.0f} {visit.fonts:8.0f} "
            f"{visit.bar or '':>8}"
        )


if __name__ == "__main__":
    main()

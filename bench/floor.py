"""Standings in a large store, and a score on its way to many displays."""

from __future__ import annotations

import asyncio
import datetime as dt
import json
import time
import urllib.parse

from served import Site
from sqlalchemy import text

ATHLETES = 200
DISPLAYS = 200
SCORES = 30
FAR = dt.date(2000, 1, 1)
PIECE = '## Conditioning "Bench": AMRAP 12:00\n10 push-up\n20 sit-up\n'
BOARD = f"# Bench\n\n{PIECE}"
RANKED = text(
    "select p.name, t.position, s.display, "
    "rank() over (partition by s.tier_id order by s.order_key desc) "
    "from score s join person p on p.id = s.person_id join tier t on t.id = s.tier_id "
    "where s.piece_id = :piece and s.order_key is not null "
    "order by t.position, s.order_key desc, p.name"
)


def fill(site: Site, scores: int) -> int:
    """So many scores in the store, two hundred to a piece; the id of a piece in the middle."""
    with site.engine.begin() as db:
        db.execute(
            text(
                "insert into person (name, role, tier_id, track_id, active) select "
                "'Bench ' || n, 'athlete', 1 + n % 3, 1 + n % 2, true "
                "from generate_series(1, :n) n where not exists "
                "(select 1 from person where name = 'Bench 1')"
            ),
            {"n": ATHLETES},
        )
        held = db.execute(text("select count(*) from day where date < '2015-01-01'")).scalar() or 0
        db.execute(
            text(
                "insert into day (programme_id, date, text, version, published) "
                "select 1, cast(:far as date) + cast(n as int), :board, 1, true "
                "from generate_series(cast(:a as int), cast(:b as int)) n"
            ),
            {"far": FAR, "board": BOARD, "a": held, "b": scores // ATHLETES - 1},
        )
        db.execute(
            text(
                "insert into piece (day_id, position, title, text) select d.id, 0, 'Bench', :piece "
                "from day d where d.date < '2015-01-01' "
                "and not exists (select 1 from piece p where p.day_id = d.id)"
            ),
            {"piece": PIECE},
        )
        db.execute(
            text(
                "insert into score (day_id, piece_id, person_id, tier_id, track_id, entered, "
                "kind, value, display, order_key, reps, version) "
                "select d.id, i.id, p.id, p.tier_id, p.track_id, r.reps::text, 'rounds', "
                """jsonb_build_object('rounds', r.reps / 30, 'reps', r.reps % 30), """
                "(r.reps / 30) || '+' || (r.reps % 30), r.reps, r.reps, 1 "
                "from day d join piece i on i.day_id = d.id cross join person p "
                "cross join lateral (select 100 + (d.id * 7 + p.id * 13) % 200 as reps) r "
                "where p.name like 'Bench %' and d.date < '2015-01-01' "
                "and not exists (select 1 from score s where s.day_id = d.id)"
            )
        )
    with site.engine.connect().execution_options(isolation_level="AUTOCOMMIT") as db:
        db.execute(text("vacuum analyze score"))
    middle = FAR + dt.timedelta(days=scores // ATHLETES // 2)
    with site.engine.connect() as db:
        of_day = "select p.id from piece p join day d on d.id = p.day_id where d.date = :d"
        return db.execute(text(of_day), {"d": middle}).scalar_one()


def standings(site: Site, scores: int, repeats: int = 40) -> tuple[list[float], list[float]]:
    """Milliseconds of the standings over HTTP, and of the bare SQL, in turn."""
    piece = fill(site, scores)
    date = FAR + dt.timedelta(days=scores // ATHLETES // 2)
    path = f"/api/days/{date}/pieces/{piece}/standings"
    over_http, bare = [], []
    with site.engine.connect() as db:
        for at in range(repeats + 5):
            start = time.perf_counter()
            site.send("GET", path).read()
            middle = time.perf_counter()
            rows = db.execute(RANKED, {"piece": piece}).all()
            end = time.perf_counter()
            assert len(rows) == ATHLETES
            if at >= 5:
                over_http.append(1000 * (middle - start))
                bare.append(1000 * (end - middle))
    return over_http, bare


async def _display(site: Site, ready: asyncio.Semaphore, seen: list[float]) -> None:
    """One listening display: notes the moment of each score it is told of."""
    where = urllib.parse.urlsplit(site.base)
    reader, writer = await asyncio.open_connection(where.hostname, where.port)
    writer.write(
        f"GET /api/live HTTP/1.1\r\nHost: {where.netloc}\r\nCookie: {site.headers['Cookie']}\r\n"
        "Accept: text/event-stream\r\n\r\n".encode()
    )
    first = True
    while line := await reader.readline():
        if line.startswith(b"event: ") and first:
            first = False
            ready.release()
        elif line.startswith(b"event: score"):
            seen.append(time.perf_counter())


async def _fan_out(site: Site) -> tuple[list[float], list[float]]:
    ready = asyncio.Semaphore(0)
    displays: list[list[float]] = [[] for _ in range(DISPLAYS)]
    tasks = [asyncio.create_task(_display(site, ready, seen)) for seen in displays]
    for _ in range(DISPLAYS):
        await asyncio.wait_for(ready.acquire(), 60)
    today = dt.date.today()
    pieces = json.loads(site.send("GET", f"/api/days/{today}/pieces").read())
    key = next(one["key"] for one in pieces if one["title"] == "Slack Water")
    path = f"/api/days/{today}/pieces/{key}/scores/"
    with site.engine.connect() as db:
        people = [
            number
            for (number,) in db.execute(
                text(
                    "select p.id from person p where role = 'athlete' and name not like 'Bench %' "
                    "and not exists (select 1 from score s join day d on d.id = s.day_id "
                    "where s.person_id = p.id and d.date = :d) order by p.id limit :n"
                ),
                {"d": today, "n": SCORES},
            )
        ]
    each, last = [], []
    for at, person in enumerate(people):
        body = {"entered": f"{5 + at % 4}+{at % 30}", "tier": 0, "track": 0, "version": 0}
        start = time.perf_counter()
        await asyncio.to_thread(lambda: site.send("PUT", f"{path}{person}", body).read())  # noqa: B023
        while min(len(seen) for seen in displays) <= at:
            await asyncio.sleep(0.005)
        arrivals = [1000 * (seen[at] - start) for seen in displays]
        each += arrivals
        last.append(max(arrivals))
    for task in tasks:
        task.cancel()
    return each, last


def fan_out(site: Site) -> tuple[list[float], list[float]]:
    """Milliseconds from sending a score to each display knowing it, and to the last of them."""
    return asyncio.run(_fan_out(site))

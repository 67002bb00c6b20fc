"""What scores say over time: retests, trends, and training load."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Mapping, Sequence
from typing import Literal

import numpy as np
from scipy import stats

from pine_ladder.core.plan import Frozen, ScoreKind
from pine_ladder.core.units import clock_text, number_text

USUAL_WOBBLE = 0.04
"""Day-to-day spread of one athlete's result, as a share, until the gym's own is known
(judgement)."""
FEWEST_PAIRS, USUAL_PAIRS = 6, 10
"""Pairs of results from which the gym's own wobble counts, and as how many the usual one does
(judgement)."""
SURE = 1.96
"""Two-sided 95 % of the normal distribution."""
FEWEST_POINTS = 4
"""Results from which a trend is read at all."""
DAYS_A_WEEK = 7


def better_by(kind: ScoreKind, before: float, after: float) -> float:
    """How much better a result is than an earlier one, as a logarithm (0.05 is about 5 %)."""
    sign = -1 if kind in (ScoreKind.TIME, ScoreKind.PUT_DOWNS) else 1
    return sign * math.log(after / before)


_UNITS = {
    ScoreKind.ROUNDS: "reps",
    ScoreKind.TOTAL_REPS: "reps",
    ScoreKind.LOWEST_INTERVAL: "reps",
    ScoreKind.LOAD: "kg",
    ScoreKind.DISTANCE: "m",
    ScoreKind.CALORIES: "cal",
    ScoreKind.STEP: "steps",
}


def change_words(kind: ScoreKind, before: float, after: float) -> str:
    """What became of a result since the last time, short enough for a wall.

    >>> change_words(ScoreKind.TIME, 614, 600)
    '0:14 quicker'
    >>> change_words(ScoreKind.LOAD, 80, 82.5)
    '+2.5 kg'
    """
    by = after - before
    if not by:
        return "as last time"
    if kind is ScoreKind.TIME:
        return f"{clock_text(abs(by))} {'quicker' if by < 0 else 'slower'}"
    return f"{'+' if by > 0 else '−'}{number_text(abs(by))} {_UNITS.get(kind, '')}".strip()


class Change(Frozen):
    """One athlete's change between two holdings: `share` 0.05 is 5 % better."""

    athlete_id: int
    share: float
    sure: Literal["clear", "likely", "within a usual day"]


class GymChange(Frozen):
    """The gym's change: the mean over athletes who did both, with its 95 % interval by Student's t
    (None for fewer than two), and the day-to-day wobble that athletes are judged by.
    """

    athletes: int
    share: float
    low: float | None
    high: float | None
    wobble: float
    words: str


def wobble_of(changes: Sequence[float]) -> float:
    """One athlete's day-to-day spread from paired log changes: their deviation over root two.

    The deviation is the median absolute one, scaled to the normal's, so that a single slip of the
    pen does not hide everybody else's change; few pairs stay near the usual spread.
    """
    if len(changes) < FEWEST_PAIRS:
        return USUAL_WOBBLE
    own = float(stats.median_abs_deviation(changes, scale="normal")) / math.sqrt(2)
    count = len(changes)
    both = USUAL_PAIRS * USUAL_WOBBLE**2 + count * own**2
    return math.sqrt(both / (USUAL_PAIRS + count))


def retest(
    kind: ScoreKind, before: Mapping[int, float], after: Mapping[int, float]
) -> tuple[tuple[Change, ...], GymChange | None]:
    """Changes of athletes who did both holdings, the most improved first, and of the gym."""
    both = [n for n in before if n in after and before[n] > 0 and after[n] > 0]
    if not both:
        return (), None
    changes = {n: better_by(kind, before[n], after[n]) for n in both}
    wobble = wobble_of(list(changes.values()))
    off = wobble * math.sqrt(2)
    each = sorted(changes.items(), key=lambda pair: -pair[1])
    told = tuple(
        Change(
            athlete_id=number,
            share=math.expm1(change),
            sure="clear"
            if abs(change) > SURE * off
            else "likely"
            if abs(change) > off
            else "within a usual day",
        )
        for number, change in each
    )
    return told, _gym_change(list(changes.values()), wobble)


def _gym_change(changes: Sequence[float], wobble: float) -> GymChange:
    mean, count = float(np.mean(changes)), len(changes)
    low = high = None
    if count > 1:
        error = float(np.std(changes, ddof=1)) / math.sqrt(count)
        reach = float(stats.t.ppf(0.975, count - 1)) * error
        low, high = math.expm1(mean - reach), math.expm1(mean + reach)
    share = math.expm1(mean)
    way = "better" if share >= 0 else "worse"
    words = f"{count} did both: {abs(share):.1%} {way} on the whole"
    if low is None or high is None:
        words += "; one pair says nothing of the gym"
    elif low > 0 or high < 0:
        words += f", very likely between {low:+.1%} and {high:+.1%}"
    else:
        words += f", but it may be nothing (between {low:+.1%} and {high:+.1%})"
    return GymChange(
        athletes=count, share=share, low=low, high=high, wobble=round(wobble, 4), words=words
    )


class Trend(Frozen):
    """How results of one board move: change a month as a share, its 95 % range, in plain words."""

    monthly: float | None
    low: float | None
    high: float | None
    words: str


def trend(kind: ScoreKind, points: Sequence[tuple[dt.date, float]]) -> Trend:
    """The trend of an athlete's results on one board: Theil and Sen's slope of the logarithms.

    Sen, J Am Stat Assoc 63 (1968) 1379, as `scipy.stats.theilslopes`.
    """
    usable = sorted((date, value) for date, value in points if value > 0)
    if len(usable) < 2:
        return Trend(monthly=None, low=None, high=None, words="done once so far")
    first, last = usable[0][1], usable[-1][1]
    whole = math.expm1(better_by(kind, first, last))
    way = f"{abs(whole):.0%} {'better' if whole >= 0 else 'below the first'}"
    since = f"{way if abs(whole) >= 0.005 else 'as the first'} over {len(usable)} times"
    if len(usable) < FEWEST_POINTS or usable[0][0] == usable[-1][0]:
        return Trend(monthly=None, low=None, high=None, words=f"{since}; too few to call a trend")
    days = [(date - usable[0][0]).days / 30 for date, _ in usable]
    logs = [better_by(kind, first, value) for _, value in usable]
    found = stats.theilslopes(logs, days)
    slope, low, high = (float(math.expm1(x)) for x in (found.slope, found[2], found[3]))
    if low > 0:
        words = f"rising about {slope:.1%} a month ({since})"
    elif high < 0:
        words = (
            f"falling about {abs(slope):.1%} a month ({since}); rest, illness and form all count"
        )
    else:
        words = f"level: no clear direction ({since})"
    return Trend(monthly=slope, low=low, high=high, words=words)


FEWEST_PLACES = 4
"""Places on either side from which a drift is read."""
DRIFT, CHANCE = 0.15, 0.1
"""Share of the tier that somebody's usual place has to move, and how often chance alone may have
moved it (judgement)."""


def drift(before: Sequence[float], after: Sequence[float]) -> Literal["rising", "fading"] | None:
    """Whether somebody's places in their tier (0 last, 1 first) move, by Mann and Whitney's U.

    Mann & Whitney, Ann Math Stat 18 (1947) 50, as `scipy.stats.mannwhitneyu`. None where too few
    are known, or nothing but chance is to be seen.
    """
    if min(len(before), len(after)) < FEWEST_PLACES:
        return None
    moved = float(np.median(after) - np.median(before))
    if abs(moved) < DRIFT or stats.mannwhitneyu(before, after).pvalue > CHANCE:
        return None
    return "rising" if moved > 0 else "fading"


class WeekLoad(Frozen):
    """A week of training: session load is effort (Borg's CR-10) times minutes.

    `monotony` is the mean of the seven daily loads over their standard deviation, None where every
    day was alike; `strain` the week's load times monotony. Foster, Med Sci Sports Exerc 30 (1998)
    1164; Foster et al., J Strength Cond Res 15 (2001) 109.
    """

    monday: dt.date
    daily: tuple[float, ...]
    load: float
    monotony: float | None
    strain: float | None
    words: str


def session_load(effort: float, minutes: float) -> float:
    """Effort on the CR-10 scale times minutes, in arbitrary units."""
    return effort * minutes


def week_load(
    monday: dt.date, daily: Sequence[float], before: Sequence[float] = (), over: bool = True
) -> WeekLoad:
    """A week's load, monotony and strain from seven daily loads; `before` are earlier weeks' loads.

    A week that is not `over` is not compared with others.

    The standard deviation is the sample's. The words explain and never diagnose.
    """
    if len(daily) != DAYS_A_WEEK:
        raise ValueError(f"a week has seven days, not {len(daily)}")
    total = float(sum(daily))
    spread = float(np.std(daily, ddof=1))
    monotony = float(np.mean(daily)) / spread if spread > 0 else None
    strain = total * monotony if monotony is not None else None
    return WeekLoad(
        monday=monday,
        daily=tuple(float(x) for x in daily),
        load=total,
        monotony=monotony,
        strain=strain,
        words=_load_words(total, monotony, before) if over else "The week is not over yet.",
    )


def _load_words(total: float, monotony: float | None, before: Sequence[float]) -> str:
    if not total:
        return "Nothing noted this week."
    words = []
    earlier = [load for load in before if load > 0]
    if len(earlier) >= 2:
        usual = float(np.mean(earlier))
        off = total / usual - 1
        if off > 0.3:
            words.append(f"{off:.0%} more than your weeks before: plan something easy next.")
        elif off < -0.3:
            words.append(f"{abs(off):.0%} less than your weeks before.")
        else:
            words.append("About as much as your weeks before.")
    if monotony is not None and monotony >= 2:
        words.append("The days were much alike: an easy day between hard ones helps most people.")
    elif monotony is not None:
        words.append("Hard and easy days took turns.")
    return " ".join(words)

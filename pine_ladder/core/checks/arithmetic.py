"""Numbers that do not fit: amounts, sides, schemes, minutes."""

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import (
    At,
    Ground,
    finding,
    tasks,
    versions,
    with_heading,
    with_tasks,
    with_version,
)
from pine_ladder.core.clock import line_seconds, stations
from pine_ladder.core.notation.bounds import excess
from pine_ladder.core.notation.printer import amount_text
from pine_ladder.core.scores.kinds import is_filled
from pine_ladder.core.units import clock_text


def missing_amounts(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A line without an amount, in a format that gives it none."""
    found = []
    for at in tasks(session):
        form = at.piece.format
        given = isinstance(form, plan.Intervals | plan.Tabata) or (
            isinstance(form, plan.ForTime) and bool(form.scheme)
        )
        exercise = at.task.versions[0]
        if exercise.amount is None and not given:
            what = exercise.movement or "the complex"
            amount = _scheme_beside(at.piece) or plan.Reps(low=10)
            written = f"{amount_text(amount)} {what}"
            repairs = [with_version(at, 0, f"write {written}", amount=amount)]
            if isinstance(form, plan.Amrap) and is_filled(at.block.lines):
                repairs.append(with_version(at, 0, f"write max {what}", amount=plan.Max()))
            found.append(
                finding(
                    "no-amount",
                    at.line.line,
                    f"{what}: how many? write {written}",
                    repairs=repairs,
                )
            )
    return found


def _scheme_beside(piece: plan.Piece) -> plan.Amount | None:
    """The scheme of another line of the piece: `21-15-9 thruster` above a bare `pull-up`."""
    amounts = (
        task.versions[0].amount
        for block in piece.blocks
        for line in block.lines
        for task in line.tasks
    )
    return next((amount for amount in amounts if isinstance(amount, plan.Scheme)), None)


def odd_over_two_sides(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """An odd total that alternates between two sides."""
    found = []
    for at, tier, exercise in versions(session):
        amount = exercise.amount
        if exercise.side is not plan.Side.ALTERNATING or not isinstance(amount, plan.Reps):
            continue
        if amount.low % 2 or (amount.high or 0) % 2:
            odd = amount.low if amount.low % 2 else amount.high
            assert odd is not None
            found.append(
                finding(
                    "odd-sides",
                    at.line.line,
                    f"{odd} {exercise.movement} alternating leaves one side short: "
                    + (f"{odd - 1} or {odd + 1}" if odd > 1 else "2 is one a side"),
                    repairs=_evened(at, tier, amount),
                )
            )
    return found


def _evened(at: At, tier: int, amount: plan.Reps) -> list[plan.Repair]:
    down = amount.model_copy(
        update={
            "low": amount.low - amount.low % 2,
            "high": amount.high - amount.high % 2 if amount.high else None,
        }
    )
    up = amount.model_copy(
        update={
            "low": amount.low + amount.low % 2,
            "high": amount.high + amount.high % 2 if amount.high else None,
        }
    )
    return [
        with_version(at, tier, f"make it {_count(even)}", amount=even)
        for even in (down, up)
        if even.low and even.low < (even.high or even.low + 1)
    ]


def _count(amount: plan.Reps) -> str:
    return f"{amount.low}-{amount.high}" if amount.high else str(amount.low)


def schemes_that_do_not_fit(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A line's own numbers that are more or fewer than the rounds."""
    found = []
    for at in tasks(session):
        form, amount = at.piece.format, at.task.versions[0].amount
        if not isinstance(amount, plan.Scheme):
            continue
        rounds: int | None = None
        own = len(amount.values)
        repairs = []
        if isinstance(form, plan.ForTime):
            rounds = form.rounds or len(form.scheme) or None
        elif isinstance(form, plan.Rounds | plan.Sets):
            rounds = form.high or form.low
        elif isinstance(form, plan.Every | plan.Intervals):
            rounds = form.high or form.rounds
        if rounds is None or own == rounds:
            continue
        if isinstance(form, plan.Rounds | plan.Sets):
            as_many = form.model_copy(update={"low": own, "high": None})
            repairs += _in_rounds(at.piece, own, as_many)
        elif not (isinstance(form, plan.ForTime) and form.scheme):
            high = {} if isinstance(form, plan.ForTime) else {"high": None}
            repairs += _in_rounds(at.piece, own, form.model_copy(update={"rounds": own, **high}))
        fitted = (*amount.values, *amount.values[-1:] * rounds)[:rounds]
        scheme = amount.model_copy(update={"values": fitted})
        numbers = "-".join(map(str, fitted))
        # Two rising numbers would be read as the athlete's choice between them.
        if len(fitted) != 2 or fitted[0] > fitted[1]:
            repairs.append(with_version(at, 0, f"write {numbers}", amount=scheme))
        words = f"{own} number{'s' if own > 1 else ''}"
        message = f"{words} for {rounds} rounds"
        found.append(finding("scheme-rounds", at.line.line, message, repairs=repairs))
    return found


def _in_rounds(piece: plan.Piece, rounds: int, form: plan.Format) -> list[plan.Repair]:
    """The piece in so many rounds, where a class can do them."""
    if excess(piece.model_copy(update={"format": form})):
        return []
    return [with_heading(piece, f"make it {rounds} rounds", format=form)]


def continuous_parts_that_do_not_add_up(
    session: plan.Session, ground: Ground
) -> list[plan.Finding]:
    """Parts of a continuous piece that miss its length."""
    found = []
    for piece in session.pieces:
        if not isinstance(piece.format, plan.Continuous) or not piece.lines:
            continue
        times = [line_seconds(line) for line in piece.lines]
        total = sum(time or 0 for time in times)
        if None not in times and total != piece.format.length_s:
            fits = plan.Continuous(length_s=total)
            label = f"make it continuous {clock_text(total)}"
            found.append(
                finding(
                    "continuous-sum",
                    piece.line,
                    f"the parts add up to {clock_text(total)}, "
                    f"not {clock_text(piece.format.length_s)}",
                    repairs=[with_heading(piece, label, format=fits)],
                )
            )
    return found


def minutes_that_do_not_fit_the_stations(
    session: plan.Session, ground: Ground
) -> list[plan.Finding]:
    """An EMOM whose minutes are no whole number of station rounds."""
    found = []
    for piece in session.pieces:
        if not isinstance(piece.format, plan.Emom):
            continue
        for block in piece.blocks:
            turns = len(stations(block, block.numbered))
            if piece.teams and piece.teams.how == "alternate":
                turns *= piece.teams.size
            minutes = piece.format.length_s // 60
            if minutes % turns:
                below, above = minutes // turns * turns, -(-minutes // turns) * turns
                fits = [m for m in (below, above) if m]
                words = " or ".join(f"{m}:00" for m in fits)
                found.append(
                    finding(
                        "emom-stations",
                        piece.line,
                        f"{minutes} minutes are no whole rounds of {turns} stations: {words} fits",
                        repairs=[
                            with_heading(
                                piece, f"make it EMOM {m}:00", format=plan.Emom(length_s=60 * m)
                            )
                            for m in fits
                        ],
                    )
                )
    return found


def fill_before_the_end(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A `max` that is not the last task of its window leaves no time for the ones after it."""
    found = []
    for at in tasks(session):
        filling = [task for task in at.line.tasks if _fills(task)]
        if not filling or at.task is not filling[0] or at.task is at.line.tasks[-1]:
            continue
        fixed = [task for task in at.line.tasks if not _fills(task)]
        what = at.task.versions[0].movement or "the complex"
        label = "put it last" if len(filling) == 1 else f"keep max {what} alone, last"
        found.append(
            finding(
                "fill-first",
                at.line.line,
                f"max {what} fills the window; put it last",
                repairs=[with_tasks(at, label, (*fixed, at.task))],
            )
        )
    return found


def _fills(task: plan.Task) -> bool:
    return isinstance(task.versions[0].amount, plan.Max)

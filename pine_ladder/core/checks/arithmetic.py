"""Numbers that do not fit: amounts, sides, schemes, minutes."""

from pine_ladder.core import plan
from pine_ladder.core.checks.walk import finding, tasks
from pine_ladder.core.clock import line_seconds, stations
from pine_ladder.core.units import clock_text


def missing_amounts(session: plan.Session) -> list[plan.Finding]:
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
            found.append(finding("no-amount", at.line.line, f"{what}: how many? write 10 {what}"))
    return found


def odd_over_two_sides(session: plan.Session) -> list[plan.Finding]:
    """An odd total that alternates between two sides."""
    found = []
    for at in tasks(session):
        for exercise in at.task.versions:
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
                    )
                )
    return found


def schemes_that_do_not_fit(session: plan.Session) -> list[plan.Finding]:
    """A line's own numbers that are more or fewer than the rounds."""
    found = []
    for at in tasks(session):
        form, amount = at.piece.format, at.task.versions[0].amount
        if not isinstance(amount, plan.Scheme):
            continue
        rounds: int | None = None
        if isinstance(form, plan.ForTime):
            rounds = form.rounds or len(form.scheme) or None
        elif isinstance(form, plan.Rounds | plan.Sets):
            rounds = form.high or form.low
        elif isinstance(form, plan.Every | plan.Intervals):
            rounds = form.rounds
        if rounds is not None and len(amount.values) != rounds:
            numbers = f"{len(amount.values)} number{'s' if len(amount.values) > 1 else ''}"
            found.append(finding("scheme-rounds", at.line.line, f"{numbers} for {rounds} rounds"))
    return found


def continuous_parts_that_do_not_add_up(session: plan.Session) -> list[plan.Finding]:
    """Parts of a continuous piece that miss its length."""
    found = []
    for piece in session.pieces:
        if not isinstance(piece.format, plan.Continuous) or not piece.lines:
            continue
        times = [line_seconds(line) for line in piece.lines]
        total = sum(time or 0 for time in times)
        if None not in times and total != piece.format.length_s:
            found.append(
                finding(
                    "continuous-sum",
                    piece.line,
                    f"the parts add up to {clock_text(total)}, "
                    f"not {clock_text(piece.format.length_s)}",
                )
            )
    return found


def minutes_that_do_not_fit_the_stations(session: plan.Session) -> list[plan.Finding]:
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
                fits = f"{below}:00 or {above}:00" if below else f"{above}:00"
                found.append(
                    finding(
                        "emom-stations",
                        piece.line,
                        f"{minutes} minutes are no whole rounds of {turns} stations: {fits} fits",
                    )
                )
    return found


def fill_before_the_end(session: plan.Session) -> list[plan.Finding]:
    """A `max` that is not the last task of its window leaves no time for the ones after it."""
    found = []
    for piece in session.pieces:
        for line in piece.lines:
            for task in line.tasks[:-1]:
                if isinstance(task.versions[0].amount, plan.Max):
                    found.append(
                        finding(
                            "fill-first",
                            line.line,
                            f"max {task.versions[0].movement} fills the window; put it last",
                        )
                    )
    return found

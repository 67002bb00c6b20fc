"""Questions on a line of work that may mean two things, each with both readings as repairs."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

from pine_ladder.core import plan
from pine_ladder.core.movements import Library
from pine_ladder.core.notation.exactly import SAID_AS_NOTE
from pine_ladder.core.notation.printer import amount_text, exercise_text, line_text, task_text
from pine_ladder.core.notation.reader.line import line_said
from pine_ladder.core.notation.tokens import WHOLE_LINE

_MANNER = re.compile(
    r"(?:step|jump|walk|hop)(?:ing|s)? ?(?:down|up|back|over|in|out)", re.IGNORECASE
)
"""How a rep is done, though a movement is called so too: `box jump, step down`."""


def _asked(number: int, code: str, message: str, ways: Iterable[tuple[str, str]]) -> plan.Finding:
    """A question on a whole line, each reading as what to write in its place."""
    return plan.Finding(
        code=code,
        severity="question",
        line=number,
        column=1,
        end_column=0,
        message=message,
        repairs=tuple(
            plan.Repair(
                label=f"{label}: {' / '.join(exact.splitlines())}",
                edits=(plan.Edit(line=number, start=1, end=WHOLE_LINE, text=exact),),
            )
            for label, exact in ways
        ),
    )


def whose_tier(number: int, text: str, tasks: tuple[plan.Task, ...]) -> plan.Finding:
    """A tier after the last of several tasks: that task's, or the whole line's?"""
    prefix = re.match(r"(?:\d+\)\s*)?", text)
    assert prefix is not None
    last = tasks[-1].versions[-1]
    together = " + ".join(task_text(plan.Task(versions=task.versions[:1])) for task in tasks)
    others = " | ".join(exercise_text(version) for version in tasks[-1].versions[1:])
    ways = (
        (f"only {tasks[-1].versions[0].movement} changes", line_text(plan.Line(tasks=tasks))),
        ("the whole line changes", f"1 [{together}] | {others}"),
    )
    return _asked(
        number,
        "whose-tier",
        f"{exercise_text(last)}: instead of the last task alone, or of the whole line?",
        [(label, prefix[0] + exact) for label, exact in ways],
    )


def both_sides(number: int, text: str, reads: Callable[[str], bool]) -> tuple[plan.Repair, ...]:
    """Ways out of `10/10 sit-up`: the number once, or the number for each side."""
    twice = re.match(r"((?:\d+\)\s*)?)(\d+)\s*/\s*\2\s+(.*)", text)
    if not twice:
        return ()
    station, count, rest = twice.groups()
    ways = [f"{station}{count} {rest}", f"{station}{2 * int(count)} {rest}"]
    sided = re.match(r"([^,@|+—>]+?)(\s*[,@|+—>].*|)$", rest)
    if sided:
        ways.append(f"{station}{count} {sided[1].strip()}, each side{sided[2]}")
    return tuple(
        plan.Repair(
            label=f"write {way}",
            edits=(plan.Edit(line=number, start=1, end=WHOLE_LINE, text=way),),
        )
        for way in ways
        if reads(way)
    )


def second_task(
    number: int, text: str, tasks: tuple[plan.Task, ...], library: Library
) -> list[plan.Finding]:
    """Work behind a comma without a number, `8 push-up, thrusters 40/30`: eight of each, or a note
    on the first? What follows a dash is a note and not asked about.
    """
    last = tasks[-1].versions[0] if tasks else None
    if last is None or not last.note or last.amount is None or SAID_AS_NOTE.search(text):
        return []
    if _MANNER.fullmatch(last.note):
        return []
    amount = amount_text(last.amount)
    read = line_said(f"{amount} {last.note}", library)
    if read is None:
        return []
    first = plan.Line(tasks=(*tasks[:-1], _without_note(tasks[-1])))
    station = re.match(r"(?:\d+\)\s*)?", text)
    mark = station[0] if station else ""
    parts = " + " if mark else "\n"
    ways = (
        (f"{amount} of each", f"{mark}{line_text(first)}{parts}{read}"),
        ("a note", f"{mark}{line_text(plan.Line(tasks=tasks))}"),
    )
    message = f"{last.note}: work of its own, or a note on the {last.movement}?"
    return [_asked(number, "second-task", message, ways)]


def _without_note(task: plan.Task) -> plan.Task:
    first, *others = task.versions
    return task.model_copy(update={"versions": (first.model_copy(update={"note": None}), *others)})


_BARE = re.compile(r"(?P<form>amrap|emom)\s+(?P<number>\d{1,2})\s+(?P<work>[a-z].*)", re.IGNORECASE)


def bare_number(number: int, text: str, library: Library) -> plan.Finding | None:
    """`AMRAP 12 burpees`: twelve minutes, or twelve burpees of no stated length? None elsewhere."""
    match = _BARE.fullmatch(text)
    read = line_said(f"{match['number']} {match['work']}", library) if match else None
    if match is None or read is None:
        return None
    form, count = match["form"].upper(), match["number"]
    alone = read.removeprefix(f"{count} ")
    amount = "max" if form == "AMRAP" else "10"
    ways = (
        (f"{count} minutes", f"## Conditioning: {form} {count}:00\n{amount} {alone}"),
        (f"{read} a round", f"## Conditioning: {form} 10:00\n{read}"),
    )
    sentence = f"{text}: is the number the minutes, or how many?"
    return _asked(number, "bare-number", sentence, ways)

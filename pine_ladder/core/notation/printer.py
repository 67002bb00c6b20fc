"""A session plan as canonical board text: the mirror of the parser."""

from __future__ import annotations

from pine_ladder.core import plan
from pine_ladder.core.formats import kind_of, span, times
from pine_ladder.core.notation.words import ROLE_TITLES
from pine_ladder.core.units import clock_text, number_text


def print_session(session: plan.Session) -> str:
    """The canonical text of a session, ending in a newline."""
    head = []
    if session.title:
        head.append(f"# {session.title}")
    if session.date:
        head.append(f"date: {session.date.isoformat()}")
    if session.class_s:
        head.append(f"class: {session.class_s // 60} min")
    if session.track:
        head.append(f"track: {session.track}")
    if session.theme:
        head.append(f"theme: {session.theme}")
    if session.cycle:
        cycle = session.cycle
        head.append(f"cycle: {cycle.name}, week {cycle.week} of {cycle.weeks}")
    if session.note:
        head.append(f"note: {session.note}")
    parts = ["\n".join(head)] if head else []
    parts += [print_piece(piece) for piece in session.pieces]
    return "\n\n".join(parts) + "\n"


def print_piece(piece: plan.Piece) -> str:
    """One piece: heading, work, notes."""
    name = f' "{piece.name}"' if piece.name else ""
    heading = ", ".join([format_text(piece.format), *modifier_texts(piece)])
    out = [f"## {ROLE_TITLES[piece.role]}{name}: {heading}"]
    out += [f"buy-in: {line_text(line)}" for line in piece.buy_in]
    for index, block in enumerate(piece.blocks):
        if index:
            out.append("--")
        out += [
            f"{number}) {line_text(line)}" if block.numbered else line_text(line)
            for number, line in enumerate(block.lines, start=1)
        ]
    out += [f"cash-out: {line_text(line)}" for line in piece.cash_out]
    out += [f"> {note}" for note in piece.notes]
    return "\n".join(out)


def format_text(form: plan.Format) -> str:
    """A format as it stands in a heading."""
    return kind_of(form).text(form)


def modifier_texts(piece: plan.Piece) -> list[str]:
    """A piece's modifiers in their canonical order."""
    out = []
    if piece.rest:
        out.append(f"rest {times(piece.rest.low_s, piece.rest.high_s)}")
    if piece.rest_as_needed:
        out.append("rest as needed")
    if piece.cap_s:
        out.append(f"cap {clock_text(piece.cap_s)}")
    if piece.build:
        out.append("build")
    if piece.for_quality:
        out.append("for quality")
    if piece.score:
        out.append(f"score {piece.score.value}")
    if piece.tie_break:
        out.append("tie-break")
    if piece.pace:
        out.append(f"pace {piece.pace}")
    if piece.target:
        out.append(f"target {target_text(piece.target)}")
    if piece.work_s:
        out.append(f"work {clock_text(piece.work_s)}")
    if piece.aim_s:
        out.append(f"aim {clock_text(piece.aim_s)}")
    if piece.grow_reps:
        out.append(f"{piece.grow_reps:+d} reps each round")
    if piece.until_missed:
        out.append("until missed")
    if piece.teams:
        out += [f"teams of {piece.teams.size}", piece.teams.how]
    if piece.heats:
        out.append(f"heats {piece.heats}")
    if piece.purpose:
        out.append(f"for: {piece.purpose.value}")
    out += [f"meant {code}" for code in piece.meant]
    return out


def target_text(target: plan.Target) -> str:
    """A target as written: `9-12 rounds`, `12:00-15:00`."""
    if target.unit == "time":
        return f"{clock_text(target.low)}-{clock_text(target.high)}"
    high = target.high if target.high != target.low else None
    return f"{span(target.low, high)} {target.unit}"


def line_text(line: plan.Line) -> str:
    """A line without its station number."""
    if not line.tasks:
        return "rest"
    texts = [task_text(task) for task in line.tasks]
    if last_alone_changes(line.tasks):
        # Written out for each of them, so that nobody asks whether the tier is the whole line's.
        others = zip(texts[:-1], line.tasks[:-1], strict=True)
        texts[:-1] = [f"{text} | {_again(task)}" for text, task in others]
    return " + ".join(texts)


def last_alone_changes(tasks: tuple[plan.Task, ...]) -> bool:
    """Whether the last of several tasks alone has a tier with another movement."""
    if len(tasks) < 2:
        return False
    *before, last = tasks
    return all(len(task.versions) == 1 for task in before) and any(
        version.movement != last.versions[0].movement for version in last.versions[1:]
    )


def _again(task: plan.Task) -> str:
    first = task.versions[0]
    return amount_text(first.amount) if first.amount and not first.note else exercise_text(first)


def task_text(task: plan.Task) -> str:
    """A task with its tier versions, each written as shortly as it can be."""
    first, *others = task.versions
    out = [exercise_text(first)]
    for before, version in zip(task.versions, others, strict=False):
        out.append(_version_text(before, version))
    return " | ".join(out)


def _version_text(before: plan.Exercise, version: plan.Exercise) -> str:
    shared = before.model_copy(update={"note": None})
    reloaded = shared.model_copy(update={"load": version.load})
    if version.load and version != shared and version == reloaded:
        return f"@ {load_text(version.load)}"
    if version.amount and version.amount != before.amount:
        if shared.model_copy(update={"amount": version.amount}) == version:
            return amount_text(version.amount)
        if version.load and version.load != before.load:
            update = {"amount": version.amount, "load": version.load}
            if shared.model_copy(update=update) == version:
                return f"{amount_text(version.amount)} @ {load_text(version.load)}"
    # A name that begins with a number would be read as the amount.
    bare = not version.movement[:1].isdigit()
    if bare and (version.amount, version.side) == (before.amount, before.side):
        return exercise_text(version.model_copy(update={"amount": None, "side": None}))
    return exercise_text(version)


def exercise_text(exercise: plan.Exercise) -> str:
    """One version in full: amount, movement, details, load, alternatives, note."""
    out = " or ".join(_spec_text(spec) for spec in (exercise, *exercise.instead))
    return f"{out} — {exercise.note}" if exercise.note else out


def _spec_text(exercise: plan.Exercise) -> str:
    name = exercise.movement
    if exercise.parts:
        name = "[" + " + ".join(exercise_text(part) for part in exercise.parts) + "]"
    amount = amount_text(exercise.amount) if exercise.amount else ""
    head = f"{amount} {name}".strip()
    details = detail_texts(exercise.model_copy(update={"rest_s": None}))
    out = ", ".join([head, *details])
    if exercise.load:
        out = f"{out} @ {load_text(exercise.load)}"
    return f"{out}, {_rest_text(exercise.rest_s)}" if exercise.rest_s else out


def detail_texts(exercise: plan.Exercise) -> list[str]:
    """Details in their canonical order."""
    out = []
    if exercise.one_arm:
        out.append("one arm")
    if exercise.side:
        out.append(exercise.side.value)
    if exercise.switch_every:
        out.append(f"switch every {exercise.switch_every}")
    if exercise.tempo:
        out.append(f"tempo {exercise.tempo}")
    if exercise.pause_s:
        out.append(f"pause {number_text(exercise.pause_s)} s")
    if exercise.unbroken:
        out.append("unbroken")
    if exercise.sets:
        out.append(f"{exercise.sets} sets" if exercise.sets > 1 else "1 set")
    if exercise.rest_s:
        out.append(_rest_text(exercise.rest_s))
    if exercise.aim:
        low, high = exercise.aim.low, exercise.aim.high
        out.append(f"aim {span(low, high if high > low else None)}")
    return out


def _rest_text(seconds: int) -> str:
    return f"rest {clock_text(seconds)}"


def amount_text(amount: plan.Amount) -> str:
    """An amount as written before a movement."""
    match amount:
        case plan.Reps(low=low, high=high, grow=grow):
            return span(low, high) + (f" +{grow}" if grow else "")
        case plan.Max():
            return "max"
        case plan.Trips(distance_m=metres):
            return f"max x {number_text(metres)} m"
        case plan.Duration(seconds=seconds, grow_s=grow, high_s=high_s):
            if high_s and high_s < 60:
                return f"{seconds}-{high_s} s"
            if high_s:
                return times(seconds, high_s)
            short = seconds < 60 and not grow
            text = f"{seconds} s" if short else clock_text(seconds)
            return text + (f" +{clock_text(grow)}" if grow else "")
        case plan.Distance(metres=values, high_m=high_m):
            more = f"-{number_text(high_m)}" if high_m else ""
            return "/".join(map(number_text, values)) + f"{more} m"
        case plan.Calories(calories=values):
            return "/".join(map(str, values)) + " cal"
        case plan.Scheme(values=values, unit=unit):
            return "-".join(map(str, values)) + ("" if unit == "reps" else f" {unit}")


def load_text(load: plan.Load) -> str:
    """A load as written after @."""
    match load:
        case plan.Weight(values=values, unit=unit, count=count):
            counted = f"{count} x " if count > 1 else ""
            return f"{counted}{'/'.join(map(number_text, values))} {unit}"
        case plan.Height(values=values, unit=unit):
            return f"{'/'.join(map(number_text, values))} {unit}"
        case plan.Percent(low=low, high=high):
            return f"{number_text(low)}{'-' + number_text(high) if high else ''}%"
        case plan.Bodyweight(factor=factor):
            return f"{number_text(factor)} bw"
        case plan.Effort(rpe=rpe):
            return f"RPE {number_text(rpe)}"
        case plan.Feel(word=word):
            return word

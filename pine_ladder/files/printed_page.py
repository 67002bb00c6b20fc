"""The day as one A4 page: the hour ruler to scale, then the board as athletes read it."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

from pine_ladder.core.day.athlete_view import BoardView, LineView, PieceView, TaskView
from pine_ladder.core.day.hour_ruler import Outline
from pine_ladder.core.poses import Figure
from pine_ladder.core.units import clock_text
from pine_ladder.files.printed_figures import draw_strips, strip_room

MARGIN = 16 * mm
WIDTH, HEIGHT = A4
PINE, INK, SOFT, LINE = (HexColor(c) for c in ("#1f4a3a", "#1c2321", "#565245", "#b9b3a2"))
LARGEST, SMALLEST = 1.45, 0.55
"""Shares of full size: the board is set as large as fits the page, between these two."""

Row = tuple[str, str, float, str, bool]
"""Left text, right text, size, font, rule above."""


def _latin(text: str) -> str:
    """The base fonts of PDF know Western European letters alone."""
    return text.encode("cp1252", "replace").decode("cp1252")


def _task(task: TaskView) -> str:
    words = [task.amount, task.movement, *(f"· {detail}" for detail in task.details)]
    words += [f"or {other}" for other in task.alternatives]
    words += [f"– {task.note}"] if task.note else []
    return " ".join(filter(None, words))


Others = dict[tuple[int, int], list[tuple[str, TaskView]]]
"""What other tiers do of a task, by its line and its place in it: each tier's name and version."""


def _others(tiers: Sequence[tuple[str, BoardView]]) -> Others:
    found: Others = {}
    for name, board in tiers:
        for piece in board.pieces:
            for line in (
                *piece.before,
                *(x for block in piece.blocks for x in block),
                *piece.after,
            ):
                for place, task in enumerate(line.tasks):
                    found.setdefault((line.line, place), []).append((name, task))
    return found


def _line(line: LineView, others: Others, label: str = "") -> Iterator[Row]:
    station = f"{line.station}) " if line.station else ""
    if line.rest:
        yield f"{station}rest", "", 10.5, "Helvetica", False
    for number, task in enumerate(line.tasks):
        lead = (label or station) if number == 0 else "+ "
        yield f"{lead}{_task(task)}", task.load, 10.5, "Helvetica", False
        above = (_task(task), task.load)
        for name, other in others.get((line.line, number), ()):
            own = (_task(other), other.load)
            if own != above:
                told = f"    {name}: {own[0]}" if own[0] != above[0] else f"    {name}"
                yield told, other.load, 9.5, "Helvetica-Oblique", False
            above = own


def _piece(piece: PieceView, arithmetic: str, others: Others) -> Iterator[Row]:
    role = "" if piece.title.lower() == piece.role.value else f"  ({piece.role.value})"
    yield f"{piece.title}{role}", "", 13, "Helvetica-Bold", True
    yield ", ".join([piece.format, *piece.modifiers]), "", 10.5, "Helvetica-Oblique", False
    for line in piece.before:
        yield from _line(line, others, "first: ")
    for number, block in enumerate(piece.blocks):
        if number:
            yield "then", "", 9, "Helvetica-Oblique", False
        for line in block:
            yield from _line(line, others)
    for line in piece.after:
        yield from _line(line, others, "last: ")
    for note in piece.notes:
        yield f"“{note}”", "", 10, "Helvetica-Oblique", False
    if arithmetic:
        yield arithmetic, "", 9, "Helvetica", False
    for caution in piece.cautions:
        yield f"! {caution}", "", 9, "Helvetica-Bold", False


def _ruler(canvas: Canvas, hour: Outline, top: float) -> float:
    """Draw the hour to scale; returns the height left below it."""
    span = max(hour.class_s, hour.planned_high_s, 600)
    scale = (WIDTH - 2 * MARGIN) / span
    height = 9 * mm
    bottom = top - height - 4 * mm
    canvas.setFont("Helvetica", 7)
    for minute in range(0, span // 60 + 1, 5):
        x = MARGIN + minute * 60 * scale
        canvas.setFillColor(SOFT)
        canvas.drawCentredString(x, top - 2.5 * mm, str(minute))
        canvas.setStrokeColor(LINE)
        canvas.line(x, bottom, x, bottom + height)
    for piece in hour.pieces:
        middle = (piece.length.low_s + piece.length.high_s) / 2
        x, width = MARGIN + piece.start_s * scale, middle * scale
        canvas.setFillColor(HexColor("#e3ece7"))
        canvas.setStrokeColor(PINE)
        canvas.rect(x, bottom, width, height, fill=1)
        canvas.setFillColor(INK)
        canvas.setFont("Helvetica-Bold", 7.5)
        about = "about " if piece.length.rough else ""
        for row, text in enumerate((piece.title, f"{about}{clock_text(middle)}")):
            if stringWidth(text, "Helvetica-Bold", 7.5) < width - 3:
                canvas.drawString(x + 2, bottom + height - 9 - 9 * row, _latin(text))
            canvas.setFont("Helvetica", 7.5)
    return float(bottom - 6 * mm)


def _fitted(text: str, font: str, size: float, width: float) -> list[str]:
    """The text broken into lines no wider than `width`."""
    lines = [""]
    for word in text.split(" "):
        longer = f"{lines[-1]} {word}".strip()
        if lines[-1] and stringWidth(longer, font, size) > width:
            lines.append(word)
        else:
            lines[-1] = longer
    return lines


def _set(canvas: Canvas | None, rows: list[Row], top: float, scale: float) -> float:
    """Set the rows from `top` down (or only measure, without a canvas); returns the bottom."""
    y = top
    for left, right, full, font, rule in rows:
        size = full * scale
        if rule:
            y -= size * 0.5
            if canvas:
                canvas.setStrokeColor(LINE)
                canvas.line(MARGIN, y, WIDTH - MARGIN, y)
        room = WIDTH - 2 * MARGIN - stringWidth(right, "Helvetica-Bold", size) - 8
        for number, part in enumerate(_fitted(_latin(left), font, size, room)):
            y -= size * 1.32
            if canvas:
                canvas.setFillColor(PINE if rule else INK)
                canvas.setFont(font, size)
                canvas.drawString(MARGIN + (8 if number else 0), y, part)
                if right and number == 0:
                    canvas.setFont("Helvetica-Bold", size)
                    canvas.drawRightString(WIDTH - MARGIN, y, _latin(right))
    return y


def day_page(
    heading: str,
    hour: Outline,
    board: BoardView,
    figures: Sequence[Figure] = (),
    tiers: Sequence[tuple[str, BoardView]] = (),
) -> bytes:
    """A PDF of one A4 page: the board, set as large as fits, over how its movements go.

    With other `tiers` by name, what each does differently stands under its line.
    """
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=A4)
    canvas.setTitle(_latin(board.title or heading))
    canvas.setFillColor(PINE)
    canvas.setFont("Helvetica-Bold", 19)
    canvas.drawString(MARGIN, HEIGHT - MARGIN - 8, _latin(board.title or "Session"))
    canvas.setFillColor(SOFT)
    canvas.setFont("Helvetica", 10)
    canvas.drawRightString(WIDTH - MARGIN, HEIGHT - MARGIN - 8, _latin(heading))
    top = _ruler(canvas, hour, HEIGHT - MARGIN - 16)
    others = _others(tiers)
    rows = [
        row
        for piece, out in zip(board.pieces, hour.pieces, strict=True)
        for row in _piece(piece, out.arithmetic, others)
    ]
    if board.note:
        rows.insert(0, (board.note, "", 10.5, "Helvetica-Oblique", False))
    foot = MARGIN + 10
    scale, floor = LARGEST, foot + strip_room(figures)
    while scale > SMALLEST and _set(None, rows, top, scale) < floor:
        scale -= 0.03
    _set(canvas, rows, top, scale)
    draw_strips(canvas, figures, MARGIN, foot, WIDTH - 2 * MARGIN)
    canvas.setFillColor(SOFT)
    canvas.setFont("Helvetica", 8)
    safety = _fitted(_latin(f"{board.pain} {board.readiness}"), "Helvetica", 8, WIDTH - 2 * MARGIN)
    for number, line in enumerate(safety):
        canvas.drawString(MARGIN, MARGIN - 6 - 10 * number, line)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()

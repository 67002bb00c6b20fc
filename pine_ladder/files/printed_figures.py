"""Movements on paper: two key poses each, side by side at the foot of a page."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.colors import Color, HexColor
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from pine_ladder.core.poses import Figure
from pine_ladder.core.poses.body import NAMES
from pine_ladder.core.poses.drawing import HEAD_CM, LIMBS, RADII_M, WIDTHS
from pine_ladder.core.poses.implements import Thing, held, standing
from pine_ladder.core.poses.key_poses import Solved, solve
from pine_ladder.core.poses.library import turning

PINE, FAR, BARK = HexColor("#1f4a3a"), HexColor("#a9bdb4"), HexColor("#6b5444")
HEIGHT = 30 * mm
TALL_M, CELL_M = 2.4, 1.25
"""What a pose is given of height and width, in metres of the figure."""
SMALL_M = {"kettlebell": 0.1, "wheel": 0.07, "ring": 0.06, "roller": 0.07}


def strip_room(figures: Sequence[Figure]) -> float:
    """How high the strips are, in points; 0 where there is nothing to show."""
    return float(HEIGHT) if figures else 0.0


def strip_scale(figure: Figure) -> float:
    """Points a metre of a figure is drawn at, so that its head and hands fit into a strip."""
    top = TALL_M
    for key in (figure.first, turning(figure)):
        joints = solve(figure.view, figure.pose[key], figure.load).joints
        highest = max(joint.imag for joint in joints.values())
        top = max(top, highest, joints["head"].imag + HEAD_CM / 100)
    return float((HEIGHT - 5 * mm) / top)


def draw_strips(
    canvas: Canvas, figures: Sequence[Figure], left: float, bottom: float, width: float
) -> int:
    """The first and the turning pose of as many movements as fit; returns how many did."""
    scale = (HEIGHT - 5 * mm) / TALL_M
    cell = 2 * CELL_M * scale
    shown = [each for each in figures][: int(width // cell)]
    for place, figure in enumerate(shown):
        x, own = left + place * cell, strip_scale(figure)
        # A hold has one pose alone.
        for number, key in enumerate(dict.fromkeys((figure.first, turning(figure)))):
            at = solve(figure.view, figure.pose[key], figure.load)
            middle = (at.joints["hip"].real + at.joints["shoulder"].real) / 2
            origin = x + (number + 0.5) * CELL_M * scale - middle * own
            _draw(canvas, figure, at, origin, bottom + 5 * mm, own)
        canvas.setStrokeColor(FAR)
        canvas.setLineWidth(0.6)
        canvas.line(x + 4, bottom + 5 * mm - 1, x + cell - 4, bottom + 5 * mm - 1)
        canvas.setFillColor(PINE)
        canvas.setFont("Helvetica", 7.5)
        canvas.drawCentredString(x + cell / 2, bottom + 1.5 * mm, figure.name)
    return len(shown)


def _draw(canvas: Canvas, figure: Figure, at: Solved, x: float, floor: float, scale: float) -> None:
    def line(points: Sequence[complex], width_cm: float, colour: Color) -> None:
        canvas.setLineCap(1)
        canvas.setLineJoin(1)
        canvas.setStrokeColor(colour)
        canvas.setLineWidth(width_cm / 100 * scale)
        path = canvas.beginPath()
        for number, point in enumerate(points):
            go = path.moveTo if number == 0 else path.lineTo
            go(x + point.real * scale, floor + point.imag * scale)
        canvas.drawPath(path)

    joints = at.joints
    for thing in standing(figure.scene, 1.0):
        _thing(canvas, thing, x, floor, scale)
    # The far side first: what is nearer lies over it.
    for name in (NAMES["l"], NAMES["r"]):
        far = figure.view == "side" and name == NAMES["l"]
        for part, one, other in LIMBS:
            ends = (joints[f"{one}_{name}"], joints[f"{other}_{name}"])
            line(ends, WIDTHS[part] * (0.8 if far else 1), FAR if far else PINE)
    if figure.view == "front":
        line((joints["shoulder_left"], joints["shoulder_right"]), WIDTHS["upper"], PINE)
        line((joints["hip_left"], joints["hip_right"]), WIDTHS["thigh"], PINE)
    line((joints["hip"], joints["shoulder"]), WIDTHS["trunk"], PINE)
    canvas.setFillColor(PINE)
    head = joints["head"]
    canvas.circle(
        x + head.real * scale, floor + head.imag * scale, HEAD_CM / 100 * scale, stroke=0, fill=1
    )
    for thing in held(figure.holds, at, 0.0, 1.0):
        _thing(canvas, thing, x, floor, scale)


def _thing(canvas: Canvas, thing: Thing, x: float, floor: float, scale: float) -> None:
    """A thing in outline: what stands as a box, what is held as a circle, what pulls as a line."""
    canvas.setStrokeColor(BARK)
    canvas.setLineWidth(0.8)
    at = (x + thing.at[0] * scale, floor + thing.at[1] * scale)
    wide, high = (edge * scale for edge in thing.size or (0.0, 0.0))
    if thing.kind in ("wall", "rope") and high:
        canvas.line(at[0], at[1], at[0], at[1] + min(high, TALL_M * scale))
    elif thing.size and (wide or high):
        canvas.rect(at[0] - wide / 2, at[1], wide, high)
    elif thing.to is not None:
        canvas.line(*at, x + thing.to[0] * scale, floor + min(thing.to[1], TALL_M) * scale)
    else:
        radius = RADII_M.get(thing.kind) or SMALL_M.get(thing.kind, 0.04)
        canvas.circle(*at, radius * scale)

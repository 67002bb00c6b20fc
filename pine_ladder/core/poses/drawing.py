"""Figures as pictures: one pose, a strip of key poses, a sheet of many, as SVG.

Chalk lines with weight: the near side is solid, the far side lighter and thinner, what the hands
move is outlined, what to watch is ringed and named. Colours are the page's own through
`currentColor` and two properties, so that a drawing reads in light, dark and print.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from html import escape

from pine_ladder.core.poses.body import NAMES, View
from pine_ladder.core.poses.implements import Thing, held, standing
from pine_ladder.core.poses.key_poses import Pose, Solved, solve
from pine_ladder.core.poses.library import OTHER_SIDE, Fault, Figure

CENTIMETRE = 100.0
WIDTHS = {"trunk": 15.0, "thigh": 10.5, "shank": 8.0, "upper": 7.5, "fore": 6.0, "foot": 6.0}
"""Weights of the lines, in centimetres."""
HEAD_CM = 10.5
FAR = 0.45
LIMBS = (
    ("thigh", "hip", "knee"),
    ("shank", "knee", "ankle"),
    ("foot", "heel", "toe"),
    ("upper", "shoulder", "elbow"),
    ("fore", "elbow", "hand"),
)
MARK_CM = 13.0
RESIN = "var(--resin, #b5651d)"
PAPER = "var(--paper, #fbf8f1)"


@dataclass(frozen=True, slots=True)
class Drawn:
    """One pose as SVG elements, and the box they are in: left, bottom, right, top in metres."""

    elements: str
    box: tuple[float, float, float, float]


def _at(point: complex | tuple[float, float]) -> str:
    x, y = (point.real, point.imag) if isinstance(point, complex) else point
    return f"{x * CENTIMETRE:.1f} {-y * CENTIMETRE:.1f}"


def _line(points: Iterable[complex], width: float, opacity: float = 1.0) -> str:
    path = " L".join(_at(point) for point in points)
    shade = f' opacity="{opacity:g}"' if opacity < 1 else ""
    return f'<path d="M{path}" stroke-width="{width:g}"{shade}/>'


def _limbs(at: Solved, names: Sequence[str], shade: float, of: tuple[str, ...]) -> str:
    joints, out = at.joints, []
    for name in names:
        for part, one, other in LIMBS:
            if part in of:
                ends = (joints[f"{one}_{name}"], joints[f"{other}_{name}"])
                out.append(_line(ends, WIDTHS[part] * (0.8 if shade < 1 else 1)))
    return f'<g opacity="{shade:g}">{"".join(out)}</g>' if shade < 1 else "".join(out)


def _body(view: View, at: Solved) -> str:
    legs, arms = ("thigh", "shank", "foot"), ("upper", "fore")
    joints = at.joints
    trunk = _line((joints["hip"], joints["shoulder"]), WIDTHS["trunk"])
    head = joints["head"]
    skull = (
        f'<circle cx="{head.real * CENTIMETRE:.1f}" cy="{-head.imag * CENTIMETRE:.1f}" '
        f'r="{HEAD_CM}" fill="currentColor" stroke="none"/>'
    )
    if view == "front":
        girdle = _line((joints["shoulder_left"], joints["shoulder_right"]), WIDTHS["upper"])
        pelvis = _line((joints["hip_left"], joints["hip_right"]), WIDTHS["thigh"])
        sides = tuple(NAMES.values())
        return (
            _limbs(at, sides, 1, legs)
            + pelvis
            + trunk
            + girdle
            + skull
            + _limbs(at, sides, 1, arms)
        )
    far, near = ("left",), ("right",)
    edge = (
        f'<g stroke="{PAPER}" opacity="0.9">'
        + _line((joints["shoulder_right"], joints["elbow_right"], joints["hand_right"]), 11)
        + "</g>"
    )
    return (
        _limbs(at, far, FAR, arms)
        + _limbs(at, far, FAR, legs)
        + trunk
        + skull
        + _limbs(at, near, 1, legs)
        + edge
        + _limbs(at, near, 1, arms)
    )


def _outlined(inside: str, extra: str = "") -> str:
    return f'<g class="thing" fill="none" stroke-width="2.4"{extra}>{inside}</g>'


def _rect(x: float, y: float, wide: float, high: float, turn: float = 0.0) -> str:
    centre = f"{x:.1f} {-y:.1f}"
    spin = f' transform="rotate({-turn:.1f} {centre})"' if turn else ""
    return (
        f'<rect x="{x - wide / 2:.1f}" y="{-y - high / 2:.1f}" width="{wide:.1f}" '
        f'height="{high:.1f}" rx="2"{spin}/>'
    )


def _circle(x: float, y: float, radius: float) -> str:
    return f'<circle cx="{x:.1f}" cy="{-y:.1f}" r="{radius:.1f}"/>'


def draw_thing(thing: Thing) -> str:
    """A thing as SVG elements."""
    x, y = thing.at[0] * CENTIMETRE, thing.at[1] * CENTIMETRE
    wide, high = (s * CENTIMETRE for s in thing.size or (0.0, 0.0))
    line = "" if thing.to is None else f'<path d="M{_at(thing.at)} L{_at(thing.to)}"/>'
    match thing.kind:
        case "bar":
            return _outlined(_circle(x, y, 22.5) + _circle(x, y, 2.5))
        case "pipe" | "handle" | "wheel":
            return _outlined(_circle(x, y, 7 if thing.kind == "wheel" else 2.5) + line)
        case "dumbbell":
            return _outlined(_rect(x, y, 8, 22, thing.angle + 90), f' style="fill:{PAPER}"')
        case "kettlebell" | "ball":
            return _outlined(_circle(x, y, 10 if thing.kind == "kettlebell" else 16))
        case "plate":
            return _outlined(_circle(x, y, 19) + _circle(x, y, 3))
        case "sandbag":
            return _outlined(_rect(x, y, 24, 44, 8))
        case "ring":
            return _outlined(_circle(x, y, 6) + line)
        case "rope" if thing.to is None and not thing.size:
            swing = f' transform="rotate({thing.angle:.0f} {x:.1f} {-y:.1f})"'
            arc = f"M{x:.1f} {-y:.1f} c-40 30 -40 105 0 105 c40 0 40 -75 0 -105"
            return _outlined(f'<path d="{arc}"{swing}/>')
        case "box" | "bench" | "pad" | "sled" | "mat" | "bike" | "rower":
            return _outlined(_rect(x, y + high / 2, wide, high))
        case "wall" | "rope":
            return _outlined(f'<path d="M{x:.1f} {-y:.1f} V{-(y + high):.1f}"/>')
        case "rail":
            return _outlined(_circle(x, y, 2.5))
        case "bars":
            return _outlined(f'<path d="M{x - 20:.1f} {-y:.1f} h40 M{x:.1f} {-y:.1f} V0"/>')
        case "roller":
            return _outlined(_circle(x, y, 7))
        case _:
            return _outlined(line or _circle(x, y, 3))


def _things(figure: Figure, at: Solved, share: float) -> list[Thing]:
    return [*standing(figure.scene, 1.0), *held(figure.holds, at, share, 1.0)]


def draw(
    figure: Figure, at: Solved, share: float = 0.0, mark: tuple[complex, str] | None = None
) -> Drawn:
    """A pose with what is around it; `mark` rings a place and names what is wrong there."""
    things = _things(figure, at, share)
    behind = "".join(draw_thing(t) for t in things if t.kind in ("box", "wall", "bench", "mat"))
    before = "".join(draw_thing(t) for t in things if t.kind not in ("box", "wall", "bench", "mat"))
    points = [*at.joints.values(), *_extent(things)]
    ring = ""
    if mark is not None:
        place, word = mark
        x, y = place.real * CENTIMETRE, -place.imag * CENTIMETRE
        ring = (
            f'<g class="watch" fill="none" stroke="{RESIN}" stroke-width="3" '
            f'stroke-dasharray="7 4"><circle cx="{x:.1f}" cy="{y:.1f}" r="{MARK_CM}"/></g>'
            f"<title>{escape(word)}</title>"
        )
    return Drawn(
        behind + _body(figure.view, at) + before + ring,
        (
            min(p.real for p in points) - 0.14,
            min(*(p.imag for p in points), 0.0) - 0.05,
            max(p.real for p in points) + 0.14,
            max(p.imag for p in points) + 0.14,
        ),
    )


RADII_M = {"bar": 0.23, "plate": 0.2, "ball": 0.17}


def _extent(things: Sequence[Thing]) -> list[complex]:
    """Points that hold what stands around and what is held; a wall goes on beyond the picture."""
    out: list[complex] = []
    for thing in things:
        at, reach = complex(*thing.at), RADII_M.get(thing.kind, 0.0)
        wide, high = thing.size or (0.0, 0.0)
        if thing.kind != "wall":
            out += [at - reach - wide / 2, at + reach + wide / 2 + 1j * max(reach, high)]
    return out


STROKES = 'stroke="currentColor" stroke-linecap="round" stroke-linejoin="round" fill="none"'


def _svg(inside: str, box: tuple[float, float, float, float], name: str, words: str = "") -> str:
    left, bottom, right, top = (edge * CENTIMETRE for edge in box)
    wide, high = right - left, top - bottom
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" role="img" aria-label="{escape(name)}" '
        f'viewBox="{left:.1f} {-top:.1f} {wide:.1f} {high:.1f}">'
        f"<g {STROKES}>{inside}</g>{words}</svg>"
    )


def _floor(left: float, right: float) -> str:
    return f'<path d="M{left * CENTIMETRE:.1f} 1.5 H{right * CENTIMETRE:.1f}" stroke-width="2"/>'


def key_poses(figure: Figure) -> list[tuple[str, Pose]]:
    """The key poses in the order of the cycle, each once, of one side."""
    keys = dict.fromkeys((figure.first, *(step.key for step in figure.cycle)))
    return [(key, figure.pose[key]) for key in keys if not key.endswith(OTHER_SIDE)]


def pose_svg(figure: Figure, key: str) -> str:
    """One key pose as an SVG picture that scales from a sign to a wall."""
    drawn = draw(figure, solve(figure.view, figure.pose[key], figure.load))
    floor = _floor(drawn.box[0], drawn.box[2])
    return _svg(floor + drawn.elements, drawn.box, f"{figure.name}: {key}")


def strip_svg(figure: Figure, *, words: bool = True, faults: bool = False) -> str:
    """The key poses side by side on one floor, each named under it."""
    drawn = [
        (key, draw(figure, solve(figure.view, each, figure.load)))
        for key, each in key_poses(figure)
    ]
    if faults:
        drawn += [(fault.word, draw_fault(figure, fault)) for fault in figure.fault]
    return _row(figure.name, drawn, words)


def draw_fault(figure: Figure, fault: Fault) -> Drawn:
    """A key pose as it goes wrong, ringed where."""
    at = faulty(figure, fault)
    return draw(figure, at, mark=(at.joints[fault.mark], fault.word))


def faulty(figure: Figure, fault: Fault) -> Solved:
    """The pose of a fault, solved."""
    told = figure.pose[fault.pose].model_dump(exclude_unset=True)
    if set(fault.change) & {"trunk"}:
        told.pop("balance", None)
    if set(fault.change) & {"arm", "elbow", "arm_l", "arm_r", "elbow_r", "elbow_l"}:
        told.pop("hold", None)
        told.pop("hand", None)
    return solve(figure.view, Pose.model_validate(told | fault.change), figure.load)


def _row(name: str, drawn: Sequence[tuple[str, Drawn]], words: bool) -> str:
    at, inside, said = 0.0, [], []
    low = min(one.box[1] for _, one in drawn) - (0.22 if words else 0)
    high = max(one.box[3] for _, one in drawn)
    for key, one in drawn:
        wide = max(one.box[2] - one.box[0], 0.9 if words else 0.5)
        middle = at + wide / 2
        move = middle - (one.box[0] + one.box[2]) / 2
        inside.append(f'<g transform="translate({move * CENTIMETRE:.1f} 0)">{one.elements}</g>')
        if words:
            said.append(
                f'<text x="{middle * CENTIMETRE:.1f}" y="19" font-size="13" '
                f'text-anchor="middle" fill="currentColor">{escape(key)}</text>'
            )
        at += wide + 0.12
    box = (-0.05, low, at, high)
    return _svg(_floor(0, at - 0.12) + "".join(inside), box, name, "".join(said))


def sheet_svg(figures: Sequence[Figure], columns: int = 6, cell: int = 300) -> str:
    """Strips of many figures on one sheet, each named: what is looked over by eye."""
    out: list[str] = []
    rows, size = -(-len(figures) // columns), 13 if cell >= 250 else 11
    for i, figure in enumerate(figures):
        x, y = i % columns * cell, i // columns * cell * 0.62
        strip = strip_svg(figure, words=False)
        inner = strip.replace(
            "<svg ",
            f'<svg x="{x + 6:g}" y="{y + 24:g}" width="{cell - 12}" height="{cell * 0.62 - 34:g}" ',
            1,
        )
        title = escape(figure.name)
        out.append(
            f'<text x="{x + cell / 2:g}" y="{y + 16:g}" font-size="{size}" text-anchor="middle" '
            f'font-family="sans-serif" fill="currentColor">{title}</text>{inner}'
        )
    wide, high = columns * cell, rows * cell * 0.62
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {wide} {high:g}" width="{wide}" '
        f'height="{high:g}" color="#22332b" style="background:#fbf8f1">{"".join(out)}</svg>'
    )

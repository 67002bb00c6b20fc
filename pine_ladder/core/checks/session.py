"""The session as a whole: what is missing from the day."""

from pine_ladder.core import plan
from pine_ladder.core.checks.traversal import Ground, finding
from pine_ladder.core.notation.edits import LAST_LINE

WARM_UP = "## Warm-up: 2 rounds\n10 jumping jack\n10 reverse lunge, alternating\n10 air squat"
COOL_DOWN = "## Cool-down: continuous 5:00\n5:00 walk"


def empty_pieces(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """A piece without work."""
    return [
        finding("empty-piece", piece.line, "no work yet: write a line such as 10 push-up", "hint")
        for piece in session.pieces
        if piece.role is not plan.Role.REST and not piece.lines
    ]


def missing_warm_up_or_cool_down(session: plan.Session, ground: Ground) -> list[plan.Finding]:
    """Hard work without a warm-up before it, or a day without a cool-down."""
    roles = [piece.role for piece in session.pieces]
    hard = {plan.Role.STRENGTH, plan.Role.POWER, plan.Role.CONDITIONING}
    first_hard = next((p for p in session.pieces if p.role in hard), None)
    if first_hard is None:
        return []
    found = []
    if plan.Role.WARM_UP not in roles[: session.pieces.index(first_hard)]:
        line = session.pieces[0].line
        before = plan.Edit(line=line, start=1, end=1, text=f"{WARM_UP}\n\n")
        repair = plan.Repair(label="add a warm-up", edits=(before,))
        message = "no warm-up stands before this piece"
        found.append(finding("no-warm-up", first_hard.line, message, "hint", [repair]))
    if plan.Role.COOL_DOWN not in roles:
        last = session.pieces[-1].line
        after = plan.Edit(line=LAST_LINE, start=1, end=1, text=COOL_DOWN)
        repair = plan.Repair(label="add a cool-down", edits=(after,))
        message = "the day ends without a cool-down"
        found.append(finding("no-cool-down", last, message, "hint", [repair]))
    return found

"""The session as a whole: what is missing from the day."""

from pine_ladder.core import plan
from pine_ladder.core.checks.walk import finding


def empty_pieces(session: plan.Session) -> list[plan.Finding]:
    """A piece without work."""
    return [
        finding("empty-piece", piece.line, "no work yet: write a line such as 10 push-up", "hint")
        for piece in session.pieces
        if piece.role is not plan.Role.REST and not piece.lines
    ]


def missing_warm_up_or_cool_down(session: plan.Session) -> list[plan.Finding]:
    """Hard work without a warm-up before it, or a day without a cool-down."""
    roles = [piece.role for piece in session.pieces]
    hard = {plan.Role.STRENGTH, plan.Role.POWER, plan.Role.CONDITIONING}
    first_hard = next((p for p in session.pieces if p.role in hard), None)
    if first_hard is None:
        return []
    found = []
    if plan.Role.WARM_UP not in roles[: session.pieces.index(first_hard)]:
        found.append(
            finding("no-warm-up", first_hard.line, "no warm-up stands before this piece", "hint")
        )
    if plan.Role.COOL_DOWN not in roles:
        last = session.pieces[-1].line
        found.append(finding("no-cool-down", last, "the day ends without a cool-down", "hint"))
    return found

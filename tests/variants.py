"""A matrix of variants of one workout, for facts that hold of all of them.

A test with one kind of board passes over faults that show with another: loads in pounds, work
before and after the rounds, a complex, sides, teams of three. Each variant is a whole piece.
"""

from __future__ import annotations

from hypothesis import strategies as st

from pine_ladder.core import plan
from pine_ladder.core.athletes.members import Member, Profile, Rack
from pine_ladder.core.notation import parse

VARIANTS = {
    "kilograms": "AMRAP 12:00\n8 deadlift @ 100 kg\n10 burpee",
    "pounds": "AMRAP 12:00\n8 deadlift @ 225 lb\n10 burpee",
    "two tracks": "AMRAP 12:00\n8 deadlift @ 100/70 kg\n10 burpee",
    "three tracks": "AMRAP 12:00\n8 deadlift @ 100/70/50 kg\n10 burpee",
    "three tiers": "AMRAP 12:00\n8 deadlift @ 100 kg | @ 80 kg | 8 air squat\n10 burpee",
    "buy-in": "for time, cap 15:00\nbuy-in: 40 cal row\n30 air squat\n10 burpee",
    "cash-out": "for time, cap 15:00\n30 air squat\n10 burpee\ncash-out: 40 cal row",
    "blocks": "AMRAP 6:00, rest 2:00\n8 deadlift @ 100 kg\n--\n10 burpee",
    "a complex": "5 sets, rest 2:00\n3 [1 clean + 1 front squat]",
    "each side": "3 rounds for time, cap 12:00\n8 lunge, each side\n10 burpee",
    "a team of three": "AMRAP 12:00, teams of 3, alternate\n10 burpee",
    "for quality": "4 rounds, for quality\n10 air squat\n30 s plank",
    "a percent range": "5 sets, rest 2:00\n5 back squat @ 75-80%",
    "capped": "5 rounds for time, cap 10:00\n10 burpee\n15 air squat",
    "windows": "EMOM 12:00, score total reps\n1) max burpee\n2) max air squat",
    "a hold": "3 sets, rest 1:00\n45 s plank",
}
PIECES: dict[str, plan.Piece] = {
    name: parse(f"## Conditioning: {text}").session.pieces[0] for name, text in VARIANTS.items()
}
variants = st.sampled_from(sorted(PIECES))

RACKS = {
    "a full rack": Rack(
        kit={"barbell": 6, "kettlebell 16 kg": 4, "kettlebell 24 kg": 4, "rower": 6, "box": 4},
        plates={20: 8, 15: 4, 10: 8, 5: 8, 2.5: 8, 1.25: 4},
    ),
    "an incomplete rack": Rack(kit={"barbell": 2, "kettlebell 12 kg": 2}, plates={20: 2, 5: 2}),
    "at home": Rack(kit={"backpack": 1}, plates={}),
}


def member(tier: int = 0, track: int = 0, **known: object) -> Member:
    """An athlete with what is known of them."""
    profile = Profile.model_validate(known)
    return Member(id=1, name="Ada Quill", tier=tier, track=track, profile=profile)

"""The people of Kittiwake Hall, all invented."""

from typing import Any

COACHES = (
    ("Maren Tolle", "coach@kittiwake.example"),
    ("Idris Penn", "idris@kittiwake.example"),
)
PASSWORD = "lifeboat-slipway"
ATHLETE_EMAILS = {
    "Ada Quill": "ada@kittiwake.example",
    "Bram Osei": "bram@kittiwake.example",
    "Cleo Vance": "cleo@kittiwake.example",
}
# name, tier, track, pace factor (1 is an ordinary member, more is slower), strength factor
ATHLETES = (
    ("Ada Quill", 1, 1, 1.02, 1.00),
    ("Bram Osei", 0, 0, 0.88, 1.12),
    ("Cleo Vance", 2, 1, 1.16, 0.85),
    ("Anouk Berrow", 0, 1, 0.90, 1.10),
    ("Arlo Finch", 1, 0, 1.05, 0.95),
    ("Beatriz Holm", 1, 1, 0.98, 1.02),
    ("Cedric Vale", 0, 0, 0.94, 1.15),
    ("Dagny Roake", 1, 1, 1.08, 0.92),
    ("Dimitri Sallow", 1, 0, 1.01, 1.05),
    ("Edda Marsh", 2, 1, 1.22, 0.78),
    ("Emil Tarn", 0, 0, 0.86, 1.06),
    ("Farah Linden", 1, 1, 0.96, 0.99),
    ("Fergus Oake", 2, 0, 1.18, 0.88),
    ("Greta Shoal", 0, 1, 0.92, 1.08),
    ("Hamid Croft", 1, 0, 1.00, 1.03),
    ("Hedda Wick", 2, 1, 1.12, 0.82),
    ("Ilya Brand", 0, 0, 0.91, 1.20),
    ("Ines Fallow", 1, 1, 1.04, 0.94),
    ("Jonas Reef", 1, 0, 1.07, 0.97),
    ("Juno Hatch", 0, 1, 0.89, 1.05),
    ("Kaspar Lock", 2, 0, 1.20, 0.86),
    ("Kerstin Dale", 1, 1, 0.99, 1.01),
    ("Lars Pike", 0, 0, 0.95, 1.09),
    ("Leila Strand", 1, 1, 1.03, 0.96),
    ("Marek Gull", 1, 0, 1.06, 1.00),
    ("Mina Thorpe", 2, 1, 1.25, 0.75),
    ("Nadia Kelp", 0, 1, 0.87, 1.13),
    ("Niall Burn", 1, 0, 0.97, 1.04),
    ("Oskar Weir", 2, 0, 1.15, 0.90),
    ("Petra Cove", 1, 1, 1.01, 0.98),
    ("Quentin Hollis", 1, 0, 1.09, 0.93),
    ("Rosa Tiller", 0, 1, 0.93, 1.07),
    ("Sami Ledge", 1, 0, 1.00, 1.06),
    ("Signe Buoy", 2, 1, 1.19, 0.80),
    ("Tomas Keel", 0, 0, 0.90, 1.18),
    ("Una Pell", 1, 1, 1.05, 0.95),
    ("Viggo Strake", 1, 0, 0.98, 1.02),
    ("Wanda Spar", 2, 1, 1.14, 0.84),
    ("Yusuf Mole", 1, 0, 1.02, 0.99),
    ("Zelda Carrick", 2, 1, 1.21, 0.79),
)
PROFILES: dict[str, dict[str, Any]] = {
    "Ada Quill": {
        "body_kg": 63,
        "bests": {"back squat": 82.5, "front squat": 67.5, "deadlift": 105, "strict press": 37.5},
        "longest": {"pull-up": 4, "push-up": 18, "double-under": 32},
        "rungs": {"Pull-up": "pull-up", "Handstand press": "wall walk", "Push-up": "push-up"},
        "notes": "Wants a strict pull-up by spring.",
        "born": 1984,
        "strength_as": "women",
    },
    "Petra Cove": {
        "limits": [{"limit": "shoulder", "note": "nothing overhead until the review"}],
        "rungs": {"Pull-up": "band pull-up"},
    },
    "Oskar Weir": {
        "limits": [{"limit": "knee", "note": "stairs are fine, landings are not"}],
        "bests": {"deadlift": 120},
    },
    # Lifted elsewhere for years, and still thinks in pounds.
    "Bram Osei": {"unit": "lb"},
    "Signe Buoy": {"longest": {"push-up": 3}, "rungs": {"Push-up": "incline push-up"}},
    "Tomas Keel": {
        "body_kg": 88,
        "born": 1991,
        "strength_as": "men",
        "bests": {"back squat": 150, "deadlift": 190, "strict press": 72.5, "push press": 95},
    },
    "Nadia Kelp": {
        "body_kg": 67,
        "born": 1995,
        "strength_as": "women",
        "bests": {"back squat": 105, "front squat": 85, "deadlift": 132.5, "strict press": 47.5},
    },
    "Quentin Hollis": {"hidden": True, "born": 1968},
    "Zelda Carrick": {"limits": [{"limit": "pregnancy", "note": "second trimester"}]},
}
"""What a few members have noted; all of it invented."""
STRAPPED = {
    "Ada Quill": None,
    "Bram Osei": 1979,
    "Tomas Keel": None,
    "Nadia Kelp": None,
    "Marek Gull": 1988,
    "Una Pell": 2001,
    "Viggo Strake": 1973,
    "Quentin Hollis": None,
}
"""Who wears a heart rate strap, with the year of birth where it is not told above."""


def told(name: str) -> dict[str, Any]:
    """What a member has told of themselves. Whoever told something lets the wall say what changed,
    and show a heart that is worn on a strap; who hides does not.
    """
    noted = PROFILES.get(name, {})
    wish = not noted.get("hidden", False)
    if name in STRAPPED:
        noted = {"born": STRAPPED[name], "heart_shown": wish} | noted
    return {"on_the_wall": wish} | noted if noted else {}


KIT = {
    "barbell": 10,
    "bench": 6,
    "box": 8,
    "dumbbell 10 kg": 8,
    "dumbbell 15 kg": 10,
    "dumbbell 22.5 kg": 8,
    "kettlebell 12 kg": 6,
    "kettlebell 16 kg": 10,
    "kettlebell 24 kg": 8,
    "pull-up bar": 8,
    "rings": 6,
    "rope": 20,
    "rower": 4,
}
SLIP = ("Emil Tarn", "Slack Water", "24+2")
"""Who wrote what by mistake on today's board, for a coach to see and settle."""

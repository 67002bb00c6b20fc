"""Boards and values that once broke something, or were made to: none may do more than be refused.

Each board stands for a kind: numbers too long, too large or too many, text that cannot be kept,
structure without end.
"""

from __future__ import annotations

MANY = 300
BOARDS = {
    "a number of five thousand digits": f"## Conditioning: AMRAP 10:00\n{'9' * 5000} burpee\n",
    "rounds of five thousand digits": f"## Conditioning: {'9' * 5000} rounds\n10 burpee\n",
    "fifty million reps": "## Conditioning: 500 rounds for time\n100000 burpee\n",
    "a hundred thousand rounds": "## Conditioning: 100000 rounds\n100000 burpee\n",
    "windows without end": "## Conditioning: every 0:01 x 500\n"
    + "\n".join(f"{n}) max burpee" for n in range(1, MANY)),
    "a day of an AMRAP": "## Conditioning: AMRAP 1440:00\n1 burpee\n",
    "growth without end": "## Conditioning: AMRAP 20:00\n1+99999 burpee\n",
    "shrinking below nothing": "## Conditioning: AMRAP 20:00, -99999 reps each round\n1 burpee\n",
    "a scheme of two hundred": "## Conditioning: "
    + "-".join(["100000"] * 200)
    + " for time\nburpee\n",
    "a run round the earth": "## Conditioning: for time\n99999 km run\n99999 m run\n",
    "trips of a centimetre": "## Conditioning: AMRAP 10:00\nmax x 0.01 m shuttle run\n",
    "hundreds of blocks": "## Conditioning: Tabata\n" + "burpee\n--\n" * MANY,
    "brackets that say nothing": "AMRAP 12\n" + f"{'(' * 150}\n" * MANY,
    "signs that say nothing": "AMRAP 12\n" + f"{'@ ' * 75}\n" * MANY,
    "numbers that say nothing": "AMRAP 12\n" + f"{'1 ' * 75}\n" * MANY,
    "hundreds of pieces": "\n".join(["## Warm-up: 3 rounds\n10 air squat"] * MANY),
    "hundreds of alternatives": "## Conditioning: AMRAP 10:00\n10 burpee" + " or 10 burpee" * MANY,
    "hundreds of tiers": "## Conditioning: AMRAP 10:00\n10 burpee" + " | 9 burpee" * MANY,
    "a unit of hundreds of parts": "## Conditioning: AMRAP 10:00\n10 ["
    + " + ".join(["5 burpee"] * MANY)
    + "]\n",
    "brackets a hundred deep": "## Conditioning: AMRAP 10:00\n10 " + "[" * 100 + "5 burpee",
    "a team of a hundred thousand": "## Conditioning: 5 rounds for time, teams of 100000, "
    "alternate\n10 burpee\n",
    "heats without end": "## Conditioning: AMRAP 10:00, heats 100000\n10 burpee\n",
    "a pause of a day": "## Strength: 5 sets\n10 back squat, pause 99999 s @ 60 kg\n",
    "a name of three thousand letters": f'## Conditioning "{"n" * 3000}": AMRAP 10:00\n10 burpee',
    "a movement of three thousand letters": f"## Conditioning: AMRAP 10:00\n10 {'z' * 3000}",
    "the end of all calendars": "# Late\ndate: 9999-12-31\n\n## Warm-up: 1 round\n1 burpee",
    "the first of all days": "# Early\ndate: 0001-01-01\n\n## Warm-up: 1 round\n1 burpee",
    "a NUL": "## Warm-up: 3 rounds\n10 air\x00squat\n",
    "other lines' ends": "## Warm-up: 3 rounds\x0b10 air squat\x0c10 push-up\u2028\u2029\x85end",
    "digits of other scripts": "## Warm-up: ٣ rounds\n१० air squat\n",
    "nothing but marks": "##:\n##\n#\n>\n--\n@\n|\n+\n\n[[[\n]]]\n)))",
}
WORDS = [
    "... kg",
    "kg",
    "0 kg",
    "-1 kg",
    "1e400 kg",
    "nan kg",
    "dumbbell inf kg",
    "\t",
    "\u200b",
    "💥" * 60,
]
"""Names of kit and the like, of a length that may be kept."""
NUMBERS = [2**31, 2**63, 2**64, -1, 1e308, 10**30]
"""Whole numbers beyond a column."""
DATES = ["9999-12-31", "0001-01-01", "2026-02-30", "-1", "today"]

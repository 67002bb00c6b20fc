"""The notation on one page: what can be written, each with an example to put into the board."""

from pine_ladder.core.plan import Frozen


class CardExample(Frozen):
    """Board text that reads as it stands, and what it says; a whole piece, or one line of one."""

    text: str
    says: str
    line: bool = False


class CardSection(Frozen):
    """Examples under one word."""

    title: str
    examples: tuple[CardExample, ...]


def _lines(*pairs: tuple[str, str]) -> tuple[CardExample, ...]:
    return tuple(CardExample(text=text, says=says, line=True) for text, says in pairs)


def _pieces(*pairs: tuple[str, str]) -> tuple[CardExample, ...]:
    return tuple(CardExample(text=text, says=says) for text, says in pairs)


CARD = (
    CardSection(
        title="As on a whiteboard",
        examples=_pieces(
            ("EMOM 12\n15 KB swings 24/16", "a piece written plainly; Tab makes a line exact"),
            ("Strength\n5x5 back squat 75%, rest 2 min", "sets and rest said with the work"),
            ("20 min AMRAP\n5 pull-ups\n10 push-ups", "no signs needed before a heading"),
        ),
    ),
    CardSection(
        title="Headings",
        examples=_pieces(
            ("## Warm-up: 3 rounds\n10 air squat", "rounds for quality, nobody is timed"),
            ("## Strength: 4 sets, rest 1:30, build\n5 front squat", "sets that build to a best"),
            ("## Conditioning: AMRAP 12:00\n10 burpee", "as many rounds as there is time for"),
            (
                "## Conditioning: 5 rounds for time, cap 15:00\n10 box jump",
                "a task to finish, with the time at which it ends for all",
            ),
            ("## Conditioning: 21-15-9 for time\nthruster\npull-up", "a scheme of reps"),
            ("## Conditioning: EMOM 10:00\n12 kettlebell swing", "a window each minute"),
            (
                "## Conditioning: every 2:00 x 3 rounds, rest 1:00\n1) max burpee\n2) max sit-up",
                "stations, a window each, three times round",
            ),
            ("## Power: intervals 0:30/1:00 x 6\nmax row", "work and rest in turn"),
            ("## Core: Tabata\nhollow rock", "eight times 20 s of work and 10 s of rest"),
            ("## Skill: accumulate\n3:00 plank", "a total, broken up as it comes"),
            ("## Cool-down: continuous 10:00\n10:00 walk", "one stretch of time"),
            ("## Rest: 2:00", "everybody rests"),
        ),
    ),
    CardSection(
        title="After the format",
        examples=_pieces(
            (
                "## Conditioning: AMRAP 10:00, target 5-7 rounds\n12 goblet squat",
                "what the coach expects; the test-run is held against it",
            ),
            (
                "## Conditioning: AMRAP 8:00, +2 reps each round\n2 burpee",
                "a ladder that grows each round",
            ),
            (
                "## Conditioning: every 1:00, +1 reps each round, until missed\n1 burpee",
                "until somebody misses the minute",
            ),
            ("## Conditioning: EMOM 10:00, work 0:40\nmax row", "each window's work ends at 0:40"),
            (
                "## Conditioning: AMRAP 12:00, teams of 2, alternate\n10 burpee",
                "one works, the other rests",
            ),
            ("## Conditioning: AMRAP 6:00-10:00\n10 push-up", "left to the day; 6:00 is planned"),
            (
                "## Conditioning: AMRAP 4:00, rest 1:00\n10 burpee\n--\n10 sit-up",
                "two blocks with a rest between",
            ),
        ),
    ),
    CardSection(
        title="Lines",
        examples=_lines(
            ("10 burpee", "a count and a movement"),
            ("8-12 push-up", "the athlete's choice"),
            ("21-15-9 thruster", "another count each round"),
            ("max pull-up", "as many as there is time for"),
            ("30 s plank", "a hold"),
            ("400/300 m run", "a distance, one a track"),
            ("15/12 cal row", "calories"),
            ("max x 10 m shuttle run", "as many trips as possible"),
            ("8 lunge, each side", "on each side, sixteen in all"),
            ("16 lunge, alternating", "sixteen in all"),
            ("5 front squat, tempo 40X0", "down, bottom, up and top in seconds"),
            ("10 deadlift, unbroken", "without putting it down"),
            ("max box jump, aim 15-20", "what the coach hopes for here"),
            ("5 [1 clean + 1 front squat]", "a complex, five times"),
            ("10 thruster or 10 wall ball", "the coach's alternative"),
            ("10 push-up — elbows close", "a note"),
        ),
    ),
    CardSection(
        title="Loads and versions",
        examples=_lines(
            ("10 kettlebell swing @ 24/16 kg", "a load a track"),
            ("10 farmer carry @ 2 x 24 kg", "two of them"),
            ("5 back squat @ 70-80%", "of the athlete's best"),
            ("5 deadlift @ RPE 8", "two more would have gone"),
            ("10 box jump @ 60/50 cm", "a height a track"),
            ("10 pull-up | ring row", "the first tier, and the next"),
            ("10 thruster @ 40/30 kg | @ 30/20 kg | air squat", "a version a tier"),
        ),
    ),
)

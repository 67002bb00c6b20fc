"""A piece of every format to begin from, each with a sentence on when coaches use it."""

from pine_ladder.core.plan import Frozen


class Template(Frozen):
    """A piece of board text, its name in the menu, and when coaches use it."""

    label: str
    when: str
    text: str


TEMPLATES = (
    Template(
        label="Rounds for quality",
        when="Warm-ups and skill: nobody is timed, everybody moves well.",
        text="## Warm-up: 3 rounds\n10 air squat\n10 push-up\n15 s hollow hold",
    ),
    Template(
        label="Sets",
        when="Strength: the same few reps again with a rest between.",
        text="## Strength: 4 sets, rest 1:30-2:00\n5 front squat, tempo 30X0 @ 70%",
    ),
    Template(
        label="Build to a heavy set",
        when="Strength days that test: the best load of the day is the score.",
        text="## Strength: 5 sets, rest 2:00-3:00, build\n3 back squat",
    ),
    Template(
        label="AMRAP",
        when="Everybody finishes together, each at their own number of rounds.",
        text="## Conditioning: AMRAP 12:00, target 5-7 rounds\n10 kettlebell swing @ 24/16 kg"
        "\n10 burpee",
    ),
    Template(
        label="AMRAP ladder",
        when="Starts easy and finds everyone's limit: each round grows.",
        text="## Conditioning: AMRAP 8:00, +2 reps each round\n2 deadlift @ 60/40 kg"
        "\n2 burpee over the bar",
    ),
    Template(
        label="EMOM with stations",
        when="A steady pace on the minute; what is left of the minute is rest.",
        text="## Conditioning: EMOM 12:00, score done, aim 0:40"
        "\n1) 16 dumbbell snatch, alternating @ 15/10 kg\n2) 16 goblet squat @ 20/12 kg"
        "\n3) 24 russian twist, alternating",
    ),
    Template(
        label="Stations on the interval",
        when="As many reps as possible at each station in turn; scores by total.",
        text="## Conditioning: every 2:00 x 3 rounds, rest 2:00, score total reps"
        "\n1) max box jump @ 60/50 cm\n2) max push-up\n3) max sit-up",
    ),
    Template(
        label="Partners taking turns",
        when="Half the kit, natural rest: one works a minute, the other counts.",
        text="## Conditioning: every 1:00 x 3 rounds, score total reps, teams of 2, alternate"
        "\n1) max burpee\n2) max dumbbell deadlift @ 22.5/15 kg\n3) rest",
    ),
    Template(
        label="Ladder until missed",
        when="One more each minute until the minute is too short; the step is the score.",
        text="## Conditioning: every 1:00, +1 reps each round, until missed\n1 thruster @ 40/30 kg",
    ),
    Template(
        label="Work and rest intervals",
        when="Short and hard or steady: work and rest told in seconds.",
        text="## Conditioning: intervals 0:40/0:20 x 4, score total reps\nair squat\nsit-up"
        "\nmountain climber",
    ),
    Template(
        label="Sprints",
        when="Power: a few seconds all out, then full recovery.",
        text="## Power: intervals 0:07/2:00 x 6, pace hard\nmax sprint",
    ),
    Template(
        label="Tabata",
        when="Four minutes of 0:20/0:10, as many as possible each time.",
        text="## Core: Tabata, rest 2:00, score lowest interval\nmountain climber\n--"
        "\nstraight-leg sit-up",
    ),
    Template(
        label="For time",
        when="A task to finish; everybody stops at the cap.",
        text="## Conditioning: 3 rounds for time, cap 15:00\n400 m run\n20 goblet squat @ 24/16 kg",
    ),
    Template(
        label="Descending scheme for time",
        when="Big sets first, fast finish; a line may have its own numbers.",
        text="## Conditioning: 10-8-6-4-2 for time, cap 18:00\n100-80-60-40-20 single-under"
        "\nthruster @ 42.5/30 kg",
    ),
    Template(
        label="Accumulate",
        when="A hold or a count gathered in as many parts as it takes.",
        text="## Skill: accumulate\n5:00 plank",
    ),
    Template(
        label="Continuous",
        when="Steady parts one after the other: runs, cool-downs, rolling.",
        text="## Cool-down: continuous 10:00\n6:00 easy run\n4:00 walk",
    ),
    Template(
        label="Rest",
        when="A stated break between two pieces.",
        text="## Rest: 2:00",
    ),
)

EXAMPLE = """\
Slack Water

Warm-up 3 rounds
10 air squats
10 push-ups

20 min AMRAP
12 KB swings 24/16
10 burpees

Cool-down 5:00
walk
"""
"""A small day as a coach would write it on a whiteboard, to write over."""

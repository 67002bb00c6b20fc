"""A piece while it is read: its heading as said, its lines, and what its format makes of them."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from pine_ladder.core.notation.plain.headings import Said
from pine_ladder.core.notation.plain.lines import LEFT_OVER, Reader, Work
from pine_ladder.core.notation.plain.openings import LIFTS, without_tail
from pine_ladder.core.notation.plain.times import TIME, seconds

BREAK = re.compile(r"-{2,}")
"""What parts the blocks of a piece."""
_RANGE = re.compile(r"\d+-\d+")
_CALORIES = re.compile(
    r"cal(?:orie)?s?\s+(?:of\s+)?([a-z][a-z -]+)|([a-z][a-z -]+?)\s+\(?cal(?:orie)?s?\)?",
    re.IGNORECASE,
)


@dataclass
class Item:
    """A line under a heading: `text` as typed, or the part of it that is work."""

    number: int
    text: str
    typed: bool = True
    work: Work | None = None
    stands: bool = False
    """It reads as it is, or is no work at all."""

    @property
    def is_work(self) -> bool:
        """Whether it is a line of work, read or not."""
        return bool(self.text) and not self.text.startswith(">") and not BREAK.fullmatch(self.text)


@dataclass
class Section:
    """A piece while it is read: its heading as typed or as said, and its lines."""

    number: int
    raw: str
    said: Said | None
    implied: bool = False
    items: list[Item] = field(default_factory=list)
    tails: list[str] = field(default_factory=list)
    """What lines say of the whole piece: `rest 1 min`, `15 min cap`."""
    apart: bool = False
    """Each line is a block of its own."""
    first: str = ""
    """The first rung of a ladder, before each line without an amount."""
    sets: int | None = None
    """How often its lines are done, where it says so; a line may say the same again."""
    letter: str = ""
    """What a letter before it says: `A`, `A1`."""
    lift: str = ""
    """The lift whose sets the lines are: `5 @ 60`."""


def by_sets(section: Section, reader: Reader) -> list[Section]:
    """A piece for each number of sets: `5x5 back squat`, and below it `3x10 rows`."""
    said = section.said
    quality = said is not None and said.form == "rounds" and said.modifiers == ("for quality",)
    if said is None or not (quality or (not said.form and said.role in LIFTS)):
        return [section]
    parts, now = [section], None
    held, section.items = section.items, []
    for item in held:
        many = re.search(r"\d\s*[x×]\s*(?:\d|max)", item.text) and not section.lift
        read = reader.read(without_tail(item.text)[0]) if many else None
        sets = read.sets if read else None
        if sets and quality:
            parts[-1].said = said._replace(form="sets", numbers=(str(sets),))
        if sets and now and sets != now:
            fresh = said._replace(name=None)
            fresh = fresh._replace(form="sets", numbers=(str(sets),)) if quality else fresh
            parts.append(Section(item.number, "", fresh, implied=True))
        now = sets or now
        parts[-1].items.append(item)
    return parts


def is_rounds(section: Section) -> bool:
    """Whether its lines are done in rounds that no clock closes."""
    return section.said is not None and section.said.form in ("rounds", "sets")


def is_race_above(said: Said, below: str) -> bool:
    """Whether `for time` stands under the work it is about, with nothing of its own below."""
    return said.role is None and said.form == "for time" and not below


def drop_numbering(section: Section) -> None:
    """`1 jumping jacks`, `2 mountain climbers`: numbers in order count the lines, not the reps."""
    works = [item for item in section.items if item.is_work]
    if section.said is None or section.said.form not in ("intervals", "tabata") or len(works) < 2:
        return
    found = [re.match(r"(\d{1,2})\s+(?=[a-z])", item.text.strip(), re.IGNORECASE) for item in works]
    if [one and int(one[1]) for one in found] != list(range(1, len(works) + 1)):
        return
    for item, one in zip(works, found, strict=True):
        assert one is not None
        item.text, item.stands, item.typed = item.text.strip()[one.end() :], False, False


def lay_out_stations(section: Section) -> None:
    """A minute at each station: the lines are its stations, and a rest between rounds is one."""
    said = section.said
    if said is None or said.form != "stations":
        return
    length, rounds = said.numbers
    works = [item for item in section.items if item.is_work]
    rests = [one for one in said.modifiers if one == f"rest {length}"]
    for place, item in enumerate(works, start=1):
        text = item.text.strip()
        item.stands = False
        item.text = (
            f"{place}) {text}" if re.match(r"\d|max\b|rest", text) else f"{place}) max {text}"
        )
    if rests and works:
        section.items.append(Item(works[-1].number, f"{len(works) + 1}) rest", typed=False))
    modifiers = tuple(one for one in said.modifiers if one not in rests)
    section.said = said._replace(
        form="every for", numbers=(length, ""), rounds=f"{rounds} rounds", modifiers=modifiers
    )


def turns(section: Section) -> bool:
    """Whether every line is a turn of work and rest, so that a line may be a rest."""
    return section.said is not None and section.said.form == "intervals"


def seconds_of(text: str) -> int | None:
    """The length of a line that is timed; both sides of it where it has two."""
    found = re.match(rf"({TIME})(?=\s)", text.strip(), re.IGNORECASE)
    both = 2 if re.search(r"each side", text) else 1
    return both * seconds(found[1], "s") if found else None


def copies(said: Said | None) -> int:
    """How often the one block is meant: `4 x AMRAP 3:00`."""
    if said is None or said.form not in ("amrap", "tabata"):
        return 1
    count = said.numbers[-1] if said.form == "tabata" or len(said.numbers) > 1 else ""
    times = count or (said.rounds if said.form == "amrap" else "") or ""
    return int(times) if times.isdecimal() else 1


def take_aim(section: Section) -> None:
    """An AMRAP told with a range of rounds, `AMRAP 12, 8-10 rounds`: what the coach expects."""
    said = section.said
    if said is None or said.form != "amrap" or not _RANGE.fullmatch(said.rounds or ""):
        return
    aim = f"target {said.rounds} rounds"
    section.said = said._replace(rounds=None, modifiers=(*said.modifiers, aim))


def to_one_window(section: Section) -> None:
    """An AMRAP whose last line is told to fill what is left: its work is done once, in a window."""
    said = section.said
    works = [item.text for item in section.items if item.is_work]
    if said is None or said.form != "amrap" or "-" in said.numbers[0] or len(works) < 2:
        return
    if LEFT_OVER.search(works[-1].strip(" .;")):
        times = str(copies(said))
        section.said = said._replace(form="every for", numbers=(said.numbers[0], ""), rounds=times)


def lay_out_calories(section: Section) -> None:
    """Calories that go down a scheme, `21-15-9`, `cal row`: every round is written out."""
    said = section.said
    works = [item for item in section.items if item.is_work]
    if said is None or said.form != "scheme":
        return
    if not any(_CALORIES.fullmatch(item.text.strip()) for item in works):
        return
    out: list[Item] = []
    last = works[-1].number
    for at, count in enumerate(said.numbers[0].split("-")):
        for item in works:
            text = item.text.strip()
            one = _CALORIES.fullmatch(text)
            line = f"{count} cal {one[1] or one[2]}" if one else f"{count} {text}"
            out.append(Item(last if at else item.number, line, typed=False))
    section.items = out
    section.said = said._replace(form="for time", numbers=())

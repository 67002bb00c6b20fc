"""People of an old list: each row to somebody, with what else is known of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import Literal, NamedTuple

from pine_ladder.core.athletes.addresses import read_address
from pine_ladder.core.imports.dates import order_of, parts, read_date, read_year
from pine_ladder.core.imports.gym import GymFacts, Member, Row, tier_of, track_of
from pine_ladder.core.imports.headings import folded
from pine_ladder.core.imports.names import tidy
from pine_ladder.core.imports.questions import Asked, ImportQuestion, Skipped
from pine_ladder.core.imports.scores import date_order

YOUNGEST, OLDEST = 5, 110
_LEFT = (
    "no",
    "false",
    "0",
    "inactive",
    "left",
    "cancelled",
    "canceled",
    "inaktiv",
    "ausgetreten",
    "nein",
    "baja",
    "frozen",
)
_COACHES = ("coach", "trainer", "owner", "staff", "instructor")


class NormalPerson(NamedTuple):
    """Somebody as they are brought in. `id` is whom the gym has already, None for somebody new;
    `what` says which; `tier` and `track` are positions, None where the list says nothing.
    """

    line: int
    what: Literal["new", "same", "changed"]
    id: int | None
    name: str
    email: str
    tier: int | None
    track: int | None
    born: int | None
    notes: str
    changes: tuple[str, ...] = ()


class ReadPeople(NamedTuple):
    """A list of people as it is understood, and the rows that are left out and why."""

    people: list[NormalPerson]
    skipped: list[Skipped]


def read_people(rows: Sequence[Row], gym: GymFacts, asked: Asked) -> ReadPeople:
    """The people of a list, against those of the gym."""
    reading = _Reading(rows, gym, asked)
    out: list[NormalPerson] = []
    skipped: list[Skipped] = []
    for row in rows:
        read = reading.person(row)
        if isinstance(read, str):
            skipped.append(Skipped(row=row.line, why=read))
        else:
            out.append(read)
    return ReadPeople(out, skipped)


class _Reading:
    """The reading of a list of people, row after row."""

    def __init__(self, rows: Sequence[Row], gym: GymFacts, asked: Asked) -> None:
        self.gym, self.asked = gym, asked
        self.order = date_order((row.get("born") for row in rows), gym, asked)
        self.shared = _shared(rows)
        self.by_email = {person.email.lower(): person for person in gym.people if person.email}
        self.by_name: dict[str, list[Member]] = defaultdict(list)
        for one in gym.people:
            self.by_name[folded(one.name)].append(one)
        self.seen: dict[tuple[str, str], int] = {}
        self.taken: set[str] = set()

    def person(self, row: Row) -> NormalPerson | str:
        """Return the person of a row, or the reason it is left out."""
        name = name_of(row)
        if not folded(name):
            return "there is no name"
        if row.get("active").lower() in _LEFT:
            return f"{name} has left, as the list says"
        if row.get("role").lower() in _COACHES:
            return f"{name} is a coach, as the list says: coaches are invited by hand"
        try:
            email = self._email(row)
        except ValueError as error:
            return str(error)
        key = (folded(name), email)
        if key in self.seen:
            return f"{name} stands in line {self.seen[key]} already"
        self.seen[key] = row.line
        self.taken.add(email)
        member = self._member(name, email)
        if member is not None and not member.active:
            return f"{member.name} has left: bring them back under People if it is them"
        tier = tier_of(row.get("tier"), self.gym, self.asked) if row.get("tier") else None
        born = read_year(row.get("born"), self.order)
        if born is not None and not YOUNGEST <= self.gym.today.year - born <= OLDEST:
            born = None
        return _against(row, member, name, email, tier, track_of(row.get("sex"), self.gym), born)

    def _email(self, row: Row) -> str:
        """The address of a row; ValueError, in a sentence, for one that is none or another's."""
        email = row.get("email").lower().removeprefix("mailto:")
        if not email:
            return ""
        email = read_address(email)
        if email not in self.shared or email not in self.taken:
            return email
        names = self.shared[email]
        said = self.asked.ask(
            ImportQuestion(
                id=f"email:{email}",
                text=f"{email} stands with {', '.join(names)}. Whose is it?",
                choices=(FIRST_KEEPS, OTHERS_OUT),
                guess=FIRST_KEEPS,
            )
        )
        if said == OTHERS_OUT:
            raise ValueError(f"{email} is {names[0]}’s")
        return ""

    def _member(self, name: str, email: str) -> Member | None:
        """Return the gym's member of an address, else of a name that one person has."""
        if email and email in self.by_email:
            return self.by_email[email]
        same = self.by_name.get(folded(name), [])
        if len(same) != 1:
            return None
        if email and same[0].email:
            said = self.asked.ask(
                ImportQuestion(
                    id=f"same:{email}",
                    text=f"{name} is here with {same[0].email}. Is {email} the same person?",
                    choices=(SAME, OTHER),
                    guess=SAME,
                )
            )
            return same[0] if said == SAME else None
        return same[0]


SAME, OTHER = "the same person, at a new address", "somebody else of that name"
FIRST_KEEPS = "the first one's, the others get none"
OTHERS_OUT = "leave the others out"


def name_of(row: Row) -> str:
    """The name of a row, from one column or from two."""
    return tidy(row.get("name") or f"{row.get('given')} {row.get('family')}".strip())


def _shared(rows: Sequence[Row]) -> dict[str, list[str]]:
    """Addresses that stand with several names, and whose."""
    whose: dict[str, list[str]] = defaultdict(list)
    for row in rows:
        email = row.get("email").lower().removeprefix("mailto:")
        name = name_of(row)
        if email and name and name not in whose[email]:
            whose[email].append(name)
    return {email: names for email, names in whose.items() if len(names) > 1}


def _against(
    row: Row,
    member: Member | None,
    name: str,
    email: str,
    tier: int | None,
    track: int | None,
    born: int | None,
) -> NormalPerson:
    """A row held against the person it is of, where the gym has them."""
    notes = []
    if row.get("emergency"):
        notes.append(f"In an emergency: {row.get('emergency')}")
    if row.get("joined"):
        order, _ = order_of([row.get("joined")] if parts(row.get("joined")) else [])
        joined = read_date(row.get("joined"), order)
        notes.append(f"Joined {joined.isoformat() if joined else row.get('joined')}")
    if row.get("note"):
        notes.append(row.get("note"))
    changes = []
    if member is not None:
        if email and email != (member.email or "").lower():
            changes.append("email")
        if tier is not None and tier != member.tier:
            changes.append("tier")
        if track is not None and track != member.track:
            changes.append("track")
    what: Literal["new", "same", "changed"] = (
        "new" if member is None else "changed" if changes else "same"
    )
    return NormalPerson(
        line=row.line,
        what=what,
        id=member.id if member else None,
        name=member.name if member else name,
        email=email,
        tier=tier,
        track=track,
        born=born,
        notes="\n".join(notes)[:2000],
        changes=tuple(changes),
    )

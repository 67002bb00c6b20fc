"""Dates as tables hold them: in every usual order, with names of months, from spreadsheets."""

from __future__ import annotations

import datetime as dt
import re
import unicodedata
from collections.abc import Iterable
from typing import Literal

Order = Literal["day first", "month first"]
_MONTHS = {
    1: "jan ene gen janv",
    2: "feb fev fevr",
    3: "mar mrz maer mars",
    4: "apr abr avr avri",
    5: "may mai mei maj mag",
    6: "jun juin giu",
    7: "jul juil lug",
    8: "aug ago aou aout",
    9: "sep sept set",
    10: "oct okt ott out",
    11: "nov",
    12: "dec dez dic des",
}
"""Beginnings of the names of months in the languages of western Europe."""
_NAMES = {name: number for number, names in _MONTHS.items() for name in names.split()}
_NUMERIC = re.compile(r"(\d{1,4})\s*[./-]\s*(\d{1,2})\s*[./-]\s*(\d{1,4})\.?")
_COMPACT = re.compile(r"(\d{4})(\d{2})(\d{2})")
_SERIAL = re.compile(r"(\d{5})(?:\.\d+)?")
_TIME_AFTER = re.compile(
    r"[T ,]+\d{1,2}[:.]\d{2}(?::\d{2}(?:\.\d+)?)?\s*(?:[ap]\.?m\.?)?(?:Z|[+-]\d{2}:?\d{2})?$", re.I
)
FIRST_SERIAL, LAST_SERIAL = 20_000, 80_000
"""Days since 1899-12-30, as spreadsheets count them, of the years 1954 to 2119."""
_EPOCH = dt.date(1899, 12, 30)


def _plain(text: str) -> str:
    letters = unicodedata.normalize("NFKD", text.strip())
    return "".join(letter for letter in letters if not unicodedata.combining(letter)).lower()


def _month(word: str) -> int | None:
    """The number of a month by its name in several languages, None for no month."""
    for length in (4, 3):
        if word[:length] in _NAMES:
            return _NAMES[word[:length]]
    return None


def _year(number: int) -> int:
    """A year of two or four digits; two are of this century but for those far ahead."""
    if number >= 100:
        return number
    return 2000 + number if number < 70 else 1900 + number


def _made(year: int, month: int, day: int) -> dt.date | None:
    try:
        return dt.date(_year(year), month, day)
    except ValueError:
        return None


def _named(text: str) -> dt.date | None:
    """A date with a month by its name: `14 Mar 2026`, `Mar 14, 2026`, `Sat 14. März 26`."""
    words = re.findall(r"[a-z]+|\d+", text)
    numbers = [int(word) for word in words if word.isdigit()]
    months = [month for word in words if not word.isdigit() and (month := _month(word))]
    if not months or len(numbers) != 2:
        return None
    first, second = numbers
    year, day = (first, second) if first > 31 else (second, first)
    return _made(year, months[-1], day)


def parts(text: str) -> tuple[int, int, int] | None:
    """The three numbers of a date of numbers that does not begin with its year; None for others."""
    match = _NUMERIC.fullmatch(_TIME_AFTER.sub("", _plain(text)))
    if not match or len(match[1]) > 2:
        return None
    return int(match[1]), int(match[2]), int(match[3])


def read_date(text: str, order: Order = "day first") -> dt.date | None:
    """The date that a cell holds, None for none.

    Where the order does not fit (a month over twelve) the other one is read.

    >>> read_date("3/14/2026"), read_date("14.03.26"), read_date("Mar 14, 2026")
    (datetime.date(2026, 3, 14), datetime.date(2026, 3, 14), datetime.date(2026, 3, 14))
    """
    plain = _TIME_AFTER.sub("", _plain(text))
    if not plain:
        return None
    try:
        return dt.date.fromisoformat(plain)
    except ValueError:
        pass
    if match := _COMPACT.fullmatch(plain):
        return _made(*map(int, match.groups()))
    if match := _SERIAL.fullmatch(plain):
        days = int(match[1])
        return _EPOCH + dt.timedelta(days) if FIRST_SERIAL <= days <= LAST_SERIAL else None
    if match := _NUMERIC.fullmatch(plain):
        one, two, three = (int(part) for part in match.groups())
        if len(match[1]) > 2:
            return _made(one, two, three)
        day_first = _made(three, two, one)
        month_first = _made(three, one, two)
        return (day_first or month_first) if order == "day first" else (month_first or day_first)
    return _named(plain)


def looks_like_date(text: str) -> bool:
    """Whether a cell may be a date; a bare number of a spreadsheet is none by its looks."""
    if text.strip().isdigit() and not _COMPACT.fullmatch(text.strip()):
        return False
    return read_date(text) is not None


def order_of(cells: Iterable[str]) -> tuple[Order, bool]:
    """The likelier order of a column's dates, and whether that is certain.

    A number over twelve decides; where none is, or both orders are needed, nothing is certain.
    """
    first = second = 0
    dotted = slashed = 0
    for cell in cells:
        numbers = parts(cell)
        if numbers is None:
            continue
        first += numbers[0] > 12
        second += numbers[1] > 12
        dotted += "." in cell
        slashed += "/" in cell
    if first and not second:
        return "day first", True
    if second and not first:
        return "month first", True
    if not first and not second:
        return "day first", dotted > 0 or not slashed
    return ("day first" if first >= second else "month first"), False


def read_year(text: str, order: Order = "day first") -> int | None:
    """The year of birth that a cell holds: a year, or that of a date; None for none."""
    plain = text.strip()
    if re.fullmatch(r"(?:19|20)\d{2}", plain):
        return int(plain)
    date = read_date(plain, order)
    return date.year if date else None

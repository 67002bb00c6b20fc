"""How much of a movement, as it is said: `10/arm`, `400 m`, `3 x max`, `run 400`, `12 cals`."""

from __future__ import annotations

import re

from pine_ladder.core.notation.plain.times import LENGTH, SPAN, TIME, metres, span

_LIMB = r"(?:sides?|legs?|arms?|ways?|hands?|foot|feet|knees?|directions?)"
EACH = (
    rf"(?:(?:each|per|a|every|both)\s+{_LIMB}|/\s*{_LIMB}|e/s|ea\.?(?:\s+{_LIMB})?"
    rf"|l/r|r/l|each(?:\s+{_LIMB})?|p/s)"
)
_MAX = re.compile(
    r"(?:max(?:imum)?(?:\s+(?:reps?|effort))?(?:\s+of)?|amrap(?=\s+[a-z])"
    r"|as many (?:reps )?as possible(?: of)?)\s+",
    re.IGNORECASE,
)
OF_CALORIES = re.compile(r"cal(?:orie)?s?\b\s*(?:of\s+|on (?:the\s+)?)?", re.I)
OF_METRES = re.compile(r"(?:m|met(?:re|er)s?|distance)\b\s*(?:of\s+|on (?:the\s+)?)?", re.I)


def _times(found: re.Match[str]) -> str:
    return span(found[1], "s")


_WAYS = r"run|row|ski|swim|jog|sprint|shuttle run|easy run|rowing|running|bike"
_FAR = re.compile(
    rf"^(?P<sets>\d{{1,2}}\s*[x×]\s*)?(?:(?P<far>\d{{3,5}})\s+(?P<way>{_WAYS})|(?P<then>{_WAYS})\s+"
    r"(?P<after>\d{3,5}))(?=$|\s*[,(|])",
    re.I,
)
"""`run 400`, `400 run`: so many of what is measured in metres are metres."""


def _as_far(found: re.Match[str]) -> str:
    way, far = found["way"] or found["then"], found["far"] or found["after"]
    return f"{found['sets'] or ''}{far} m {way}"


_CAL = r"cal(?:orie)?s?\.?"
_AMOUNTS = (
    (r"(\d+)\s*/\s*\1(?!\s*/)(?![.,]?\d)(?!\s*(?:cal|kg|lb|m\b))\s+", lambda m: f"{m[1]}/each"),
    (r"(\d+)\s*\+\s*\1(?!\d)\s+", lambda m: f"{m[1]}/each"),
    (
        rf"(\d+(?:\s*/\s*\d+)?)\s*-?{_CAL}(?![a-z])\s*(?:of\s+|on (?:the\s+)?)?",
        lambda m: f"{re.sub(chr(32), '', m[1])} cal",
    ),
    (rf"({LENGTH})(?![a-z])\s*(?:of\s+)?", lambda m: f"{metres(m[1])} m"),
    (r"(\d+)\s*/\s*(\d+)\s*(?:m|met(?:re|er)s?)(?![a-z])\s*", lambda m: f"{m[1]}/{m[2]} m"),
    (rf"({SPAN})(?![a-z:])\s*(?:of\s+)?", _times),
    (rf"(\d+)\s*(?:{EACH})(?![a-z])\s*(?:of\s+)?", lambda m: f"{m[1]}/each"),
    (
        r"(\d+(?:\s*[-–]\s*\d+)+)(?![\d/:])\s*(?:reps?\s*)?(?:of\s+)?",
        lambda m: re.sub(r"\s*[-–]\s*", "-", m[1]),
    ),
    (r"(\d+)(?![\d/:.,%])(?:\s*reps?(?:\s+of)?)?(?=\s)\s*", lambda m: m[1]),
    (r"a\s+(?=\w)", lambda m: "1"),
)
_AMOUNTS_LAST = (
    (r"\s(?P<sets>\d{1,2})\s*[x×]\s*(\d+)(?![\d/:.%])(?:\s*reps?)?", lambda m: m[2]),
    (rf"\s(\d+(?:\s*/\s*\d+)?)\s*{_CAL}(?![a-z])", lambda m: f"{re.sub(chr(32), '', m[1])} cal"),
    (rf"\s\(?({LENGTH})(?![a-z])\)?", lambda m: f"{metres(m[1])} m"),
    (rf"\s(?:for\s+)?\(?({TIME})(?![a-z:])\)?", _times),
    (r"\s(\d+(?:\s*-\s*\d+){2,})(?![\d/:])", lambda m: re.sub(r"\s*-\s*", "-", m[1])),
    (r"\s(\d+)\s*/\s*\1(?![.,]?\d)(?=[\s,]|$)", lambda m: f"{m[1]}/each"),
    (r"\s[x×]\s*(\d+)(?![\d/:.%])", lambda m: m[1]),
)


def amount_said(text: str) -> tuple[int | None, str, str]:
    """Sets, the amount in exact words, and the text without them."""
    text = _FAR.sub(_as_far, text)
    most = _MAX.match(text)
    by = re.match(r"(\d{1,2})\s*[x×]\s*(?=max\b)", text, re.I)
    if by and (most := _MAX.match(text, by.end())) is None:
        return None, "", text
    if most:
        sets = int(by[1]) if by else None
        rest = text[most.end() :]
        trips = re.match(r"(?:trips?|lengths?)\s*(?:of\s*)?", rest, re.I)
        rest = rest[trips.end() :] if trips else rest
        far = re.search(rf"\s*(?:x\s*)?\(?({LENGTH})\)?", rest, re.I)
        if far and (trips or far.end() == len(rest) or far.start() == 0):
            return (
                sets,
                f"max x {metres(far[1])} m",
                (rest[: far.start()] + rest[far.end() :]).strip(),
            )
        return sets, "max", rest
    by = re.match(r"(\d{1,2})\s*[x×]\s*(?=\d)", text)
    sets = int(by[1]) if by else None
    text = text[by.end() :] if by else text
    for pattern, exact in _AMOUNTS:
        found = re.compile(pattern, re.I).match(text)
        if found:
            return sets, exact(found), text[found.end() :].strip(" ,:")
    for pattern, exact in _AMOUNTS_LAST:
        found = re.compile(pattern, re.I).search(text)
        if found and found.start() > 0:
            rest = f"{text[: found.start()]} {text[found.end() :]}"
            last = re.match(r"\s*(\d{1,2})\s*[x×]\s*$", text[: found.start()])
            by_sets = found.groupdict().get("sets")
            return (
                sets or (int(by_sets) if by_sets else None),
                exact(found),
                (" ".join(rest.split()) if not last else rest).strip(" ,:"),
            )
    return sets, "", text

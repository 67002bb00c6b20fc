"""What a form holds that it cannot, as a sentence: which field, and what it takes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

#: By the type of an error (the validation library's own list): what is said of the field.
SAID = {
    "missing": "is missing",
    "extra_forbidden": "is nothing that is asked for here",
    "less_than_equal": "is {le} at the most",
    "less_than": "is less than {lt}",
    "greater_than_equal": "is {ge} at the least",
    "greater_than": "is more than {gt}",
    "finite_number": "is no number that can be kept",
    "string_too_long": "is {max_length} letters long at the most",
    "string_too_short": "has {min_length} letters or more",
    "string_type": "is not written as words",
    "string_pattern_mismatch": "is not written as it is asked for",
    "too_long": "holds {max_length} at the most",
    "too_short": "holds {min_length} or more",
    "int_parsing": "is no whole number",
    "int_type": "is no whole number",
    "int_from_float": "is no whole number",
    "int_parsing_size": "is a number far too long",
    "float_parsing": "is no number",
    "float_type": "is no number",
    "bool_parsing": "is neither yes nor no",
    "bool_type": "is neither yes nor no",
    "date_from_datetime_parsing": "is no date, as 2026-06-04",
    "date_parsing": "is no date, as 2026-06-04",
    "time_parsing": "is no time of day, as 18:30",
    "datetime_parsing": "is no moment",
    "datetime_from_date_parsing": "is no moment",
    "timezone_aware": "is no moment without its zone",
    "literal_error": "is one of {expected}",
    "enum": "is one of {expected}",
    "list_type": "is no list",
    "dict_type": "is no table of names",
    "model_type": "is not what is asked for",
    "model_attributes_type": "is not what is asked for",
    "json_invalid": "cannot be read",
}
WHERE = ("body", "path", "query", "header", "cookie")
OTHERWISE = "is not what is asked for"


def sentence(error: Mapping[str, Any]) -> str:
    """One validation error in words: `number is 20000 at the most`.

    A rule of the application's own says its own sentence.
    """
    context = error.get("ctx") or {}
    if error["type"] == "value_error":
        return str(context["error"])
    named = [part for part in error["loc"] if isinstance(part, str) and part not in WHERE]
    field = named[-1].replace("_", " ") if named else "what was sent"
    bounds = {name: _plain(value) for name, value in context.items()}
    return f"{field} {SAID.get(error['type'], OTHERWISE).format_map(bounds)}"


def _plain(value: Any) -> Any:
    """A bound without the point of a number that is whole."""
    return int(value) if isinstance(value, float) and value.is_integer() else value

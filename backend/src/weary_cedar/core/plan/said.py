"""What would be right, in words: the kinds of faults that reading a document finds."""

import re
from collections.abc import Mapping
from typing import Any

#: Beginnings of the names of faults, and what is told of them; in braces what the fault knows.
SAID: dict[str, str] = {
    "missing": "has to be given",
    "extra_forbidden": "is not known here: leave it out, or look how it is spelt",
    "literal_error": "should be {expected}",
    "enum": "should be {expected}",
    "greater_than_equal": "should be {ge} or more",
    "greater_than": "should be more than {gt}",
    "less_than_equal": "should be {le} or less",
    "less_than": "should be less than {lt}",
    "multiple_of": "should be a multiple of {multiple_of}",
    "finite_number": "should be a finite number",
    "float": "should be a number",
    "int": "should be a whole number",
    "string_too_short": "should have at least {min_length} letters",
    "string_too_long": "should have at most {max_length} letters",
    "string_pattern_mismatch": "should have small letters, digits, hyphens and low lines only, at most 40",
    "string": "should be text",
    "bool": "should be true or false",
    "too_short": "should have at least {min_length} of them",
    "too_long": "should have at most {max_length} of them",
    "tuple": "should be a list",
    "list": "should be a list",
    "dict": "should be a group of named parts",
    "model": "should be a group of fields",
    "union_tag_not_found": "has to say its kind",
    "union_tag_invalid": "should be {expected_tags}",
    "datetime": "should be a date and time such as 2026-10-14T18:00:00",
    "date": "should be a date such as 2026-10-14",
    "time": "should be a time of day such as 18:30:00",
    "json_invalid": "should be JSON",
}


def said(fault: Mapping[str, Any]) -> str:
    """What would be right where a document has a fault.

    Args:
        fault: one of what Pydantic's `ValidationError.errors` gives, with its context.

    Returns:
        Words for whoever reads the document or a form: no names of types of the language.

    >>> said({"type": "greater_than_equal", "ctx": {"ge": 0.0}, "msg": "Input should be"})
    'should be 0 or more'
    """
    kind = fault["type"]
    words = next((text for name, text in SAID.items() if kind.startswith(name)), None)
    if words is None:
        told = re.sub(r"^(Value error, |Assertion failed, |Input )", "", fault["msg"])
        return told[:1].lower() + told[1:]
    return words.format_map({key: _plain(value) for key, value in fault.get("ctx", {}).items()})


def _plain(value: Any) -> str:
    """A figure without needless zeros; words of a document without their quotes."""
    if isinstance(value, float):
        return f"{value:,.10g}"
    return str(value).replace("'", "").replace('"', "")

"""Merge patches (RFC 7396) between plan documents: make, apply, and find where two clash."""

from typing import Any

Json = dict[str, Any]


def apply_patch(target: Any, patch: Any) -> Any:
    """Apply a JSON merge patch; the target is left as it is.

    >>> apply_patch({"a": 1, "b": {"c": 2}}, {"b": {"c": None, "d": 3}})
    {'a': 1, 'b': {'d': 3}}
    """
    if not isinstance(patch, dict):
        return patch
    result = dict(target) if isinstance(target, dict) else {}
    for key, value in patch.items():
        if value is None:
            result.pop(key, None)
        else:
            result[key] = apply_patch(result.get(key), value)
    return result


def make_patch(old: Json, new: Json) -> Json:
    """The merge patch that leads from one document to another.

    >>> make_patch({"a": 1, "b": {"c": 2}}, {"a": 1, "b": {"d": 3}})
    {'b': {'d': 3, 'c': None}}
    """
    patch: Json = {}
    for key, value in new.items():
        before = old.get(key)
        if isinstance(value, dict) and isinstance(before, dict):
            inner = make_patch(before, value)
            if inner:
                patch[key] = inner
        elif key not in old or before != value:
            patch[key] = value
    patch.update({key: None for key in old if key not in new})
    return patch


def leaves(patch: Any, path: str = "") -> dict[str, Any]:
    """Every changed place of a patch as JSON pointer → value (None for removed).

    >>> leaves({"b": {"c": None, "d": 3}})
    {'/b/c': None, '/b/d': 3}
    """
    if not isinstance(patch, dict) or (path and not patch):
        return {path: patch}
    found: dict[str, Any] = {}
    for key, value in patch.items():
        found.update(leaves(value, f"{path}/{key.replace('~', '~0').replace('/', '~1')}"))
    return found


def look_up(document: Any, pointer: str) -> Any:
    """Value at a JSON pointer, None where there is nothing."""
    for part in pointer.split("/")[1:]:
        key = part.replace("~1", "/").replace("~0", "~")
        if not isinstance(document, dict) or key not in document:
            return None
        document = document[key]
    return document


def clashes(base: Json, theirs: Json, patch: Json) -> list[dict[str, Any]]:
    """Places that a patch made on `base` and the way from `base` to `theirs` both change, differently."""
    their_leaves = leaves(make_patch(base, theirs))
    found = []
    for field, mine in leaves(patch).items():
        for their_field in their_leaves:
            within = (
                field == their_field
                or field.startswith(their_field + "/")
                or their_field.startswith(field + "/")
            )
            if within and look_up(theirs, field) != mine:
                found.append(
                    {
                        "field": field,
                        "base": look_up(base, field),
                        "theirs": look_up(theirs, field),
                        "yours": mine,
                    }
                )
                break
    return found

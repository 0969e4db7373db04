"""What an edit makes of a plan document: merged, checked, and told in a line. Texts in, texts out."""

import json
from dataclasses import dataclass

from weary_cedar.core.errors import EditConflict, Problem, WearyCedarError
from weary_cedar.core.plan import SCHEMA_VERSION, Plan, read_plan, upgraded
from weary_cedar.core.plan.merge import Json, apply_patch, clashes
from weary_cedar.store.describe import describe_change


@dataclass(frozen=True)
class Made:
    """A plan as it is to be stored: its document, its name, and the line of its history."""

    document: str
    name: str
    summary: str = ""


def canonical(plan: Plan) -> Json:
    """The document of a plan as it is stored and exported: complete, without empty fields."""
    return plan.model_dump(mode="json", exclude_none=True)


def made_of(plan: Plan, summary: str = "") -> Made:
    """A plan as it is to be stored."""
    return Made(json.dumps(canonical(plan), ensure_ascii=False), plan.name, summary)


def present(document: str) -> Json:
    """A stored document as it would be stored today: with what later versions added, if it can be read."""
    stored: Json = json.loads(document)
    try:
        return canonical(read_plan(stored))
    except WearyCedarError:
        return stored if stored.get("schema_version") == SCHEMA_VERSION else upgraded(stored)


def edited(head: str, base: str | None, revision: int, patch: Json) -> Made | None:
    """Apply a merge patch to a document.

    Args:
        head: the document as it stands.
        base: the document that the patch was made on, if that is another one.
        revision: number of the head, told in a conflict.
        patch: what to change (RFC 7396).

    Returns:
        The plan after the edit; nothing where it changes nothing.

    Raises:
        EditConflict: head and patch both changed the same place since `base`.
        InvalidPlan: the edited plan has something wrong.
    """
    theirs = present(head)
    if base is not None:
        _refuse_clash(present(base), theirs, patch, revision)
    plan = read_plan(apply_patch(theirs, patch))
    after = canonical(plan)
    return None if after == theirs else made_of(plan, describe_change(theirs, after))


def _refuse_clash(base: Json, theirs: Json, patch: Json, revision: int) -> None:
    found = clashes(base, theirs, patch)
    if found:
        problems = tuple(
            Problem(str(c["field"]), json.dumps(c["yours"]), f"saved meanwhile: {json.dumps(c['theirs'])}")
            for c in found
        )
        raise EditConflict("The same thing was changed elsewhere meanwhile.", problems, revision, found)


def stepped(here: str, there: str, way: str) -> Made:
    """The plan that undo or redo leads to.

    Args:
        here: the document as it stands.
        there: the document that it leads to.
        way: undo or redo.

    Raises:
        InvalidPlan: the document that it leads to is not a plan by the present rules.
    """
    now, then = present(here), present(there)
    change = describe_change(then, now) if way == "undo" else describe_change(now, then)
    return made_of(read_plan(there), f"{way.capitalize()}: {change}")


def restored(there: str, summary: str) -> Made:
    """The plan of an older revision.

    Raises:
        InvalidPlan: it is not a plan by the present rules.
    """
    return made_of(read_plan(there), summary)

"""What an edit makes of a plan, with everything that follows from it: derived before it is stored."""

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from weary_cedar.core.errors import CannotDerive, Problem, shown
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import leaves, make_patch
from weary_cedar.core.plan.reading import parse
from weary_cedar.store.edits import Made, canonical, edited, made_of, restored, stepped
from weary_cedar.workshop.derivation import Derivation, Failure, derive

#: So many changed places are named where a fault knows no field.
MOST_NAMED = 5


@dataclass(frozen=True)
class Changed:
    """A plan to be stored, what follows from it, and the first places that were changed, in words."""

    made: Made
    derivation: Derivation
    touched: tuple[tuple[str, str], ...] = ()


def _changed(made: Made, patch: Mapping[str, Any] | None = None) -> Changed:
    places = list(leaves(dict(patch or {})).items())[:MOST_NAMED]
    touched = tuple((field, shown(value)) for field, value in places if field)
    return Changed(made, derive(made.document), touched)


def edit(head: str, base: str | None, revision: int, patch: bytes) -> Changed | None:
    """Apply a merge patch as `store.edits.edited` does, and derive the plan.

    Raises:
        NotReadable: the patch is not a JSON object of finite numbers and whole characters.
    """
    wanted = parse(patch)
    made = edited(head, base, revision, wanted)
    return None if made is None else _changed(made, wanted)


def aside(head: str, revision: int, patch: bytes) -> Made | None:
    """What a merge patch makes of a plan, to be kept beside it; it is not derived."""
    return edited(head, None, revision, parse(patch))


def step(here: str, there: str, way: str) -> Changed:
    """Undo or redo, derived."""
    return _changed(stepped(here, there, way))


def restore(there: str, summary: str) -> Changed:
    """An older revision, derived."""
    return _changed(restored(there, summary))


def begin(make: Callable[..., Plan], *given: Any) -> Changed:
    """A new plan by a function that makes it, derived."""
    return _changed(made_of(make(*given)))


def plan_of_file(content: bytes) -> Plan:
    """A plan from a file."""
    return read_plan(content)


def copy_of(document: str) -> Plan:
    """A plan under a name that says that it is a copy."""
    old = read_plan(document)
    return read_plan({**canonical(old), "name": f"{old.name[:70]}, copy"})


def patch_by(make: Callable[..., Plan], document: str, *given: Any) -> bytes:
    """The merge patch from a document to what a function makes of its plan.

    Args:
        make: from a plan and what is given, another plan.
        document: the plan that it begins from.
        given: passed on.
    """
    plan = read_plan(document)
    after = read_plan(canonical(make(plan, *given)))
    return json.dumps(make_patch(canonical(plan), canonical(after))).encode()


def refusal(failed: Mapping[str, Failure], touched: tuple[tuple[str, str], ...]) -> CannotDerive:
    """Why an edit is refused after which sheets could not be made: their reasons, or what was changed."""
    problems = tuple(dict.fromkeys(problem for why in failed.values() for problem in why.problems))
    if not problems:
        right = f"another value: with this one the {', the '.join(failed)} cannot be made"
        problems = tuple(Problem(field, value, right) for field, value in touched)
    first = next(iter(failed.values()))
    return CannotDerive(f"{first.detail} Nothing was saved.", problems)

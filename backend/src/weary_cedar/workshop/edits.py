"""What an edit makes of a plan, with everything that follows from it: derived before it is stored."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from weary_cedar.core.errors import CannotDerive, Problem, WearyCedarError, shown
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.reading import parse
from weary_cedar.store.edits import Made, canonical, edited, made_of, restored, stepped
from weary_cedar.store.merge import leaves, make_patch
from weary_cedar.workshop.derivation import Derivation, Failure, derive


@dataclass(frozen=True)
class Changed:
    """A plan to be stored, and what follows from it."""

    made: Made
    derivation: Derivation


def edit(head: str, base: str | None, revision: int, patch: bytes) -> Changed | None:
    """Apply a merge patch as `store.edits.edited` does, and derive the plan.

    Raises:
        NotReadable: the patch is not a JSON object of numbers that are.
        CannotDerive: after it a sheet of the plan could not be made that can be made before it.
    """
    wanted = parse(patch)
    made = edited(head, base, revision, wanted)
    return None if made is None else Changed(made, _derived(made, head, wanted))


def step(here: str, there: str, way: str) -> Changed:
    """Undo or redo, derived."""
    made = stepped(here, there, way)
    return Changed(made, _derived(made, here, {}))


def restore(there: str, summary: str, here: str) -> Changed:
    """An older revision, derived."""
    made = restored(there, summary)
    return Changed(made, _derived(made, here, {}))


def begin(make: Callable[..., Plan], *given: Any) -> Changed:
    """A new plan by a function that makes it, derived."""
    made = made_of(make(*given))
    return Changed(made, _derived(made, None, {}))


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


def _derived(made: Made, before: str | None, patch: dict[str, Any]) -> Derivation:
    found = derive(made.document)
    if not found.failed:
        return found
    known = set() if before is None else _failing(before)
    new = {name: why for name, why in found.failed.items() if name not in known}
    if new:
        raise _refused(new, patch)
    return found


def _failing(document: str) -> set[str]:
    """Sheets that already could not be made: an edit that leaves it so is no worse."""
    try:
        return set(derive(document).failed)
    except WearyCedarError:
        return set()


def _refused(failed: dict[str, Failure], patch: dict[str, Any]) -> CannotDerive:
    problems = tuple(dict.fromkeys(problem for why in failed.values() for problem in why.problems))
    first = next(iter(failed.values()))
    if not problems:
        right = f"another value: with this one the {', the '.join(failed)} cannot be made"
        problems = tuple(
            Problem(field, shown(value), right) for field, value in list(leaves(patch).items())[:5]
        )
    error = CannotDerive(f"{first.detail} Nothing was saved.", problems)
    error.trace = "\n".join(why.trace for why in failed.values() if why.trace)
    return error

"""How a plan that was changed is printed: the plan, or what changed as JSON; in words beside it."""

import json
import sys
from pathlib import Path

from weary_cedar.cli.terminal import say, written
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.merge import make_patch
from weary_cedar.store.describe import describe_change
from weary_cedar.store.edits import canonical


def print_changed(before: Plan, after: Plan, out: Path | None, *, as_json: bool) -> None:
    """Print a plan after a change, or write it to a file; with JSON: summary, patch and plan."""
    before_text, after_text = canonical(before), canonical(after)
    summary = describe_change(before_text, after_text)
    if out is not None:
        written(out, (json.dumps(after_text, indent=1) + "\n").encode())
    if as_json:
        patch = make_patch(before_text, after_text)
        print(json.dumps({"summary": summary, "patch": patch, "plan": after_text}, indent=1))
    elif out is None:
        print(json.dumps(after_text, indent=1))
    say(summary, to=sys.stderr)

"""Changes of a plan that may make it last: one small function a kind, in one registry."""

from collections.abc import Iterator
from dataclasses import replace

from weary_cedar.core.decide.changes import doing_it, getting_more, other_gear, using_less
from weary_cedar.core.decide.changes.change import Change, Maker, Seen, patched, rules_of

#: Every kind of change; adding one is a function in one of these rooms.
REGISTRY: dict[str, Maker] = {
    maker.__name__: maker
    for maker in (*using_less.MAKERS, *getting_more.MAKERS, *doing_it.MAKERS, *other_gear.MAKERS)
}


def changes_of(seen: Seen, *, gear: bool) -> Iterator[Change]:
    """Every change that may help a plan.

    Args:
        seen: the plan and its run.
        gear: whether those that need something which is not owned count, too.
    """
    for kind, maker in REGISTRY.items():
        for change in maker(seen):
            if gear or not change.gear:
                yield replace(change, kind=kind)


__all__ = ["REGISTRY", "Change", "Seen", "changes_of", "patched", "rules_of"]

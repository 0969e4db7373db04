"""What a table changes, in words, before it counts."""

from collections.abc import Iterator, Mapping, Sequence

from weary_cedar.core.breakers.row import told_spaces
from weary_cedar.core.plan import Plan

#: As many names as one reads at a glance.
SHOWN = 6


def told_changes(before: Plan, after: Plan) -> list[str]:
    """Sentences about breakers, panels and what hangs on them.

    Args:
        before: the plan.
        after: with the table.
    """
    return list(_told(before, after))


def _told(before: Plan, after: Plan) -> Iterator[str]:
    for key, panel in after.panels.items():
        old = before.panels.get(key)
        if old is None:
            feeder = after.circuits.get(panel.fed_from or "")
            place = f"breaker {told_spaces(feeder.spaces, feeder.half)}" if feeder else "the utility"
            yield f"{panel.name} is new, fed from {place}; its main and bus are not known yet."
        elif old.spaces != panel.spaces:
            yield f"{panel.name} grows to {panel.spaces} spaces."
        if old is not None and old.fed_from != panel.fed_from:
            fed = after.circuits.get(panel.fed_from or "")
            yield f"{panel.name} is fed from {fed.label if fed else 'the utility'}."
    labels = {key: item.label for key, item in {**before.circuits, **after.circuits}.items()}
    names = {key: item.name for key, item in {**before.loads, **after.loads}.items()}
    yield from _sets("breaker", before.circuits, after.circuits, labels)
    yield from _sets("load", before.loads, after.loads, names)


def _sets(
    noun: str, before: Mapping[str, object], after: Mapping[str, object], names: Mapping[str, str]
) -> Iterator[str]:
    new = [names[key] for key in after if key not in before]
    gone = [names[key] for key in before if key not in after]
    other = [names[key] for key, item in after.items() if key in before and before[key] != item]
    for words, which in (("added", new), ("changed", other), ("taken out", gone)):
        if which:
            yield f"{len(which)} {noun}{'s' if len(which) > 1 else ''} {words}: {_few(which)}."


def _few(names: Sequence[str]) -> str:
    more = f" and {len(names) - SHOWN} more" if len(names) > SHOWN else ""
    return ", ".join(names[:SHOWN]) + more

"""The demo households: invented, resembling nobody's."""

from importlib import resources

from weary_cedar.core.plan import Plan, read_plan

DEMOS = {"foothill": "foothill.json", "canal": "canal.json", "hut": "hut.json", "orchard": "orchard.json"}


def demo_plan(name: str = "foothill") -> Plan:
    """One of the demo plans that ship with the program."""
    return read_plan(resources.files(__package__).joinpath(DEMOS[name]).read_text("utf-8"))

"""Which conductors are joined just now, and what has power from which lead."""

from collections.abc import Iterator, Mapping

from weary_cedar.core.handles.elements import branches_on_cords
from weary_cedar.core.network import Network, Way
from weary_cedar.core.plan import Hookup

UTILITY = "utility"


class Conductors:
    """Utility, panels, inlets and sources as nodes; what is closed or plugged joins them.

    The utility counts as live at all times: it can return at any moment.
    """

    def __init__(self, network: Network, at: Mapping[str, str]) -> None:
        self.network = network
        self.plan = network.plan
        self.at = dict(at)
        self.groups = self._groups()

    def group_of(self, node: str) -> set[str]:
        """Everything that a node is joined to, itself included."""
        return next((group for group in self.groups if node in group), {node})

    def plugged(self, lead_id: str) -> bool:
        """Whether a lead is in at both ends."""
        return self.at[f"source_end/{lead_id}"] == "in" and self.at[f"load_end/{lead_id}"] == "in"

    def gives(self, node: str) -> bool:
        """Whether the node of a source gives at its outlets."""
        _, kind, key = node.split("/")
        if kind == "generator" and self.at[f"engine/{key}"] == "off":
            return False
        return self.at.get(f"output/{kind}/{key}") == "on"

    def giving(self, group: set[str]) -> list[str]:
        """Sources of a group that give."""
        return sorted(node for node in group if node.startswith("source/") and self.gives(node))

    def closed(self, feed_id: str) -> bool:
        """Whether what lies behind an inlet is joined to house wiring."""
        if self.at.get(f"feed_breaker/{feed_id}") == "on" or self.at.get(f"transfer/{feed_id}") == "source":
            return True
        circuits = self.plan.feeds[feed_id].circuit_ids
        return any(self.at.get(f"handle/{feed_id}/{key}") == "source" for key in circuits)

    def on_utility(self, branch: str) -> bool:
        """Whether a circuit, or what hangs on a cord, has the utility's power when there is any."""
        plan = self.plan
        for key, hookup in plan.hookups.items():
            if hookup.kind == "cords" and branch in branches_on_cords(plan, key):
                return self.at[f"home_plug/{key}"] == "in"
        circuit = plan.circuits.get(branch)
        if circuit is None or self.at[f"breaker/{branch}"] == "off":
            return False
        moved = [
            self.at.get(f"handle/{key}/{branch}", self.at.get(f"transfer/{key}", UTILITY))
            for key, feed in plan.feeds.items()
            if branch in feed.circuit_ids
        ]
        away = any(position != UTILITY for position in moved)
        return not away and UTILITY in self.group_of(f"panel/{circuit.panel_id}")

    def leads_to(self, feed_id: str) -> list[str]:
        """Leads that end at a feed."""
        return [key for key, hookup in self.plan.hookups.items() if hookup.feed_id == feed_id]

    def _edges(self) -> Iterator[tuple[str, str]]:
        plan = self.plan
        for key, panel in plan.panels.items():
            if self.at[f"main/{key}"] == "off" or self._switched_away(key):
                continue
            if panel.fed_from is None:
                yield UTILITY, f"panel/{key}"
            elif self.at[f"breaker/{panel.fed_from}"] == "on":
                yield f"panel/{plan.circuits[panel.fed_from].panel_id}", f"panel/{key}"
        for key, feed in plan.feeds.items():
            whole = feed.traits.moves == "switch" and not feed.traits.single
            switched = whole and self.at[f"transfer/{key}"] == "source" and self._reaches_bus(key)
            if switched or self.at.get(f"feed_breaker/{key}") == "on":
                yield f"panel/{feed.panel_id}", f"inlet/{key}"
        for key, hookup in plan.hookups.items():
            if hookup.feed_id is not None and self.plugged(key):
                yield f"inlet/{hookup.feed_id}", node_of(hookup)

    def _reaches_bus(self, feed_id: str) -> bool:
        """Whether a transfer switch that stands at its source reaches the bus of its panel.

        It is before the panel's main; a hybrid, or what was answered to be kept apart by nothing, may be
        joined beside it.
        """
        feed = self.plan.feeds[feed_id]
        beside = any(hookup.survey.get("exclusive") == "no" for hookup in self.plan.hookups.values())
        return feed.kind == "hybrid" or beside or self.at[f"main/{feed.panel_id}"] == "on"

    def _switched_away(self, panel_id: str) -> bool:
        """Whether a transfer switch has taken a panel off the utility."""
        return any(
            feed.panel_id == panel_id
            and feed.traits.moves == "switch"
            and not feed.traits.single
            and self.at[f"transfer/{key}"] != "utility"
            for key, feed in self.plan.feeds.items()
        )

    def _groups(self) -> list[set[str]]:
        groups: list[set[str]] = []
        for one, other in self._edges():
            met = [group for group in groups if one in group or other in group]
            groups = [group for group in groups if group not in met] + [{one, other}.union(*met)]
        return groups

    def live(self) -> dict[str, str]:
        """Circuit or plug → lead, of everything that has power from a source; `off` circuits, too."""
        found: dict[str, str] = {}
        for way in self.network.ways:
            if not self.gives(node_of(way.hookup)) or not self.plugged(way.lead_id):
                continue
            for branch in self._branches(way):
                found.setdefault(branch, way.lead_id)
        return found

    def _branches(self, way: Way) -> Iterator[str]:
        hookup = way.hookup
        if hookup.kind == "cords":
            yield from (key for key in way.branches if self.at.get(f"plug/{way.lead_id}/{key}", "in") == "in")
        elif hookup.traits.moves == "handles":
            for key in hookup.circuit_ids:
                if self.at[f"handle/{hookup.feed_id}/{key}"] == "source":
                    yield key
        elif hookup.traits.single:
            if self.at[f"transfer/{hookup.feed_id}"] == "source":
                yield from hookup.circuit_ids
        else:
            group = self.group_of(node_of(hookup))
            for key, circuit in self.plan.circuits.items():
                if f"panel/{circuit.panel_id}" in group and self.at[f"breaker/{key}"] == "on":
                    yield key


def node_of(hookup: Hookup) -> str:
    """The node of the source of a hook-up."""
    return f"source/{hookup.source_kind}/{hookup.source_id}"

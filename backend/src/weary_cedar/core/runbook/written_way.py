"""A way as sheets speak of it: names, places, what its meters show, what stays on. Common practice."""

from collections.abc import Sequence

from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.plan import Circuit, Load
from weary_cedar.core.runbook.burner import burns
from weary_cedar.core.runbook.places import IN_HOUSE
from weary_cedar.core.runbook.readings import Displays
from weary_cedar.core.runbook.schools import Shows, joins_a_panel, way_back
from weary_cedar.core.runbook.sheet import Expected, Order

#: What a meter picks up on a dead conductor, V. Common practice.
DEAD_V = 5.0


class WrittenWay:
    """One way, beside the order that is written of it."""

    def __init__(
        self, network: Network, way: Way, order: Order, *, alone: bool = False, leave_on: bool = False
    ) -> None:
        #: Of one of two panels that are fed apart: the feeder between them stays off.
        self.alone = alone
        #: What could not be followed, or did not go well in the run.
        self.notes: list[str] = []
        self.network, self.plan = network, network.plan
        self.way, self.hookup, self.order = way, way.hookup, order
        self.kind, self.traits = way.hookup.kind, way.hookup.traits
        self.source = f"{way.hookup.source_kind}/{way.hookup.source_id}"
        link = self.plan.link_of(way.hookup)
        self.at_source = f"at {link.name if link else self.plan.source(way.hookup).name}"
        #: By the school of its feed; what stays on while the source is joined, at a change-over only.
        self.back_on = way_back(network, way, leave_on=leave_on)
        self.notes += self.back_on.notes
        #: The panel is joined to the source before its output is on: a school of the trade.
        self.output_after = way.hookup.output_on == "after" and joins_a_panel(way)
        behind = self.behind()
        self.displays = Displays(network, way, list(zip(behind, self.labels(behind), strict=True)))

    @property
    def output(self) -> str:
        """What turns its source on and off."""
        return "breaker" if self.hookup.source_kind == "generator" else "output"

    @property
    def no_output(self) -> str:
        """What is seen once that is off."""
        engine = self.hookup.source_kind == "generator"
        return "Its breaker stands on off" if engine else "It shows no output"

    @property
    def at_feed(self) -> str:
        """Where the source is joined to the panel."""
        backfed = self.traits.interlocked
        return f"at {self.plan.panels[self.hookup.panel_id].name}" if backfed else "at the transfer switch"

    @property
    def utility_off(self) -> str:
        """How a panel, or an appliance, leaves the utility again."""
        return "main off" if self.traits.interlocked else "switch to off"

    def panels(self) -> list[str]:
        """Panels that the feed puts under power, the first one first."""
        if not joins_a_panel(self.way):
            return []
        if self.alone:
            return [self.hookup.panel_id]
        reached = self.plan.panels_reached(self.hookup.panel_id)
        return sorted(reached, key=lambda key: (key != self.hookup.panel_id, key))

    def circuits(self) -> dict[str, Circuit]:
        """All circuits of those panels, feeders included."""
        panels = self.panels()
        return {key: c for key, c in self.plan.circuits.items() if c.panel_id in panels}

    def burners(self) -> list[Load]:
        """What burns and heats by a thermostat, of what it feeds."""
        loads = (self.plan.loads[key] for key in self.network.loads_of(list(self.way.branches)))
        return [load for load in loads if burns(load)]

    def neutral_is(self) -> str:
        """What ties the neutral of what is fed: house, bonded (its source), floating, or unknown."""
        if self.kind != "cords" and self.hookup.neutral_switched != "yes":
            return "house"
        found = {state.neutral for state in neutral_states(self.plan, self.hookup)}
        return found.pop() if len(found) == 1 else "unknown"

    def of_ground(self) -> str:
        """Why neutral to ground is not judged, where it is not."""
        neutral = self.neutral_is()
        if neutral == "floating":
            return "; neutral to ground is not judged: this source floats, any value up to half is sound"
        unread = "; neutral to ground is not judged: it is not known how the neutral is tied"
        return unread if neutral == "unknown" else ""

    def volts(self) -> list[Expected]:
        """What a meter shows at the panel. Common practice: 120 V ± 5 %, 230 V ± 10 %."""
        tied = self.neutral_is() in ("house", "bonded")
        if not self.plan.site.split_phase:
            earth = [Expected(where="neutral to earth", low=0, high=5, unit="V")] if tied else []
            return [Expected(where="line to neutral", low=207, high=253, unit="V"), *earth]
        hots = ["hot"] if self.way.single else ["leg A", "leg B"]
        legs = [Expected(where=f"{hot} to neutral", low=114, high=126, unit="V") for hot in hots]
        across = [] if self.way.single else [Expected(where="leg to leg", low=228, high=252, unit="V")]
        ground = [Expected(where="neutral to ground", low=0, high=3, unit="V")] if tied else []
        return [*legs, *across, *ground]

    def dead(self) -> list[Expected]:
        """What a meter shows at a panel that is dead."""
        name, fed = self.plan.panels[self.hookup.panel_id].name, "it is fed: plug nothing, stop"
        hots = ["leg A", "leg B"] if self.plan.site.split_phase else ["line"]
        return [
            Expected(where=f"{hot} to neutral of {name}", low=0, high=DEAD_V, unit="V", if_high=fed)
            for hot in hots
        ]

    def shows(self) -> list[Shows]:
        """What shows how each leg stands, of what this way brings back."""
        return [one for one in self.back_on.shows if not self.alone or one.branch in self.circuits()]

    @property
    def reads_legs(self) -> bool:
        """Whether two legs are read under load: not of cords, nor of one appliance."""
        two_legs = self.plan.site.split_phase and not self.way.single
        return two_legs and not self.traits.as_one

    def feeders(self) -> list[str]:
        of_panel = self.circuits().items() if not self.alone else ()
        return [key for key, circuit in of_panel if self.feeds_on(key) and circuit.mark != "off"]

    def feeds_on(self, circuit_id: str) -> bool:
        return any(panel.fed_from == circuit_id for panel in self.plan.panels.values())

    def cold(self, branch: str) -> bool:
        """Whether a branch has a compressor."""
        return any(load.compressor for load in self.loads([branch]))

    @property
    def has_compressor(self) -> bool:
        """Whether anything that it feeds has a compressor."""
        return any(map(self.cold, self.way.branches))

    def leave_off(self) -> list[str]:
        """Circuits that come under power with the feed and are marked off, by name."""
        off = [key for key, circuit in self.circuits().items() if circuit.mark == "off"]
        if self.traits.moves == "handles":
            off = [key for key in self.hookup.circuit_ids if self.plan.circuits[key].mark == "off"]
        return self.labels(off)

    def at_panel_of(self, branch: str) -> str:
        """Where the breaker of a circuit is."""
        circuit = self.plan.circuits.get(branch)
        return f"at {self.plan.panels[circuit.panel_id].name}" if circuit else IN_HOUSE

    def loads(self, branches: Sequence[str]) -> list[Load]:
        return [self.plan.loads[key] for key in self.network.loads_of(list(branches))]

    def behind(self) -> list[str]:
        """Every branch that the way can reach, those that stay off included."""
        return list(dict.fromkeys([*self.way.branches, *self.circuits()]))

    def labels(self, branches: Sequence[str]) -> list[str]:
        """Circuits and plugs as they are called."""
        found = []
        for key in branches:
            circuit = self.plan.circuits.get(key)
            names = [self.plan.loads[item].name for item in self.network.loads_of([key])]
            found.append(circuit.label if circuit else " and ".join(names))
        return found

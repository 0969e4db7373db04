"""Parts that sheets share: cords, sources, volts, circuits one at a time. Common practice of the trade."""

from collections.abc import Collection, Sequence
from itertools import zip_longest

from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.neutral_states import neutral_states
from weary_cedar.core.plan import BACKFED_KINDS, Circuit, Load
from weary_cedar.core.runbook.burner import NO_FLAME, burns, lights_up, polarity
from weary_cedar.core.runbook.elements import charging_from, is_wired
from weary_cedar.core.runbook.house import COMPRESSOR_S
from weary_cedar.core.runbook.linked import leg_to_leg, linked
from weary_cedar.core.runbook.readings import Displays
from weary_cedar.core.runbook.rehearsal import Rehearsal, rehearse
from weary_cedar.core.runbook.schools import Shows, joins_a_panel, way_back
from weary_cedar.core.runbook.sheet import Expected, Order

#: An engine warms up, and cools down again, without load so long, s.
WARM_S = 180.0
LAMP_FIRST = "Lamps first: they show an open neutral before a motor or electronics can be hurt."
LARGEST_FIRST = "The largest start comes while the source is empty; a thermostat need not call at once."
MORE_WATTS = "More: something else is on there. It trips: leave this one off and go to “After a trip”"
#: What an engine holds, Hz, where two legs are 120 V and where one is 230 V. Common practice: ± 5 %.
HERTZ = {True: (57.0, 63.0), False: (47.5, 52.5)}
#: Kinds behind which nothing is switched circuit by circuit.
AS_ONE = ("cords", "appliance_switch")
AT_PANEL, AT_INLET, IN_HOUSE = "at the panel", "at the inlet", "in the house"
AT_METER = "on the panel’s or the switch’s meter; an open panel is an electrician’s work"
OUTDOORS = "outdoors, far from openings"
#: What a meter picks up on a dead conductor, V. Common practice.
DEAD_V = 5.0


class Writer:
    """Writes the steps of one way into an order."""

    def __init__(
        self, network: Network, way: Way, order: Order, *, alone: bool = False, leave_on: bool = False
    ) -> None:
        #: Of one of two panels that are fed apart: the feeder between them stays off.
        self.alone = alone
        #: What could not be followed, or did not go well in the run.
        self.notes: list[str] = []
        self.network, self.plan = network, network.plan
        self.way, self.hookup, self.order = way, way.hookup, order
        self.kind = way.hookup.kind
        self.source = f"{way.hookup.source_kind}/{way.hookup.source_id}"
        link = self.plan.link_of(way.hookup)
        self.at_source = f"at {link.name if link else self.plan.source(way.hookup).name}"
        #: By the school of its feed; what stays on while the source is joined, at a change-over only.
        self.back_on = way_back(network, way, leave_on=leave_on)
        self.notes += self.back_on.notes
        #: The panel is joined to the source before its output is on: a school of the trade.
        self.output_after = way.hookup.output_on == "after" and joins_a_panel(way)
        behind = self._behind()
        self.displays = Displays(network, way, list(zip(behind, self.labels(behind), strict=True)))

    # ---------------------------------------------------------------- before

    def before(self) -> None:
        """What is looked at and put away before anything is moved."""
        if self.way.automatic:
            self.order.step(
                "Wait whether it changes over by itself", IN_HOUSE,
                "Light within a minute: nothing is to be done",
                "Go on, by hand: these steps are for when it does not",
            )  # fmt: skip
        self.order.step(
            "Turn off cookers, irons and heaters; shut computers down",
            IN_HOUSE, "Nothing hot, and nothing that starts by itself when power returns",
            "Do that first: what comes back unwatched starts fires",
            why="Circuits come back one after another, and nobody may be in every room.",
        )  # fmt: skip
        looked = {"cords": "plugs and cords", "appliance_switch": "the switch"}.get(self.kind, "the panel")
        self.order.step(
            f"Look at {looked} with a light", IN_HOUSE if self.kind in AS_ONE else AT_PANEL,
            "Dry, no smell, no marks of heat, no sound",
            "Leave it as it is and call a licensed electrician",
        )  # fmt: skip
        self.lock_off()

    def lock_off(self, besides: str = "") -> None:
        """What feeds in by itself is locked off, and no charger is left on what the source will feed.

        Args:
            besides: a source that still feeds, and is locked off once it does not.
        """
        left = (f"lockout/{self.source}", f"lockout/{besides}")
        for key, element in list(self.order.at.items()):
            if key.startswith("lockout/") and key not in left and element == "free":
                self.order.put(
                    [(key, "locked")], f"Lock off: {self.order.name(key)}", "at its disconnect",
                    "Off, with a lock or a tag on it", "Do not go on: it can feed in by itself",
                    why="What is made for the utility, or starts by itself, must not meet the source.",
                )  # fmt: skip
        for key in self.plan.leads:
            if charging_from(self.plan, key) in self.plan.source_units(self.hookup):
                self.order.put(
                    [(f"source_end/{key}", "out"), (f"load_end/{key}", "out")],
                    f"Unplug the charger: {self.plan.lead_name(key)}", self.at_source,
                    "Nothing is plugged into its AC input", "Find the cord: it must not charge from itself",
                    why="A station that charges from a circuit that it feeds empties itself in a circle.",
                )  # fmt: skip

    # ---------------------------------------------------------------- cords and sources

    def cord_in(self) -> None:
        """The cord, far end first, everything dead."""
        if is_wired(self.hookup):
            return
        if self.hookup.source_kind == "link":
            linked(self.network, self.way, self.order, self.at_source)
        off = self.order.at[f"output/{self.source}"] == "off"
        self.order.put(
            [(f"output/{self.source}", "off")], f"Turn its {self.output} off", self.at_source,
            self.no_output, "Do not plug anything",
        )  # fmt: skip
        if off:
            self.order.step(
                f"Make sure that its {self.output} is off", self.at_source, self.no_output,
                "Turn it off; plug nothing while it is on",
            )  # fmt: skip
        if self.kind != "cords" and self.hookup.neutral_switched != "yes":
            self.order.put(
                [(f"bonding_plug/{self.way.lead_id}", "out")], "Take the bonding plug out", self.at_source,
                "No plug that ties neutral to ground is in", "Do not go on: the house has its own bond",
            )  # fmt: skip
        cords = self.kind == "cords"
        if cords:
            self._unplug_at_home()
        if self.kind in AS_ONE and self.burners():
            polarity(self.order)
        laid = "Lay the cord to the appliances, nothing in it yet"
        feed = self.plan.feeds.get(self.hookup.feed_id or "")
        self.order.put(
            [(f"load_end/{self.way.lead_id}", "in")], laid if cords else "Plug the cord into the inlet",
            AT_INLET if feed else IN_HOUSE,
            _home(feed.inlet) if feed else "Uncoiled, its far end dry and free",
            "Another cord is in it: take it out",
            why="Far end first: the cord is dead while it is in the hand.",
        )  # fmt: skip
        self.order.put(
            [(f"source_end/{self.way.lead_id}", "in")], "Plug the other end into the source", self.at_source,
            f"{_home(self.plan.outlet(self.hookup).kind)}; the cord lies uncoiled",
            f"Its {self.output} is on: turn it off first",
        )  # fmt: skip

    def _plugs(self) -> list[tuple[str, str]]:
        return [(f"plug/{self.way.lead_id}/{key}", "out") for key in self.way.branches]

    def _unplug_at_home(self) -> None:
        names = ", ".join(self.labels(list(self.way.branches)))
        self.order.put(
            [(f"home_plug/{self.way.lead_id}", "out"), *self._plugs()],
            f"Switch off and unplug from the wall, one by one: {names}", IN_HOUSE,
            "Each plug lies free: the utility’s return cannot hurt it",
            "One that is wired in has no plug: leave it; it needs a cord or a switch of its own first",
            why="What is plugged in later comes on one at a time.",
        )  # fmt: skip

    def plugs_out(self) -> None:
        """What hangs on a cord, unplugged from it again."""
        names = ", ".join(self.labels(list(self.way.branches)))
        self.order.put(
            self._plugs(), f"Switch off and unplug from the cord: {names}", IN_HOUSE,
            "Nothing is in the cord",
            "One sticks or is hot: turn the source’s output off first",
        )  # fmt: skip

    def cord_out(self) -> None:
        """The cord, the source's end first."""
        if is_wired(self.hookup):
            return
        self.order.put(
            [(f"source_end/{self.way.lead_id}", "out")], "Pull the cord out of the source", self.at_source,
            "The cord is dead in the hand", "It is warm or sticks: leave it, turn everything off, look later",
        )  # fmt: skip
        self.order.put(
            [(f"load_end/{self.way.lead_id}", "out")], "Pull the other end out",
            AT_INLET if self.hookup.feed_id else IN_HOUSE,
            "The cover of the inlet is closed" if self.hookup.feed_id else "Nothing hangs on it any more",
            "Pins that are hot or brown: do not use it again before it was looked at",
        )  # fmt: skip

    def source_on(self, wait_s: float = 0.0) -> None:
        """The source, alone, and what it should show; after a wait of its own."""
        kind, _, key = self.source.partition("/")
        shows = self.output_after and bool(self.back_on.left_on)
        if kind == "generator":
            self.order.put(
                [(f"engine/{key}", "on")], "Start the engine, its breaker off", OUTDOORS,
                "It runs evenly; the carbon-monoxide alarm in the house is on", "Do not load it",
                why="An engine is loaded when it is warm.",
            )  # fmt: skip
        quiet = "It runs evenly, with next to no load" if kind == "generator" else "It shows next to no watts"
        self.order.put(
            [(f"output/{self.source}", "on")], f"Turn its {self.output} on and let it settle", self.at_source,
            "The watts as below" if shows else quiet,
            f"A code, a beep, or it hunts: {self.output} off, read the manual",
            wait_s=wait_s + (WARM_S if kind == "generator" else 0.0),
            readings=self._left_on_read() if shows else [],
        )  # fmt: skip
        if kind == "link":
            leg_to_leg(self.plan, key, self.order, self.at_source)

    def source_off(self, *, at_once: bool = False) -> None:
        """The source without load, then off; where something is wrong, its engine is not cooled first."""
        kind, _, key = self.source.partition("/")
        self.order.put(
            [(f"output/{self.source}", "off")], f"Turn its {self.output} off", self.at_source,
            self.no_output, "Leave the cord where it is and turn the source itself off",
        )  # fmt: skip
        if kind == "generator":
            cooled = "Let the engine cool without load, then stop it"
            self.order.put(
                [(f"engine/{key}", "off")], "Stop the engine at once" if at_once else cooled, OUTDOORS,
                "It stands still", "Close its fuel valve", wait_s=0.0 if at_once else WARM_S,
            )  # fmt: skip

    @property
    def output(self) -> str:
        """What turns its source on and off."""
        return "breaker" if self.hookup.source_kind == "generator" else "output"

    @property
    def no_output(self) -> str:
        """What is seen once that is off."""
        engine = self.hookup.source_kind == "generator"
        return "Its breaker stands on off" if engine else "It shows no output"

    # ---------------------------------------------------------------- the panel

    @property
    def at_feed(self) -> str:
        """Where the source is joined to the panel."""
        backfed = self.kind in BACKFED_KINDS
        return f"at {self.plan.panels[self.hookup.panel_id].name}" if backfed else "at the transfer switch"

    def prove_dead(self) -> None:
        """What was parted from the utility is proven dead before anything is plugged in."""
        if self.kind == "cords":
            return
        if not joins_a_panel(self.way):
            names = ", ".join(self.labels(self.hookup.circuit_ids))
            self.order.step(
                f"Prove it dead before anything is plugged in: {names}", IN_HOUSE,
                "A lamp or a display on each is dark, and was not before the power went",
                "Anything is lit: the switch does not part it, or something else feeds; plug nothing, stop",
                why="It shows a switch that does not open, and a supply that nobody thought of.",
            )  # fmt: skip
            return
        name = self.plan.panels[self.hookup.panel_id].name
        self.order.step(
            f"Prove {name} dead before anything is plugged in; try the meter on something live before and "
            "after", AT_METER, "Nothing on any leg",
            "Volts: the main is not open, or something else feeds. Plug nothing; stop, an electrician looks",
            readings=self.dead(), why="With the utility up this alone shows an interlock or a switch that "
            "fails; in an outage it shows a supply that nobody thought of.",
        )  # fmt: skip

    def dead(self) -> list[Expected]:
        """What a meter shows at a panel that is dead."""
        name, fed = self.plan.panels[self.hookup.panel_id].name, "it is fed: plug nothing, stop"
        hots = ["leg A", "leg B"] if self.plan.site.split_phase else ["line"]
        return [
            Expected(where=f"{hot} to neutral of {name}", low=0, high=DEAD_V, unit="V", if_high=fed)
            for hot in hots
        ]

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

    def branches_off(self, left_on: Collection[str] = ()) -> None:
        """Branch breakers off, so that no load is broken and none comes back by itself; some may stay on."""
        for panel_id in self.panels():
            name = self.plan.panels[panel_id].name
            of_panel = [key for key, c in self.circuits().items() if c.panel_id == panel_id]
            stay = [key for key in of_panel if key in left_on or (left_on and self._feeds_on(key))]
            off = [key for key in of_panel if key not in stay or self.plan.circuits[key].mark == "off"]
            action = f"Turn off every branch breaker of {name}"
            see = "All handles on off"
            if stay:
                action = f"Turn off in {name}: {', '.join(self.labels(off))}"
                see = f"Only these stay on: {', '.join(self.labels(stay))}"
            self.order.put(
                [(f"breaker/{key}", "off") for key in off], action,
                f"at {name}", see, "One does not hold: leave it off, it is worn or shorted",
                why="No load is broken by the main, and nothing surges if the utility returns.",
            )  # fmt: skip

    def branch_off(self, key: str, action: str, see: str) -> None:
        """One circuit, or what hangs on a cord, off."""
        handle, breaker = f"handle/{self.hookup.feed_id}/{key}", f"breaker/{key}"
        on_cord = self.kind in ("cords", "appliance_switch")
        moves = [(handle if handle in self.order.at else breaker, "off")]
        where = IN_HOUSE if on_cord else AT_PANEL
        if on_cord:
            self.order.step(action, where, see, "Leave it")
        else:
            self.order.put(moves, action, where, see, "Leave it off; it is worn")

    def main_off(self) -> None:
        """The main off and the interlock over, or the transfer switch to off."""
        feed_id, panel = self.hookup.feed_id, self.plan.panels[self.hookup.panel_id]
        if self.kind in BACKFED_KINDS:
            self.order.put(
                [(f"main/{self.hookup.panel_id}", "off")], f"Turn the main of {panel.name} off",
                f"at {panel.name}", "The handle is all the way on off", "It does not move: stop here",
                why="The house leaves the utility before anything else can feed it.",
            )  # fmt: skip
            self.order.put(
                [(f"interlock/{feed_id}", "source")], "Slide the interlock over, the feed breaker still off",
                f"at {panel.name}", "The main cannot be turned on any more: try it",
                "It moves with the main on, or lets both on: do not use it",
                why="Now nobody can close the main.",
            )  # fmt: skip
        else:
            self.order.put(
                [(f"transfer/{feed_id}", "off")], "Move the transfer switch to off, its automatic mode off",
                "at the transfer switch", "It stands in the middle", "It does not rest there: do not use it",
            )  # fmt: skip

    def feed_on(self) -> None:
        """The source joined to the panel, with nothing on."""
        feed_id = self.hookup.feed_id
        self.order.put(
            [(f"feed_breaker/{feed_id}", "on"), (f"transfer/{feed_id}", "source")],
            "Close the feed breaker" if self.kind in BACKFED_KINDS else "Transfer to the source",
            self.at_feed, self._after_closing(), "It trips: open it again; that is a wiring fault",
            readings=[] if self.output_after or not self.back_on.left_on else self._left_on_read(),
        )  # fmt: skip

    def _after_closing(self) -> str:
        if self.output_after:
            return "Nothing yet: the source is still off"
        return "The watts as below" if self.back_on.left_on else "The source shows next to no watts"

    def _left_on_read(self) -> list[Expected]:
        return self.displays.shown({*self._feeders(), *self.back_on.left_on})

    def feed_off(self) -> None:
        """The source parted from the panel."""
        feed_id = self.hookup.feed_id
        self.order.put(
            [(f"feed_breaker/{feed_id}", "off"), (f"transfer/{feed_id}", "off")],
            "Open the feed breaker" if self.kind in BACKFED_KINDS else "Transfer switch to off",
            self.at_feed, "The source shows next to no watts", "It does not open: turn the source off",
        )  # fmt: skip

    def main_on(self, wait_s: float = 0.0) -> None:
        """Back on the utility, after a wait: the interlock, then the main; or the transfer switch."""
        feed_id, panel = self.hookup.feed_id, self.plan.panels[self.hookup.panel_id]
        self.order.put(
            [(f"interlock/{feed_id}", "utility")], "Slide the interlock back", f"at {panel.name}",
            "The feed breaker cannot be turned on any more: try it", "Call an electrician before the main",
        )  # fmt: skip
        self.order.put(
            [(f"main/{self.hookup.panel_id}", "on"), (f"transfer/{feed_id}", "utility")],
            "Turn the main on" if self.kind in BACKFED_KINDS else "Transfer to the utility",
            self.at_feed, "Volts as below", f"Anything else: {self.utility_off} again, call the utility",
            wait_s=wait_s,
            readings=self.volts(), why="A neutral that was lost in the storm shows now.",
        )  # fmt: skip

    @property
    def utility_off(self) -> str:
        """How a panel, or an appliance, leaves the utility again."""
        return "main off" if self.kind in BACKFED_KINDS else "switch to off"

    def burners(self) -> list[Load]:
        """What burns and heats by a thermostat, of what it feeds."""
        loads = (self.plan.loads[key] for key in self.network.loads_of(list(self.way.branches)))
        return [load for load in loads if burns(load)]

    def rest_first(self, where: str) -> None:
        """An appliance that is moved as a whole, at rest before."""
        for load in self.burners():
            self.order.step(
                f"Turn the thermostat of {load.name} off and wait until its blower or pump rests", where,
                "It stands still", "Wait: it cools its exchanger",
            )  # fmt: skip

    def switch_over(self, wait_s: float = 0.0) -> None:
        """An appliance's own switch to the source."""
        burners = self.burners()
        self.order.put(
            [(f"transfer/{self.hookup.feed_id}", "source")],
            f"Move the switch to the source{', then the thermostat up' if burners else ''}",
            f"at the switch of {', '.join(self.labels(self.hookup.circuit_ids))}",
            lights_up(burners[0]) if burners else "It runs as on the utility",
            NO_FLAME if burners else "It does not run: off, stop here", wait_s=wait_s,
        )  # fmt: skip

    def all_off(self) -> None:
        """Everything off behind the feed, and the feed open."""
        feed_id = self.hookup.feed_id
        if self.kind == "cords":
            self.plugs_out()
            return
        if self.kind == "transfer_switch":
            self.order.put(
                [(f"handle/{feed_id}/{key}", "off") for key in self.hookup.circuit_ids],
                "Move every handle to off, in the middle", "at the transfer switch", "All in the middle",
                "One does not rest there: turn the source’s output off, and do not use it again",
            )  # fmt: skip
            return
        self.branches_off()
        self.feed_off()

    # ---------------------------------------------------------------- volts, circuits

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

    def neutral_is(self) -> str:
        """What ties the neutral of what is fed: house, bonded (its source), floating, or unknown."""
        if self.kind != "cords" and self.hookup.neutral_switched != "yes":
            return "house"
        found = {state.neutral for state in neutral_states(self.plan, self.hookup)}
        return found.pop() if len(found) == 1 else "unknown"

    def _of_ground(self) -> str:
        """Why neutral to ground is not judged, where it is not."""
        neutral = self.neutral_is()
        if neutral == "floating":
            return "; neutral to ground is not judged: this source floats, any value up to half is sound"
        unread = "; neutral to ground is not judged: it is not known how the neutral is tied"
        return unread if neutral == "unknown" else ""

    def look_at_volts(self) -> None:
        """Volts with nothing on, and again with a lamp."""
        where = self.at_source if self.kind in AS_ONE else AT_METER
        low, high = HERTZ[self.plan.site.split_phase]
        engine = self.hookup.source_kind == "generator"
        hertz = Expected(where="frequency", low=low, high=high, unit="Hz", optional=True,
                         if_low="overloaded, or its governor is off: load off",
                         if_high="its governor is off: load off")  # fmt: skip
        self.order.step(
            "Read the volts", where, f"As below, and steady{self._of_ground()}",
            f"Anything else: {self.output} off; do not go on",
            readings=[*self.volts(), *([hertz] if engine else [])],
            why="An open neutral or a wrong leg shows before it can burn anything.",
        )  # fmt: skip

    def circuits_on(self, *, after_a_run: bool = False) -> None:
        """Circuits one at a time, the largest start first, with what should be read after each."""
        feeders = self._feeders()
        on: set[str] = {*feeders, *self.back_on.left_on}
        shows = self.shows()
        self._lamps_in(shows)
        lit = {one.branch: self.displays.lamp(one.branch, lamps=one.lamps) for one in shows}
        for key in feeders:
            self._one_on(key, self.displays.shown(on, lit), 0.0)
        rested = not after_a_run
        groups = self._groups()
        tried = Rehearsal()
        if self.kind != "cords":
            tried = rehearse(self.network, self.way, self.back_on.left_on, groups)
        self.notes += [f"Brought back in this order in the run: {words}" for words in tried.trips[:1]]
        unread = self._reads_legs
        for pair, usual in zip_longest(groups, tried.draws):
            if unread and on.issuperset(one.branch for one in shows):
                self._under_load(shows)
                unread = False
            on |= set(pair)
            wait = COMPRESSOR_S if not rested and any(map(self.cold, pair)) else 0.0
            rested = rested or wait > 0
            self._one_on(pair[0], self.displays.shown(on, lit, usual), wait, pair)
        if unread:
            self._under_load(shows)

    def shows(self) -> list[Shows]:
        """What shows how each leg stands, of what this way brings back."""
        return [one for one in self.back_on.shows if not self.alone or one.branch in self.circuits()]

    def _lamps_in(self, shows: list[Shows]) -> None:
        """A lamp into a circuit of each leg that has no circuit of lamps alone."""
        for one in shows:
            if not one.lamps:
                self.order.step(
                    f"Plug a lamp, switched on, into an outlet of {self.labels([one.branch])[0]}, {one.leg}",
                    IN_HOUSE, "It waits, dark, and nothing else is plugged in there",
                    f"No outlet there: into another circuit of {one.leg} without a motor",
                    why=f"{one.leg.capitalize()} has no circuit of lamps alone to show how it stands.",
                )  # fmt: skip

    @property
    def _reads_legs(self) -> bool:
        """Whether two legs are read under load: not of cords, nor of one appliance."""
        two_legs = self.plan.site.split_phase and not self.way.single
        return two_legs and self.kind not in AS_ONE

    def on_utility_under_load(self) -> None:
        """The same on the utility: a neutral that the storm has opened shows only under load."""
        if self._reads_legs:
            self._under_load(self.shows(), off=self.utility_off)

    def _under_load(self, shows: list[Shows], *, off: str = "") -> None:
        """An open neutral shows with a lamp on each leg, before a motor or electronics can be hurt."""
        named = ", ".join(f"{self.labels([one.branch])[0]} on {one.leg}" for one in shows)
        bare = [leg for leg in ("leg A", "leg B") if leg not in [one.leg for one in shows]]
        unlit = [f"; {leg} has nothing without a motor: read it again as its first comes on" for leg in bare]
        self.order.step(
            f"Have a lamp on in each of these, and read the volts again: {named}{''.join(unlit)}"
            if shows else "Read the volts again as each of the next comes on: no circuit is without a motor",
            AT_METER, "As before, and the lamps are even" if shows else "As before",
            f"A leg rises while the other falls: {off or self.output + ' off'} at once, the neutral is open",
            readings=self.volts(), why="An open neutral shows under load only.",
        )  # fmt: skip

    def _groups(self) -> list[tuple[str, ...]]:
        """Circuits in the order in which they come back, those that share a neutral together."""
        left = [key for key in self.back_on.order if not self.alone or key in self.circuits()]
        found: list[tuple[str, ...]] = []
        for key in left:
            if not any(key in pair for pair in found):
                found.append(self._with_partner(key))
        return found

    def _feeders(self) -> list[str]:
        of_panel = self.circuits().items() if not self.alone else ()
        return [key for key, circuit in of_panel if self._feeds_on(key) and circuit.mark != "off"]

    def _feeds_on(self, circuit_id: str) -> bool:
        return any(panel.fed_from == circuit_id for panel in self.plan.panels.values())

    def _with_partner(self, key: str) -> tuple[str, ...]:
        partner = self.plan.partner_of(key) if self.kind == "transfer_switch" else None
        return (key, partner) if partner in self.back_on.order else (key,)

    def cold(self, branch: str) -> bool:
        """Whether a branch has a compressor."""
        return any(load.compressor for load in self._loads([branch]))

    def _one_on(self, key: str, readings: list[Expected], wait_s: float, pair: tuple[str, ...] = ()) -> None:
        labels = " and ".join(
            self.plan.circuits[one].label for one in pair or (key,) if one in self.plan.circuits
        )
        moves = [(f"breaker/{one}", "on") for one in pair or (key,)]
        where, action, head = self.at_panel_of(key), f"Turn on {labels}", "Turn on one at a time"
        see, if_not = "The watts as below, after the start", MORE_WATTS
        if self.kind == "cords":
            labels = " and ".join(self.labels(list(pair or (key,))))
            moves = [(f"plug/{self.way.lead_id}/{one}", "in") for one in pair or (key,)]
            where, action = IN_HOUSE, f"Plug in {labels} and switch it on"
            head = "Plug in and switch on, one at a time"
            burners = [load for load in self._loads(pair or (key,)) if burns(load)]
            if burners:
                action, see, if_not = f"{action}, then its thermostat up", lights_up(burners[0]), NO_FLAME
        if self.kind == "transfer_switch":
            moves = [(f"handle/{self.hookup.feed_id}/{one}", "source") for one in pair or (key,)]
            where, head = "at the transfer switch", "To the source, one at a time"
        self.order.put(
            moves, action, where, see, if_not, wait_s=wait_s, readings=readings,
            why=LAMP_FIRST if set(pair) & {one.branch for one in self.shows()} else LARGEST_FIRST,
            list_head=head, line=labels,
        )  # fmt: skip

    def at_panel_of(self, branch: str) -> str:
        """Where the breaker of a circuit is."""
        circuit = self.plan.circuits.get(branch)
        return f"at {self.plan.panels[circuit.panel_id].name}" if circuit else IN_HOUSE

    def _loads(self, branches: Sequence[str]) -> list[Load]:
        return [self.plan.loads[key] for key in self.network.loads_of(list(branches))]

    def _behind(self) -> list[str]:
        """Every branch that the way can reach, those that stay off included."""
        return list(dict.fromkeys([*self.way.branches, *self.circuits()]))

    @property
    def has_compressor(self) -> bool:
        """Whether anything that it feeds has a compressor."""
        return any(map(self.cold, self.way.branches))

    def leave_off(self) -> list[str]:
        """Circuits that come under power with the feed and are marked off, by name."""
        off = [key for key, circuit in self.circuits().items() if circuit.mark == "off"]
        if self.kind == "transfer_switch":
            off = [key for key in self.hookup.circuit_ids if self.plan.circuits[key].mark == "off"]
        return self.labels(off)

    def labels(self, branches: Sequence[str]) -> list[str]:
        """Circuits and plugs as they are called."""
        found = []
        for key in branches:
            circuit = self.plan.circuits.get(key)
            names = [self.plan.loads[item].name for item in self.network.loads_of([key])]
            found.append(circuit.label if circuit else " and ".join(names))
        return found


def _home(plug: str) -> str:
    """How a plug of some configuration sits that is all the way in; one whose name begins with L locks."""
    return "Pushed home and twisted to its stop" if plug.upper().startswith(("L", "CS")) else "Pushed home"

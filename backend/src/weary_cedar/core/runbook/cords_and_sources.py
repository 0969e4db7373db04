"""Steps at cords and sources: put away, locked off, plugged far end first, on, off, and out again."""

from weary_cedar.core.handles.elements import charging_from, is_wired
from weary_cedar.core.runbook.burner import polarity
from weary_cedar.core.runbook.linked import leg_to_leg, linked
from weary_cedar.core.runbook.places import (
    AT_INLET,
    AT_PANEL,
    CAR_OUTDOORS,
    IN_HOUSE,
    OUTDOORS,
    WARM_S,
)
from weary_cedar.core.runbook.sheet import Expected
from weary_cedar.core.runbook.written_way import WrittenWay


class CordWriter(WrittenWay):
    """Writes what is done at the cords and the source of a way."""

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
        looked = (
            "the switch" if self.traits.single else "plugs and cords" if self.traits.as_one else "the panel"
        )
        self.order.step(
            f"Look at {looked} with a light", IN_HOUSE if self.traits.as_one else AT_PANEL,
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
        if self.traits.as_one and self.burners():
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
        car = self.plan.vehicles.get(key) if kind == "vehicle" else None
        if car is not None and car.kind != "battery":
            self.order.step(
                f"Look where {car.name} stands: its engine may start by itself", OUTDOORS, CAR_OUTDOORS,
                "Move it out first, or turn nothing on",
            )  # fmt: skip
        quiet = "It runs evenly, with next to no load" if kind == "generator" else "It shows next to no watts"
        self.order.put(
            [(f"output/{self.source}", "on")], f"Turn its {self.output} on and let it settle", self.at_source,
            "The watts as below" if shows else quiet,
            f"A code, a beep, or it hunts: {self.output} off, read the manual",
            wait_s=wait_s + (WARM_S if kind == "generator" else 0.0),
            readings=self.left_on_read() if shows else [],
        )  # fmt: skip
        if kind == "link":
            leg_to_leg(self.plan, key, self.order, self.at_source)

    def left_on_read(self) -> list[Expected]:
        return self.displays.shown({*self.feeders(), *self.back_on.left_on})

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

    def rest_first(self, where: str) -> None:
        """An appliance that is moved as a whole, at rest before."""
        for load in self.burners():
            self.order.step(
                f"Turn the thermostat of {load.name} off and wait until its blower or pump rests", where,
                "It stands still", "Wait: it cools its exchanger",
            )  # fmt: skip


def _home(plug: str) -> str:
    """How a plug of some configuration sits that is all the way in; one whose name begins with L locks."""
    return "Pushed home and twisted to its stop" if plug.upper().startswith(("L", "CS")) else "Pushed home"

"""Steps at the panel: off, proven dead, joined to the source, parted again. Common practice of the trade."""

from collections.abc import Collection

from weary_cedar.core.runbook.burner import NO_FLAME, lights_up
from weary_cedar.core.runbook.cords_and_sources import CordWriter
from weary_cedar.core.runbook.places import AT_METER, AT_PANEL, IN_HOUSE
from weary_cedar.core.runbook.schools import joins_a_panel
from weary_cedar.core.runbook.sheet import Expected

#: What an engine holds, Hz, where two legs are 120 V and where one is 230 V. Common practice: ± 5 %.
HERTZ = {True: (57.0, 63.0), False: (47.5, 52.5)}


class PanelWriter(CordWriter):
    """Writes what is done where the source meets the house."""

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

    def branches_off(self, left_on: Collection[str] = ()) -> None:
        """Branch breakers off, so that no load is broken and none comes back by itself; some may stay on."""
        for panel_id in self.panels():
            name = self.plan.panels[panel_id].name
            of_panel = [key for key, c in self.circuits().items() if c.panel_id == panel_id]
            stay = [key for key in of_panel if key in left_on or (left_on and self.feeds_on(key))]
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
        on_cord = self.traits.as_one
        moves = [(handle if handle in self.order.at else breaker, "off")]
        where = IN_HOUSE if on_cord else AT_PANEL
        if on_cord:
            self.order.step(action, where, see, "Leave it")
        else:
            self.order.put(moves, action, where, see, "Leave it off; it is worn")

    def main_off(self) -> None:
        """The main off and the interlock over, or the transfer switch to off."""
        feed_id, panel = self.hookup.feed_id, self.plan.panels[self.hookup.panel_id]
        if self.traits.interlocked:
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
            "Close the feed breaker" if self.traits.interlocked else "Transfer to the source",
            self.at_feed, self._after_closing(), "It trips: open it again; that is a wiring fault",
            readings=[] if self.output_after or not self.back_on.left_on else self.left_on_read(),
        )  # fmt: skip

    def _after_closing(self) -> str:
        if self.output_after:
            return "Nothing yet: the source is still off"
        return "The watts as below" if self.back_on.left_on else "The source shows next to no watts"

    def feed_off(self) -> None:
        """The source parted from the panel."""
        feed_id = self.hookup.feed_id
        self.order.put(
            [(f"feed_breaker/{feed_id}", "off"), (f"transfer/{feed_id}", "off")],
            "Open the feed breaker" if self.traits.interlocked else "Transfer switch to off",
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
            "Turn the main on" if self.traits.interlocked else "Transfer to the utility",
            self.at_feed, "Volts as below", f"Anything else: {self.utility_off} again, call the utility",
            wait_s=wait_s,
            readings=self.volts(), why="A neutral that was lost in the storm shows now.",
        )  # fmt: skip

    def switch_off(self) -> None:
        """An appliance's own switch to off, away from the utility, once the appliance rests."""
        self.rest_first(IN_HOUSE)
        self.order.put(
            [(f"transfer/{self.hookup.feed_id}", "off")], "Move the switch to off",
            f"at the switch of {', '.join(self.labels(self.hookup.circuit_ids))}",
            "It stands on off", "Do not use it",
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
        if self.traits.moves == "handles":
            self.order.put(
                [(f"handle/{feed_id}/{key}", "off") for key in self.hookup.circuit_ids],
                "Move every handle to off, in the middle", "at the transfer switch", "All in the middle",
                "One does not rest there: turn the source’s output off, and do not use it again",
            )  # fmt: skip
            return
        self.branches_off()
        self.feed_off()

    def look_at_volts(self) -> None:
        """Volts with nothing on, and again with a lamp."""
        where = self.at_source if self.traits.as_one else AT_METER
        low, high = HERTZ[self.plan.site.split_phase]
        engine = self.hookup.source_kind == "generator"
        hertz = Expected(where="frequency", low=low, high=high, unit="Hz", optional=True,
                         if_low="overloaded, or its governor is off: load off",
                         if_high="its governor is off: load off")  # fmt: skip
        self.order.step(
            "Read the volts", where, f"As below, and steady{self.of_ground()}",
            f"Anything else: {self.output} off; do not go on",
            readings=[*self.volts(), *([hertz] if engine else [])],
            why="An open neutral or a wrong leg shows before it can burn anything.",
        )  # fmt: skip

"""Steps of circuits that come back one at a time, what shows each leg first. Common practice of the trade."""

from itertools import zip_longest

from weary_cedar.core.runbook.burner import NO_FLAME, burns, lights_up
from weary_cedar.core.runbook.feed_and_panel import PanelWriter
from weary_cedar.core.runbook.house import COMPRESSOR_S
from weary_cedar.core.runbook.places import AT_METER, IN_HOUSE
from weary_cedar.core.runbook.rehearsal import Rehearsal, rehearse
from weary_cedar.core.runbook.schools import Shows
from weary_cedar.core.runbook.sheet import Expected

LAMP_FIRST = "Lamps first: they show an open neutral before a motor or electronics can be hurt."
LARGEST_FIRST = "The largest start comes while the source is empty; a thermostat need not call at once."
MORE_WATTS = "More: something else is on there. It trips: leave this one off and go to “After a trip”"


class Writer(PanelWriter):
    """Writes the steps of one way into an order."""

    def circuits_on(self, *, after_a_run: bool = False) -> None:
        """Circuits one at a time, the largest start first, with what should be read after each."""
        feeders = self.feeders()
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
        unread = self.reads_legs
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

    def on_utility_under_load(self) -> None:
        """The same on the utility: a neutral that the storm has opened shows only under load."""
        if self.reads_legs:
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

    def _with_partner(self, key: str) -> tuple[str, ...]:
        partner = self.plan.partner_of(key) if self.traits.moves == "handles" else None
        return (key, partner) if partner in self.back_on.order else (key,)

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
            burners = [load for load in self.loads(pair or (key,)) if burns(load)]
            if burners:
                action, see, if_not = f"{action}, then its thermostat up", lights_up(burners[0]), NO_FLAME
        if self.traits.moves == "handles":
            moves = [(f"handle/{self.hookup.feed_id}/{one}", "source") for one in pair or (key,)]
            where, head = "at the transfer switch", "To the source, one at a time"
        self.order.put(
            moves, action, where, see, if_not, wait_s=wait_s, readings=readings,
            why=LAMP_FIRST if set(pair) & {one.branch for one in self.shows()} else LARGEST_FIRST,
            list_head=head, line=labels,
        )  # fmt: skip

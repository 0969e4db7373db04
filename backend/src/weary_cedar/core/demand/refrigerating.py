"""A refrigerator or freezer that is driven by what lies in its compartments."""

import math
from typing import ClassVar, Final

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.demand.cold_store import ColdStore
from weary_cedar.core.demand.thermostatic import Outdoors
from weary_cedar.core.plan.load import Refrigerating

#: A compressor rests at least this long, s. Common practice.
SHORTEST_S: Final = 180.0
#: A level counts as reached this close, Wh.
REACHED_WH: Final = 1e-6


class RefrigeratingDemand(Behaviour):
    """The compressor starts when a compartment is a band above its set point, and stops when all are there.

    Its cold (on_w · COP) goes to the compartments that have not come to their set points since it started,
    by what each loses.
    Without power they warm and its thermostat stays where it was: with power back a compressor that was
    running goes on, one that rested starts when a compartment is a band above its set point. Time off is
    not free. A defrost takes its place on its own clock; one that is due without power happens afterwards.
    Being without power counts as a loss from the moment at which contents are warmer than they may be.
    """

    __slots__ = (
        "_around",
        "_cooled",
        "_defrost_due_s",
        "_defrost_ends_s",
        "_rests_until_s",
        "_running",
        "_since_s",
        "_spec",
        "stores",
    )
    STATE: ClassVar[str] = (
        Behaviour.STATE + " _cooled _defrost_due_s _defrost_ends_s _rests_until_s _running _since_s"
    )

    def __init__(self, spec: Refrigerating, around: Outdoors, phase: float) -> None:
        super().__init__()
        self._spec = spec
        self._around = around
        self.stores: dict[str, ColdStore] = {}
        for key, item in spec.compartments.items():
            start_c = item.set_c + phase * item.band_k if item.start_c is None else item.start_c
            self.stores[key] = ColdStore(item, start_c)
        self._running = False
        #: Compartments that this run of the compressor has still to bring to their set points.
        self._cooled: set[str] = set()
        self._since_s = 0.0
        self._rests_until_s = 0.0
        self._defrost_due_s = spec.defrost.every_s if spec.defrost else math.inf
        self._defrost_ends_s = math.inf
        self.watts = self._return_w(0.0)
        self._schedule(0.0)

    def _cold_w(self, t: float) -> dict[str, float]:
        """Heat taken out of each compartment now, W."""
        if not (self.powered and self._running and self._defrost_ends_s == math.inf):
            return dict.fromkeys(self.stores, 0.0)
        room_c = self._around.at(t)
        weights = {
            key: max(1e-6, store.loss_w(room_c)) for key, store in self.stores.items() if key in self._cooled
        }
        whole = sum(weights.values())
        cold_w = self._spec.on_w * self._spec.cop
        return {key: cold_w * weights[key] / whole if key in weights else 0.0 for key in self.stores}

    def _settle(self, t: float) -> None:
        if t > self._since_s:
            room_c, cold = self._around.at(self._since_s), self._cold_w(self._since_s)
            for key, store in self.stores.items():
                store.settle(t, room_c, cold[key], powered=self.powered)
                if key in self._cooled and store.heat_wh <= store.set_wh + REACHED_WH:
                    self._cooled.discard(key)
        self._since_s = t

    def _starts_wh(self, store: ColdStore) -> float:
        return store.heat_at(store.compartment.set_c + store.compartment.band_k)

    def _warm(self) -> set[str]:
        """Compartments above their set points."""
        return {key for key, store in self.stores.items() if store.heat_wh > store.set_wh + REACHED_WH}

    def _too_warm(self) -> bool:
        return any(store.heat_wh >= self._starts_wh(store) - REACHED_WH for store in self.stores.values())

    def _return_w(self, t: float) -> float:
        """What it would draw if power came back."""
        if self._spec.defrost and (self._defrost_ends_s < math.inf or self._defrost_due_s <= t):
            return self._spec.defrost.watts
        return self._spec.on_w if self._running or self._too_warm() else 0.0

    def _schedule(self, t: float) -> None:
        room_c, cold = self._around.at(t), self._cold_w(t)
        soonest = self._around.next_change(t)
        for key, store in self.stores.items():
            goals = [store.limit_wh] if not self.powered else []
            if key in self._cooled and self._running:
                goals.append(store.set_wh)
            elif self.powered and not self._running:
                goals.append(self._starts_wh(store))
            for goal in goals:
                if abs(store.heat_wh - goal) > REACHED_WH:
                    soonest = min(soonest, t + 3600.0 * store.hours_to(goal, room_c, cold[key]))
        if self.powered:
            if self._rests_until_s > t and not self._running and self._too_warm():
                soonest = min(soonest, self._rests_until_s)
            soonest = min(soonest, self._defrost_ends_s, max(t, self._defrost_due_s))
        self.next_s = soonest

    def _decide(self, t: float) -> None:
        """Whether compressor or defrost run from now on."""
        defrost = self._spec.defrost
        if t >= self._defrost_ends_s:
            self._defrost_ends_s = math.inf
        if defrost and self._defrost_ends_s == math.inf and t >= self._defrost_due_s:
            self._defrost_ends_s = t + defrost.seconds
            self._defrost_due_s = t + max(defrost.every_s, defrost.seconds + 1.0)
        if self._running and not self._cooled:
            self._running = False
            self._rests_until_s = t + SHORTEST_S
        elif not self._running and t >= self._rests_until_s and self._too_warm():
            self._running = True
            self._cooled = self._warm()
        if defrost and self._defrost_ends_s < math.inf:
            self.watts = defrost.watts
        else:
            self.watts = self._spec.on_w if self._running else 0.0

    def step(self, t: float) -> None:
        """A set point or a start is reached, a defrost begins or ends, the air around it changes."""
        self._settle(t)
        if self.powered:
            self._decide(t)
        else:
            self._running = self._running and bool(self._cooled)
            self.watts = self._return_w(t)
        self._schedule(t)

    def power(self, t: float, on: bool) -> None:
        """With power back it goes on as its thermostat stands; a defrost begins anew."""
        self._settle(t)
        if on and not self.powered:
            self.powered = True
            self._rests_until_s = t
            self._cooled = self._warm() if self._running else set()
            self._decide(t)
        elif self.powered and not on:
            self.powered = False
            if self._defrost_ends_s < math.inf:
                self._defrost_ends_s, self._defrost_due_s = math.inf, t
            self.watts = self._return_w(t)
        self._schedule(t)

    def hold_on(self, t: float, seconds: float) -> None:
        """A door is left open: as much heat comes in as the compressor takes out in that time."""
        self._settle(t)
        room_c = self._around.at(t)
        losses = {key: max(1e-6, store.loss_w(room_c)) for key, store in self.stores.items()}
        for key, store in self.stores.items():
            share = losses[key] / sum(losses.values())
            store.heat_wh += self._spec.on_w * self._spec.cop * seconds / 3600.0 * share
        if self.powered:
            self._decide(t)
        self._schedule(t)

    @property
    def wants(self) -> bool:
        """Without power it is missed once contents are warmer than they may be."""
        return self.powered or any(
            store.heat_wh >= store.limit_wh - REACHED_WH for store in self.stores.values()
        )

    def mean_w(self) -> float:
        """Mean that holds the set points in the air of the first hour, defrosts included, W."""
        room_c, spec = self._around.at(0.0), self._spec
        heat_w = sum(max(0.0, store.loss_w(room_c)) for store in self.stores.values())
        cycle_w = min(spec.on_w, heat_w / spec.cop)
        if not spec.defrost:
            return cycle_w
        share = min(1.0, spec.defrost.seconds / spec.defrost.every_s)
        return cycle_w * (1 - share) + spec.defrost.watts * share

    def cycle_s(self) -> float:
        """From start to start of the compressor in the air of the first hour, s."""
        share = self.mean_w() / self._spec.on_w if self._spec.on_w > 0 else 1.0
        room_c, off_h = self._around.at(0.0), math.inf
        for item in self._spec.compartments.values():
            store = ColdStore(item, item.set_c)
            off_h = min(off_h, store.hours_to(self._starts_wh(store), room_c, 0.0))
        return off_h * 3600.0 / (1 - share) if share < 1 else math.inf

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """What it would take at the end to bring the contents back to their set points."""
        if self.powered:
            return 0.0
        owed_wh = sum(max(0.0, store.heat_wh - store.set_wh) for store in self.stores.values())
        return owed_wh / self._spec.cop

    def close(self, t: float) -> None:
        """End of the run: contents and air up to now."""
        self._settle(t)

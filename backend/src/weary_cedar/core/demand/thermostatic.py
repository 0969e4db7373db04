"""A heater or cooler on a thermostat, driven by the outdoor temperature."""

import math
from collections.abc import Sequence
from typing import ClassVar, Final, Protocol

from weary_cedar.core.demand.behaviour import Behaviour
from weary_cedar.core.demand.heat_loss import cycles_per_hour
from weary_cedar.core.plan.load import SequenceStep, Thermostatic

#: Shortest stretch of heating or waiting, s: a thermostat does not chatter.
SHORTEST_S: Final = 60.0
#: The indoor temperature counts as reached this close, K.
REACHED_K: Final = 1e-6


class Outdoors(Protocol):
    """Outdoor temperature held between samples."""

    def at(self, t: float) -> float:
        """°C at a moment."""

    def next_change(self, t: float) -> float:
        """Moment of the next sample."""


class ThermostaticDemand(Behaviour):
    """Cycles by the run fraction while indoors is within the band, runs through outside of it.

    Stages: idle → before (inducer, igniter) → run (heat counts) → after (post-purge) → idle. A run
    that begins more than half a band off the set point, or finds itself there when the set point
    moves, catches up: it ends at the set point. Lost power ends the call. The indoor temperature
    follows exactly, exponential between events.
    """

    __slots__ = (
        "_call_ends_s",
        "_catching",
        "_entered_run",
        "_idle_until_s",
        "_mark_s",
        "_outdoors",
        "_set_c",
        "_set_changes",
        "_spec",
        "_stage",
        "_step",
        "_step_ends_s",
        "indoor",
        "indoor_c",
    )
    STATE: ClassVar[str] = Behaviour.STATE + (
        " _call_ends_s _catching _entered_run _idle_until_s _mark_s _set_c _set_changes _stage _step "
        "_step_ends_s indoor indoor_c"
    )

    def __init__(
        self, spec: Thermostatic, outdoors: Outdoors, set_changes: Sequence[tuple[float, float]]
    ) -> None:
        super().__init__()
        self._spec = spec
        self._outdoors = outdoors
        self._set_changes = sorted(set_changes, reverse=True)
        self._set_c = spec.set_c
        self._stage = "idle"
        self._step = 0
        self._step_ends_s = math.inf
        self._call_ends_s = math.inf
        self._idle_until_s = 0.0
        self._mark_s = 0.0
        self._entered_run = False
        self._catching = False
        self._change_set_point(0.0)
        self.indoor_c = self._set_c
        #: (time, °C) at every change, for showing.
        self.indoor = [(0.0, self.indoor_c)]
        self.watts = self._first_w() if self._fraction(0.0) > 0 else 0.0

    # ------------------------------------------------------------ heat

    def _sign(self) -> float:
        return 1.0 if self._spec.mode == "heat" else -1.0

    def _fraction(self, t: float) -> float:
        spec = self._spec
        need_w = spec.loss_w_per_k * (self._set_c - self._outdoors.at(t)) - spec.gain_w
        return min(1.0, max(0.0, self._sign() * need_w / spec.output_w))

    def _equilibrium_c(self, t: float, running: bool) -> float:
        heat_w = self._spec.gain_w + (self._sign() * self._spec.output_w if running else 0.0)
        return self._outdoors.at(t) + heat_w / self._spec.loss_w_per_k

    def _tau_s(self) -> float:
        return 3600.0 * self._spec.capacity_wh_per_k / self._spec.loss_w_per_k

    def _pass(self, t: float) -> None:
        """Let the indoor temperature follow up to `t`; the outdoor sample held since the last mark."""
        if t > self._mark_s:
            to_c = self._equilibrium_c(self._mark_s, self._heating())
            self.indoor_c = to_c + (self.indoor_c - to_c) * math.exp((self._mark_s - t) / self._tau_s())
            self.indoor.append((t, self.indoor_c))
        self._mark_s = t

    def _heating(self) -> bool:
        return self.powered and self._stage == "run"

    def _reaches_s(self, t: float, goal_c: float) -> float:
        """When the indoor temperature crosses a goal if nothing changes."""
        to_c = self._equilibrium_c(t, self._heating())
        ahead, behind = goal_c - to_c, self.indoor_c - to_c
        if ahead == 0 or behind == 0 or behind / ahead <= 1:
            return math.inf
        return t + self._tau_s() * math.log(behind / ahead)

    def _below(self, by_k: float = 0.0) -> bool:
        """Whether indoors is on the wrong side of the set point by more than `by_k`."""
        return self._sign() * (self._set_c - self.indoor_c) > by_k + REACHED_K

    # ------------------------------------------------------------ stages

    def _first_w(self) -> float:
        return self._spec.before[0].watts if self._spec.before else self._spec.run_w

    def _call(self, t: float) -> None:
        self._enter(t, "before", 0)

    def _enter(self, t: float, stage: str, step: int) -> None:
        self._stage, self._step, self._entered_run = stage, step, False
        steps: tuple[SequenceStep, ...] = {"before": self._spec.before, "after": self._spec.after}.get(
            stage, ()
        )
        if stage == "before" and step >= len(steps):
            self._enter_run(t)
        elif stage == "after" and step >= len(steps):
            self._enter_idle(t)
        else:
            self.watts = steps[step].watts
            self._step_ends_s = t + steps[step].seconds

    def _enter_run(self, t: float) -> None:
        self._stage, self._entered_run = "run", True
        self.watts = self._spec.run_w
        self._step_ends_s = math.inf
        self._catching = self._below(self._spec.band_k / 2)
        x = self._fraction(t)
        rate = cycles_per_hour(x, self._spec.cycles_at_half)
        self._call_ends_s = t + max(SHORTEST_S, x * 3600.0 / rate) if rate > 0 else math.inf

    def _enter_idle(self, t: float) -> None:
        self._stage, self.watts, self._step_ends_s = "idle", 0.0, math.inf
        x = self._fraction(t)
        rate = cycles_per_hour(x, self._spec.cycles_at_half)
        self._idle_until_s = t + max(SHORTEST_S, (1 - x) * 3600.0 / rate) if rate > 0 else math.inf

    def _schedule(self, t: float) -> None:
        wake_s = min(
            self._outdoors.next_change(t), self._set_changes[-1][0] if self._set_changes else math.inf
        )
        if not self.powered:
            self.next_s = wake_s
            return
        if self._stage == "run":
            edge_c = self._set_c + self._sign() * self._spec.band_k
            if self._catching or self._call_ends_s == math.inf:
                wake_s = min(wake_s, self._reaches_s(t, self._set_c))
            else:
                wake_s = min(wake_s, self._call_ends_s, self._reaches_s(t, edge_c))
        elif self._stage == "idle":
            edge_c = self._set_c - self._sign() * self._spec.band_k
            wake_s = min(wake_s, max(t, self._idle_until_s), self._reaches_s(t, edge_c))
        self.next_s = min(wake_s, self._step_ends_s)

    def _change_set_point(self, t: float) -> bool:
        changed = False
        while self._set_changes and self._set_changes[-1][0] <= t:
            self._set_c = self._set_changes.pop()[1]
            changed = True
        return changed

    def step(self, t: float) -> None:
        """A step of the sequence ends, the call ends or begins, or the weather or set point changes."""
        self._pass(t)
        moved = self._change_set_point(t)
        self._entered_run = False
        if self.powered:
            if self._stage in ("before", "after"):
                if t >= self._step_ends_s:
                    self._enter(t, self._stage, self._step + 1)
            elif self._stage == "run":
                if moved:
                    self._catching = self._below(self._spec.band_k / 2)
                self._catching = self._catching and self._below()
                if self._call_is_over(t):
                    self._enter(t, "after", 0)
            elif self._below(self._spec.band_k - 2 * REACHED_K) or (
                t >= self._idle_until_s and not self._above() and self._fraction(t) > 0
            ):
                self._call(t)
            elif t >= self._idle_until_s or moved:
                self._enter_idle(t)
        self._schedule(t)

    def _above(self) -> bool:
        return self._sign() * (self.indoor_c - self._set_c) > self._spec.band_k / 2

    def _call_is_over(self, t: float) -> bool:
        if self._catching:
            return False
        reached = not self._below()
        past = self._sign() * (self.indoor_c - self._set_c) >= self._spec.band_k - REACHED_K
        if self._fraction(t) <= 0 and reached:
            return True
        return (
            past
            or t >= self._call_ends_s
            or (self._call_ends_s == math.inf and reached and self._fraction(t) < 1)
        )

    def power(self, t: float, on: bool) -> None:
        """Lost power ends the call; with power back it calls at once when indoors is off the set point."""
        self._pass(t)
        if on and not self.powered:
            self.powered = True
            self._enter_idle(t)
            if self._below() or self._fraction(t) > 0:
                self._call(t)
        elif self.powered and not on:
            self.powered = False
            self._stage, self._step_ends_s, self._idle_until_s = "idle", math.inf, math.inf
            self.watts = self._first_w()
        self._schedule(t)

    @property
    def wants(self) -> bool:
        """Without power it is missed as soon as there is heat to bring."""
        return self.powered or self._fraction(self._mark_s) > 0

    def begins(self, draw_w: float) -> bool:
        """The start belongs to the blower: at the run step, after inducer and igniter."""
        return self._entered_run and draw_w != self.watts

    def mean_w(self) -> float:
        """Mean at the first outdoor sample, W."""
        x = self._fraction(0.0)
        rate = cycles_per_hour(x, self._spec.cycles_at_half)
        steps = (*self._spec.before, *self._spec.after)
        return x * self._spec.run_w + rate * sum(s.watts * s.seconds for s in steps) / 3600.0

    def unserved_wh(self, without_s: float, open_s: float) -> float:
        """Electrical energy of the run fraction over the time without power."""
        return self._fraction(self._mark_s) * self._spec.run_w * without_s / 3600.0


def set_point_changes(spec: Thermostatic, nights: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """(time, °C) of every change of set point, given the nights as (begin, end) seconds."""
    if spec.setback is None:
        return []
    changes: list[tuple[float, float]] = []
    for begins, ends in nights:
        changes += [(begins, spec.setback.set_c), (ends, spec.set_c)]
    return changes

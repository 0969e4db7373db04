"""What lies in a cold compartment: how it warms and cools, with the plateau on which it thaws."""

import math
from typing import ClassVar, Final

from weary_cedar.core.exact.course import after, hours_to
from weary_cedar.core.plan.load import Compartment

#: Heat that a kilogram of food takes for each kelvin, Wh/kg·K: 1.9 kJ frozen, 3.5 kJ thawed. Textbooks of
#: food engineering give 1.7 to 2.1 and 3.2 to 3.9 for what is three quarters water; from memory.
FROZEN_WH_KG_K: Final = 1.9 / 3.6
THAWED_WH_KG_K: Final = 3.5 / 3.6
#: Heat that thaws a kilogram of food which is three quarters water, Wh: 334 kJ/kg of water. From memory.
THAW_WH_KG: Final = 334.0 * 0.75 / 3.6
#: A thermometer in still air reads this share of the way from the contents to the room, an hour behind.
#: Both fitted to logged freezers without power; common practice.
AIR_SHARE: Final = 0.19
AIR_LAG_H: Final = 1.0
#: Rows for showing are no further apart, h: between them a course is nearly straight.
ROWS_H: Final = 0.5


class ColdStore:
    """Contents of one compartment: heat counted from frozen at 0 °C, and the air over it.

    Frozen below 0 Wh, thawing at 0 °C up to the heat of thawing, thawed above. Between two moments
    dH/dt = k·(T_room − T(H)) − Q with constant Q, in closed form in each of the three stretches.
    Not modelled: moisture, and the heat of a defrost in the contents.
    """

    __slots__ = (
        "_loss",
        "_pieces",
        "_since_s",
        "air_c",
        "compartment",
        "first_over_s",
        "heat_wh",
        "highest_c",
        "limit_wh",
        "over_s",
        "rows",
        "set_wh",
        "start_c",
        "thaw_wh",
        "thawed_s",
        "thaws_s",
    )
    STATE: ClassVar[str] = (
        "_since_s air_c first_over_s heat_wh highest_c over_s rows start_c thawed_s thaws_s"
    )

    def __init__(self, compartment: Compartment, start_c: float) -> None:
        kg = compartment.contents_kg
        self.compartment = compartment
        self._loss = compartment.loss_w_per_k
        self.thaw_wh = kg * THAW_WH_KG
        #: (heat at its upper edge, Wh; Wh per K, nil while it thaws; heat at 0 °C, Wh).
        self._pieces = (
            (0.0, kg * FROZEN_WH_KG_K, 0.0),
            (self.thaw_wh, 0.0, 0.0),
            (math.inf, kg * THAWED_WH_KG_K, self.thaw_wh),
        )
        self.start_c = start_c
        self.heat_wh = self.heat_at(start_c)
        self.set_wh = self.heat_at(compartment.set_c)
        self.limit_wh = self.heat_at(compartment.limit_c)
        self._since_s = 0.0
        self.air_c = self.highest_c = start_c
        self.over_s = 0.0
        self.first_over_s: float | None = 0.0 if self.over else None
        #: When what is kept frozen began to thaw, and when all of it was thawed, s.
        self.thaws_s: float | None = None
        self.thawed_s: float | None = None
        self._mind_thaw(0.0)
        #: (s, °C of the contents, °C of the air).
        self.rows: list[tuple[float, float, float]] = [(0.0, start_c, start_c)]

    def heat_at(self, celsius: float) -> float:
        """Heat of the contents at a temperature, Wh; at 0 °C all frozen."""
        if celsius <= 0:
            return celsius * self._pieces[0][1]
        return self.thaw_wh + celsius * self._pieces[2][1]

    @property
    def contents_c(self) -> float:
        """Temperature of the contents, °C."""
        if self.heat_wh <= 0:
            return self.heat_wh / self._pieces[0][1]
        return max(0.0, self.heat_wh - self.thaw_wh) / self._pieces[2][1]

    @property
    def over(self) -> bool:
        """Whether the contents are warmer than they may be."""
        return self.heat_wh > self.limit_wh

    def loss_w(self, room_c: float) -> float:
        """Heat that comes in at the set point, W."""
        return self._loss * (room_c - self.compartment.set_c)

    def _course(self, heat_wh: float, room_c: float, cold_w: float, rises: bool) -> tuple[float, float, int]:
        """(a, b, piece) of dH/dt = a + b·H from here on; on an edge in the stretch that it goes into."""
        index = 0
        while heat_wh > self._pieces[index][0] or (heat_wh == self._pieces[index][0] and rises):
            index += 1
        _, per_k, base = self._pieces[index]
        b = -self._loss / per_k if per_k else 0.0
        return self._loss * room_c - cold_w - b * base, b, index

    def hours_to(self, goal_wh: float, room_c: float, cold_w: float) -> float:
        """Time until the contents hold so much heat, h; infinite if they never do.

        Args:
            goal_wh: heat from frozen at 0 °C, Wh.
            room_c: air around the box, °C.
            cold_w: heat that the compressor takes out of it, W.

        Source: inverse of dH/dt = k·(T_room − T) − Q, stretch by stretch.
        """
        return self._hours(self.heat_wh, goal_wh, room_c, cold_w)

    def _hours(self, heat: float, goal_wh: float, room_c: float, cold_w: float) -> float:
        """As `hours_to`, from another heat of the contents."""
        hours, rises = 0.0, goal_wh > heat
        while heat != goal_wh:
            a, b, index = self._course(heat, room_c, cold_w, rises)
            below = self._pieces[index - 1][0] if index else -math.inf
            edge = min(goal_wh, self._pieces[index][0]) if rises else max(goal_wh, below)
            needed = hours_to(heat, edge, a, b)
            if needed == math.inf:
                return math.inf
            hours, heat = hours + needed, edge
        return hours

    def settle(self, t: float, room_c: float, cold_w: float, *, powered: bool) -> None:
        """Let contents and air follow up to a moment.

        Args:
            t: the moment, s from the start; what follows held since the last one.
            room_c: air around the box, °C.
            cold_w: heat that was taken out of it, W.
            powered: its fan and compressor ran: the air in it is that of the contents.

        Source: as the class; the air dA/dt = (contents + r·(room − contents) − A)/1 h.
        """
        left_h = (t - self._since_s) / 3600.0
        while left_h > 0:
            step_h = min(left_h, ROWS_H) if left_h > 1.5 * ROWS_H else left_h
            self._settle_some(step_h, room_c, cold_w, powered)
            left_h -= step_h
            self.rows.append((t - left_h * 3600.0, self.contents_c, self.air_c))
        self._since_s = t

    def _settle_some(self, hours: float, room_c: float, cold_w: float, powered: bool) -> None:
        before_wh, was_over, begins_s = self.heat_wh, self.over, self._since_s
        left = hours
        while left > 0:
            drift = self._loss * (room_c - self.contents_c) - cold_w
            a, b, index = self._course(self.heat_wh, room_c, cold_w, drift > 0)
            below = self._pieces[index - 1][0] if index else -math.inf
            edge = self._pieces[index][0] if drift > 0 else below
            leaves = hours_to(self.heat_wh, edge, a, b) if math.isfinite(edge) and drift else math.inf
            step = min(left, leaves)
            self._follow_air(step, a, b, index, room_c, powered)
            self.heat_wh = edge if leaves <= left else after(self.heat_wh, a, b, step)
            left -= step
            self._mind_thaw(begins_s + (hours - left) * 3600.0)
        self._since_s = begins_s + hours * 3600.0
        self.highest_c = max(self.highest_c, self.contents_c)
        if not self.over and not was_over:
            return
        crosses_h = self._hours(before_wh, self.limit_wh, room_c, cold_w)
        if not was_over:
            self.over_s += max(0.0, hours - crosses_h) * 3600.0
            if self.first_over_s is None:
                self.first_over_s = begins_s + min(crosses_h, hours) * 3600.0
        else:
            self.over_s += min(hours, crosses_h if crosses_h > 0 else hours) * 3600.0

    def _mind_thaw(self, t: float) -> None:
        """Keep when what is kept frozen came to the plateau on which it thaws, and when it left that."""
        if self.set_wh >= 0:
            return
        if self.thaws_s is None and self.heat_wh >= 0:
            self.thaws_s = t
        if self.thawed_s is None and self.heat_wh >= self.thaw_wh:
            self.thawed_s = t

    def _follow_air(self, hours: float, a: float, b: float, index: int, room_c: float, powered: bool) -> None:
        """The air after a stretch in which the contents follow one course."""
        share = 0.0 if powered else AIR_SHARE
        per_k = self._pieces[index][1]
        contents_c = self.contents_c
        rests_c = (-a / b - self._pieces[index][2]) / per_k if b else contents_c
        still = (1 - share) * rests_c + share * room_c
        lag = 1.0 / AIR_LAG_H
        rate = b if abs(b + lag) > 1e-9 else b * (1 + 1e-6)
        moving = (1 - share) * (contents_c - rests_c) * lag / (lag + rate)
        own = self.air_c - still - moving
        self.air_c = still + moving * math.exp(rate * hours) + own * math.exp(-lag * hours)

"""What is drawn on both legs at a moment, and how it stands to the limits."""

from math import hypot, inf, sqrt
from typing import Final

from weary_cedar.core.network import ACROSS, LEG_A, LEG_B

#: Figures this close to a limit are at it, not over it.
SLACK: Final = 1e-9


class LegSums:
    """P and Q of the 120 V loads of each leg and of the loads across both."""

    __slots__ = ("pa", "pb", "px", "qa", "qb", "qx")

    def __init__(
        self,
        pa: float = 0.0,
        qa: float = 0.0,
        pb: float = 0.0,
        qb: float = 0.0,
        px: float = 0.0,
        qx: float = 0.0,
    ) -> None:
        self.pa, self.qa, self.pb, self.qb, self.px, self.qx = pa, qa, pb, qb, px, qx

    def add(self, leg: int, watts: float, reactive: float) -> None:
        """Add a load on a leg or across both (negative to take it off)."""
        if leg == LEG_A:
            self.pa += watts
            self.qa += reactive
        elif leg == LEG_B:
            self.pb += watts
            self.qb += reactive
        else:
            self.px += watts
            self.qx += reactive

    def join(self, other: "LegSums", leg: int | None = None) -> None:
        """Add other sums: leg by leg, or all of them on one leg where only one hot leads there."""
        if leg is None:
            self.pa += other.pa
            self.qa += other.qa
            self.pb += other.pb
            self.qb += other.qb
            self.px += other.px
            self.qx += other.qx
        else:
            self.add(leg, other.watts(), other.qa + other.qb + other.qx)

    def scale(self, share: float) -> None:
        """Take a share of everything."""
        self.pa *= share
        self.qa *= share
        self.pb *= share
        self.qb *= share
        self.px *= share
        self.qx *= share

    def a_va(self) -> float:
        """Apparent power on leg A, with half of what is across."""
        return hypot(self.pa + self.px / 2, self.qa + self.qx / 2)

    def b_va(self) -> float:
        """Apparent power on leg B, with half of what is across."""
        return hypot(self.pb + self.px / 2, self.qb + self.qx / 2)

    def total_va(self) -> float:
        """Apparent power of everything."""
        return hypot(self.pa + self.pb + self.px, self.qa + self.qb + self.qx)

    def va(self) -> tuple[float, float, float]:
        """Apparent power on leg A, on leg B, in total."""
        half_p, half_q = self.px / 2, self.qx / 2
        return (
            hypot(self.pa + half_p, self.qa + half_q),
            hypot(self.pb + half_p, self.qb + half_q),
            hypot(self.pa + self.pb + self.px, self.qa + self.qb + self.qx),
        )

    def watts(self) -> float:
        """Real power of everything."""
        return self.pa + self.pb + self.px

    def neutral_va(self) -> float:
        """Unbalance of the 120 V loads, in VA at leg voltage."""
        return hypot(self.pa - self.pb, self.qa - self.qb)

    def over(self, leg_va: float, total_va: float) -> tuple[bool, bool, bool]:
        """Which limits are exceeded: leg A, leg B, total."""
        leg = leg_va * (1 + SLACK)
        return self.a_va() > leg, self.b_va() > leg, self.total_va() > total_va * (1 + SLACK)

    def multiple(self, leg_va: float, total_va: float) -> float:
        """Worst multiple of a limit."""
        return max(self.a_va() / leg_va, self.b_va() / leg_va, self.total_va() / total_va)

    def room_w(self, leg: int, leg_va: float, total_va: float) -> float:
        """Real power that still fits on a leg or across, W: √(S² − Q²) − P, the least of all limits."""
        rooms = [_room(total_va, self.watts(), self.qa + self.qb + self.qx)]
        if leg != LEG_B:
            rooms.append(
                _room(leg_va, self.pa + self.px / 2, self.qa + self.qx / 2) * (2 if leg == ACROSS else 1)
            )
        if leg != LEG_A:
            rooms.append(
                _room(leg_va, self.pb + self.px / 2, self.qb + self.qx / 2) * (2 if leg == ACROSS else 1)
            )
        return max(0.0, min(rooms))


def start_multiple(
    va: tuple[float, float, float], leg: int, start_va: float, leg_va: float, total_va: float
) -> float:
    """Worst multiple of a limit while something starts on top of what is drawn.

    Args:
        va: what is drawn on leg A, on leg B, in total, VA.
        leg: of what starts.
        start_va: its apparent power, VA; volt-amperes are added plainly.
        leg_va: limit of a leg, VA.
        total_va: limit in total, VA.

    >>> start_multiple((600.0, 0.0, 600.0), LEG_A, 1_200.0, 1_800.0, 3_600.0)
    1.0
    """
    share = start_va / 2 if leg == ACROSS else start_va
    a = va[0] + share if leg != LEG_B else 0.0
    b = va[1] + share if leg != LEG_A else 0.0
    return max(a / leg_va, b / leg_va, (va[2] + start_va) / total_va)


def _room(limit_va: float, watts: float, reactive: float) -> float:
    if limit_va == inf:
        return inf
    return sqrt(max(0.0, limit_va * limit_va - reactive * reactive)) - watts

"""Packs of a station that do not stand alike, or come and go.

The head unit and the packs that are within its band of each other give and take as one, each in
proportion to what it holds; their difference stays. A pack that is further apart stands aside: the
fuller feeds the emptier at `balance_w` until they are within the band. Refused: nothing goes into
cells that are too cold or full. Lost: nothing between packs. Delayed: what stands aside gives no
more than `balance_w`, so that an output whose head unit is at its cut-off goes off when more is drawn.
A pack that is unplugged keeps what it holds. Units Wh, W, % and points. Common practice.
"""

from collections.abc import Iterable, Mapping
from typing import ClassVar, Final

from weary_cedar.core.plan import Station

#: A difference counts as within the band this close, points.
WITHIN: Final = 1e-7


class Cells:
    """The cells of a head unit, or of a pack."""

    STATE: ClassVar[str] = "lead watts wh"

    def __init__(self, key: str, name: str, cap_wh: float, wh: float) -> None:
        self.key = key
        self.name = name
        self.cap_wh = cap_wh
        #: What it holds while it does not give and take with the others, Wh.
        self.wh = wh
        #: Its charge above that of all that give and take as one, points.
        self.lead = 0.0
        #: What it gives to those that are together while it stands aside; below nought it takes.
        self.watts = 0.0

    @property
    def percent(self) -> float:
        """Charge while it stands alone, %."""
        return 100.0 * self.wh / self.cap_wh


class Packs:
    """Which packs of a station give and take as one, which stand aside, and which are unplugged."""

    STATE: ClassVar[str] = "_shared aside away ever_apart stored_wh together"

    def __init__(
        self, station: Station, percent: float, percents: Mapping[str, float], unplugged: Iterable[str]
    ) -> None:
        self.band = station.balance_band_percent + WITHIN
        self.balance_w = station.balance_w
        #: What each of those that are together holds at a charge of all of them; they are still the same.
        self._shared: tuple[float, list[float]] | None = None
        head = Cells("", station.name, station.head_wh, station.head_wh * percent / 100.0)
        packs = [
            Cells(key, pack.name, pack.total_cell_wh, pack.total_cell_wh * percents.get(key, percent) / 100.0)
            for key, pack in station.packs.items()
            if pack.total_cell_wh > 0
        ]
        gone = set(unplugged)
        self.away = [cells for cells in packs if cells.key in gone]
        self.aside = [cells for cells in packs if cells.key not in gone]
        self.together: list[Cells] = [head] if head.cap_wh > 0 else []
        if not self.together and self.aside:
            largest = max(self.aside, key=lambda cells: cells.cap_wh)
            self.aside.remove(largest)
            self.together.append(largest)
        self.stored_wh = sum(cells.wh for cells in self.together)
        self._settle_in()
        #: Whether any of them ever stands otherwise than the others, as far as is known yet.
        self.ever_apart = bool(self.apart or self.away) or any(
            pack.reading_offset_percent for pack in station.packs.values()
        )

    @property
    def cap_wh(self) -> float:
        """Energy of those that are together from 100 to 0 %, Wh."""
        return sum(cells.cap_wh for cells in self.together)

    @property
    def apart(self) -> bool:
        """Whether any of them stands otherwise than the others now."""
        return bool(self.aside) or any(cells.lead for cells in self.together)

    @property
    def others_wh(self) -> float:
        """Energy in what stands aside or is unplugged, Wh."""
        if not self.aside and not self.away:
            return 0.0
        return sum(cells.wh for cells in (*self.aside, *self.away))

    def _settle_in(self) -> list[Cells]:
        """Let every pack within the band join, the nearest first; returns them."""
        joined = []
        while self.aside:
            common = 100.0 * self.stored_wh / self.cap_wh
            nearest = min(self.aside, key=lambda cells: abs(cells.percent - common))
            if abs(nearest.percent - common) > self.band:
                break
            self._join(nearest)
            joined.append(nearest)
        return joined

    def _join(self, cells: Cells) -> None:
        self.aside.remove(cells)
        for member, wh in zip(self.together, self.shares_wh(self.stored_wh), strict=True):
            member.wh = wh
        cells.watts = 0.0
        self.together.append(cells)
        self._common()

    def _common(self) -> None:
        """Take what everyone holds as one, and keep by how much each is above the common charge."""
        self._shared = None
        self.stored_wh = sum(cells.wh for cells in self.together)
        common = 100.0 * self.stored_wh / self.cap_wh
        for cells in self.together:
            above = cells.percent - common
            cells.lead = above if abs(above) > WITHIN else 0.0

    def shares_wh(self, stored_wh: float) -> list[float]:
        """What each of those that are together holds, Wh.

        Args:
            stored_wh: energy of all of them, Wh.

        Returns:
            Energies that add up to it: each at the common charge and its lead, none under 0 or over 100 %;
            what one cannot give or take is borne by the others.
        """
        if self._shared is not None and self._shared[0] == stored_wh:
            return self._shared[1]
        free, left = list(self.together), stored_wh
        fixed: dict[str, float] = {}
        while free:
            cap = sum(cells.cap_wh for cells in free)
            level = 100.0 * (left - sum(c.cap_wh * c.lead for c in free) / 100.0) / cap
            low = [cells for cells in free if level + cells.lead < 0.0]
            high = [cells for cells in free if level + cells.lead > 100.0]
            if not low and not high:
                fixed |= {cells.key: cells.cap_wh * (level + cells.lead) / 100.0 for cells in free}
                break
            # Those that are empty pull the level of the others down, those that are full push it up:
            # the side that lacks more is fixed first.
            lacks = sum(-(level + c.lead) * c.cap_wh for c in low)
            over = sum((level + c.lead - 100.0) * c.cap_wh for c in high)
            for cells in low if lacks >= over else high:
                fixed[cells.key] = 0.0 if lacks >= over else cells.cap_wh
                left -= fixed[cells.key]
                free.remove(cells)
        shares = [fixed[cells.key] for cells in self.together]
        self._shared = (stored_wh, shares)
        return shares

    def readings(self, stored_wh: float) -> dict[str, float]:
        """Charge of the head unit ("") and of every pack, %."""
        held = zip(self.together, self.shares_wh(stored_wh), strict=True)
        found = {cells.key: 100.0 * wh / cells.cap_wh for cells, wh in held}
        return found | {cells.key: cells.percent for cells in (*self.aside, *self.away)}

    # ---------------------------------------------------------------- over time

    def share_out(self, stored_wh: float, most_w: float, gives: bool) -> float:
        """Set what those that stand aside give and take from now on.

        Args:
            stored_wh: energy of those that are together, Wh.
            most_w: most that they may take from all others together, W.
            gives: whether those that are together may feed an emptier one.

        Returns:
            W that they get in all; below nought they give.
        """
        common = 100.0 * stored_wh / self.cap_wh
        fuller = [cells for cells in self.aside if cells.percent > common]
        each = min(self.balance_w, max(0.0, most_w) / len(fuller)) if fuller else 0.0
        for cells in self.aside:
            takes = -self.balance_w if gives else 0.0
            cells.watts = each if cells.percent > common else takes
        return sum(cells.watts for cells in self.aside)

    def advance(self, hours: float) -> None:
        """Let time pass for what stands aside."""
        for cells in self.aside:
            cells.wh = min(cells.cap_wh, max(0.0, cells.wh - cells.watts * hours))

    def soonest_h(self, stored_wh: float, rate_w: float) -> float:
        """Hours until a reading bends where those that are together change at a constant rate.

        One that stands aside comes within the band, or one of those that are together is empty or full.
        """
        soonest = self._bends_h(stored_wh, rate_w)
        cap = self.cap_wh
        common, slope = 100.0 * stored_wh / cap, 100.0 * rate_w / cap
        for cells in self.aside:
            apart = cells.percent - common
            closes = 100.0 * cells.watts / cells.cap_wh + slope
            if apart < 0:
                apart, closes = -apart, -closes
            if closes > 0:
                soonest = min(soonest, max(0.0, apart - self.band + WITHIN / 2) / closes)
        return soonest

    def _bends_h(self, stored_wh: float, rate_w: float) -> float:
        """Hours until one of those that are together is empty or full before the others."""
        if rate_w == 0 or not any(cells.lead for cells in self.together):
            return float("inf")
        shares = zip(self.together, self.shares_wh(stored_wh), strict=True)
        free = [(c, wh) for c, wh in shares if c.cap_wh * WITHIN < wh < c.cap_wh * (1 - WITHIN)]
        each = rate_w / sum((cells.cap_wh for cells, _ in free), 1e-12)
        goals = [((cells.cap_wh if rate_w > 0 else 0.0) - wh, cells.cap_wh) for cells, wh in free]
        return min((left / (each * cap) for left, cap in goals), default=float("inf"))

    def meet(self, stored_wh: float) -> list[Cells]:
        """Let those that came within the band join; returns them."""
        self.stored_wh = stored_wh
        return self._settle_in()

    def plug(self, key: str, stored_wh: float, *, on: bool) -> bool:
        """Plug a pack in, or unplug it, while running; returns whether that changed anything."""
        self.stored_wh = stored_wh
        self.ever_apart = True
        if on:
            came = [cells for cells in self.away if cells.key == key]
            self.away = [cells for cells in self.away if cells.key != key]
            self.aside += came
            self._settle_in()
            return bool(came)
        for cells in self.aside:
            if cells.key == key:
                self.aside.remove(cells)
                self.away.append(cells)
                cells.watts = 0.0
                return True
        for cells, wh in zip(self.together, self.shares_wh(stored_wh), strict=True):
            cells.wh = wh
        leaving = [cells for cells in self.together if cells.key == key]
        if not leaving or len(self.together) == 1:
            return False
        self.together.remove(leaving[0])
        self.away.append(leaving[0])
        self._common()
        self._settle_in()
        return True

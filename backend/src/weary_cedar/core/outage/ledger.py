"""The books of a run: what came and what went, in total and for every device."""

import math
from dataclasses import dataclass
from typing import Final

from weary_cedar.core.errors import BooksOpen
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.result import Ledger

#: Relative residual up to which books count as closed.
CLOSES_TO: Final = 1e-6
#: Energies below this are compared as if they were this much, Wh.
LEAST_WH: Final = 1.0


@dataclass(frozen=True)
class Book:
    """What came to one device, and where it went, Wh."""

    name: str
    came_wh: float
    went_wh: float
    #: What it holds when full, Wh: a level that is stood on is met to within rounding of this.
    holds_wh: float = LEAST_WH

    @property
    def residual(self) -> float:
        """Difference as a share of the larger side."""
        return abs(self.came_wh - self.went_wh) / max(abs(self.came_wh), abs(self.went_wh), self.holds_wh)


def device_books(run: OutageRun) -> list[Book]:
    """A book for the cells of every station, every output, and all loads together.

    Args:
        run: a run that has gone to its end.

    Returns:
        What came and went, each from accounts that were kept apart from each other.

    Source: conservation of energy.
    """
    books = []
    for unit in run.units:
        came = unit.start_wh - unit.held_wh + math.fsum(o.taken_wh * o.efficiency for o in unit.offers)
        went = math.fsum((unit.ac_wh, unit.inverter_wh, unit.idle_wh, unit.sleep_wh, unit.self_wh))
        books.append(Book(f"cells of {unit.name}", came, went, unit.all_wh))
    for carrier in run.carriers:
        ways = math.fsum(way.loads_wh + way.cord_wh + way.links_wh for way in carrier.ways)
        books.append(Book(f"output of {carrier.name}", carrier.out_wh, ways + carrier.links_wh))
        if carrier.units:
            made = math.fsum(unit.ac_wh for unit in carrier.units)
            passed = math.fsum(link.passed_wh for link in carrier.into)
            books.append(Book(f"inverter of {carrier.name}", made + passed, carrier.out_wh))
    served = math.fsum(load.served_wh for load in run.loads)
    books.append(Book("loads", math.fsum(way.loads_wh for way in run.ways), served))
    return books


def closed_ledger(run: OutageRun) -> Ledger:
    """Energy in and out over a finished run.

    Loads are booked at their own changes, sources at theirs, what is passed on at both ends: that all
    agree, for every device and in total, is the check.

    Args:
        run: a run that has gone to its end.

    Returns:
        The ledger; `residual` is that of the device, or of the whole, that is farthest off.

    Raises:
        BooksOpen: it does not close to 1e-6; a result of such a run is none.

    Source: conservation of energy.
    """
    units = run.units
    offers = [offer for unit in units for offer in unit.offers]
    taken = {
        kind: math.fsum(o.taken_wh for o in offers if o.kind == kind)
        for kind in ("sun", "vehicle", "battery")
    }
    given = {
        kind: math.fsum(c.out_wh for c in run.carriers if c.kind == kind)
        for kind in ("generator", "grid", "vehicle")
    }
    came = (*taken.values(), *given.values())
    start, end = math.fsum(u.start_wh for u in units), math.fsum(u.held_wh for u in units)
    charging_loss = math.fsum(o.taken_wh * (1 - o.efficiency) for o in offers)
    overhead = math.fsum(link.overhead_wh for link in run.links)
    loads = math.fsum(load.served_wh for load in run.loads)
    cord = math.fsum(way.cord_wh for way in run.ways) + math.fsum(link.cord_wh for link in run.links)
    inverter, idle, sleep, self_wh = (
        math.fsum(getattr(u, name) for u in units)
        for name in ("inverter_wh", "idle_wh", "sleep_wh", "self_wh")
    )
    used = math.fsum((loads, cord, inverter, idle, sleep, self_wh, charging_loss, overhead))
    put_in = math.fsum((start - end, *came))
    books = [*device_books(run), Book("everything", put_in, used)]
    worst = max(books, key=lambda book: book.residual)
    if worst.residual > CLOSES_TO:
        raise BooksOpen(f"{worst.name}: {worst.came_wh!r} Wh came and {worst.went_wh!r} Wh went")
    return Ledger(
        stored_start_wh=start,
        stored_end_wh=end,
        from_battery_wh=start - end,
        loads_wh=loads,
        inverter_loss_wh=inverter,
        idle_wh=idle,
        sleep_wh=sleep,
        self_discharge_wh=self_wh,
        cord_wh=cord,
        sun_wh=taken["sun"],
        engine_wh=given["generator"],
        grid_wh=given["grid"],
        vehicle_wh=taken["vehicle"] + given["vehicle"],
        external_wh=taken["battery"],
        charging_loss_wh=charging_loss,
        overhead_wh=overhead,
        residual=worst.residual,
        closes=True,
    )

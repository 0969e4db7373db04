"""Wall-clock hours of the site turned into seconds from the start of the outage."""

from bisect import bisect_right
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from weary_cedar.core.plan.load import Job
from weary_cedar.core.plan.outage import Outage
from weary_cedar.core.plan.site import Site

UTC = ZoneInfo("UTC")


class Calendar:
    """The outage's span on the site's clock, daylight-saving change included."""

    def __init__(self, site: Site, outage: Outage) -> None:
        self._zone = ZoneInfo(site.time_zone)
        self._start = outage.start_local.replace(tzinfo=self._zone).astimezone(UTC)
        self._first_day = outage.start_local.date() - timedelta(days=1)
        self.length_s = outage.length_s
        self._days = int(outage.length_s // 86_400) + 3

    def moment(self, day: int, at: time) -> float:
        """Seconds from the start to a local time of the given day (0 is the day before the start)."""
        local = datetime.combine(self._first_day + timedelta(days=day), at, tzinfo=self._zone)
        return (local.astimezone(UTC) - self._start).total_seconds()

    def windows(self, begins: time, ends: time) -> list[tuple[float, float]]:
        """Every day's window that reaches into the outage; one that ends earlier runs past midnight."""
        over_midnight = 1 if ends < begins else 0
        found = []
        for day in range(self._days):
            first, last = self.moment(day, begins), self.moment(day + over_midnight, ends)
            if last >= 0 and first < self.length_s:
                found.append((max(0.0, first), last))
        return found

    def job_windows(self, job: Job) -> list[tuple[float, float]]:
        """When a job may begin: (earliest, latest) of every day, or of the first only."""
        found = self.windows(job.earliest, job.latest)
        return found if job.daily else found[:1]


class Presence:
    """When someone is at home and awake."""

    def __init__(self, calendar: Calendar, outage: Outage) -> None:
        hours = outage.occupancy
        if hours.wakes == hours.sleeps:
            awake = [(0.0, calendar.length_s)]
        else:
            awake = calendar.windows(hours.wakes, hours.sleeps)
        for away in hours.away:
            awake = _without(awake, calendar.windows(away.leaves, away.returns))
        awake = _without(awake, [(item.at_s, item.at_s + item.for_s) for item in hours.gone])
        self._spans = [(a, b) for a, b in awake if b > a]
        self._starts = [a for a, _ in self._spans]

    def next(self, t: float) -> float:
        """First moment at or after `t` with someone there; infinite if nobody comes any more."""
        index = bisect_right(self._starts, t) - 1
        if index >= 0 and t < self._spans[index][1]:
            return t
        return self._starts[index + 1] if index + 1 < len(self._starts) else float("inf")

    def until(self, t: float) -> float:
        """Until when whoever is there at `t` stays there and awake; `t` itself where nobody is."""
        index = bisect_right(self._starts, t) - 1
        return max(t, self._spans[index][1]) if index >= 0 else t


def _without(spans: list[tuple[float, float]], holes: list[tuple[float, float]]) -> list[tuple[float, float]]:
    for hole_a, hole_b in holes:
        spans = [
            part for a, b in spans for part in ((a, min(b, hole_a)), (max(a, hole_b), b)) if part[1] > part[0]
        ]
    return spans

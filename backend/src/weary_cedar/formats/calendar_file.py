"""The days of an outage as a calendar file (RFC 5545), to be taken along on a phone."""

from collections.abc import Sequence
from datetime import UTC, timedelta

from icalendar import Alarm, Calendar, Event

from weary_cedar.core.decide.day_plan import DayPlan
from weary_cedar.core.plan import Plan
from weary_cedar.core.runbook.sheet import CAUTIONS

#: How long something without an end is shown, so that it can be seen.
SHOWN = timedelta(minutes=15)
#: A phone that has the calendar rings so long before, so that one can be there. Common practice.
RINGS_BEFORE = timedelta(minutes=10)


def calendar_of(plan: Plan, days: Sequence[DayPlan], stops: Sequence[str] = ()) -> bytes:
    """A calendar with an entry for each day and for each thing on it. Same plan, same bytes.

    Args:
        plan: the plan.
        days: of its outage, as `day_plan` gives them.
        stops: what forbids to energise on this plan, in words: it stands in every entry.

    Returns:
        An iCalendar file; moments are in UTC, so that it is right in every time zone. Each thing to do has an
        alarm, ten minutes before; days have none.

    Source: RFC 5545, 3.6.6.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Weary Cedar//days of an outage//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", plan.name)
    cautions = " ".join(CAUTIONS)
    warning = f"DO NOT ENERGISE: {'; '.join(stops)}. " if stops else ""
    for number, day in enumerate(days):
        whole = Event()
        whole.add("uid", f"day-{number}@{_slug(plan.name)}.weary-cedar")
        whole.add("dtstamp", days[0].begins.astimezone(UTC))
        whole.add("dtstart", day.begins.date())
        whole.add("summary", f"{warning}{plan.name}: {day.day}")
        told = f"{day.text}\n{cautions}" if day.doings else day.text
        whole.add("description", warning + told)
        whole.add("transp", "TRANSPARENT")
        calendar.add_component(whole)
        for index, doing in enumerate(day.doings):
            entry = Event()
            entry.add("uid", f"day-{number}-{index}@{_slug(plan.name)}.weary-cedar")
            entry.add("dtstamp", days[0].begins.astimezone(UTC))
            entry.add("dtstart", doing.at.astimezone(UTC))
            entry.add("dtend", (doing.until or doing.at + SHOWN).astimezone(UTC))
            entry.add("summary", f"{warning}{doing.words}")
            entry.add("description", cautions)
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", f"{warning}{doing.words}")
            alarm.add("trigger", -RINGS_BEFORE)
            entry.add_component(alarm)
            calendar.add_component(entry)
    return bytes(calendar.to_ical())


def _slug(name: str) -> str:
    return "".join(letter if letter.isalnum() and letter.isascii() else "-" for letter in name.lower())

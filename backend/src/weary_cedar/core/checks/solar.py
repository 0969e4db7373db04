"""Solar modules on a station's inputs."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Level, Said, Seen, Told, Unknown, not_read, shown
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.checks.survey import said_of
from weary_cedar.core.decide.string_layout import harvest, layouts
from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.pv_string import (
    COEFFICIENT_WANTED,
    GROUND_SHARE,
    HOT_AIR_C,
    beyond_the_table,
    coldest_string_v,
    hottest_string_v,
    short_circuit_a,
    unread,
)
from weary_cedar.core.electrical.voltage_drop import two_wire_drop_v
from weary_cedar.core.plan import DcInput, ExternalBattery, SolarArray
from weary_cedar.core.supply.sun import array_day

#: Drop of a panel lead that is worth a word. Common practice.
LEAD_DROP = 0.03


def _wired(facts: Facts) -> Iterator[tuple[str, SolarArray, DcInput]]:
    for key, array in facts.plan.arrays.items():
        entry = facts.plan.dc_input_of(array)
        if array.kind != "grid_tied" and entry is not None:
            yield key, array, entry


@check("pv-voltage")
def voltage(facts: Facts) -> Iterator[Said]:
    """Open-circuit voltage on the coldest morning against the input's maximum."""
    cold_c = facts.coldest_modules_c
    yield from _on_no_input(facts)
    for key, array, entry in _wired(facts):
        element = facts.element("arrays", key)
        if cold_c is None:
            yield Unknown(element, "the coldest temperature that the modules may see (site)")
            continue
        if array.module.voc_v is None or entry.high_v is None:
            yield Unknown(element, "the open-circuit volts of the module, and the most volts of the input")
            continue
        if beyond_the_table(array.module, cold_c):
            yield Unknown(element, f"{COEFFICIENT_WANTED}: the table of the code ends at −40 °C")
            continue
        told = facts.plan.site.units.told_warmth
        plain = coldest_string_v(array.module, array.series, cold_c)
        spread = coldest_string_v(array.module, array.series, cold_c, with_tolerance=True)
        if spread > entry.high_v:
            figures = (
                Figure(
                    name=f"{array.series} in series at {told(cold_c)}",
                    value=plain,
                    limit=entry.high_v,
                    unit="V",
                ),
                Figure(
                    name="with the plate's tolerance (practice)", value=spread, limit=entry.high_v, unit="V"
                ),
            )
            most = max(
                (n for n in range(1, array.series) if _cold(array, n, cold_c) <= entry.high_v), default=0
            )
            fix = {"arrays": {key: {"series": most}}} if most else None
            level: Level = "stop" if plain > entry.high_v else "caution"
            yield Hit(element, figures, level=level, fix=fix)
    for key, battery, entry in _batteries(facts):
        full_v = battery.in_series * battery.highest_v
        if entry.high_v is None:
            yield Unknown(facts.element("externals", key), "the most volts of the input")
        elif full_v > entry.high_v:
            figure = Figure(
                name=f"{battery.in_series} in series, full", value=full_v, limit=entry.high_v, unit="V"
            )
            fits = int(entry.high_v // battery.highest_v)
            fix = {"externals": {key: {"in_series": fits}}} if fits else None
            yield Hit(facts.element("externals", key), (figure,), fix=fix)


def _batteries(facts: Facts) -> Iterator[tuple[str, ExternalBattery, DcInput]]:
    for key, battery in facts.plan.externals.items():
        entry = facts.plan.dc_input_of(battery)
        if entry is not None:
            yield key, battery, entry


def _on_no_input(facts: Facts) -> Iterator[Said]:
    """Arrays and batteries that are on a station, but on none of its inputs."""
    for room in ("arrays", "externals"):
        for key, part in getattr(facts.plan, room).items():
            if part.station_id is not None and part.input_id is None:
                yield Unknown(facts.element(room, key), "which input of the station it is on")


def _strings(facts: Facts, array: SolarArray) -> int:
    """Strings in parallel on the input of an array, those of other arrays on it counted."""
    entry = facts.plan.dc_input_of(array)
    return sum(other.parallel for _, other, its in _wired(facts) if its is entry)


@seen("pv-polarity-shared")
def unlike_on_one_input(facts: Facts) -> Iterator[Told]:
    """Polarity that was not measured; unlike strings, or an array and a battery, on one input."""
    yield from said_of(facts, "pv-polarity-shared")
    held: dict[int, tuple[str, SolarArray]] = {}
    for key, array, entry in _wired(facts):
        first = held.setdefault(id(entry), (key, array))[1]
        if array.series != first.series or array.module != first.module:
            detail = f"on one input with {first.name}, of other strings"
            strings = [(item.name, item.series * (item.module.voc_v or 0.0)) for item in (array, first)]
            figures = [
                Figure(name=f"open circuit of {name}", value=volts, unit="V") for name, volts in strings
            ]
            known = all(volts for _, volts in strings)
            yield shown(facts.element("arrays", key), figures if known else (), detail=detail)
    for key, _, entry in _batteries(facts):
        if id(entry) in held:
            detail = f"on one input with {held[id(entry)][1].name}"
            yield Seen(facts.element("externals", key), detail=detail)


def _cold(array: SolarArray, series: int, cold_c: float) -> float:
    return coldest_string_v(array.module, series, cold_c, with_tolerance=True)


@check("pv-window")
def window(facts: Facts) -> Iterator[Said]:
    """Working voltage on the hottest noon against the input's minimum."""
    for key, array, entry in _wired(facts):
        if array.module.vmp_v is None:
            yield Unknown(facts.element("arrays", key), "the working volts on the module's plate")
            continue
        volts = hottest_string_v(array.module, array.series, HOT_AIR_C)
        if entry.low_v is None:
            yield not_read(facts.element("arrays", key), entry, "low_v")
        elif volts < entry.low_v:
            figure = Figure(
                name=f"working at {facts.plan.site.units.told_warmth(HOT_AIR_C)}",
                value=volts,
                limit=entry.low_v,
                unit="V",
            )
            yield Hit(facts.element("arrays", key), (figure,))
    for key, battery, entry in _batteries(facts):
        full_v = battery.in_series * battery.highest_v
        if entry.low_v is None:
            yield not_read(facts.element("externals", key), entry, "low_v")
        elif full_v < entry.low_v:
            figure = Figure(name="full battery", value=full_v, limit=entry.low_v, unit="V")
            yield Hit(facts.element("externals", key), (figure,))


@check("pv-clip")
def clip(facts: Facts) -> Iterator[Said]:
    """More power or current than the input takes."""
    for key, array, entry in _wired(facts):
        strings = _strings(facts, array)
        watts = array.series * strings * array.module.watts * GROUND_SHARE
        if array.module.imp_a is None or entry.most_a is None:
            yield Unknown(
                facts.element("arrays", key), "the working amps of the module, the most amps of the input"
            )
            continue
        amps = strings * array.module.imp_a * GROUND_SHARE
        if watts > entry.most_w or amps > entry.most_a:
            figures = (
                Figure(name="in good sun", value=watts, limit=entry.most_w, unit="W"),
                Figure(name="in good sun", value=amps, limit=entry.most_a, unit="A"),
            )
            lost, detail = _clipped(facts, array, strings, entry)
            yield Hit(facts.element("arrays", key), (*figures, lost), detail=detail)


def _clipped(facts: Facts, array: SolarArray, strings: int, entry: DcInput) -> tuple[Figure, str]:
    """What is lost on a clear day, and which layout of the same modules harvests most."""
    outage, site = facts.plan.outage, facts.plan.site
    sun = array_day(site, array, outage.start_local.date(), outage.weather.high_c)
    missing = unread(array.module, entry, facts.coldest_modules_c)
    if missing:
        return Figure(
            name="in good sun", value=strings * array.module.watts, unit="W"
        ), f"not known: {missing}"
    taken_wh, offered_wh = harvest(array.module, array.series, strings, entry, sun)
    lost = Figure(name="clipped on a clear day", value=offered_wh - taken_wh, unit="Wh")
    if facts.coldest_modules_c is None:
        return lost, ""
    best = layouts(array.module, array.series * strings, entry, facts.coldest_modules_c, sun)[0]
    if not best.fits:
        return lost, "no layout of these modules fits the input"
    now = (best.series, best.parallel) == (array.series, strings)
    return lost, "" if now else f"most is harvested by {best.series} in series, {best.parallel} in parallel"


@check("pv-isc")
def short_circuit(facts: Facts) -> Iterator[Said]:
    """Short-circuit current against a stated maximum, or against the input's current."""
    for key, array, entry in _wired(facts):
        stated = entry.short_circuit_a
        limit = entry.most_a if stated is None else stated
        if array.module.isc_a is None or limit is None:
            missing = "the short-circuit amps of the module, and those that the input bears"
            yield Unknown(facts.element("arrays", key), missing)
            continue
        amps = short_circuit_a(array.module, _strings(facts, array))
        if amps > limit:
            figure = Figure(name="1.25 × short circuit", value=amps, limit=limit, unit="A")
            level: Level = "caution" if stated is None else "stop"
            yield Hit(facts.element("arrays", key), (figure,), level=level)


@check("pv-parallel-fuse")
def string_fuses(facts: Facts) -> Iterator[Said]:
    """Three strings or more without fuses."""
    for key, array, _ in _wired(facts):
        strings = _strings(facts, array)
        if strings < 3 or array.string_fuses == "yes":
            continue
        element = facts.element("arrays", key)
        fuse = array.module.series_fuse_a
        if array.module.isc_a is None:
            yield Unknown(element, "the short-circuit amps on the module's plate")
            continue
        amps = short_circuit_a(array.module, strings - 1)
        if fuse is None:
            yield Unknown(element, "the series fuse rating on the module's plate")
        elif amps > fuse and array.string_fuses == "no":
            yield Hit(element, (Figure(name="fault current", value=amps, limit=fuse, unit="A"),))
        elif amps > fuse:
            yield Unknown(element, "whether each string has a fuse")


@seen("pv-roof-divert")
def roof(facts: Facts) -> Iterator[Told]:
    """A roof string on a portable input."""
    for key, array, _ in _wired(facts):
        if array.kind == "roof":
            yield Seen(facts.element("arrays", key))


@check("pv-lead")
def lead(facts: Facts) -> Iterator[Said]:
    """Drop in the panel lead over three per cent."""
    for key, array, _ in _wired(facts):
        if array.module.imp_a is None or array.module.vmp_v is None:
            yield Unknown(facts.element("arrays", key), "the working volts and amps on the module's plate")
            continue
        if array.lead_m is None:
            yield not_read(facts.element("arrays", key), array, "lead_m")
            continue
        ohms = ohms_per_m(array.lead_awg) * array.lead_m
        drop = two_wire_drop_v(array.parallel * array.module.imp_a, ohms, ohms)
        share = drop / (array.series * array.module.vmp_v)
        if share > LEAD_DROP:
            figure = Figure(name="drop in the lead", value=100 * share, limit=100 * LEAD_DROP, unit="%")
            yield Hit(facts.element("arrays", key), (figure,))

"""How sources reach the panel: what can kill or burn."""

from collections.abc import Iterator
from itertools import combinations

from weary_cedar.core.checks.facts import GFCI_A, Facts
from weary_cedar.core.checks.finding import Figure, Figures, Hit, Said, Seen, Told, Unknown, not_read
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.checks.survey import said_of
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.handles.circles import circles
from weary_cedar.core.handles.dangers import Code, Danger
from weary_cedar.core.outage.calendar import Calendar, Presence
from weary_cedar.core.plan import Feed, Hookup, Recharge, Station

#: A compressor waits this long before it goes on again, s. Common practice.
COMPRESSOR_WAIT_S = 300.0


@check("feed-no-transfer")
def no_transfer(facts: Facts) -> Iterator[Said]:
    """A source on house wiring with nothing that keeps it off the line."""
    for key, feed in facts.plan.feeds.items():
        if feed.kind == "no_transfer":
            volts = facts.plan.site.leg_volts * (2 if facts.plan.site.split_phase else 1)
            figure = Figure(name="onto the supplier's line", value=volts, limit=0.0, unit="V")
            yield Hit(facts.element("feeds", key), (figure,), detail=_back(facts, key))


@check("feed-male-plug")
def male_plug(facts: Facts) -> Iterator[Said]:
    """A cord into a receptacle of the house."""
    for key, feed in facts.plan.feeds.items():
        if feed.kind == "receptacle_backfeed":
            figure = Figure(name="on bare blades", value=facts.plan.site.leg_volts, limit=0.0, unit="V")
            detail = "; ".join(filter(None, ("No changeover sheet is made for this", _back(facts, key))))
            yield Hit(facts.element("feeds", key), (figure,), detail=detail)


def _back(facts: Facts, feed_id: str) -> str:
    """The shortest way by which a feed meets the utility, in words."""
    leads = [key for key, hookup in facts.plan.hookups.items() if hookup.feed_id == feed_id]
    return next(filter(None, (facts.way_to("back_feed", key) for key in leads)), "")


def _pairs(facts: Facts) -> Iterator[tuple[str, Hookup, Hookup]]:
    """Feeds of different sources that can reach the same conductors."""
    for (_, first), (key, second) in combinations(sorted(facts.panel_feeds), 2):
        one_source = (first.source_kind, first.source_id) == (second.source_kind, second.source_id)
        if one_source or first.feed_id == second.feed_id or _kept_apart(facts, first, second):
            continue
        shared = facts.plan.panels_reached(first.panel_id) & facts.plan.panels_reached(second.panel_id)
        if shared and _legs(facts, first) & _legs(facts, second):
            yield key, first, second


def _kept_apart(facts: Facts, first: Hookup, second: Hookup) -> bool:
    """Whether the devices of two feeds keep their sources off one conductor by what they are.

    A switch breaks before it makes: each of its circuits, or its panel, is on one side or on the other. An
    interlock takes its panel off what is above it, so that an annex with its own interlocked main is a house
    of its own.
    """
    if "handles" in {first.traits.moves, second.traits.moves}:
        return True
    joined = "no" in (first.survey.get("exclusive"), second.survey.get("exclusive"))
    switched = any(feed.traits.service and not feed.traits.by_itself for feed in (first, second))
    by_hand = all(feed.traits.interlocked or feed.traits.service for feed in (first, second))
    by_itself = first.traits.by_itself or second.traits.by_itself
    if switched and by_hand and not by_itself and not joined:
        return True
    for one, other in ((first, second), (second, first)):
        below = one.panel_id != other.panel_id and one.panel_id in facts.plan.panels_reached(other.panel_id)
        own_main = facts.plan.panels[one.panel_id].survey.get("own-main-interlocked") == "yes"
        if below and own_main and one.traits.interlocked:
            return True
    return False


def _at_one_inlet(facts: Facts) -> Iterator[tuple[str, Hookup, Hookup]]:
    """Leads of different sources at one inlet, of which both can be plugged in at once."""
    for (_, first), (key, second) in combinations(sorted(facts.panel_feeds), 2):
        one_source = (first.source_kind, first.source_id) == (second.source_kind, second.source_id)
        both = "no" in (first.survey.get("exclusive"), second.survey.get("exclusive"))
        if first.feed_id is not None and first.feed_id == second.feed_id and not one_source and both:
            yield key, first, second


def _legs(facts: Facts, feed: Hookup) -> set[str]:
    """Legs of the house that a feed reaches."""
    if feed.kind != "half_leg" or not feed.breaker_spaces:
        return {"A", "B"}
    panel = facts.plan.panels[feed.panel_id]
    return {"A" if ((feed.breaker_spaces[0] - 1) // 2 % 2 == 0) == (panel.first_leg == "A") else "B"}


@check("feed-two-sources")
def two_sources(facts: Facts) -> Iterator[Said]:
    """Two sources on one conductor, where nothing more specific applies."""
    for key, first, second in _pairs(facts):
        both_backfed = first.traits.interlocked and second.traits.interlocked
        specific = both_backfed or "automatic" in (first.kind, second.kind)
        if not specific and second.survey.get("exclusive") != "yes":
            yield Hit(facts.element("leads", key), _out_of_step(facts), detail=_both(facts, first, second))
    told = [{first.lead_id, second.lead_id} for _, first, second in _pairs(facts)]
    told += [{first.lead_id, second.lead_id} for _, first, second in _at_one_inlet(facts)]
    for danger, fed in _named(facts, "two_sources"):
        if set(danger.leads) not in told and "automatic" not in fed:
            first, second = (facts.plan.hookups[key] for key in danger.leads)
            detail = _both(facts, first, second)
            yield Hit(facts.element("leads", danger.leads[1]), _out_of_step(facts), detail=detail)
    for key, first, second in _at_one_inlet(facts):
        detail = _both(facts, first, second, ", both plugged into one inlet")
        yield Hit(facts.element("leads", key), _out_of_step(facts), detail=detail)


def _named(facts: Facts, code: Code) -> Iterator[tuple[Danger, str]]:
    """Dangers of the search with the kinds of feed in them, as words."""
    for danger in facts.looked.dangers:
        if danger.code == code:
            yield danger, " ".join(facts.plan.hookups[key].kind for key in danger.leads)


def _both(facts: Facts, first: Hookup, second: Hookup, how: str = "") -> str:
    """Two sources by name, and the shortest way by which they meet."""
    names = f"{facts.source_name(first)} and {facts.source_name(second)}{how}"
    return "; ".join(filter(None, (names, facts.way_to("two_sources", first.lead_id, second.lead_id))))


def _out_of_step(facts: Facts) -> Figures:
    """What two sources that do not run together put between their ends on one conductor."""
    volts = 2 * facts.plan.site.leg_volts
    return (Figure(name="between them, out of step", value=volts, limit=0.0, unit="V"),)


@check("two-inlet-interlock")
def two_inlets(facts: Facts) -> Iterator[Said]:
    """Two back-fed breakers that both can be on; two cords that take turns at one inlet are one."""
    for key, first, second in _pairs(facts):
        if first.breaker_spaces == second.breaker_spaces:
            continue
        if first.traits.interlocked and second.traits.interlocked and second.survey.get("exclusive") != "yes":
            yield Hit(facts.element("leads", key), _out_of_step(facts), detail=_both(facts, first, second))


@check("auto-start-source")
def auto_start(facts: Facts) -> Iterator[Said]:
    """An automatic set that may meet another source."""
    for key, first, second in _pairs(facts):
        for feed in (first, second):
            if feed.kind == "automatic":
                generator = facts.plan.generators.get(feed.source_id)
                if generator is None or generator.locked_out != "yes":
                    yield Hit(
                        facts.element("leads", key), _out_of_step(facts), detail=facts.source_name(feed)
                    )
    fed = {feed.source_id for _, feed in facts.panel_feeds}
    for key, generator in facts.plan.generators.items():
        if generator.auto_start is False or key in fed or not fed:
            continue
        element = facts.element("generators", key)
        if generator.auto_start is None and generator.locked_out != "yes":
            yield not_read(element, generator, "auto_start")
            continue
        if generator.locked_out == "no":
            detail = "it starts by itself while another source feeds the panel"
            yield Hit(element, _out_of_step(facts), detail=detail)
        elif generator.locked_out == "unknown":
            yield Unknown(element, "whether it is locked out while another source feeds the panel")


@check("feed-upstream")
def upstream(facts: Facts) -> Iterator[Said]:
    """An inlet on a sub-panel whose interlock does not isolate the utility."""
    for key, feed in facts.plan.feeds.items():
        panel = facts.plan.panels[feed.panel_id]
        if panel.fed_from is None or not feed.traits.interlocked:
            continue
        answer = panel.survey.get("own-main-interlocked", "unknown")
        if answer == "no":
            volts = facts.plan.site.leg_volts * (2 if facts.plan.site.split_phase else 1)
            above = facts.plan.panels[facts.plan.circuits[panel.fed_from].panel_id].name
            name = f"back onto {above} and the supplier's line"
            figure = Figure(name=name, value=volts, limit=0.0, unit="V")
            yield Hit(facts.element("feeds", key), (figure,), detail=_back(facts, key))
        elif answer == "unknown":
            missing = "whether the interlock is on the sub-panel's own main"
            yield Unknown(facts.element("feeds", key), missing, question="own-main-interlocked")
    for danger, fed in _named(facts, "back_feed"):
        feed_id = str(facts.plan.hookups[danger.leads[0]].feed_id)
        known = fed in ("no_transfer", "receptacle_backfeed")
        if not known and not _by_its_main(facts, facts.plan.feeds[feed_id]):
            volts = facts.plan.site.leg_volts * (2 if facts.plan.site.split_phase else 1)
            figure = Figure(name="back onto the supplier's line", value=volts, limit=0.0, unit="V")
            yield Hit(facts.element("feeds", feed_id), (figure,), detail=f"the shortest way: {danger.words}")


def _by_its_main(facts: Facts, feed: Feed) -> bool:
    """Whether another check says that the interlock of a feed does not isolate its panel."""
    survey = facts.plan.panels[feed.panel_id].survey
    return "no" in (survey.get("own-main-interlocked"), survey.get("single-main"))


@check("auto-capacity")
def auto_capacity(facts: Facts) -> Iterator[Said]:
    """Automatic transfer of more than the source carries, without load management."""
    for key, feed in facts.plan.hookups.items():
        if not feed.traits.by_itself or feed.survey.get("load-management") == "yes":
            continue
        source = facts.source(feed)
        rating = source.rated_va if isinstance(source, Station) else source.rated_w
        load_w = sum(on_watts(load) for load in facts.reachable(feed).values())
        if load_w > rating:
            figure = Figure(name="all that comes on", value=load_w, limit=rating, unit="W")
            yield Hit(facts.element("leads", key), (figure,))


@seen("xfer-afci")
def around_protection(facts: Facts) -> Iterator[Told]:
    """A circuit that a switch takes from behind its fault-protecting breaker."""
    for feed in facts.plan.hookups.values():
        if not feed.traits.wired:
            continue
        for key in feed.circuit_ids:
            if facts.plan.circuits[key].protection not in ("none", "rcd"):
                yield Seen(facts.element("circuits", key))


@check("multiwire-split")
def split_pair(facts: Facts) -> Iterator[Said]:
    """Half of a shared neutral on a switch."""
    for feed in facts.plan.hookups.values():
        if not feed.traits.wired:
            continue
        for key in feed.circuit_ids:
            partner = facts.plan.partner_of(key)
            if partner is not None and partner not in feed.circuit_ids:
                yield _halved(facts, key, partner)
    for key, partner in _over_two_panels(facts):
        for _, feed in facts.panel_feeds:
            if key in facts.reached(feed) and partner not in facts.reached(feed):
                yield _halved(facts, key, partner)
                break


def _halved(facts: Facts, key: str, partner: str) -> Hit:
    """Half of a shared neutral that is fed without the other."""
    circuit, other = facts.plan.circuits[key], facts.plan.circuits[partner]
    sum_a = circuit.rated_a + other.rated_a
    figure = Figure(name="its neutral, fed from both", value=sum_a, limit=circuit.rated_a, unit="A")
    return Hit(facts.element("circuits", key), (figure,), detail=other.label)


def _over_two_panels(facts: Facts) -> Iterator[tuple[str, str]]:
    """Halves of shared neutrals whose other half is in another panel."""
    for key, circuit in facts.plan.circuits.items():
        partner = facts.plan.partner_of(key)
        if partner is not None and facts.plan.circuits[partner].panel_id != circuit.panel_id:
            yield key, partner


@seen("neutral-crossed")
def crossed(facts: Facts) -> Iterator[Told]:
    """A hot and its neutral in different panels: as was found, or as a shared neutral over two panels."""
    yield from said_of(facts, "neutral-crossed")
    for key, partner in _over_two_panels(facts):
        if key < partner:
            other = facts.plan.circuits[partner]
            detail = f"it shares its neutral with {other.label} in {facts.plan.panels[other.panel_id].name}"
            yield Seen(facts.element("circuits", key), detail=detail)


@check("multiwire-same-leg")
def same_leg(facts: Facts) -> Iterator[Said]:
    """Both halves of a shared neutral on one leg."""
    if not facts.plan.site.split_phase:
        return
    for key, circuit in facts.plan.circuits.items():
        partner = facts.plan.partner_of(key)
        if partner is None or partner < key or facts.plan.circuits[partner].panel_id != circuit.panel_id:
            continue
        legs = facts.plan.circuit_legs(key), facts.plan.circuit_legs(partner)
        if legs[0] == legs[1]:
            amps = circuit.rated_a + facts.plan.circuits[partner].rated_a
            figure = Figure(name="neutral at both ratings", value=amps, limit=circuit.rated_a, unit="A")
            yield Hit(facts.element("circuits", key), (figure,))
    yield from _on_one_hot(facts)


def _on_one_hot(facts: Facts) -> Iterator[Said]:
    """Both halves on one hot of a switch, wherever their spaces are."""
    plan = facts.plan
    for way in facts.ways:
        on = facts.on(way.hookup) if way.single and way.hookup.traits.moves == "handles" else {}
        for key, circuit in on.items():
            partner = plan.partner_of(key)
            if partner in on and partner is not None and key < partner:
                amps = circuit.rated_a + plan.circuits[partner].rated_a
                figure = Figure(name="neutral at both ratings", value=amps, limit=circuit.rated_a, unit="A")
                fed = f"both on the one hot of {plan.lead_name(way.lead_id)}"
                yield Hit(facts.element("circuits", key), (figure,), detail=fed)


@check("multiwire-gfci")
def device_on_a_half(facts: Facts) -> Iterator[Said]:
    """A ground-fault breaker of one pole on half of a shared neutral."""
    for key, circuit in facts.plan.circuits.items():
        guarded = circuit.protection in ("gfci", "gfci_afci", "rcd") and circuit.poles == 1
        partner = facts.plan.partner_of(key)
        if guarded and partner is not None:
            other = facts.plan.circuits[partner]
            loads = facts.loads_on({partner: other})
            amps = sum(facts.amps(load) for load in loads.values()) or other.rated_a
            name = f"past it, with {other.label} on"
            yield Hit(
                facts.element("circuits", key), (Figure(name=name, value=amps, limit=GFCI_A, unit="A"),)
            )


@check("loop-self-charge")
def self_charge(facts: Facts) -> Iterator[Said]:
    """A charger on a circuit that its own station feeds, directly or through others."""
    for key, *_ in circles(facts.network):
        recharge = facts.plan.recharges[key]
        fix = {"leads": {key: {"to": {"when": "grid"}}}}
        figures, way = _given_and_got(facts, recharge), facts.way_to("charging_circle", key)
        yield Hit(facts.element("leads", key), figures, detail=way, fix=fix)


def _given_and_got(facts: Facts, recharge: Recharge) -> Figures:
    """What a charging loop takes out of the cells, and what it puts back into them."""
    station = facts.plan.stations[recharge.station_id]
    given_w = recharge.setting_w / station.inverter_efficiency + station.idle_draw_w
    got_w = recharge.setting_w * station.charge_efficiency
    return (
        Figure(name="taken from its cells", value=given_w, unit="W"),
        Figure(name="put back into them", value=got_w, unit="W"),
    )


@check("compressor-wait")
def compressor_wait(facts: Facts) -> Iterator[Said]:
    """A compressor that goes on again before five minutes are over: at the changeover, or in the run."""
    said: set[str] = set()
    for way in facts.ways:
        wait_s = facts.plan.changeover_s(way.hookup)
        if not 0 < wait_s < COMPRESSOR_WAIT_S:
            continue
        fix = facts.of_changeover(way.hookup, "changeover_after_s", COMPRESSOR_WAIT_S)
        for key, load in facts.fed_at(way).items():
            if load.compressor and key not in said:
                said.add(key)
                figure = Figure(name="back on after", value=wait_s, limit=COMPRESSOR_WAIT_S, unit="s")
                yield Hit(facts.element("loads", key), (figure,), fix=fix)
    for key, load in facts.plan.loads.items():
        share = facts.run.loads.get(key)
        gap_s = share.least_gap_s if share is not None else None
        if load.compressor and key not in said and gap_s is not None and gap_s < COMPRESSOR_WAIT_S:
            figure = Figure(name="in the run, back on after", value=gap_s, limit=COMPRESSOR_WAIT_S, unit="s")
            swaps = facts.plan.strategy.swap_s < COMPRESSOR_WAIT_S
            mend = {"strategy": {"swap_s": COMPRESSOR_WAIT_S}} if swaps else None
            yield Hit(facts.element("loads", key), (figure,), fix=mend)


@check("left-on-heat")
def left_on(facts: Facts) -> Iterator[Said]:
    """Cookers, irons and heaters on what comes on by itself at a moment with nobody there."""
    plan = facts.plan
    calendar = Calendar(plan.site, plan.outage)
    presence = Presence(calendar, plan.outage)
    at_home = plan.outage.occupancy.away or plan.outage.occupancy.gone
    ends = [window.at_s + window.for_s for window in plan.outage.grid.values()]
    alone_on = {key for key, station in plan.stations.items() if station.auto_restart == "yes"}
    restarts = [e for e in facts.run.events if e.kind == "restarted" and e.part in alone_on]
    for way in facts.network.running:
        changeover = plan.changeover_s(way.hookup)
        comes = [changeover, *(end + changeover for end in ends)] if way.automatic else []
        comes = comes + [e.t_s for e in restarts if e.part == way.hookup.source_id]
        alone = [t for t in comes if at_home and presence.next(t) > t]
        for key, load in facts.fed_at(way).items() if alone else ():
            if load.role == "hot":
                hang = facts.network.hangs[key]
                fix = {"circuits": {hang.circuit_id: {"mark": "off"}}}
                if hang.circuit_id is None:
                    fix = {"loads": {key: {"mark": "off"}}}
                figures = (
                    Figure(name="comes on after", value=alone[0] / 3600, unit="h"),
                    Figure(name="with", value=on_watts(load), unit="W"),
                )
                yield Hit(facts.element("loads", key), figures, fix=fix, detail="with nobody there")

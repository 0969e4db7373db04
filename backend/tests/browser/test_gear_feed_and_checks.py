"""Gear, feed, checks and sums, as a person would."""

import re

import pytest
from folds import unfold
from playwright.sync_api import Locator, Page, expect
from serving import Server

AT = "/plans/foothill-house"


@pytest.fixture
def at(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}{AT}/feed")
    expect(page.get_by_test_id("neutral")).to_have_text("one bond, where it should be")
    return page


def test_a_dangerous_feed_is_stopped_and_mended(at: Page) -> None:
    counts = at.get_by_test_id("counts")
    expect(counts).to_have_text("no stops, no cautions")
    at.get_by_label("feed by").select_option("receptacle_backfeed")
    expect(counts).to_contain_text("1 stop: do not energise")
    expect(at.get_by_test_id("verdict")).to_contain_text("can kill and is refused")
    at.get_by_role("link", name="Checks", exact=True).click()
    finding = at.locator('[data-check="feed-male-plug"]')
    expect(finding).to_contain_text("it can kill")
    expect(finding.get_by_role("button", name="Answer as an electrician")).to_have_count(0)
    at.get_by_role("button", name="Undo").click()
    expect(counts).to_have_text("no stops, no cautions")


def test_the_shortest_way_to_harm_is_gone_through(at: Page) -> None:
    looked = at.get_by_role("region", name="Every arrangement of handles")
    expect(looked).to_contain_text("No arrangement of 10 handles (2 looked at) lets two sources meet")
    expect(looked).to_contain_text("It trusts interlock of feed of Main panel: listed and whole")
    at.get_by_label("feed by").select_option("no_transfer")
    way = looked.get_by_test_id("way").filter(has_text="a source and the utility are joined")
    expect(way).to_contain_text("The shortest way, 3 acts")
    for done in ("1 of 3", "2 of 3", "Here a source and the utility are joined."):
        way.get_by_role("button", name="Next act").click()
        expect(way.get_by_role("status")).to_have_text(done)
    expect(way.get_by_role("button", name="Next act")).to_be_disabled()
    way.get_by_role("button", name="From the beginning").click()
    expect(way.get_by_role("status")).to_have_text("0 of 3")


def test_every_joint_can_be_chosen(at: Page) -> None:
    at.get_by_role("button", name="Add a cord").click()
    expect(at.get_by_role("img", name="cord 25 ft")).to_be_visible()
    at.get_by_role("button", name="Add an adapter").click()
    expect(at.get_by_test_id("counts")).to_contain_text("open question")
    at.get_by_label("adapter from").select_option("10-30")
    expect(at.get_by_test_id("counts")).to_contain_text("1 stop")
    at.get_by_label("transfer switches the neutral").select_option("yes")
    expect(at.get_by_test_id("neutral")).to_have_text("no bond: a fault trips nothing")
    expect(at.get_by_role("table", name="Neutral of the source")).to_contain_text("stop: no bond (here)")
    at.get_by_label("inlet rated").fill("20")
    at.get_by_label("inlet rated").press("Enter")
    expect(at.get_by_role("list", name="Findings of 6 kW station to Main panel")).to_contain_text(
        "inlet: 30 A against 20 A"
    )
    at.get_by_role("slider", name="Moment of the outage").focus()
    at.keyboard.press("End")
    expect(at.get_by_role("button", name="Greatest flow")).to_be_visible()


def test_what_to_do_first_leads_to_where_it_is_told(at: Page, server: Server) -> None:
    """Six alike are one with six places; by whom and when stands first, and leads there."""
    at.goto(f"{server.address}/plans/canal-side-duplex/checks")
    first = at.get_by_role("region", name="What to do first")
    expect(first).to_contain_text("Before the next outage · 8")
    expect(first).to_contain_text(
        "Wanted, but on no connected circuit · 6 places: Put its circuit on the feed."
    )
    first.get_by_role("link", name="Wanted, but on no connected circuit").click()
    alike = at.locator('[data-check="blind-spot"]')
    expect(alike).to_have_count(1)
    expect(alike).to_be_in_viewport()
    expect(alike.get_by_role("listitem")).to_have_count(6)
    expect(alike.get_by_role("listitem").filter(has_text="Kitchen outlets")).to_contain_text("2,850 W")
    alike.get_by_role("link", name="Breaker 18 · Kitchen outlets").click()
    expect(at).to_have_url(re.compile("panel#circuits/kitchen"))
    at.goto(f"{server.address}/plans/foothill-house/checks")
    expect(at.get_by_test_id("findings")).to_be_visible()
    expect(first).to_have_count(0)


def test_the_survey_and_answers(at: Page) -> None:
    at.get_by_role("link", name="Checks", exact=True).click()
    walk = at.get_by_test_id("survey")
    stops = [
        "At the panel",
        "At the inlet and its switch",
        "Along the cords",
        "At the stations",
        "At the engine",
    ]
    expect(walk.get_by_role("heading").first).to_have_text(stops[0])
    assert walk.get_by_role("heading").all_inner_texts()[:5] == stops
    sign = walk.get_by_role("radiogroup", name="Does a sign at the inlet")
    sign.get_by_role("radio", name="no", exact=True).click()
    expect(walk).to_contain_text("Caution: No sign at the inlet")
    finding = at.locator('[data-check="feed-sign"]')
    expect(finding.get_by_role("radio", name="no", exact=True)).to_be_checked()
    finding.get_by_role("button", name="Answer as an electrician").click()
    finding.get_by_label("reason").fill("inspected, local approval")
    finding.get_by_label("name and licence").fill("licence 123")
    finding.get_by_role("button", name="Answer", exact=True).click()
    expect(finding).to_contain_text("Answered: inspected, local approval (licence 123)")
    expect(at.get_by_test_id("counts")).to_have_text("no stops, no cautions")
    kit = walk.get_by_role("radiogroup", name="Is the interlock kit listed")
    kit.get_by_role("radio", name="not looked yet").click()
    expect(at.get_by_test_id("counts")).to_contain_text("1 open question")
    expect(at.get_by_test_id("survey-open")).to_contain_text("1 not looked yet")
    expect(at.get_by_test_id("findings")).to_contain_text("One question of the survey has no answer yet")
    at.get_by_role("link", name="Feed", exact=True).click()
    open_one = at.locator('[data-check="interlock-unlisted"]').first
    expect(open_one).to_contain_text("Is the interlock kit listed for this panel?")
    open_one.get_by_role("link", name="on the survey").click()
    expect(kit.get_by_role("radio").first).to_be_focused()
    kit.get_by_role("radio", name="yes", exact=True).click()
    expect(at.get_by_test_id("survey-open")).to_contain_text("all answered")
    at.get_by_label("local rules that apply").fill("2023 as adopted here")
    at.get_by_label("local rules that apply").blur()
    at.reload()
    expect(at.get_by_label("local rules that apply")).to_have_value("2023 as adopted here")
    at.get_by_label("the house goes by").select_option("us_2020")
    at.get_by_text("Clauses to look up").click()
    wet = at.get_by_test_id("clauses").get_by_role("listitem").filter(has_text="Wet place without")
    expect(wet).to_contain_text("NFPA 70 (2020) 210.8, from memory; about 80 % sure")
    expect(wet).to_contain_text("Basements count")
    wet.get_by_label("local amendment").fill("Sheds, too.")
    wet.get_by_label("local amendment").blur()
    expect(wet.get_by_label("local amendment")).to_have_value("Sheds, too.")


def test_gear_is_described_compared_and_wired(at: Page) -> None:
    at.get_by_role("link", name="Gear").click()
    solar = at.get_by_role("region", name="Solar")
    unfold(solar)
    series = solar.get_by_label("in series")
    series.fill("14")
    series.press("Enter")
    found = at.get_by_role("list", name="Findings of the gear")
    expect(found).to_contain_text("More volts than the input takes")
    found.get_by_role("button", name="Apply the remedy").first.click()
    expect(found).not_to_contain_text("More volts than the input takes")
    at.get_by_test_id("layouts").get_by_role("button", name="Take").first.click()
    generators = at.get_by_role("region", name="Generators")
    add(generators, "open-5500")
    expect(found).to_contain_text("where it stands")
    stations = at.get_by_role("region", name="Stations")
    add(stations, "mid-3000")
    expect(stations.locator("summary").filter(has_text="120 V station, 3 kW")).to_be_visible()
    unfold(at, "Compare stations side by side")
    at.get_by_label("add to the comparison").select_option("split-7000")
    expect(at.get_by_test_id("compare")).to_contain_text("3,500 VA")
    unfold(stations)
    rated = stations.get_by_label("rated").first
    rated.fill("7.2")
    rated.press("Enter")
    expect(at.get_by_role("alert")).to_contain_text("7.2 VA, or 7.2 kVA?")
    at.get_by_role("button", name="7.2 kVA").click()
    expect(rated).to_have_value("7200")
    fill(rated, "6,9 kW")
    asked = stations.get_by_role("alert").first
    expect(asked).to_contain_text("is 6,9 kW meant as 6.9 kW? Nothing was changed yet")
    asked.get_by_role("button", name="6.9 kW").click()
    expect(rated).to_have_value("6900")
    fill(rated, "12,000")
    expect(rated).to_have_value("12000")
    fill(rated, "many")
    expect(stations.get_by_role("alert").first).to_contain_text(
        "many is not read; write it as 1100 or 1.1 kVA"
    )


def test_sums_begin_from_the_plan(at: Page) -> None:
    at.get_by_role("button", name="Sums").click()
    drawer = at.get_by_role("dialog", name="Sums")
    expect(drawer.get_by_label("idle draw")).to_have_value("55 W")
    drawer.get_by_label("Which sum").select_option("cord")
    drawer.get_by_label("length").fill("25 ft")
    drawer.get_by_label("gauge").fill("14")
    drawer.get_by_label("current").fill("2.5A")
    expect(drawer.get_by_test_id("sum")).to_contain_text("0.1288 Ω")
    drawer.get_by_label("current").fill("2.5 bananas")
    expect(drawer.get_by_role("alert")).to_contain_text("not a unit known here")
    drawer.get_by_label("Which sum").select_option("string")
    drawer.get_by_role("button", name="Put into the plan").click()
    drawer.get_by_role("button", name="Close").click()
    at.get_by_role("link", name="Gear").click()
    unfold(at.get_by_role("region", name="Solar"))
    expect(at.get_by_role("region", name="Solar").get_by_label("in series")).to_have_value("10")


def add(part: Locator, class_id: str) -> None:
    """Choosing adds nothing; the button does."""
    kept = part.locator("details").count()
    part.get_by_label("add", exact=True).select_option(class_id)
    expect(part.locator("details")).to_have_count(kept)
    part.get_by_role("button", name="Add it to").click()


def fill(field: Locator, text: str) -> None:
    field.fill(text)
    field.press("Enter")


def test_what_nobody_has_read_is_left_empty_and_asked_for(at: Page) -> None:
    at.get_by_role("link", name="Gear").click()
    stations = at.get_by_role("region", name="Stations")
    unfold(stations)
    unfold(stations, "All else about it")
    fill(stations.get_by_label("gives power from"), "")
    stations.get_by_label("turns its output off by itself").select_option("unknown")
    granted = at.get_by_test_id("assumed")
    unfold(granted)
    expect(granted).to_contain_text("not known is the coldest air in which it gives power; 14 °F counted")
    expect(granted).to_contain_text("not known is whether it turns itself off when little is drawn")
    at.reload()
    at.get_by_role("link", name="Checks").click()
    expect(at.get_by_test_id("findings")).to_contain_text(
        "Not known: the coldest air in which it gives power"
    )


def test_a_station_is_described_from_its_plate(at: Page) -> None:
    """Groups of plate figures, an input as printed, a pack, the overload curve: kept over a reload."""
    at.get_by_role("link", name="Gear").click()
    stations = at.get_by_role("region", name="Stations")
    unfold(stations)
    unfold(stations, "All else about it")
    fill(stations.get_by_label("wall to cells"), "85")
    fill(stations.get_by_label("shown hours follow the load in"), "1 h")
    fill(stations.get_by_label("all sources together"), "3.5 kW")
    inputs = stations.get_by_role("group", name="DC inputs")
    expect(inputs.get_by_role("listitem")).to_have_count(2)
    inputs.get_by_label("or as printed").fill("with love")
    inputs.get_by_role("button", name="Read it").click()
    expect(inputs.get_by_role("alert")).to_contain_text("as printed, such as 12–60 V 15 A 500 W")
    inputs.get_by_label("or as printed").fill("11V-60V⎓8A, 220W max")
    inputs.get_by_role("button", name="Read it").click()
    third = inputs.get_by_role("listitem").nth(2)
    expect(third.get_by_label("to", exact=True)).to_have_value("60")
    expect(third.get_by_label("at most", exact=True).nth(1)).to_have_value("220")
    stations.get_by_role("button", name="Add a pack").click()
    expect(
        stations.get_by_role("group", name="Extra packs, made for it").get_by_role("listitem")
    ).to_have_count(2)
    curve = stations.get_by_role("group", name="Overload")
    fill(curve.get_by_label("of its rating").first, "120")
    expect(at.get_by_role("alert").first).to_contain_text("multiples rise")
    stations.get_by_label("its own gap, ms").fill("0")
    stations.get_by_label("its own gap, ms").press("Enter")
    expect(at.get_by_text("Saved").first).to_be_visible()
    at.reload()
    unfold(stations)
    unfold(stations, "All else about it")
    expect(stations.get_by_label("wall to cells")).to_have_value("85")
    expect(stations.get_by_label("shown hours follow the load in")).to_have_value("60")
    expect(stations.get_by_label("all sources together")).to_have_value("3500")
    expect(curve.get_by_label("of its rating").first).to_have_value("105")
    expect(inputs.get_by_role("listitem")).to_have_count(3)


def test_cords_move_between_the_box_and_a_joint(at: Page) -> None:
    picture = at.get_by_role("img", name="6 kW station to Main panel")
    at.get_by_label("swap for").select_option(label="spare 30 A cord")
    expect(picture).to_have_accessible_name(re.compile("spare 30 A cord 50 ft, AWG 10 30 A"))
    at.get_by_label("out of the box").select_option(label="extension cord of the workshop")
    found = at.get_by_role("list", name="Findings of 6 kW station to Main panel")
    expect(found).to_contain_text("cord of AWG 12: 30 A against 25 A")
    at.get_by_role("button", name="Back into the box").nth(1).click()
    expect(found).not_to_contain_text("cord of AWG 12")
    at.get_by_label("out of the box").select_option(label="L14-30 to four outlets")
    expect(picture).to_have_accessible_name(re.compile("L14-30 to four outlets 20 A"))
    at.get_by_role("button", name="Undo").click()
    expect(picture).not_to_have_accessible_name(re.compile("four outlets"))
    at.get_by_role("link", name="Gear").click()
    box = at.get_by_role("region", name="Cords, adapters and inlets")
    expect(box).to_contain_text("30 A cord30 ft, AWG 10")
    expect(at.get_by_text("In use at a feed")).to_contain_text("spare 30 A cord")
    add(box, "inlet-50")
    at.get_by_role("link", name="Feed", exact=True).click()
    at.get_by_label("out of the box").select_option(label="50 A inlet")
    expect(at.get_by_label("inlet rated")).to_have_value("50")


def test_the_wire_in_the_wall(at: Page) -> None:
    at.get_by_label("of", exact=True).nth(1).select_option("12")
    found = at.get_by_role("list", name="Findings of 6 kW station to Main panel")
    expect(found).to_contain_text("feed breaker on AWG 12 copper: 30 A against 20 A")
    expect(found).to_contain_text("wire of the inlet: 30 A against 20 A")
    expect(at.get_by_test_id("counts")).to_contain_text("4 stops")
    at.get_by_role("button", name="Not known").click()
    expect(at.get_by_test_id("counts")).to_have_text("1 open question")
    expect(found).to_contain_text("gauge, metal and length of the wire from the inlet")
    at.get_by_role("button", name="Say which wire goes to the panel").click()
    expect(at.get_by_test_id("counts")).to_have_text("no stops, no cautions")
    expect(at.get_by_role("img", name="wire 20 ft, AWG 10 copper")).to_be_visible()


def test_a_finding_asks_and_is_answered_where_it_stands(at: Page) -> None:
    """A switchable neutral: what is asked stands with the finding, on the feed itself."""
    at.get_by_role("link", name="Gear").click()
    stations = at.get_by_role("region", name="Stations")
    unfold(stations)
    unfold(stations, "All else about it")
    stations.get_by_label("neutral on battery", exact=True).select_option("switchable")
    expect(at.get_by_test_id("counts")).to_contain_text("1 open question")
    at.get_by_role("link", name="Feed", exact=True).click()
    expect(at.get_by_test_id("neutral")).to_contain_text("not known")
    asked = at.get_by_role("radiogroup", name="Here: Is the source's neutral switch set")
    asked.get_by_role("radio", name="yes", exact=True).click()
    expect(at.get_by_test_id("neutral")).to_have_text("one bond, where it should be")
    expect(at.get_by_role("cell", name="right (here)")).to_be_visible()
    at.get_by_role("link", name="Checks", exact=True).click()
    on_survey = at.get_by_test_id("survey").get_by_role(
        "radiogroup", name="Is the source's neutral switch set"
    )
    expect(on_survey.get_by_role("radio", name="yes", exact=True)).to_be_checked()


def test_what_a_feed_a_load_and_a_circuit_say_of_themselves(at: Page) -> None:
    """A changeover of its own, a start that was seen, a class of protection, the length of a wire."""
    at.get_by_role("link", name="Feed", exact=True).click()
    unfold(at, "Changed over and restored otherwise")
    fill(at.get_by_label("changed over after"), "10")
    at.get_by_label("breakers back on").select_option("all_at_once")
    expect(at.get_by_test_id("counts")).to_contain_text("caution")
    expect(at.locator('[data-check="all-at-once"]').first).to_contain_text("all at once on leg A")
    at.get_by_label("breakers back on").select_option("one_at_a_time")
    expect(at.get_by_test_id("counts")).to_have_text("no stops, no cautions")
    fill(at.get_by_label("conductors without the ground"), "2")
    expect(at.get_by_test_id("counts")).to_contain_text("1 stop")
    expect(at.locator('[data-check="neutral-open"]').first).to_contain_text("against 126 V")
    at.get_by_role("button", name="Undo").click()
    expect(at.get_by_test_id("counts")).to_contain_text("no stops")
    at.get_by_role("link", name="Panel", exact=True).click()
    at.locator('[data-circuit="well"]').first.click()
    sheet = at.locator("#circuit-sheet")
    unfold(sheet, "What it is for")
    sheet.get_by_label("protection class").select_option("I")
    sheet.get_by_label("6 kW station").uncheck()
    expect(sheet.locator('[data-check="motor-sag"]')).to_contain_text("locked rotor: 22.5 A against")
    sheet.get_by_label("6 kW station").check()
    expect(sheet.locator('[data-check="motor-sag"]')).to_have_count(0)
    fill(sheet.get_by_label("to the farthest outlet"), "900 ft")
    expect(sheet.locator('[data-check="cord-drop"]')).to_contain_text("drop of its wire")


def test_another_station_keeps_the_feed(at: Page) -> None:
    at.get_by_role("link", name="Gear").click()
    stations = at.get_by_role("region", name="Stations")
    expect(stations).to_contain_text("kWh a day, gets")
    unfold(stations)
    stations.get_by_label("another in its place").select_option("split-7000")
    stations.get_by_role("button", name="Put it in the place of").click()
    expect(stations).to_contain_text("7,000 VA")
    expect(at.get_by_test_id("verdict")).not_to_contain_text("Cannot judge")
    solar = at.get_by_role("region", name="Solar")
    solar.get_by_label("add", exact=True).select_option("rigid-200")
    solar.get_by_label("how many modules").fill("3")
    solar.get_by_role("button", name="Add it to Solar").click()
    expect(solar).to_contain_text("3 × 1 of 200 W")
    at.get_by_role("link", name="Feed", exact=True).click()
    expect(at.get_by_label("its outlet")).to_have_value("l14-30")


def test_other_gear_is_added_and_counted(at: Page) -> None:
    at.get_by_role("link", name="Gear").click()
    batteries = at.get_by_role("region", name="Batteries from elsewhere, on a DC input")
    add(batteries, "tool-36")
    unfold(batteries)
    batteries.get_by_label("on", exact=True).select_option("station//sun-high")
    fill(batteries.get_by_label("in series"), "12")
    expect(batteries.get_by_role("list", name="Findings here")).to_contain_text(
        "12 in series, full: 504 V against 450 V"
    )
    expect(batteries.locator("summary")).to_contain_text("stop")
    generators = at.get_by_role("region", name="Generators")
    unfold(generators)
    fill(generators.get_by_label("in the house in all"), "10 gal")
    generators.get_by_label("its watts as printed").fill("2.2 kW 2.5 kW max")
    generators.get_by_role("button", name="Read it").click()
    expect(generators.get_by_label("rated").first).to_have_value("2200")
    solar = at.get_by_role("region", name="Solar")
    unfold(solar)
    best = at.get_by_test_id("layouts").get_by_role("row").nth(1)
    before = best.inner_text()
    solar.get_by_role("button", name="Add a position").click()
    expect(best).not_to_have_text(before)
    unfold(at, "All of it")
    expect(at.get_by_test_id("inventory")).to_contain_text("tool pack, 36 V, 5 Ah")
    unfold(at, "Compare stations side by side")
    expect(at.get_by_test_id("compare")).to_contain_text("days")


def test_sums_are_about_a_part_and_go_back_into_it(at: Page) -> None:
    at.get_by_role("button", name="Sums").click()
    drawer = at.get_by_role("dialog", name="Sums")
    drawer.get_by_label("Which sum").select_option("motor")
    drawer.get_by_label("for which part").select_option("well")
    expect(drawer.get_by_label("voltage")).to_have_value("240 V")
    drawer.get_by_label("horsepower").fill("0.75")
    drawer.get_by_label("full load").fill("0")
    drawer.get_by_role("button", name="Put into the plan as start of well pump").click()
    drawer.get_by_label("Which sum").select_option("readings")
    drawer.get_by_label("one reading").fill("60")
    drawer.get_by_role("button", name="Put into the plan as charge at the start").click()
    drawer.get_by_role("button", name="Close").click()
    at.get_by_role("link", name="Outage").click()
    expect(at.get_by_label("charge of 6 kW station at the start")).to_have_value("60")
    pack = at.get_by_label("if other, of its Expansion pack")
    expect(at.get_by_test_id("saved")).to_contain_text("Saved")
    begun = at.get_by_role("region", name="By device").get_by_role("listitem").first
    expect(begun).to_contain_text("60 to")
    fill(pack, "20")
    expect(begun).to_contain_text("40 to")
    pack.fill("")
    pack.press("Enter")
    expect(begun).to_contain_text("60 to")
    at.get_by_role("button", name="Undo").click()
    expect(pack).to_have_value("20")


def test_what_a_load_is_for_decides_what_is_asked(at: Page) -> None:
    at.get_by_role("link", name="Needs", exact=True).click()
    at.get_by_test_id("needs").get_by_text("chargers and clocks").click()
    sheet = at.get_by_role("region", name="Measure chargers and clocks")
    unfold(sheet, "What it is for")
    sheet.get_by_label("it is", exact=True).select_option("life_support")
    expect(at.get_by_test_id("counts")).to_contain_text("1 open question")
    sheet.get_by_label("behaves").select_option("cycling")
    expect(sheet.get_by_label("while on")).to_have_value("130")
    sheet.get_by_label("it is", exact=True).select_option("heat")
    expect(at.get_by_role("region", name="Heater")).to_be_visible()

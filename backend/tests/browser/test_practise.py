"""The drill in the browser: an exercise by hand and by keyboard, a search, a question, what is kept of it."""

import re

import pytest
from accessibility import grave
from playwright.sync_api import Page, Route, expect
from serving import Server

AT = "/plans/foothill-house"


@pytest.fixture
def at(page: Page, server: Server) -> Page:
    page.goto(f"{server.address}{AT}/runbook")
    page.get_by_role("link", name="Practise these on your own panel").click()
    expect(page.get_by_test_id("readiness")).to_contain_text("Never practised")
    return page


def test_an_exercise_by_hand_is_stopped_explained_and_gone_on_with(at: Page) -> None:
    assert grave(at) == []
    at.get_by_label("who practises").fill("Ada")
    at.get_by_role("button", name="Practise Change over at night").click()
    expect(at.get_by_test_id("acts")).to_have_text("0 acts, 0 min")
    at.get_by_role("button", name="on: feed breaker").click()
    expect(at.get_by_test_id("impossible")).to_contain_text("The interlock holds the feed breaker off")
    at.get_by_role("button", name="A hint").click()
    expect(at.get_by_text("Turn off every branch breaker of Main panel")).to_be_visible()
    main = at.get_by_role("button", name="off: main of Main panel")
    expect(at.get_by_role("region", name="Breakers of Main panel")).to_contain_text(
        "bus: joined to the utility"
    )
    main.focus()
    at.keyboard.press("Enter")
    expect(at.get_by_role("button", name="on: main of Main panel")).to_be_visible()
    expect(at.get_by_role("region", name="Breakers of Main panel")).to_contain_text("bus: joined to nothing")
    at.get_by_role("button", name="in: source end of 6 kW station").click()
    outcome = at.get_by_test_id("outcome")
    expect(outcome).to_contain_text("Stopped at act 3, “source end of 6 kW station to Main panel: in”")
    expect(outcome).to_contain_text("What prevents it: Turn off every branch breaker of Main panel")
    assert grave(at) == []
    at.get_by_role("button", name="Play it back, act by act").click()
    back = at.get_by_role("region", name="Played back")
    expect(back.get_by_test_id("played-act")).to_contain_text(
        "Act 3 of 3: source end of 6 kW station to Main panel: in"
    )
    back.get_by_role("button", name="The act before").click()
    expect(back.get_by_test_id("played-act")).to_have_text("Act 2 of 3: main of Main panel: off")
    expect(back.get_by_role("button", name="on: main of Main panel")).to_be_disabled()
    back.get_by_role("slider").press("Home")
    expect(back.get_by_test_id("played-act")).to_have_text("Before the first act")
    assert grave(at) == []
    outcome.get_by_role("button", name="Again from before that").click()
    expect(outcome).to_have_count(0)
    at.get_by_role("button", name="That is all").click()
    expect(outcome).to_contain_text("Not done yet")
    outcome.get_by_role("button", name="To the list").click()
    expect(at.get_by_test_id("readiness")).to_contain_text("0 of 20 exercises were passed")
    row = at.get_by_role("listitem").filter(has_text="Change over at night")
    expect(row).to_contain_text(re.compile(r"tried \d{4}-\d\d-\d\d, due"))
    expect(at.get_by_text("Weakest points", exact=True)).to_be_visible()
    at.get_by_role("link", name="Checks").click()
    expect(at.get_by_role("link", name=re.compile("^practised once, last on"))).to_be_visible()
    at.get_by_role("link", name="Weary Cedar").click()
    expect(at.get_by_role("link", name="never practised")).to_have_count(3)


def test_an_end_of_charge_is_passed_by_its_hints_on_a_phone(at: Page) -> None:
    at.set_viewport_size({"width": 390, "height": 844})
    at.get_by_role("button", name="Practise Charge from another source").click()
    at.get_by_role("button", name="in: far end of station from the generator").click()
    expect(at.get_by_test_id("acts")).to_have_text("1 act, 0 min")
    at.get_by_role("button", name="in: source end of station from the generator").click()
    expect(at.get_by_test_id("answer")).to_contain_text("The plug sits")
    at.get_by_role("button", name="Leave").click()
    at.get_by_role("button", name="Practise End a charge").click()
    for name in ("off: breaker of small inverter generator", "out: source end of station from the generator",
                 "out: far end of station from the generator", "off: small inverter generator"):  # fmt: skip
        at.get_by_role("button", name="Wait 5 minutes").click()
        button = at.get_by_role("button", name=name)
        if button.count():
            button.click()
    at.get_by_role("button", name="That is all").click()
    expect(at.get_by_test_id("outcome")).to_be_visible()
    assert grave(at) == []


def test_a_search_and_what_comes_first(at: Page) -> None:
    at.get_by_role("button", name="Practise Lights bright").click()
    expect(at.get_by_test_id("seen")).not_to_be_empty()
    at.get_by_role("button", name="A hint").click()
    words = at.get_by_role("region", name="Lights bright").get_by_role("status").inner_text()
    at.get_by_role("button", name=words, exact=True).click()
    expect(at.get_by_role("list", name="Chosen so far").get_by_role("listitem")).to_have_count(1)
    at.get_by_role("button", name="Leave", exact=True).click()
    at.get_by_role("button", name="Practise A carbon-monoxide alarm sounds").click()
    at.get_by_role("button", name="Call the emergency number from outside").click()
    expect(at.get_by_test_id("outcome")).to_contain_text("First “Stop small inverter generator")
    assert grave(at) == []


def test_a_question_is_judged_with_its_working(at: Page) -> None:
    questions = at.get_by_role("region", name="Questions")
    expect(questions.get_by_test_id("question")).not_to_be_empty()
    field = questions.get_by_label("Your answer")
    for _ in range(60):
        if field.count():
            break
        title = questions.get_by_test_id("question").inner_text()
        questions.get_by_role("button", name="Another one").click()
        expect(questions.get_by_test_id("question")).not_to_have_text(title)
    field.fill("123456789")
    questions.get_by_role("button", name="Judge it").click()
    expect(questions.get_by_test_id("judged")).to_contain_text("Not so. It is")
    expect(questions).to_contain_text("0 of 1 right")
    questions.get_by_role("button", name="Next question").click()
    expect(questions.get_by_test_id("judged")).to_have_count(0)
    with at.expect_download() as got:
        at.get_by_role("link", name="A card with the weakest points").click()
    assert got.value.path().read_bytes().startswith(b"%PDF")


def test_a_whole_outage_is_decided_stop_by_stop_and_weighed(at: Page) -> None:
    at.get_by_role("button", name="Practise a whole outage").click()
    at.get_by_label("number of the outage").fill("2")
    at.get_by_label("number of the outage").press("Enter")
    at.get_by_role("button", name="Let the utility go").click()
    stop = at.get_by_test_id("whole-stop")
    for number in range(1, 11):
        expect(stop).to_contain_text(re.compile(f"^{number}\\. "))
        if number == 1:
            assert grave(at) == []
            expect(stop).to_contain_text("6 kW station shows 100 %")
        see = stop.get_by_role("button", name="See to small inverter generator")
        (see if see.count() else stop.get_by_role("button").first).click()
    expect(at.get_by_test_id("whole-end")).to_contain_text("The outage is over")
    at.get_by_role("button", name="What each choice was worth").click()
    talk = at.get_by_test_id("whole-talk")
    expect(talk).to_contain_text("longer than by going on as the plan says")
    expect(talk.get_by_role("row", name="the best that was found")).to_be_visible()
    assert grave(at) == []
    at.get_by_role("button", name="Leave it").click()
    expect(at.get_by_role("region", name="A whole outage in ten minutes")).to_contain_text("number 2,")


def test_an_answer_that_comes_late_is_of_no_use_any_more(at: Page) -> None:
    """The answer to the first of two acts is kept back until that to the second has come."""
    held: list[Route] = []

    def second_first(route: Route) -> None:
        if len((route.request.post_data_json or {})["acts"]) == 1:
            held.append(route)
        else:
            route.continue_()

    at.get_by_role("button", name="Practise Change over at night").click()
    expect(at.get_by_test_id("acts")).to_have_text("0 acts, 0 min")
    at.route("**/drill/play", second_first)
    at.get_by_role("button", name="off: main of Main panel").click()
    at.get_by_role("button", name="in: source end of 6 kW station").click()
    expect(at.get_by_test_id("outcome")).to_contain_text("Stopped at act 2")
    with at.expect_response("**/drill/play"):
        held[0].continue_()
    expect(at.get_by_test_id("outcome")).to_contain_text("Stopped at act 2")

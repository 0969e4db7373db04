"""What it does to the chance of a plan when what was learnt is taken over."""

from told_sessions import HOUR_S, lamp_house, told

from weary_cedar.core.decide.chance import Varying, chance_of
from weary_cedar.core.log.learn import learn, with_lesson, worth_of
from weary_cedar.core.plan.refs import without


def test_a_measured_load_makes_the_end_surer() -> None:
    """5,120 Wh at a guess of 150 W: 20 to 57 h in eight of ten; what was measured is a tenth off later."""
    plan = lamp_house()
    plan = plan.model_copy(update={"outage": plan.outage.model_copy(update={"length_s": 120 * HOUR_S})})
    of = told(plan, 3)
    lesson = learn(plan, of.session)
    assert any(figure.key == "draws" and figure.learnt for figure in lesson.figures)
    found = worth_of(plan, lesson, 40)
    surer = with_lesson(plan, lesson)
    assert surer.loads["lamp"].origin == "measured"
    assert found.before is not None
    assert found.after is not None
    for chances, which in ((found.before, plan), (found.after, surer)):
        counted = chance_of(which, 40, Varying())
        assert chances.lasted <= chances.outages == 40
        if counted.outages == 40:
            assert (chances.lasted, chances.low, chances.high) == (counted.lasted, counted.low, counted.high)
    begins = plan.outage.start_local
    ends = []
    for one in (found.before, found.after):
        assert one.ends_from is not None
        assert one.ends_to is not None
        ends.append(
            [(at.replace(tzinfo=None) - begins).total_seconds() for at in (one.ends_from, one.ends_to)]
        )
    assert ends[0][0] < 26 * HOUR_S < 45 * HOUR_S < ends[0][1]
    (wide_from, wide_to), (from_s, to_s) = ends
    assert to_s - from_s < 0.75 * (wide_to - wide_from)
    assert found.sentence.startswith("Of the same 40 outages it lasts in ")
    assert "; with what was learnt in " in found.sentence


def test_nothing_is_compared_where_nothing_was_learnt_or_it_fits_no_more() -> None:
    plan = lamp_house()
    of = told(plan, 3)
    lesson = learn(plan, of.session)
    nothing = lesson.model_copy(update={"figures": ()})
    assert "nothing was learnt" in worth_of(plan, nothing, 5).why_not
    gone = worth_of(without(plan, "loads", "lamp"), lesson, 5)
    assert gone.before is None
    assert gone.why_not

"""Routes of the drill: exercises as they are due, an exercise act by act, questions, the card."""

from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from weary_cedar.api.errors import documented
from weary_cedar.api.log import now_at
from weary_cedar.api.plans import AtDesk, PlanId
from weary_cedar.api.printed import a_file, printed
from weary_cedar.core.drill.exercise import CAUTION
from weary_cedar.core.drill.played import DrillSteps, Played
from weary_cedar.core.drill.questions import KINDS, Answered, fitting, judge_answer, question
from weary_cedar.core.drill.readiness import Practised, Readiness, readiness
from weary_cedar.core.drill.whole import (
    MOST_STOPS,
    AfterTalk,
    WholeDrill,
    WholePlay,
    after_talk,
    play_whole,
    why_no_outage,
)
from weary_cedar.core.runbook.steps import Move
from weary_cedar.formats.drill_card import drill_card
from weary_cedar.formats.paper import Edition
from weary_cedar.workshop.derivation import opened, plan_of
from weary_cedar.workshop.drills import drill_of

router = APIRouter(prefix="/api/plans/{plan_id}/drill", tags=["drill"])
Key = Annotated[str, Field(max_length=200, examples=["change-over/inlet"])]
Seed = Annotated[int, Field(ge=0, le=1_000_000_000)]


class KindLine(BaseModel):
    """A kind of question: its key and title, and why it does not fit, where it does not."""

    kind: str
    title: str
    level: int
    why_not: str


class DrillView(BaseModel):
    """What can be practised, how ready people are, and by kind why there is no exercise."""

    caution: str
    readiness: Readiness
    not_here: dict[str, str]
    questions: list[KindLine]
    #: Why no whole outage can be practised, if that is so; and those that were, the newest first.
    no_outage: str = ""
    outages: list[Practised] = []


class PlayAsked(BaseModel):
    """An exercise, and what was done so far from its beginning."""

    exercise: Key
    acts: Annotated[list[Move], Field(max_length=2_000)] = []
    chosen: Annotated[list[Annotated[str, Field(max_length=400)]], Field(max_length=200)] = []
    seed: Seed = 1
    hints: Annotated[int, Field(ge=0, le=10_000)] = 0
    #: Whether the next step is told.
    hint: bool = False
    #: Whether it is over: then it is written down. Names are free, and may be left out.
    finished: bool = False
    person: Annotated[str, Field(max_length=60)] = ""


class WholeAsked(BaseModel):
    """A whole outage by its number, and what was chosen at each stop so far."""

    seed: Seed = 1
    chosen: Annotated[list[Annotated[str, Field(max_length=120)]], Field(max_length=MOST_STOPS)] = []
    person: Annotated[str, Field(max_length=60)] = ""


class Asked(BaseModel):
    """A question, without its answer."""

    kind: str
    title: str
    ask: str
    unit: str
    choices: list[str]
    level: int
    seed: int


class AnswerGiven(BaseModel):
    """An answer: a figure in its unit, or the number of a choice, from 0."""

    kind: Annotated[str, Field(max_length=60, examples=["amps"])]
    seed: Seed = 1
    value: Annotated[float, Field(ge=-1e12, le=1e12, allow_inf_nan=False)]


@router.get("", response_model=DrillView, responses=documented(404, 422))
def drill(desk: AtDesk, plan_id: PlanId) -> Response:
    """What can be practised, the weakest first."""
    return desk.answer(plan_id, _view, desk.drills.rows(plan_id))


@router.get("/record", responses=documented(404, 422))
def record(desk: AtDesk, plan_id: PlanId) -> list[Practised]:
    """What was practised of a plan, the newest first."""
    return desk.drills.rows(plan_id)[::-1]


def _view(document: str, rows: list[Practised]) -> bytes:
    found, plan = drill_of(document), opened(document)
    today = now_at(plan.plan.site.time_zone).date()
    why = fitting(plan.plan, plan.run)
    view = DrillView(
        caution=CAUTION,
        readiness=readiness(found.listing.exercises, rows, today),
        not_here=found.listing.not_here,
        questions=[
            KindLine(kind=key, title=kind.title, level=kind.level, why_not=why[key])
            for key, kind in KINDS.items()
        ],
        no_outage=why_no_outage(plan.plan),
        outages=[row for row in reversed(rows) if row.exercise.startswith("whole-outage/")][:5],
    )  # fmt: skip
    return view.model_dump_json().encode()


@router.post("/play", responses=documented(404, 413, 422, 507))
def play(desk: AtDesk, plan_id: PlanId, asked: PlayAsked) -> Played:
    """An exercise after what was done; written down once it is over."""
    document = desk.store.get(plan_id).document
    found = desk.work(plan_id, _played, document, asked)
    if asked.finished:
        desk.drills.add(plan_id, desk.work(plan_id, _practised, document, found, asked))
    return found


def _played(document: str, asked: PlayAsked) -> Played:
    steps = DrillSteps(acts=tuple(asked.acts), chosen=tuple(asked.chosen))
    return drill_of(document).play(asked.exercise, steps, asked.seed, asked.hints, hint=asked.hint)


def _practised(document: str, found: Played, asked: PlayAsked) -> Practised:
    score = found.score
    wrong = ""
    if not score.passed:
        first = (
            [score.hazard.why]
            if score.hazard
            else [*(f"Not read: {words}" for words in score.missed), *score.left]
        )
        wrong = (first or [score.sentence])[0]
    today = now_at(drill_of(document).plan.site.time_zone).date()
    return Practised(
        exercise=asked.exercise,
        on=today,
        passed=score.passed,
        hints=asked.hints,
        person=asked.person,
        wrong=wrong[:300],
    )


@router.post("/outage", responses=documented(404, 413, 422))
def whole_outage(desk: AtDesk, plan_id: PlanId, asked: WholeAsked) -> WholePlay:
    """A whole outage, hurried up to where someone has to decide next."""
    return desk.work(plan_id, _whole, desk.store.get(plan_id).document, asked)


def _whole(document: str, asked: WholeAsked) -> WholePlay:
    return play_whole(plan_of(document), WholeDrill(seed=asked.seed, chosen=tuple(asked.chosen)))


@router.post("/outage/talk", responses=documented(404, 413, 422, 507))
def whole_outage_talk(desk: AtDesk, plan_id: PlanId, asked: WholeAsked) -> AfterTalk:
    """What a whole outage came to, and what each choice was worth; it is written down."""
    document = desk.store.get(plan_id).document
    talk = desk.work(plan_id, _talk, document, asked)
    today = now_at(desk.work(plan_id, _zone, document)).date()
    row = Practised(
        exercise=f"whole-outage/{asked.seed}", on=today, passed=talk.passed, hints=0, person=asked.person,
        wrong="" if talk.passed else talk.sentence[:300],
    )  # fmt: skip
    desk.drills.add(plan_id, row)
    return talk


def _talk(document: str, asked: WholeAsked) -> AfterTalk:
    return after_talk(plan_of(document), WholeDrill(seed=asked.seed, chosen=tuple(asked.chosen)))


def _zone(document: str) -> str:
    return plan_of(document).site.time_zone


@router.get("/question", responses=documented(404, 422))
def one_question(
    desk: AtDesk,
    plan_id: PlanId,
    kind: Annotated[str, Query(max_length=60, examples=["amps"])],
    seed: Annotated[int, Query(ge=0, le=1_000_000_000)] = 1,
) -> Asked:
    """A question from the plan’s own figures."""
    return desk.work(plan_id, _asked, desk.store.get(plan_id).document, kind, seed)


def _asked(document: str, kind: str, seed: int) -> Asked:
    found = opened(document)
    made = question(found.plan, found.run, kind, seed)
    return Asked(
        kind=kind, title=made.title, ask=made.ask, unit=made.unit, choices=list(made.choices),
        level=made.level, seed=seed,
    )  # fmt: skip


@router.post("/answer", responses=documented(404, 413, 422))
def answer(desk: AtDesk, plan_id: PlanId, given: AnswerGiven) -> Answered:
    """An answer judged, with the working, and the slip where it is one that is known."""
    return desk.work(plan_id, _answered, desk.store.get(plan_id).document, given)


def _answered(document: str, given: AnswerGiven) -> Answered:
    found = opened(document)
    return judge_answer(question(found.plan, found.run, given.kind, given.seed), given.value)


@router.get("/card.pdf", response_class=Response, responses=a_file("application/pdf"))
def card(desk: AtDesk, plan_id: PlanId) -> Response:
    """One’s weakest points on a card."""
    return printed(desk, plan_id, f"{plan_id}-drill.pdf", _card, desk.drills.rows(plan_id))


def _card(document: str, edition: Edition, rows: list[Practised]) -> bytes:
    found = drill_of(document)
    today = now_at(found.plan.site.time_zone).date()
    return drill_card(found.plan, readiness(found.listing.exercises, rows, today), edition)

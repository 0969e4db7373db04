"""A whole outage hurried: it stops where someone has to decide, and each choice is weighed afterwards."""

from weary_cedar.core.drill.whole.options import Option, options_at
from weary_cedar.core.drill.whole.played import (
    CAUTION,
    AfterTalk,
    Chosen,
    Outcome,
    Stop,
    WholeDrill,
    WholePlay,
    after_talk,
    play_whole,
    read_whole_steps,
    why_no_outage,
)
from weary_cedar.core.drill.whole.stops import MOST as MOST_STOPS

__all__ = [
    "CAUTION",
    "MOST_STOPS",
    "AfterTalk",
    "Chosen",
    "Option",
    "Outcome",
    "Stop",
    "WholeDrill",
    "WholePlay",
    "after_talk",
    "options_at",
    "play_whole",
    "read_whole_steps",
    "why_no_outage",
]

"""What a row of the table of breakers says. What it does not say stays as it is."""

from dataclasses import dataclass, field
from datetime import date
from enum import Enum
from typing import Any

from weary_cedar.core.plan.base import Origin


class Unsaid(Enum):
    """What stands for a figure that a row says nothing of, where nothing is itself something to say."""

    UNSAID = "unsaid"


UNSAID = Unsaid.UNSAID


@dataclass(frozen=True)
class SaidLoad:
    """A load on a breaker by its name, with what a row says of it.

    `watts` is what it draws while it runs, `wh_day` what it uses in a day, `amps` what a clamp or its plate
    shows, at `volts` or those of its breaker; `start_va` its start (nothing: none is known).
    """

    name: str
    watts: float | None = None
    wh_day: float | None = None
    amps: float | None = None
    volts: float | None = None
    start_va: float | Unsaid | None = UNSAID
    origin: Origin | None = None
    read_on: date | Unsaid | None = UNSAID

    @property
    def has_draw(self) -> bool:
        """Whether anything is said of what it draws."""
        return not (self.watts is None and self.wh_day is None and self.amps is None)


@dataclass(frozen=True)
class BreakerRow:
    """One breaker: `number` is its row, `panel` the words for its panel (empty: the one at hand).

    `given` are fields of the circuit, `partner` how the circuit is named that shares its neutral (empty:
    none; nothing: as it is), `feeds` the name of the panel that it feeds, `loads` what hangs on it (nothing:
    as it is).
    """

    number: int
    spaces: tuple[int, ...]
    half: str | None
    label: str
    circuit_id: str | None = None
    panel: str = ""
    given: dict[str, Any] = field(default_factory=dict)
    partner: str | None = None
    feeds: str | None = None
    loads: tuple[SaidLoad, ...] | None = None


def told_spaces(spaces: tuple[int, ...], half: str | None) -> str:
    """Spaces as they are written at a panel.

    >>> told_spaces((5, 7), None), told_spaces((9,), "lower")
    ('5 7', '9b')
    """
    return " ".join(map(str, spaces)) + {"upper": "a", "lower": "b", None: ""}[half]

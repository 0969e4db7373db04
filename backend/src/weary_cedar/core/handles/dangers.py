"""What came of looking at every arrangement of handles: what can meet that must not, and the way there."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, computed_field

#: As the state machine of the panel has it.
Code = Literal["back_feed", "two_sources", "live_blades", "no_bond", "device_between", "charging_circle"]


class Told(BaseModel):
    """A frozen part of what was found."""

    model_config = ConfigDict(frozen=True)


class HandleMove(Told):
    """A handle that goes somewhere, by its path and in words."""

    what: str
    to: str
    name: str


class Danger(Told):
    """What an arrangement lets meet, with the leads in it and the shortest way there."""

    code: Code
    why: str
    leads: tuple[str, ...]
    acts: tuple[HandleMove, ...] | None = Field(
        description="nothing to do where it is so already; null where no order was found that hands follow"
    )

    @computed_field  # type: ignore[prop-decorator]
    @property
    def words(self) -> str:
        """The way in words: "feed breaker of the inlet on, main of Main panel on: 2 acts"."""
        if self.acts is None:
            return "there, in no order that a hand is meant to follow"
        told = ", ".join(f"{act.name} {act.to}" for act in self.acts)
        return f"{told}: {_many(len(self.acts), 'act')}" if told else "as it stands"


class Looked(Told):
    """What came of looking at all arrangements."""

    handles: int
    looked_at: int
    dangers: tuple[Danger, ...]
    trusts: tuple[str, ...] = Field(description="devices that it relies on, by name")
    left_out: str = Field(description="what was not looked at, in words; empty where all was")
    bonds_known: bool = Field(description="whether it is known of every feed where its neutral is bonded")

    @computed_field  # type: ignore[prop-decorator]
    @property
    def sound(self) -> bool:
        """Whether all was looked at and nothing meets."""
        return not self.dangers and not self.left_out

    @computed_field  # type: ignore[prop-decorator]
    @property
    def words(self) -> str:
        """The answer in one sentence."""
        looked = f"{self.handles} handles, {_many(self.looked_at, 'arrangement')} looked at"
        if self.dangers:
            return f"{looked}: what must never be can be, in {_many(len(self.dangers), 'way')}"
        if self.left_out:
            return f"Not all of it could be looked at ({looked}): {self.left_out}"
        bonds = " a source feed without a bond or trip by a second one," * self.bonds_known
        sound = (
            f"No arrangement of {self.handles} handles ({self.looked_at:,} looked at) lets two sources meet, "
            f"a source meet the utility, blades be live,{bonds} or stations charge in a circle"
        )
        return f"{sound}. It trusts {', '.join(self.trusts)}: listed and whole" if self.trusts else sound


def _many(count: int, noun: str) -> str:
    return f"{count:,} {noun}{'s' * (count != 1)}"

"""How long a station carries more than its rating, and when it turns itself off."""

from typing import Annotated

from pydantic import Field

from weary_cedar.core.plan.base import Bounds, Noun, Watts


class CurvePoint(Noun):
    """An overload multiple of rating and how long it is carried; no seconds means for ever."""

    multiple: Annotated[float, Field(ge=1, le=20)]
    seconds: Annotated[float, Bounds(0.01, 86_400, "nothing trips faster than 10 ms")] | None = None


class IdleCutout(Noun):
    """The station turns its output off when little has been drawn for long."""

    threshold_w: Watts = 10.0
    after_s: Annotated[float, Field(ge=60, le=7 * 86_400)] = 7_200.0


#: Default overload behaviour of a station, multiple of rating and seconds. From memory, an estimate
#: for the class; replace by the maker's curve or by what was measured.
DEFAULT_CURVE = (
    CurvePoint(multiple=1.05),
    CurvePoint(multiple=1.10, seconds=600.0),
    CurvePoint(multiple=1.15, seconds=180.0),
    CurvePoint(multiple=1.28, seconds=10.0),
    CurvePoint(multiple=1.5, seconds=1.0),
    CurvePoint(multiple=2.0, seconds=0.2),
)

"""Where the house stands and what kind of supply it has."""

from datetime import datetime, time, timedelta
from functools import cache
from typing import Annotated, Literal
from zoneinfo import ZoneInfo, available_timezones

from pydantic import AfterValidator, Field

from weary_cedar.core.plan.base import Celsius, Id, Name, Noun, Remark, Survey

System = Literal["split_phase_120_240", "single_phase_230"]


@cache
def _zones() -> frozenset[str]:
    """Names of time zones; the system's folders are looked through once."""
    return frozenset(available_timezones())


def _known_zone(value: str) -> str:
    if value not in _zones():
        raise ValueError("should be an IANA time zone, for example America/Los_Angeles")
    return value


#: Litres of a US gallon, metres of a foot: exact by definition (NIST SP 811, appendix B).
L_PER_GAL, M_PER_FT = 3.785411784, 0.3048
#: A fluid ounce is one of 128 of a gallon; under this a volume is told in ounces or millilitres, L.
L_PER_OZ, LITTLE_L = L_PER_GAL / 128, 0.5
#: The hour at which the half day ends.
NOON = 12


class Units(Noun):
    """How figures are shown and typed; what is stored is always SI."""

    temperature: Literal["c", "f"] = "f"
    length: Literal["m", "ft"] = "ft"
    volume: Literal["l", "gal"] = "gal"
    wire: Literal["awg", "mm2"] = "awg"
    clock: Literal["24", "12"] = "24"

    def told_time(self, at: datetime | time) -> str:
        """A time of day: “03:10”, or “3:10 am”."""
        if self.clock == "24":
            return f"{at:%H:%M}"
        return f"{at.hour % 12 or 12}:{at:%M} {'am' if at.hour < NOON else 'pm'}"

    def told_warmth(self, celsius: float) -> str:
        """A temperature: “14 °F”, or “-10 °C”."""
        return f"{celsius * 9 / 5 + 32:.0f} °F" if self.temperature == "f" else f"{round(celsius, 1):g} °C"

    def told_volume(self, litres: float) -> str:
        """A volume: “1.3 gal”, or “5.0 L”."""
        return f"{litres / L_PER_GAL:.1f} gal" if self.volume == "gal" else f"{litres:.1f} L"

    def told_little(self, litres: float) -> str:
        """A small volume: “2.5 fl oz”, or “75 mL”; as `told_volume` where it is none."""
        if litres >= LITTLE_L:
            return self.told_volume(litres)
        return f"{litres / L_PER_OZ:.1f} fl oz" if self.volume == "gal" else f"{1000 * litres:.0f} mL"

    def told_length(self, length_m: float | None) -> str:
        """A length: “50 ft”, or “15.2 m”; or that it is not known."""
        if length_m is None:
            return "length not known"
        return f"{length_m / M_PER_FT:.0f} ft" if self.length == "ft" else f"{length_m:g} m"

    def told_moment(self, at: datetime) -> str:
        """A moment as people say it: “Wed 14 Oct 03:10”."""
        return f"{at:%a} {at.day} {at:%b} {self.told_time(at)}"


class Site(Noun):
    """The house: place, time zone and supply system."""

    name: Name
    latitude: Annotated[float, Field(ge=-90, le=90)] = 45.0
    longitude: Annotated[float, Field(ge=-180, le=180)] = 0.0
    time_zone: Annotated[str, AfterValidator(_known_zone)] = "UTC"
    system: System = "split_phase_120_240"
    earthing: Literal["tn_c_s", "tn_s", "tt", "unknown"] = Field(
        default="unknown", description="of a 230 V house"
    )
    design_low_c: Celsius | None = Field(default=None, description="coldest that modules may see")
    pipes_c: Celsius = Field(
        default=12.8, description="indoors colder than this, water pipes may freeze in outer walls"
    )
    code: Literal["us_2020", "us_2023", "us_2026", "uk_18", "other", "unknown"] = Field(
        default="unknown", description="country and edition of the code that the house goes by"
    )
    code_note: Remark = ""
    amendments: Annotated[dict[Id, Remark], Field(max_length=200)] = Field(
        default_factory=dict, description="local amendments, by the check that they speak of"
    )
    survey: Survey = Field(default_factory=dict)
    units: Units = Units()

    @property
    def leg_volts(self) -> float:
        """Nominal volts from a leg to neutral."""
        return 120.0 if self.system == "split_phase_120_240" else 230.0

    @property
    def code_that_counts(self) -> str:
        """The code that clauses are told by: as said, else the edition of the catalogue for its supply."""
        usual = "us_2023" if self.split_phase else "uk_18"
        return usual if self.code == "unknown" else self.code

    @property
    def split_phase(self) -> bool:
        """Whether the house has two legs."""
        return self.system == "split_phase_120_240"

    def instant(self, start_local: datetime, offset_s: float) -> datetime:
        """Local wall-clock time `offset_s` seconds after a local start; follows daylight saving."""
        zone = ZoneInfo(self.time_zone)
        utc = start_local.replace(tzinfo=zone).astimezone(ZoneInfo("UTC")) + timedelta(seconds=offset_s)
        return utc.astimezone(zone)

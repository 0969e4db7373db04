"""The nouns of a plan: one document that is file format, API body and input to the run."""

from weary_cedar.core.plan.base import Answer, Survey
from weary_cedar.core.plan.battery import Bank, ExternalBattery, Pack, Taper
from weary_cedar.core.plan.circuit import Circuit, Mark
from weary_cedar.core.plan.document import SCHEMA_ID, CheckAnswer, Plan
from weary_cedar.core.plan.feed import (
    BACKFED_KINDS,
    BREAKER_KINDS,
    PANEL_KINDS,
    TERMINAL_KINDS,
    WIRED_KINDS,
    Adapter,
    BoxPart,
    Cord,
    Feed,
    FixedWire,
    Inlet,
)
from weary_cedar.core.plan.generator import Fuel, Generator, QuietHours, SecondFuel
from weary_cedar.core.plan.hookup import Hookup
from weary_cedar.core.plan.lead import Lead, Outlet, ToFeed, ToInput, ToLoads
from weary_cedar.core.plan.link import Link
from weary_cedar.core.plan.load import (
    Behaviour,
    Compartment,
    Cycling,
    Defrost,
    Job,
    JobStep,
    Load,
    Measured,
    Refrigerating,
    Role,
    SequenceStep,
    Setback,
    Start,
    Steady,
    Thermostatic,
)
from weary_cedar.core.plan.outage import (
    Act,
    AwayWindow,
    GridWindow,
    HourlySun,
    Incident,
    Occupancy,
    Outage,
    Sky,
    Weather,
)
from weary_cedar.core.plan.overload_curve import CurvePoint, IdleCutout
from weary_cedar.core.plan.panel import Panel, leg_of_space
from weary_cedar.core.plan.place import Place
from weary_cedar.core.plan.reading import plan_schema, read_part, read_plan
from weary_cedar.core.plan.receptacle import Receptacle
from weary_cedar.core.plan.recharge import Recharge
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.solar import Facing, Module, SeenSun, Shade, SolarArray
from weary_cedar.core.plan.station import Station
from weary_cedar.core.plan.station_inputs import AcInput, DcInput, DcOutput
from weary_cedar.core.plan.strategy import (
    AnyRule,
    EngineHours,
    EngineRule,
    PlugRule,
    ShedRule,
    Strategy,
    SurplusRule,
    TogetherRule,
)
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION, upgraded
from weary_cedar.core.plan.vehicle import Vehicle

__all__ = [
    "BACKFED_KINDS",
    "BREAKER_KINDS",
    "PANEL_KINDS",
    "SCHEMA_ID",
    "SCHEMA_VERSION",
    "TERMINAL_KINDS",
    "WIRED_KINDS",
    "AcInput",
    "Act",
    "Adapter",
    "Answer",
    "AnyRule",
    "AwayWindow",
    "Bank",
    "Behaviour",
    "BoxPart",
    "CheckAnswer",
    "Circuit",
    "Compartment",
    "Cord",
    "CurvePoint",
    "Cycling",
    "DcInput",
    "DcOutput",
    "Defrost",
    "EngineHours",
    "EngineRule",
    "ExternalBattery",
    "Facing",
    "Feed",
    "FixedWire",
    "Fuel",
    "Generator",
    "GridWindow",
    "Hookup",
    "HourlySun",
    "IdleCutout",
    "Incident",
    "Inlet",
    "Job",
    "JobStep",
    "Lead",
    "Link",
    "Load",
    "Mark",
    "Measured",
    "Module",
    "Occupancy",
    "Outage",
    "Outlet",
    "Pack",
    "Panel",
    "Place",
    "Plan",
    "PlugRule",
    "QuietHours",
    "Receptacle",
    "Recharge",
    "Refrigerating",
    "Role",
    "SecondFuel",
    "SeenSun",
    "SequenceStep",
    "Setback",
    "Shade",
    "ShedRule",
    "Site",
    "Sky",
    "SolarArray",
    "Start",
    "Station",
    "Steady",
    "Strategy",
    "SurplusRule",
    "Survey",
    "Taper",
    "Thermostatic",
    "ToFeed",
    "ToInput",
    "ToLoads",
    "TogetherRule",
    "Vehicle",
    "Weather",
    "leg_of_space",
    "plan_schema",
    "read_part",
    "read_plan",
    "upgraded",
]

"""The nouns of a plan: one document that is file format, API body and input to the run."""

from weary_cedar.core.plan.base import Answer, Noun, Owned, Survey
from weary_cedar.core.plan.battery import Bank, ExternalBattery, Pack, Taper
from weary_cedar.core.plan.circuit import Circuit, Mark
from weary_cedar.core.plan.document import SCHEMA_ID, CheckAnswer, Plan
from weary_cedar.core.plan.feed import (
    Adapter,
    BoxPart,
    Cord,
    Feed,
    FixedWire,
    Inlet,
)
from weary_cedar.core.plan.feed_kind import TRAITS, Kind, kinds_that
from weary_cedar.core.plan.generator import Fuel, Generator, QuietHours, SecondFuel
from weary_cedar.core.plan.hang import Hang, hangs_of, plug_of
from weary_cedar.core.plan.hookup import Hookup
from weary_cedar.core.plan.lead import Lead, Outlet, ToFeed, ToInput, ToLoads
from weary_cedar.core.plan.link import Link
from weary_cedar.core.plan.load import (
    Behaviour,
    Compartment,
    Cycling,
    Defrost,
    Hours,
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
from weary_cedar.core.plan.need_class import need_class
from weary_cedar.core.plan.order import in_order
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
from weary_cedar.core.plan.rule_words import rule_words
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.solar import Facing, Module, SeenSun, Shade, SolarArray
from weary_cedar.core.plan.station import Station
from weary_cedar.core.plan.station_inputs import AcInput, DcInput, DcOutput
from weary_cedar.core.plan.strategy import (
    AnyRule,
    EngineRule,
    HandCycleRule,
    OrderRule,
    PlugRule,
    RechargeSource,
    ReserveRule,
    ShedRule,
    StartRule,
    Strategy,
    SurplusRule,
    SwapRule,
    TogetherRule,
    TurnRule,
    UtilityRule,
    WhileRule,
)
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION, upgraded
from weary_cedar.core.plan.vehicle import VEHICLE_OUTLET, Vehicle

__all__ = [
    "SCHEMA_ID",
    "SCHEMA_VERSION",
    "TRAITS",
    "VEHICLE_OUTLET",
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
    "EngineRule",
    "ExternalBattery",
    "Facing",
    "Feed",
    "FixedWire",
    "Fuel",
    "Generator",
    "GridWindow",
    "HandCycleRule",
    "Hang",
    "Hookup",
    "HourlySun",
    "Hours",
    "IdleCutout",
    "Incident",
    "Inlet",
    "Job",
    "JobStep",
    "Kind",
    "Lead",
    "Link",
    "Load",
    "Mark",
    "Measured",
    "Module",
    "Noun",
    "Occupancy",
    "OrderRule",
    "Outage",
    "Outlet",
    "Owned",
    "Pack",
    "Panel",
    "Place",
    "Plan",
    "PlugRule",
    "QuietHours",
    "Receptacle",
    "Recharge",
    "RechargeSource",
    "Refrigerating",
    "ReserveRule",
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
    "StartRule",
    "Station",
    "Steady",
    "Strategy",
    "SurplusRule",
    "Survey",
    "SwapRule",
    "Taper",
    "Thermostatic",
    "ToFeed",
    "ToInput",
    "ToLoads",
    "TogetherRule",
    "TurnRule",
    "UtilityRule",
    "Vehicle",
    "Weather",
    "WhileRule",
    "hangs_of",
    "in_order",
    "kinds_that",
    "leg_of_space",
    "need_class",
    "plan_schema",
    "plug_of",
    "read_part",
    "read_plan",
    "rule_words",
    "upgraded",
]

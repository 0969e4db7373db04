"""The nouns of a plan: one document that is file format, API body and input to the run."""

from weary_cedar.core.plan.base import Answer, Survey
from weary_cedar.core.plan.circuit import Circuit, Mark
from weary_cedar.core.plan.document import SCHEMA_ID, CheckAnswer, Plan
from weary_cedar.core.plan.feed import PANEL_KINDS, WIRED_KINDS, Adapter, Cord, Feed
from weary_cedar.core.plan.generator import Generator
from weary_cedar.core.plan.link import Link
from weary_cedar.core.plan.load import (
    Cycling,
    Defrost,
    Job,
    JobStep,
    Load,
    Measured,
    SequenceStep,
    Setback,
    Start,
    Steady,
    Thermostatic,
)
from weary_cedar.core.plan.outage import AwayWindow, Incident, Occupancy, Outage, Weather
from weary_cedar.core.plan.panel import Panel, leg_of_space
from weary_cedar.core.plan.place import Place
from weary_cedar.core.plan.reading import plan_schema, read_part, read_plan
from weary_cedar.core.plan.receptacle import Receptacle
from weary_cedar.core.plan.recharge import Recharge
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.solar import Module, SolarArray
from weary_cedar.core.plan.station import AcInput, Bank, CurvePoint, DcInput, IdleCutout, Pack, Station
from weary_cedar.core.plan.strategy import Strategy
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION
from weary_cedar.core.plan.vehicle import Vehicle

__all__ = [
    "PANEL_KINDS",
    "SCHEMA_ID",
    "SCHEMA_VERSION",
    "WIRED_KINDS",
    "AcInput",
    "Adapter",
    "Answer",
    "AwayWindow",
    "Bank",
    "CheckAnswer",
    "Circuit",
    "Cord",
    "CurvePoint",
    "Cycling",
    "DcInput",
    "Defrost",
    "Feed",
    "Generator",
    "IdleCutout",
    "Incident",
    "Job",
    "JobStep",
    "Link",
    "Load",
    "Mark",
    "Measured",
    "Module",
    "Occupancy",
    "Outage",
    "Pack",
    "Panel",
    "Place",
    "Plan",
    "Receptacle",
    "Recharge",
    "SequenceStep",
    "Setback",
    "Site",
    "SolarArray",
    "Start",
    "Station",
    "Steady",
    "Strategy",
    "Survey",
    "Thermostatic",
    "Vehicle",
    "Weather",
    "leg_of_space",
    "plan_schema",
    "read_part",
    "read_plan",
]

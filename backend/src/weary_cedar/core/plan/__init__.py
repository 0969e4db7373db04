"""The nouns of a plan: one document that is file format, API body and input to the run."""

from weary_cedar.core.plan.circuit import Circuit, Mark
from weary_cedar.core.plan.document import SCHEMA_ID, Plan
from weary_cedar.core.plan.feed import Cord, Feed
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
from weary_cedar.core.plan.reading import plan_schema, read_part, read_plan
from weary_cedar.core.plan.site import Site
from weary_cedar.core.plan.station import CurvePoint, IdleCutout, Pack, Receptacle, Station
from weary_cedar.core.plan.strategy import Strategy
from weary_cedar.core.plan.upgrade import SCHEMA_VERSION

__all__ = [
    "SCHEMA_ID",
    "SCHEMA_VERSION",
    "AwayWindow",
    "Circuit",
    "Cord",
    "CurvePoint",
    "Cycling",
    "Defrost",
    "Feed",
    "IdleCutout",
    "Incident",
    "Job",
    "JobStep",
    "Link",
    "Load",
    "Mark",
    "Measured",
    "Occupancy",
    "Outage",
    "Pack",
    "Panel",
    "Plan",
    "Receptacle",
    "SequenceStep",
    "Setback",
    "Site",
    "Start",
    "Station",
    "Steady",
    "Strategy",
    "Thermostatic",
    "Weather",
    "leg_of_space",
    "plan_schema",
    "read_part",
    "read_plan",
]

"""How loads behave over time: each is a small machine that the run asks for its next change."""

from weary_cedar.core.demand.behaviour import Behaviour, SteadyDemand
from weary_cedar.core.demand.cycling import CyclingDemand
from weary_cedar.core.demand.job import JobDemand
from weary_cedar.core.demand.refrigerating import RefrigeratingDemand
from weary_cedar.core.demand.replay import ReplayDemand
from weary_cedar.core.demand.thermostatic import ThermostaticDemand
from weary_cedar.core.demand.timed import TimedDemand

__all__ = [
    "Behaviour",
    "CyclingDemand",
    "JobDemand",
    "RefrigeratingDemand",
    "ReplayDemand",
    "SteadyDemand",
    "ThermostaticDemand",
    "TimedDemand",
]

"""Where a load hangs in the outage: on a breaker of the house, or by its own plug on a lead."""

from collections.abc import Mapping
from dataclasses import dataclass

from weary_cedar.core.plan.circuit import Mark
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.lead import ToLoads
from weary_cedar.core.plan.load import Load

#: From this on a plate means that an appliance hangs across both legs, V.
ACROSS_V = 200.0
#: Place in the order of shedding of what says none.
USUAL_ORDER = 50


@dataclass(frozen=True)
class Hang:
    """One load's place: `branch` is what is switched as one, a circuit or the plug itself."""

    load_id: str
    #: Breaker that it hangs on in the outage; none where it hangs on a lead, or on nothing.
    circuit_id: str | None
    #: Lead that its own plug is in; none where it hangs on a breaker, or on nothing.
    lead_id: str | None
    mark: Mark
    order: int
    #: Legs at home, or of its plug: one, or two where it is across both.
    poles: int

    @property
    def branch(self) -> str:
        """What is switched as one: its circuit, or its own plug."""
        return self.circuit_id if self.circuit_id is not None else plug_of(self.load_id)


def plug_of(load_id: str) -> str:
    """The branch of a load that hangs by its own plug; no circuit can have such an id."""
    return f"plug:{load_id}"


def hangs_of(plan: Plan) -> Mapping[str, Hang]:
    """Where every load hangs, by its id. What hangs on a lead by itself hangs nowhere else."""
    plugged = {
        load_id: lead_id
        for lead_id, lead in plan.leads.items()
        if isinstance(lead.to, ToLoads)
        for load_id in lead.to.load_ids
    }
    return {key: _hang(plan, key, load, plugged.get(key)) for key, load in plan.loads.items()}


def _hang(plan: Plan, key: str, load: Load, lead_id: str | None) -> Hang:
    if lead_id is None and load.circuit_id is not None:
        circuit = plan.circuits[load.circuit_id]
        return Hang(key, load.circuit_id, None, circuit.mark, circuit.order, circuit.poles)
    across = plan.site.split_phase and (load.plate_volts or 0.0) >= ACROSS_V
    order = USUAL_ORDER if load.order is None else load.order
    return Hang(key, None, lead_id, load.mark or "keep", order, 2 if across else 1)

"""A breaker that a panel already has, taken for the one that an inlet feeds."""

from weary_cedar.core.errors import NotFound, Problem
from weary_cedar.core.plan import Feed, Plan
from weary_cedar.core.tables import table

#: What is wanted of a configuration, by poles and by whether the house has two legs: its volts.
VOLTS = {(2, True): "120/240", (1, True): "120", (1, False): "230", (2, False): "230"}
#: Locking configurations come first: an inlet is out of doors, and its cord must not fall out.
LOCKING = ("L", "CS", "60309")


def feed_of_breaker(plan: Plan, circuit_id: str) -> Feed:
    """A feed with its breaker where a circuit's is now, and the usual inlet of its rating.

    Args:
        plan: the plan.
        circuit_id: the circuit.

    Returns:
        A feed by an interlocked inlet; the inlet's configuration is to be read off the inlet.

    Raises:
        NotFound: no such circuit.

    Source: an inlet has the rating of the breaker that it feeds: common practice.
    """
    if circuit_id not in plan.circuits:
        problem = Problem("/circuit_id", circuit_id[:40], "a circuit of this plan")
        raise NotFound(str(problem), (problem,))
    circuit = plan.circuits[circuit_id]
    kind, amps = usual_inlet(circuit.poles, circuit.rated_a, split_phase=plan.site.split_phase)
    return Feed(
        name=circuit.label,
        kind="interlock_inlet",
        inlet=kind,
        inlet_a=amps,
        panel_id=circuit.panel_id,
        breaker_a=circuit.rated_a,
        breaker_spaces=circuit.spaces,
    )


#: Configurations of which there are outlets, but hardly an inlet. Common practice.
NO_INLETS = ("14-60", "AS 3112 10", "AS 3112 15")


def usual_inlet(poles: int, breaker_a: float, *, split_phase: bool) -> tuple[str, float]:
    """The usual inlet behind a breaker.

    Args:
        poles: of the breaker.
        breaker_a: its rating, A.
        split_phase: whether the house has two legs.

    Returns:
        Its configuration and rating, A: the smallest that is not under the breaker, else the largest
        that there is; one that locks where there is one.

    >>> usual_inlet(2, 30.0, split_phase=True), usual_inlet(2, 50.0, split_phase=True)
    (('L14-30', 30.0), ('CS50', 50.0))
    """
    rows = [row for row in table("receptacles") if row["volts"] == VOLTS[poles, split_phase]]
    grounded = [row for row in rows if row["ground"] == "yes" and row["kind"] not in NO_INLETS]
    enough = [row for row in grounded if float(row["rating_a"]) >= breaker_a]
    wanted = min(float(row["rating_a"]) for row in enough) if enough else max(_ratings(grounded))
    fitting = [row for row in grounded if float(row["rating_a"]) == wanted]
    best = min(fitting, key=lambda row: not row["kind"].startswith(LOCKING))
    return best["kind"], wanted


def _ratings(rows: list[dict[str, str]]) -> list[float]:
    return [float(row["rating_a"]) for row in rows]

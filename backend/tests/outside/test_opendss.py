"""Leg and neutral currents, three-wire drop and open neutral against OpenDSS (OpenDSSDirect.py).

The feed is a centre-tapped source: two 120 V sources against a common point, nodes 1 and 2 for the
legs, node 3 for the neutral, with explicit conductors for both hots and the neutral.
"""

import math
from typing import Any

import pytest
from opendssdirect import dss

from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.split_phase import PhaseLoad, leg_currents, open_neutral_volts, phase_load
from weary_cedar.core.electrical.voltage_drop import three_wire_volts

SMALL = 1e-6


def solve(
    loads: list[tuple[str, PhaseLoad]],
    ohms: float = SMALL,
    neutral_ohms: float | None = None,
    *,
    bridged: bool = False,
) -> tuple[dict[str, float], dict[str, complex]]:
    """Solve the feed; loads are ("a" | "b" | "ab", power) as impedances at nominal volts.

    Returns conductor amps and node voltages at the far end.
    """
    angle_b = 0 if bridged else 180
    ideal = f"basekv=0.12 pu=1 phases=1 Z1=[{SMALL} 0] Z0=[{SMALL} 0]"
    text = [
        "clear",
        "set defaultbasefrequency=60",
        f"new circuit.feed bus1=source.1.0 angle=0 {ideal}",
        f"new vsource.b bus1=source.2.0 angle={angle_b} {ideal}",
    ]
    for name, a, b, r in (
        ("hot_a", "source.1", "panel.1", ohms),
        ("hot_b", "source.2", "panel.2", ohms),
        ("neutral", "panel.3", "source.0", ohms if neutral_ohms is None else neutral_ohms),
    ):
        text.append(f"new reactor.{name} bus1={a} bus2={b} phases=1 R={r} X=0")
    for index, (where, power) in enumerate(loads):
        between, kv = {"a": ("1.3", 0.12), "b": ("2.3", 0.12), "ab": ("1.2", 0.24)}[where]
        text.append(
            f"new load.l{index} bus1=panel.{between} phases=1 kv={kv} kw={power.watts / 1000} "
            f"kvar={power.vars / 1000} model=2 vminpu=0.01 vmaxpu=3"
        )
    text += [
        "set voltagebases=[0.208 0.416]",
        "calcvoltagebases",
        "set tolerance=1e-9 maxiterations=200",
        "solve",
    ]
    for line in text:
        dss.Text.Command(line)
    assert dss.Solution.Converged()
    amps = {}
    for name in ("hot_a", "hot_b", "neutral"):
        dss.Circuit.SetActiveElement(f"reactor.{name}")
        amps[name] = dss.CktElement.CurrentsMagAng()[0]
    dss.Circuit.SetActiveBus("panel")
    raw: list[Any] = list(dss.Bus.Voltages())
    nodes = {str(n): complex(raw[2 * i], raw[2 * i + 1]) for i, n in enumerate(dss.Bus.Nodes())}
    return amps, nodes


@pytest.mark.parametrize(
    ("a", "b", "across"),
    [
        (PhaseLoad(1000), PhaseLoad(300), PhaseLoad(2000)),
        (phase_load(1200, 0.6), phase_load(1200), PhaseLoad(0.001)),
        (phase_load(1200, 0.6), phase_load(2000), PhaseLoad(0.001)),
        (phase_load(2950, 0.95), phase_load(114, 0.8), phase_load(5764, 0.7)),
    ],
)
def test_leg_and_neutral_currents(a: PhaseLoad, b: PhaseLoad, across: PhaseLoad) -> None:
    amps, _ = solve([("a", a), ("b", b), ("ab", across)])
    ours = leg_currents(a, b, across)
    assert (ours.a, ours.b, ours.neutral) == pytest.approx(
        (amps["hot_a"], amps["hot_b"], amps["neutral"]), rel=1e-4
    )


def test_bridged_legs_add_in_the_neutral() -> None:
    a, b = PhaseLoad(1000), phase_load(300, 0.7)
    amps, _ = solve([("a", a), ("b", b)], bridged=True)
    ours = leg_currents(a, b, PhaseLoad(2000), bridged=True)
    assert (ours.a, ours.b, ours.neutral) == pytest.approx(
        (amps["hot_a"], amps["hot_b"], amps["neutral"]), rel=1e-4
    )


def test_three_wire_drop() -> None:
    """Fed with the currents that OpenDSS finds, our far-end voltages are its voltages."""
    ohms = 50 * 0.3048 * ohms_per_m(10, stranded=False)
    amps, nodes = solve([("a", PhaseLoad(2400)), ("b", PhaseLoad(240))], ohms)
    far = (abs(nodes["1"] - nodes["3"]), abs(nodes["2"] - nodes["3"]))
    assert three_wire_volts(120, amps["hot_a"], amps["hot_b"], ohms, ohms) == pytest.approx(far, rel=2e-5)
    assert far[1] > 120


@pytest.mark.parametrize(("watts_a", "watts_b"), [(1000, 300), (60, 1500), (800, 800)])
def test_open_neutral(watts_a: float, watts_b: float) -> None:
    _, nodes = solve([("a", PhaseLoad(watts_a)), ("b", PhaseLoad(watts_b))], neutral_ohms=1e7)
    ours = open_neutral_volts(120**2 / watts_a, 120**2 / watts_b)
    assert ours == pytest.approx((abs(nodes["1"] - nodes["3"]), abs(nodes["2"] - nodes["3"])), rel=1e-3)
    assert math.fsum(ours) == pytest.approx(240, rel=1e-9)

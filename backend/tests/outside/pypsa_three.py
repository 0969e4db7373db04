"""Makes pypsa_three.json: charge of three stations at once, by PyPSA.

PyPSA is large, so its result is kept as a fixture. To make it again: install pypsa and highspy in an
environment of their own and run `python pypsa_three.py` (made with the version noted in the file).
Each station is a store on a DC bus with what it draws itself, and a link of fixed efficiency to an AC bus
with hourly loads. `near` takes the sun that fits, the earlier the better, and an engine in three hours;
`far` takes the engine too, and charges `last` from its AC side all the time.
"""

import json
from pathlib import Path

HOURS = 20
LOADS = {
    "near": [180, 420, 95, 0, 310, 640, 260, 75, 75, 200, 500, 330, 210, 120, 60, 480, 720, 1040, 300, 150],
    "far": [90, 90, 60, 60, 90, 400, 800, 250, 90, 90, 350, 350, 90, 90, 90, 600, 250, 250, 90, 90],
    "last": [40, 40, 40, 40, 40, 120, 300, 60, 40, 40, 260, 40, 40, 40, 40, 220, 400, 180, 60, 40],
}
CAPACITY_WH = {"near": 6_000.0, "far": 12_000.0, "last": 8_000.0}
START = {"near": 0.55, "far": 0.75, "last": 0.25}
IDLE_W = {"near": 48.0, "far": 30.0, "last": 12.0}
EFFICIENCY, CHARGE, SUN_IN = 0.91, 0.87, 0.94
SUN_W = [0, 0, 0, 0, 0, 0, 60, 310, 640, 930, 1180, 1240, 1150, 980, 700, 380, 120, 0, 0, 0]
ENGINE_HOURS, ENGINE_W, CHAIN_W = (5, 6, 7), {"near": 900.0, "far": 1_400.0}, 250.0


def main() -> None:
    import pypsa

    network = pypsa.Network()
    network.set_snapshots(range(HOURS))
    for key, capacity_wh in CAPACITY_WH.items():
        cells, house = f"{key} cells", f"{key} house"
        for bus in (cells, house):
            network.add("Bus", bus)
        network.add("Store", key, bus=cells, e_nom=capacity_wh, e_initial=capacity_wh * START[key])
        network.add("Load", f"{key} idle", bus=cells, p_set=IDLE_W[key])
        network.add("Load", f"{key} loads", bus=house, p_set=LOADS[key])
        network.add(
            "Link", key, bus0=cells, bus1=house, efficiency=EFFICIENCY, p_nom=10_000, marginal_cost=1e-6
        )
    network.add("Bus", "sky")
    share = [watts / max(SUN_W) for watts in SUN_W]
    worth = [-(2 - 0.01 * hour) for hour in range(HOURS)]
    network.add("Generator", "sun", bus="sky", p_nom=max(SUN_W), p_max_pu=share, marginal_cost=worth)
    network.add("Link", "array", bus0="sky", bus1="near cells", efficiency=SUN_IN, p_nom=10_000)
    network.add("Bus", "engine")
    network.add("Generator", "engine", bus="engine", p_nom=10_000)
    runs = [float(hour in ENGINE_HOURS) for hour in range(HOURS)]
    for key, watts in ENGINE_W.items():
        fixed = {"p_nom": watts, "p_min_pu": runs, "p_max_pu": runs}
        network.add(
            "Link", f"{key} by engine", bus0="engine", bus1=f"{key} cells", efficiency=CHARGE, **fixed
        )
    network.add(
        "Link", "chain", bus0="far house", bus1="last cells", efficiency=CHARGE, p_nom=CHAIN_W, p_min_pu=1.0
    )
    network.optimize(solver_name="highs")
    found = {
        "made_with": f"pypsa {pypsa.__version__}",
        "stored_wh": {key: network.stores_t.e[key].tolist() for key in CAPACITY_WH},
        "sun_wh": network.generators_t.p["sun"].tolist(),
        "engine_wh": network.generators_t.p["engine"].tolist(),
    }
    Path(__file__).with_suffix(".json").write_text(json.dumps(found, indent=1) + "\n")


if __name__ == "__main__":
    main()

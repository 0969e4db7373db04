"""Makes pypsa_charge.json: state of charge under a fixed dispatch, by PyPSA.

PyPSA is large, so its result is kept as a fixture. To make it again: install pypsa and highspy in an
environment of their own and run `python pypsa_charge.py` (made with the version noted in the file).
The station is a store on a DC bus with a constant idle load, and a link of fixed efficiency to an AC
bus with hourly loads.
"""

import json
from pathlib import Path

HOURS = [180, 420, 95, 0, 1310, 640, 260, 75, 75, 900, 1500, 330, 210, 120, 60, 480, 720, 1040, 300, 150]
CAPACITY_WH, START, EFFICIENCY, IDLE_W, SELF_W = 12_000.0, 0.9, 0.91, 48.0, 3.0


def main() -> None:
    import pypsa

    network = pypsa.Network()
    network.set_snapshots(range(len(HOURS)))
    network.add("Bus", "cells")
    network.add("Bus", "house")
    network.add("Store", "battery", bus="cells", e_nom=CAPACITY_WH, e_initial=CAPACITY_WH * START)
    network.add("Load", "idle", bus="cells", p_set=IDLE_W + SELF_W)
    network.add("Load", "loads", bus="house", p_set=HOURS)
    network.add(
        "Link", "inverter", bus0="cells", bus1="house", efficiency=EFFICIENCY, p_nom=10_000, marginal_cost=1
    )
    network.optimize(solver_name="highs")
    stored = network.stores_t.e["battery"].tolist()
    drawn = network.links_t.p0["inverter"].tolist()
    found = {
        "made_with": f"pypsa {pypsa.__version__}",
        "capacity_wh": CAPACITY_WH,
        "start": START,
        "efficiency": EFFICIENCY,
        "idle_w": IDLE_W,
        "self_w": SELF_W,
        "loads_w": HOURS,
        "stored_wh": stored,
        "inverter_in_w": drawn,
    }
    Path(__file__).with_suffix(".json").write_text(json.dumps(found, indent=1) + "\n")


if __name__ == "__main__":
    main()

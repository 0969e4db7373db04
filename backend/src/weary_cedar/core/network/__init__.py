"""Who reaches what: compiled from the plan once, asked by the run and by everyone else."""

from weary_cedar.core.network.ways import (
    ACROSS,
    LEG_A,
    LEG_B,
    Network,
    Way,
    network_of,
)

__all__ = ["ACROSS", "LEG_A", "LEG_B", "Network", "Way", "network_of"]

"""Quick sums: worked cases, and figures as people write them."""

import pytest

from weary_cedar.core.errors import InvalidInput, NotFound
from weary_cedar.core.sums import SUMS, work_out
from weary_cedar.formats.sum_figures import read_figures


@pytest.mark.parametrize(
    ("name", "figures", "label", "value"),
    [
        ("runtime", "energy=5120 load=64.6 idle=50 efficiency=100% cutoff=0", "lasts", 44.7),  # practice
        ("runtime", "energy=5.12kWh load=0.1 idle=50W cutoff=0", "lasts", 102),
        ("readings", "delivered=6500 first=80 second=84", "left to use", 5200),
        ("cord", "length=25ft awg=14 amps=2.5", "loop that a meter reads", 0.129),
        ("string", "voc=41.53 series=3 beta=-0.28 coldest=-40", "in the cold", 147.3),
        ("string", "voc=41.53 beta=-0.28 coldest=-20 limit=150", "most in series", 3),
        ("charging", "energy=10240 wall=1861.4 charger=88 from=0 to=100 knee=80 end=35", "takes", 7.0),
        ("dc", "load=3kW efficiency=100 idle=0 volts=24V", "cable and fuse at least", 156.25),
        ("motor", "hp=0.5 volts=115", "start at most", 6 * 9.8 * 115),
        (
            "discharge",
            "delivered=2886 load=64.6 idle=50 efficiency=100 to=0",
            "cells really give",
            5120,
        ),  # practice
        (
            "discharge",
            "delivered=6500 load=183 idle=50 efficiency=92 to=3",
            "cells really give",
            6500 * (183 / 0.92 + 50) / 183 / 0.97,
        ),
        ("vehicle", "tank=12gal per_l=1.761", "a tank gives", 80_000),  # 12 kWh per 1.8 US gal, practice
        ("vehicle", "tank=0 battery=8kWh load=500W", "carries the load for", 16),
        (
            "charging",
            "energy=6144 wall=1783 charger=84.7 from=0 to=100 taper=9000",
            "takes",
            4.07,
        ),  # practice
        (
            "generator",
            "daily=8000 charge=1500 charger=88 rated=1800 tank=4L",
            "a tank lasts, charging",
            4 / 0.93,
        ),
        (
            "generator",
            "daily=8000 charge=1500 charger=88 no_load=0.3 slope=0.4",
            "burns a day",
            8000 / 1320 * 0.9,
        ),
        ("generator", "daily=8000Wh charge=1500W charger=88 rated=1800", "runs a day", 8000 / 1320),
        ("packs", "daily=8000 days=3 sun=0 efficiency=100 idle=0 pack=5000 cutoff=0", "packs", 5),
        ("packs", "daily=8000 days=3 efficiency=100 idle=0 pack=5000 cutoff=10 have=6000", "packs", 5),
        ("packs", "daily=8000 days=3 sun=8000 efficiency=100 idle=0", "packs", 0),
        ("external", "energy=180 count=4 draw=100", "lasts longer by", 6.48),
        ("precharge", "volts=51.2 farads=0.02 seconds=3s", "resistor", 50),
        ("cost", "price=4000 delivered=5000 cycles=2000", "a kWh over its life", 0.4),
        ("cycles", "cycles=3652.5 delivered=5000 daily=5000", "lasts", 10),
        ("legs", "a=1000 b=300 across=2000", "neutral", 5.83),
        ("legs", "a=1200 a_factor=0.6 b=1200", "neutral", 13.3),
        ("open-neutral", "a=1000 b=300", "leg B gets", 184.6),
    ],
)
def test_worked(name: str, figures: str, label: str, value: float) -> None:
    pairs = dict(part.partition("=")[::2] for part in figures.split())
    found = {item.label: item.value for item in work_out(name, read_figures(name, pairs))}
    assert found[label] == pytest.approx(value, rel=5e-3)


@pytest.mark.parametrize("name", SUMS)
def test_every_sum_works_from_its_defaults(name: str) -> None:
    found = work_out(name, {})
    assert found
    assert all(item.value >= 0 for item in found)


@pytest.mark.parametrize(
    ("name", "figures", "field", "right"),
    [
        ("cord", {"length": "7 bananas"}, "/length", "not a unit known here"),
        ("cord", {"length": "7 A"}, "/length", "a figure in m"),
        ("cord", {"wide": "7"}, "/wide", "one of length"),
        ("runtime", {"charge": "101"}, "/charge", "from 0 to 100 %"),
        ("open-neutral", {"a": "0"}, "/a", "from 1 to"),
        ("discharge", {"from": "3", "to": "3"}, "/to", "below the 3 %"),
    ],
)
def test_figures_that_cannot_be(name: str, figures: dict[str, str], field: str, right: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        work_out(name, read_figures(name, figures))
    assert refused.value.problems[0].field == field
    assert right in refused.value.problems[0].right


def test_no_such_sum() -> None:
    with pytest.raises(NotFound, match="no sum"):
        work_out("magic", {})

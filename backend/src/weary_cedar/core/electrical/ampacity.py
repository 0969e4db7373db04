"""What conductors, cords and receptacles may carry."""

from typing import Literal

from weary_cedar.core.tables import Row, table

#: Continuous load counts with this factor. NFPA 70 (2023) 210.20(A), 215.3, from memory.
CONTINUOUS = 1.25


def cord_ampacity_a(awg: int, carrying: int = 2) -> float:
    """Ampacity of a flexible cord.

    Args:
        awg: gauge, 18 to 4.
        carrying: conductors that carry current, 2 or 3; a neutral that carries only the unbalance
            of a 120/240 V cord is not counted.

    Returns:
        Amps.

    Raises:
        KeyError: a gauge that is not in the table.

    Source: NFPA 70 (2023) table 400.5(A)(1), columns A and B, from memory.

    >>> cord_ampacity_a(10), cord_ampacity_a(10, carrying=3)
    (30.0, 25.0)
    """
    column = "three_carrying_a" if carrying >= 3 else "two_carrying_a"
    return {int(row["awg"]): float(row[column]) for row in table("cord_ampacity")}[awg]


#: What building cable of copper carries clipped to a wall, mm² → A. BS 7671 table 4D5, method C, from memory.
METRIC_A = {1.0: 16.0, 1.5: 20.0, 2.5: 27.0, 4.0: 37.0, 6.0: 47.0, 10.0: 64.0, 16.0: 85.0}


def metric_wire_a(mm2: float) -> float | None:
    """What building cable of copper carries.

    Args:
        mm2: cross-section of its line conductor, mm².

    Returns:
        Amps of the next thinner size of the table; nothing below its thinnest.

    Source: BS 7671 table 4D5, reference method C, from memory; in insulation it carries less.

    >>> metric_wire_a(2.5), metric_wire_a(0.75)
    (27.0, None)
    """
    sizes = [size for size in METRIC_A if size <= mm2]
    return METRIC_A[max(sizes)] if sizes else None


def receptacle(kind: str) -> Row | None:
    """The row of a receptacle configuration, or nothing for one that is not known.

    Source: common practice (configurations of receptacles).

    >>> receptacle("L14-30")["rating_a"]
    '30'
    """
    wanted = kind.strip().upper().replace("NEMA ", "")
    return next((row for row in table("receptacles") if row["kind"].upper() == wanted), None)


Column = Literal[60, 75]


def wire_ampacity_a(awg: int, metal: str = "copper", column: Column = 60) -> float | None:
    """What a building wire carries for as long as it likes.

    Args:
        awg: gauge, 14 to 1.
        metal: "copper" or "aluminium".
        column: 75 where every terminal is so marked and the cable is no house cable; 60 elsewhere.

    Returns:
        Amps; nothing where the table has no row.

    Source: NFPA 70 (2023) table 310.16; which column: 110.14(C)(1), 334.80; from memory.

    >>> wire_ampacity_a(8), wire_ampacity_a(8, column=75), wire_ampacity_a(14, "aluminium")
    (40.0, 50.0, None)
    """
    row = _wire(awg, metal)
    return float(row[f"at_{column}_a"]) if row else None


def largest_breaker_a(awg: int, metal: str = "copper", column: Column = 60) -> float | None:
    """Largest breaker that a branch-circuit conductor allows.

    Args:
        awg: gauge, 14 to 1.
        metal: "copper" or "aluminium".
        column: as `wire_ampacity_a`.

    Returns:
        Amps; the next standard size up where the ampacity is between sizes, small conductors by their
        own limit; nothing where the table has no row.

    Source: NFPA 70 (2023) 240.4(B), 240.4(D), and as `wire_ampacity_a`; from memory.

    >>> largest_breaker_a(12), largest_breaker_a(8), largest_breaker_a(6), largest_breaker_a(6, column=75)
    (20.0, 40.0, 60.0, 70.0)
    """
    row = _wire(awg, metal)
    if row is None:
        return None
    if row["most_breaker_a"]:
        return float(row["most_breaker_a"])
    return next(float(size) for size in STANDARD_SIZES if size >= float(row[f"at_{column}_a"]))


def _wire(awg: int, metal: str) -> Row | None:
    rows = (row for row in table("wire_ampacity") if (row["awg"], row["metal"]) == (str(awg), metal))
    return next(rows, None)


#: Standard ratings, A. NFPA 70 (2023) table 240.6(A), from memory.
STANDARD_SIZES = (15, 20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100, 110, 125, 150, 175, 200)

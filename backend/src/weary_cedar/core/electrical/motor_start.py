"""What a motor draws while it starts, from its plate."""

from dataclasses import dataclass

from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.core.tables import table

#: Starting over running current of a small motor where nothing better is known. Common practice.
START_FACTOR = 6.0
#: Power factor of a starting motor, range. Common practice.
START_POWER_FACTOR = (0.5, 0.85)


@dataclass(frozen=True)
class MotorStart:
    """Locked rotor: apparent power in VA (low and high end), watts (low and high end), basis."""

    low_va: float
    high_va: float
    low_w: float
    high_w: float
    basis: str


def full_load_a(horsepower: float, volts: float) -> float:
    """Full-load current of a single-phase motor.

    Args:
        horsepower: rating; one of the table.
        volts: 115 (up to 130) or 230 V class.

    Returns:
        Amps.

    Raises:
        InvalidInput: a rating that is not in the table.

    Source: NFPA 70 (2023) table 430.248, from memory.

    >>> full_load_a(1.5, 115), full_load_a(1.5, 230)
    (20.0, 10.0)
    """
    column = "full_load_115_v_a" if volts < 160 else "full_load_230_v_a"
    for row in table("motor_full_load"):
        if abs(float(row["horsepower"]) - horsepower) < 0.005:
            return float(row[column])
    known = ", ".join(f"{float(row['horsepower']):.3g}" for row in table("motor_full_load"))
    problem = Problem("/horsepower", f"{horsepower:g}", f"should be one of {known}")
    raise InvalidInput(str(problem), (problem,))


def code_letter_kva(letter: str) -> tuple[float, float]:
    """Band of locked-rotor kVA per horsepower of a code letter.

    Args:
        letter: A to V without I, O and Q.

    Returns:
        Low and high end, kVA/hp; of V, which the table leaves open above, its low end twice.

    Raises:
        InvalidInput: no such letter.

    Source: NFPA 70 (2023) table 430.7(B), from memory.

    >>> code_letter_kva("K")
    (8.0, 8.99)
    """
    for row in table("motor_code_letters"):
        if row["letter"] == letter.strip().upper():
            low = row["from_kva_per_hp"]
            return float(low), float(row["to_kva_per_hp"] or low)
    problem = Problem("/code_letter", letter, "should be a letter from A to V without I, O and Q")
    raise InvalidInput(str(problem), (problem,))


def motor_start(
    volts: float,
    horsepower: float | None = None,
    code_letter: str | None = None,
    locked_rotor_a: float | None = None,
    running_a: float | None = None,
) -> MotorStart:
    """What a motor takes while it starts, from the best that its plate gives.

    Args:
        volts: of the supply, V.
        horsepower: with a code letter, or alone for the table's full-load current.
        code_letter: not for hermetic compressors, whose plates give locked-rotor amps.
        locked_rotor_a: from the plate, A; the best.
        running_a: full-load amps from the plate, A.

    Returns:
        Low and high end of VA and W. LRA·V, else hp·kVA/hp, else 6 · full-load amps (an estimate).

    Raises:
        InvalidInput: nothing to go by.

    Source: NFPA 70 tables from memory; the factor of 6 is common practice.

    >>> round(motor_start(230, horsepower=1, code_letter="J").high_va)
    7990
    """
    if locked_rotor_a is not None:
        low = high = locked_rotor_a * volts
        basis = "locked-rotor amps of the plate"
    elif horsepower is not None and code_letter:
        low, high = (horsepower * kva * 1000 for kva in code_letter_kva(code_letter))
        basis = f"code letter {code_letter.strip().upper()} of the plate"
        if low == high:
            basis += ", at least: its band is open above"
    elif running_a is not None or horsepower is not None:
        amps = running_a if running_a is not None else full_load_a(horsepower or 0.0, volts)
        low = high = START_FACTOR * amps * volts
        basis = f"{START_FACTOR:g} × full-load current, an estimate"
    else:
        problem = Problem("/", "nothing", "locked-rotor amps, horsepower with code letter, or running amps")
        raise InvalidInput(str(problem), (problem,))
    worst, best = START_POWER_FACTOR[1], START_POWER_FACTOR[0]
    return MotorStart(low, high, low * best, high * worst, basis)


def clamp_meter_w(amps: float, volts: float, power_factor: float = 1.0) -> float:
    """Real power from a clamp-meter reading.

    Args:
        amps: reading, A.
        volts: at the same place, V.
        power_factor: above 0 up to 1.

    Returns:
        W, V·I·pf.

    Raises:
        ValueError: power factor outside (0, 1].

    Source: definition of real power.

    >>> round(clamp_meter_w(6.2, 121, 0.8), 1)
    600.2
    """
    if not 0 < power_factor <= 1:
        raise ValueError("power factor should be above 0 and at most 1")
    return amps * volts * power_factor

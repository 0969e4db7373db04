"""Voltage drop of feeds and the power lost in them. Nominal-voltage, constant-current method."""


def two_wire_drop_v(current_a: float, ohms_hot: float, ohms_return: float) -> float:
    """Drop of a two-wire run.

    Args:
        current_a: current, A.
        ohms_hot: resistance out, Ω.
        ohms_return: resistance back, Ω.

    Returns:
        Volts, I·(R_hot + R_return).

    Source: Ohm's law.

    >>> two_wire_drop_v(10.0, 0.1, 0.1)
    2.0
    """
    return current_a * (ohms_hot + ohms_return)


def three_wire_volts(
    source_v: float, a: float, b: float, ohms_hot: float, ohms_neutral: float
) -> tuple[float, float]:
    """Voltages at the far end of a three-wire split-phase run with in-phase loads.

    Args:
        source_v: volts from leg to neutral at the source.
        a: current of leg A in A.
        b: current of leg B in A.
        ohms_hot: resistance of each hot conductor, Ω.
        ohms_neutral: resistance of the neutral conductor, Ω.

    Returns:
        V_A = E − I_A·R_h − (I_A − I_B)·R_n and V_B = E − I_B·R_h + (I_A − I_B)·R_n; the light leg
        can rise above the source.

    Source: Kirchhoff's laws; checked against OpenDSS in the tests.

    >>> [round(v, 1) for v in three_wire_volts(120, 20, 2, 0.05, 0.05)]
    [118.1, 120.8]
    """
    shift = (a - b) * ohms_neutral
    return source_v - a * ohms_hot - shift, source_v - b * ohms_hot + shift


def cord_loss_w(a: float, b: float, neutral: float, ohms: float) -> float:
    """Power lost in a cord whose conductors are alike.

    Args:
        a: current of leg A, A.
        b: current of leg B, A.
        neutral: current of the neutral, A.
        ohms: resistance of one conductor over the length, Ω.

    Returns:
        Watts, R·(I_A² + I_B² + I_N²).

    Source: Joule's law.

    >>> cord_loss_w(10, 0, 10, 0.1)
    20.0
    """
    return ohms * (a * a + b * b + neutral * neutral)

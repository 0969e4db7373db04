"""Open-circuit voltage in the cold against a single-diode model and open data on modules.

Source: pvlib's single-diode model (`calcparams_cec` and `singlediode`) with the module
parameters that ship with it (California Energy Commission table). Modules are taken by their place
in that table; their names are not used. The linear temperature method is that of NFPA 70 690.7.
"""

import pytest
from pvlib.pvsystem import calcparams_cec, retrieve_sam, singlediode

from weary_cedar.core.electrical.pv_string import coldest_string_v, working_string_v
from weary_cedar.core.plan import Module

TABLE = retrieve_sam("CECMod")
CRYSTALLINE = [
    number
    for number in range(0, TABLE.shape[1], 700)
    if TABLE.iloc[:, number]["Technology"] in ("Mono-c-Si", "Multi-c-Si")
]


def plate(number: int) -> Module:
    row = TABLE.iloc[:, number]
    return Module(
        watts=float(row["V_mp_ref"] * row["I_mp_ref"]),
        voc_v=float(row["V_oc_ref"]),
        vmp_v=float(row["V_mp_ref"]),
        isc_a=float(row["I_sc_ref"]),
        imp_a=float(row["I_mp_ref"]),
        voc_percent_per_k=float(100 * row["beta_oc"] / row["V_oc_ref"]),
    )


def modelled(number: int, cell_c: float, column: str) -> float:
    """Volts of one module in full sun by the single-diode model."""
    row = TABLE.iloc[:, number]
    names = ("alpha_sc", "a_ref", "I_L_ref", "I_o_ref", "R_sh_ref", "R_s", "Adjust")
    curve = calcparams_cec(1000.0, cell_c, *(float(row[name]) for name in names))
    return float(singlediode(*curve)[column])


@pytest.mark.parametrize("cold_c", [-40.0, -20.0, 0.0])
def test_cold_open_circuit_voltage(cold_c: float) -> None:
    """The code's straight line is within 5.5 % of the model at −40 °C, in proportion when less cold.

    Where it is short of the model, the plate's tolerance that the checks add makes up for nearly all
    of it: never more than 2 % short.
    """
    assert len(CRYSTALLINE) > 25
    for number in CRYSTALLINE:
        model = 3 * modelled(number, cold_c, "v_oc")
        found = coldest_string_v(plate(number), 3, cold_c)
        assert found == pytest.approx(model, rel=0.055 * (25.0 - cold_c) / 65.0), number
        assert coldest_string_v(plate(number), 3, cold_c, with_tolerance=True) > 0.98 * model, number


@pytest.mark.parametrize("cell_c", [45.0, 65.0])
def test_hot_working_voltage(cell_c: float) -> None:
    """Where the plate gives no slope of its own: within 5 % of the model at 65 °C, half of that at 45."""
    for number in CRYSTALLINE:
        found = working_string_v(plate(number), 2, cell_c)
        assert found == pytest.approx(2 * modelled(number, cell_c, "v_mp"), rel=0.00125 * (cell_c - 25)), (
            number
        )

"""The server, and simulated devices."""

import json
import signal
from datetime import datetime
from pathlib import Path
from typing import Annotated, Literal

import typer

from weary_cedar.cli.terminal import app

MeterUnit = Literal["W", "kW", "kWh"]

stand_ins = typer.Typer(help="Simulated devices.", no_args_is_help=True)
app.add_typer(stand_ins, name="stand-in")


@stand_ins.callback()
def _stand_in() -> None:
    """Simulated devices, to try everything without the real ones."""


@stand_ins.command()
def meter(
    appliance: Annotated[str, typer.Option(help="Which made-up appliance.")] = "refrigerator",
    days: Annotated[float, typer.Option(help="Length of the series, d.")] = 2.0,
    step_s: Annotated[float, typer.Option("--step", help="Time between samples, s.")] = 30.0,
    seed: Annotated[int, typer.Option(help="Same seed, same series.")] = 1,
    european: Annotated[bool, typer.Option(help="Semicolons, decimal commas, day first.")] = False,
    unit: Annotated[MeterUnit, typer.Option(help="Of power, or kWh: a counter.")] = "W",
) -> None:
    """Write the series of a simulated plug-in meter as CSV."""
    from weary_cedar.stand_ins.meter import meter_csv, meter_series

    series = meter_series(appliance, days, step_s, seed)
    print(meter_csv(series, datetime(2026, 10, 10, 8, 0, 0), european=european, unit=unit), end="")


@stand_ins.command()
def forecast(
    latitude: Annotated[float, typer.Option(help="Of the place, degrees.")] = 45.0,
    longitude: Annotated[float, typer.Option(help="Of the place, degrees.")] = -120.0,
    first: Annotated[datetime, typer.Option(formats=["%Y-%m-%d"], help="First day.")] = datetime(2026, 1, 10),
    days: Annotated[int, typer.Option(min=1, max=32, help="How many.")] = 4,
) -> None:
    """Write what the simulated forecast says as JSON: it is made up, the same for the same place and day."""
    from weary_cedar.stand_ins.forecast import forecast as made_up

    print(json.dumps(vars(made_up(latitude, longitude, first.date(), days))))


@app.command()
def serve(
    port: Annotated[
        int, typer.Option(min=0, max=65_535, help="Port on 127.0.0.1; 0 takes a free one.")
    ] = 8642,
    data: Annotated[Path, typer.Option(help="Folder of the database.")] = Path("data"),
    reset_demo: Annotated[
        bool, typer.Option("--reset-demo", help="Set the database aside and begin anew.")
    ] = False,
) -> None:
    """Serve the app on this machine."""
    from weary_cedar.api.lanes import Lanes

    signal.setitimer(signal.ITIMER_REAL, 0)
    signal.signal(signal.SIGPIPE, signal.SIG_IGN)
    lanes = Lanes()
    lanes.warm()
    try:
        from weary_cedar.api.serve import serve_forever

        serve_forever(port, data, reset_demo, lanes)
    finally:
        lanes.stop()

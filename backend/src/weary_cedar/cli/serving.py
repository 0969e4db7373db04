"""The server, and simulated devices."""

import json
import os
import signal
import sys
from datetime import datetime
from pathlib import Path
from threading import Thread
from typing import TYPE_CHECKING, Annotated, Literal

import typer

from weary_cedar.cli.terminal import PlanFile, app, plan_from, refuse
from weary_cedar.formats.quantity import read_quantity

if TYPE_CHECKING:
    from weary_cedar.stand_ins.station import SimulatedStation

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


@stand_ins.command()
def station(
    plan_file: PlanFile,
    station_id: Annotated[str, typer.Option("--station", help="Which, by its id; the first if absent.")] = "",
    begins: Annotated[
        datetime | None,
        typer.Option(
            formats=["%Y-%m-%dT%H:%M", "%Y-%m-%dT%H:%M:%S"],
            help="By the clock of the site; as the plan if absent.",
        ),
    ] = None,
    seed: Annotated[int, typer.Option(help="Same seed, same station.")] = 1,
    speed: Annotated[float, typer.Option(min=1, max=600, help="Times the real clock.")] = 60.0,
    port: Annotated[int, typer.Option(min=0, max=65_535, help="Port on 127.0.0.1; 0: a free one.")] = 0,
    from_when: Annotated[
        str, typer.Option("--from", help="Its clock begins so long after the outage, such as 6 h.")
    ] = "0 s",
    until_closed: Annotated[
        bool, typer.Option("--until-closed", help="It ends when what is typed to it ends.")
    ] = False,
    at: Annotated[
        str | None, typer.Option("--at", help="Only what it shows then, such as 6 h: nothing is served.")
    ] = None,
) -> None:
    """Serve a simulated station over HTTP: /station, /station/events. Its figures are off from the plan's."""
    from weary_cedar.core.log.session import begun
    from weary_cedar.stand_ins.station import SimulatedStation

    plan = plan_from(plan_file)
    key = station_id or next(iter(plan.stations), "")
    if key not in plan.stations:
        known = ", ".join(plan.stations) or "a plan that has one"
        refuse(f"--station: got {key or 'none'}; should be one of {known}", [])
    simulated = SimulatedStation(plan, key, begun(plan, plan.name, begins or plan.outage.start_local), seed)
    if at is not None:
        t = min(read_quantity(at, "--at", "time").value, simulated.length_s)
        print(json.dumps(simulated.shown(t), indent=1))
        return
    if until_closed:
        Thread(target=_end_with_input, daemon=True).start()
    _serve_station(simulated, speed, read_quantity(from_when, "--from", "time").value, port)


def _end_with_input() -> None:
    sys.stdin.read()
    os._exit(0)


def _serve_station(simulated: "SimulatedStation", speed: float, from_s: float, port: int) -> None:
    import uvicorn

    from weary_cedar.api.serve import HOST, listen
    from weary_cedar.stand_ins.station_server import Clock, station_app

    signal.setitimer(signal.ITIMER_REAL, 0)
    listener = listen(port)
    print(f"The simulated station is at http://{HOST}:{listener.getsockname()[1]}/station", flush=True)
    told = station_app(simulated, Clock(speed, from_s))
    config = uvicorn.Config(told, log_level="critical", server_header=False, timeout_graceful_shutdown=1)
    uvicorn.Server(config).run(sockets=[listener])


@app.command()
def serve(
    port: Annotated[
        int, typer.Option(min=0, max=65_535, help="Port on 127.0.0.1; 0 takes a free one.")
    ] = 8642,
    data: Annotated[Path, typer.Option(help="Folder of the database.")] = Path("data"),
    reset_demo: Annotated[
        bool, typer.Option("--reset-demo", help="Set the database aside and begin anew.")
    ] = False,
    lan: Annotated[
        bool,
        typer.Option("--lan", help="Also on the house's network, for devices that are paired by a code."),
    ] = False,
    lan_address: Annotated[
        list[str] | None, typer.Option("--lan-address", help="Of this machine there; all of them if absent.")
    ] = None,
    tls: Annotated[
        bool, typer.Option("--tls", help="Encrypt what goes over the network, by a certificate made here.")
    ] = False,
    tls_cert: Annotated[Path | None, typer.Option("--tls-cert", help="A certificate of one's own.")] = None,
    tls_key: Annotated[Path | None, typer.Option("--tls-key", help="Its key.")] = None,
    alarm_command: Annotated[
        str, typer.Option("--alarm-command", help="Called with each alarm of a log, as JSON on its input.")
    ] = "",
    alarm_address: Annotated[
        str,
        typer.Option("--alarm-address", help="An address of one's own: each alarm is sent there as JSON."),
    ] = "",
) -> None:
    """Serve the app on this machine; with --lan also on the house's network."""
    if (tls_cert is None) != (tls_key is None):
        refuse("--tls-cert and --tls-key: give both, or neither", [])
    from weary_cedar.api.lanes import Lanes

    signal.setitimer(signal.ITIMER_REAL, 0)
    signal.signal(signal.SIGPIPE, signal.SIG_IGN)
    lanes = Lanes()
    lanes.warm()
    try:
        from weary_cedar.api.alarms import Reach
        from weary_cedar.api.network import Wanted
        from weary_cedar.api.serve import serve_forever

        wanted = Wanted(tuple(lan_address or ()), tls or tls_cert is not None, tls_cert, tls_key)
        serve_forever(port, data, reset_demo, lanes, lan, wanted, Reach(alarm_command, alarm_address))
    finally:
        lanes.stop()

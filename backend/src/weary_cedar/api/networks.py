"""Routes about the house's network: switched on, paired, listed, revoked. Only this machine asks them."""

from datetime import datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Path, Request
from pydantic import BaseModel, Field

from weary_cedar.api.door import CODE_S, Door
from weary_cedar.api.errors import documented
from weary_cedar.api.network import Network
from weary_cedar.api.plans import AtDesk
from weary_cedar.core.errors import InvalidInput, Problem
from weary_cedar.formats.qr import code_rows
from weary_cedar.store.devices import DeviceStore, Role

router = APIRouter(prefix="/api/network", tags=["network"])
DeviceId = Annotated[str, Path(pattern=r"^[a-z0-9]{1,32}$", examples=["0123456789abcdef"])]


class PairedDevice(BaseModel):
    """A device that may come in."""

    id: str
    name: str
    role: Role
    created_at: datetime
    last_used_at: datetime | None


class NetworkView(BaseModel):
    """Whether another device can reach this, where, and which may."""

    #: Whether it can be switched on at all: only where the app is served.
    can: bool
    on: bool
    addresses: list[str]
    encrypted: bool
    #: Of the certificate, as a browser shows it; it warns of one that was made here.
    fingerprint: str
    own_certificate: bool
    devices: list[PairedDevice]


class Switched(BaseModel):
    """On or off."""

    on: bool


class WhoComes(BaseModel):
    """Who may come in by the code: someone who does everything, or a guest who only reads."""

    role: Literal["full", "guest"] = "full"


class PairingCode(BaseModel):
    """Six digits, for how long they are good, where they are typed; and that as squares, row by row."""

    digits: str
    seconds: float
    address: str
    rows: list[str]


class NewMachine(BaseModel):
    """A script, a home automation, a station: it sends readings to one session, and nothing else."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    plan_id: Annotated[str, Field(max_length=40)]
    session_id: Annotated[str, Field(max_length=40)]


class MachineToken(BaseModel):
    """Its token, which is told only now, and where it sends."""

    token: str
    address: str


def _network(request: Request) -> Network | None:
    found: Network | None = getattr(request.app.state, "network", None)
    return found


def _devices(desk: AtDesk) -> DeviceStore:
    return desk.devices


AtNetwork = Annotated[Network | None, Depends(_network)]
Devices = Annotated[DeviceStore, Depends(_devices)]


def _open(network: Network | None, field: str) -> Network:
    """The network while it is open.

    Raises:
        InvalidInput: it is not.
    """
    if network is None or not network.on:
        problem = Problem(field, "the network is off", "to switch it on first, in Settings or by --lan")
        raise InvalidInput(str(problem), (problem,))
    return network


@router.get("", responses=documented())
def network_view(network: AtNetwork, devices: Devices) -> NetworkView:
    """Whether another device can reach this, and which may."""
    on = network is not None and network.on
    return NetworkView(
        can=network is not None,
        on=on,
        addresses=network.addresses if network else [],
        encrypted=bool(network and network.fingerprint),
        fingerprint=network.fingerprint if network else "",
        own_certificate=bool(network and network.certificate_is_own),
        devices=[
            PairedDevice(**{name: getattr(found, name) for name in PairedDevice.model_fields})
            for found in devices.all()
        ],
    )


@router.put("", responses=documented(413, 422, 507))
def switch_network(network: AtNetwork, devices: Devices, wanted: Switched) -> NetworkView:
    """Open this to the house's network, or close it; until the server is stopped."""
    if network is None:
        problem = Problem("/on", "not served", "to be served by weary-cedar serve")
        raise InvalidInput(str(problem), (problem,))
    if wanted.on:
        network.open()
    else:
        network.close()
    return network_view(network, devices)


@router.post("/code", status_code=201, responses=documented(413, 422))
def pairing_code(network: AtNetwork, who: WhoComes) -> PairingCode:
    """A new code, good for two minutes and one device; the one before is good no longer."""
    found = _open(network, "/role")
    return code_of(found.door, found, who.role)


def code_of(door: Door, network: Network, role: Role = "full") -> PairingCode:
    """A new code with where it is typed."""
    code = door.new_code(role)
    address = f"{network.addresses[0]}/pair"
    rows = code_rows(f"{address}?code={code.digits}")
    squares = ["".join("1" if dark else "0" for dark in row) for row in rows]
    return PairingCode(digits=code.digits, seconds=CODE_S, address=address, rows=squares)


@router.post("/machines", status_code=201, responses=documented(404, 413, 422, 507))
def new_machine(desk: AtDesk, network: AtNetwork, devices: Devices, new: NewMachine) -> MachineToken:
    """A token for a machine that sends readings to one session."""
    desk.log.get(new.plan_id, new.session_id, most=0)
    token = devices.add(new.name, "machine", new.session_id)
    first = network.addresses[0] if network is not None and network.on else ""
    path = f"/api/plans/{new.plan_id}/sessions/{new.session_id}/readings"
    return MachineToken(token=token, address=f"{first}{path}")


@router.delete("/devices/{device_id}", status_code=204, responses=documented(404, 422, 507))
def revoke(devices: Devices, device_id: DeviceId) -> None:
    """Let a device in no more."""
    devices.revoke(device_id)

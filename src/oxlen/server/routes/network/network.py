"""Serving on the network, and the paired phones: asked on the computer itself alone."""

from __future__ import annotations

from datetime import UTC, timedelta
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from oxlen.cards.qr_code import qr_of, qr_svg
from oxlen.core.errors import BadInput
from oxlen.formats.strict import Name, Strict
from oxlen.network.addresses import checked_names
from oxlen.network.serving import LONGEST_MIN, NetworkServing, Served, Wanted
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.network_state import NetworkState
from oxlen.server.permits import FOR_COMPUTER
from oxlen.server.who_reaches import who_reaches
from oxlen.store.kit.devices import (
    Device,
    change_device,
    confirm_device,
    devices,
    revoke_all_devices,
    revoke_device,
)

router = APIRouter(prefix="/api/network", tags=["network"], dependencies=[FOR_COMPUTER])
PAIRED_DAYS = 90
"""How long a phone is paired."""
NOT_SERVED = "Sharing is off. Start it first."


class ServingAsked(Strict):
    """For how many minutes, whether by https, and by which names besides addresses."""

    minutes: Annotated[int, Field(ge=1, le=LONGEST_MIN)] = 120
    secure: bool = True
    names: Annotated[list[str], Field(max_length=8)] = []  # noqa: RUF012  copied by Pydantic


class DeviceChange(Strict):
    """A phone's name, and whether it may change the kit."""

    name: Name
    may_change_kit: bool


class NetworkView(BaseModel):
    """What is served to the network and until when, who could reach it, and the paired phones.

    `urls` is empty while nothing is; `fingerprint` is of the authority that phones may install.
    """

    urls: list[str]
    until: str | None
    is_secure: bool
    fingerprint: str | None
    who: str
    devices: list[Device]


class PairingCode(BaseModel):
    """A code for one phone: six words, an address that holds them, and that as a picture."""

    words: list[str]
    url: str
    qr: str
    valid_s: float


def network_state_of(request: Request) -> NetworkState:
    """What the app has for the network."""
    network: NetworkState = request.app.state.network_state
    return network


@router.get("")
def network(request: Request, context: Shared) -> NetworkView:
    """What is served to the network, and the paired phones."""
    return _view(network_state_of(request).serving, context)


@router.post("/serving", status_code=201)
def begin_serving(asked: ServingAsked, request: Request, context: Shared) -> NetworkView:
    """Serve phones nearby for a while; what was served before ends."""
    serving = network_state_of(request).serving
    serving.start(Wanted(asked.minutes, asked.secure, checked_names(asked.names)))
    return _view(serving, context)


@router.delete("/serving")
def end_serving(request: Request, context: Shared) -> NetworkView:
    """Serve the network no more."""
    network = network_state_of(request)
    network.desk.withdraw()
    network.serving.stop()
    return _view(network.serving, context)


@router.post("/code", status_code=201)
def new_code(request: Request) -> PairingCode:
    """A code to pair one phone with, good for two minutes; an earlier one is void."""
    network = network_state_of(request)
    served = network.serving.served
    if served is None:
        raise BadInput(NOT_SERVED, "network")
    now_s = network.seconds()
    offer = network.desk.offer(now_s)
    # Behind the #, where browsers keep it to themselves: it is in no log and no request.
    url = f"{served.urls[0]}/pair#{'-'.join(offer.words)}"
    return PairingCode(
        words=list(offer.words),
        url=url,
        qr=f"data:image/svg+xml,{quote(qr_svg(qr_of(url), scale=8))}",
        valid_s=offer.until_s - now_s,
    )


@router.post("/devices/{device_id}/confirm")
def confirm(device_id: RowId, request: Request, context: Shared) -> NetworkView:
    """Pair a phone that knew the words."""
    now = context.clock().astimezone(UTC)
    until = now + timedelta(days=PAIRED_DAYS)
    with context.library.writer() as connection:
        confirm_device(
            connection,
            device_id,
            now=context.now(),
            expires_at=until.isoformat(timespec="seconds"),
        )
    return _view(network_state_of(request).serving, context)


@router.patch("/devices/{device_id}")
def change(
    device_id: RowId, asked: DeviceChange, request: Request, *, context: Shared
) -> NetworkView:
    """Rename a phone, or allow it to change the kit."""
    with context.library.writer() as connection:
        change_device(connection, device_id, name=asked.name, may_change_kit=asked.may_change_kit)
    return _view(network_state_of(request).serving, context)


@router.delete("/devices/{device_id}")
def revoke(device_id: RowId, request: Request, context: Shared) -> NetworkView:
    """Unpair a phone."""
    with context.library.writer() as connection:
        revoke_device(connection, device_id)
    request.app.state.change_events.look_again()
    return _view(network_state_of(request).serving, context)


@router.delete("/devices")
def revoke_all(request: Request, context: Shared) -> NetworkView:
    """Unpair all phones."""
    with context.library.writer() as connection:
        revoke_all_devices(connection)
    request.app.state.change_events.look_again()
    return _view(network_state_of(request).serving, context)


def _view(serving: NetworkServing, context: Context) -> NetworkView:
    served = serving.served
    with context.library.reader() as connection:
        found = devices(connection, context.now())
    return NetworkView(
        urls=[] if served is None else list(served.urls),
        until=None if served is None else _stamp(served),
        is_secure=served is not None and served.is_secure,
        fingerprint=None if served is None else served.fingerprint,
        who=who_reaches(served),
        devices=found,
    )


def _stamp(served: Served) -> str:
    return served.until.astimezone(UTC).isoformat(timespec="seconds")

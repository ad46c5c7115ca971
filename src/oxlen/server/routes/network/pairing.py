"""At the network's door: a phone pairs with six words, and learns who it is."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput, TooMany
from oxlen.formats.strict import Name, Strict
from oxlen.network.pairing import new_token, token_digest
from oxlen.server.context import Shared
from oxlen.server.local_only import DEVICE
from oxlen.server.network_door import Doorplate
from oxlen.server.permits import AT_THE_DOOR, FOR_PHONES, PLATE
from oxlen.server.routes.network.network import PAIRED_DAYS, network_state_of
from oxlen.store.kit.devices import Device, NewDevice, add_device, waiting_devices

router = APIRouter(prefix="/api", tags=["network"])
CONFIRM_MIN, MOST_WAITING = 10, 5
"""How long a phone waits to be confirmed, and how many wait at once."""
ON_THE_COMPUTER = "This is the computer. Open the page on the phone to pair it."


class PairAsked(Strict):
    """The words on the computer's screen, and what to call this phone."""

    words: Annotated[str, Field(min_length=1, max_length=200)]
    name: Name = "Phone"


class Me(BaseModel):
    """Who asks: the computer itself, or a paired phone and what it may do."""

    is_phone: bool
    is_confirmed: bool
    name: str
    may_change_kit: bool


@router.post("/pair", status_code=201, dependencies=[AT_THE_DOOR])
def pair(asked: PairAsked, request: Request, response: Response, *, context: Shared) -> Me:
    """Pair a phone by the words of a code; its token is a cookie that scripts cannot read.

    It is paired once the computer confirms it; until then all it asks is 401 `not-confirmed`.
    """
    plate: Doorplate | None = request.scope.get(PLATE)
    if plate is None:
        raise BadInput(ON_THE_COMPUTER, "network")
    network = network_state_of(request)
    address = request.client.host if request.client else ""
    token, now = new_token(), context.clock().astimezone(UTC)
    with context.library.reader() as connection:
        if waiting_devices(connection, _stamp(now)) >= MOST_WAITING:
            raise TooMany("Too many phones wait to be confirmed. Confirm or refuse them first.")
    network.desk.redeem(asked.words, network.seconds(), address=address)
    new = NewDevice(
        asked.name,
        token_digest(token),
        paired_from=address,
        now=_stamp(now),
        confirm_by=_stamp(now + timedelta(minutes=CONFIRM_MIN)),
    )
    with context.library.writer() as connection:
        device = add_device(connection, new)
    response.set_cookie(
        plate.cookie,
        token,
        max_age=PAIRED_DAYS * 86_400,
        path="/",
        secure=plate.is_secure,
        httponly=True,
        samesite="strict",
    )
    return _me(device)


@router.get("/me", dependencies=[FOR_PHONES])
def me(request: Request) -> Me:
    """Who asks, and what they may do."""
    device: Device | None = request.scope.get(DEVICE)
    return (
        Me(is_phone=False, is_confirmed=True, name="", may_change_kit=True)
        if device is None
        else _me(device)
    )


def _me(device: Device) -> Me:
    return Me(
        is_phone=True,
        is_confirmed=device.is_confirmed,
        name=device.name,
        may_change_kit=device.may_change_kit,
    )


def _stamp(moment: datetime) -> str:
    return moment.isoformat(timespec="seconds")

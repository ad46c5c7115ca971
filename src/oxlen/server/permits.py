"""Who may use a route: declared on each of them, and refused to phones where nothing is."""

from __future__ import annotations

from fastapi import Depends, Request

from oxlen.core.errors import NotAllowed
from oxlen.server.local_only import DEVICE

PLATE = "oxlen.plate"
"""In a request's scope where it came over the network: what the door answers to."""
READING = {"GET", "HEAD", "OPTIONS"}
NOT_FROM_A_PHONE = "Only the computer that runs Oxlen can do that."
KIT_IS_SHUT = "This phone may not change the kit. Allow it on the computer."


async def at_the_door(_: Request) -> None:
    """Whoever is near, paired or not."""


async def for_phones(_: Request) -> None:
    """The computer and every paired phone."""


async def for_kit(request: Request) -> None:
    """Looking for every paired phone, changing for those that may; else NotAllowed."""
    device = request.scope.get(DEVICE)
    if PLATE not in request.scope or request.method in READING:
        return
    if device is None or not device.may_change_kit:
        raise NotAllowed(KIT_IS_SHUT)


async def for_computer(request: Request) -> None:
    """The computer that runs Oxlen alone; NotAllowed from the network."""
    if PLATE in request.scope:
        raise NotAllowed(NOT_FROM_A_PHONE)


PERMITS = {at_the_door, for_phones, for_kit, for_computer}
AT_THE_DOOR, FOR_PHONES = Depends(at_the_door), Depends(for_phones)
FOR_KIT, FOR_COMPUTER = Depends(for_kit), Depends(for_computer)


async def declared(request: Request) -> None:
    """NotAllowed from the network for a route that does not say who may use it."""
    if PLATE not in request.scope:
        return
    stated = {
        declared.dependency for declared in getattr(request.scope["route"], "dependencies", ())
    }
    if stated.isdisjoint(PERMITS):
        raise NotAllowed(NOT_FROM_A_PHONE)

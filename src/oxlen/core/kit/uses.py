"""Where pictures end up: usual outputs and their size in pixels."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.errors import NotFound


@dataclass(frozen=True)
class Use:
    """A usual output: pixels across and down as it is looked at."""

    id: str
    name: str
    width_px: int
    height_px: int


# Prints at 300 pixels an inch read handheld, at 150 across a room.
USES: tuple[Use, ...] = (
    Use("message", "A message, seen on a phone", 1080, height_px=810),
    Use("web", "A page on the web", 1600, height_px=1200),
    Use("shop", "A shop's series", 2000, height_px=1500),
    Use("screen", "Filling a large screen", 1920, height_px=1440),
    Use("print-a4", "A4 print, handheld distance", 3508, height_px=2480),
    Use("print-a2", "A2 print on a wall", 3508, height_px=2480),
    Use("print-a1", "A1 print on a wall", 4967, height_px=3508),
)


def use_of(use_id: str) -> Use:
    """The use of that id; NotFound says which there are."""
    for use in USES:
        if use.id == use_id:
            return use
    known = ", ".join(use.id for use in USES)
    raise NotFound(f"Unknown output {use_id}. Use one of {known}.", use=use_id)

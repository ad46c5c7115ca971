"""The mains frequency where an outing is, by the name of its time zone."""

from __future__ import annotations

from typing import Literal

MainsHz = Literal[50, 60]

SIXTY = (
    "America/",
    "US/",
    "Canada/",
    "Pacific/Honolulu",
    "Pacific/Guam",
    "Pacific/Saipan",
    "Pacific/Pago_Pago",
    "Pacific/Palau",
    "Asia/Seoul",
    "Asia/Taipei",
    "Asia/Manila",
    "Asia/Riyadh",
)
"""Zones on 60 Hz; a name that ends in / covers all beneath it. [IEC-WORLD-PLUGS]"""

FIFTY_AMONG_THEM = (
    "America/Argentina/",
    "America/Buenos_Aires",
    "America/Santiago",
    "America/Punta_Arenas",
    "America/La_Paz",
    "America/Montevideo",
    "America/Asuncion",
    "America/Cayenne",
    "America/Jamaica",
    "America/Barbados",
    "America/Martinique",
    "America/Guadeloupe",
    "America/St_Lucia",
    "America/Grenada",
    "America/Dominica",
    "America/St_Vincent",
    "America/Curacao",
    "America/Nuuk",
    "America/Godthab",
)
"""Zones of the Americas on 50 Hz. [IEC-WORLD-PLUGS]"""

BOTH = ("Asia/Tokyo", "Japan", "Africa/Monrovia")
"""Zones with 50 Hz in one part and 60 Hz in another. [IEC-WORLD-PLUGS]"""

PLACES = (
    "Africa/",
    "America/",
    "Asia/",
    "Atlantic/",
    "Australia/",
    "Europe/",
    "Indian/",
    "Pacific/",
)
"""Zones that name a place; others, such as UTC, do not say where one is."""


def mains_hz(zone: str | None) -> MainsHz | None:
    """The mains frequency (Hz) in a time zone of the IANA database; None where that does not tell.

    >>> mains_hz("Europe/London"), mains_hz("America/Chicago"), mains_hz("Asia/Tokyo")
    (50, 60, None)
    """
    if not zone or _is_in(zone, BOTH):
        return None
    if _is_in(zone, FIFTY_AMONG_THEM):
        return 50
    if _is_in(zone, SIXTY):
        return 60
    return 50 if _is_in(zone, PLACES) else None


def _is_in(zone: str, names: tuple[str, ...]) -> bool:
    return any(zone == name or (name.endswith("/") and zone.startswith(name)) for name in names)

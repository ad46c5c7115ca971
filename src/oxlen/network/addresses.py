"""The addresses of this machine that phones nearby can reach, and the names it may have."""

from __future__ import annotations

import ipaddress
import re

import ifaddr

from oxlen.core.errors import BadInput

NAME = re.compile(
    r"[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?\.(local|lan|internal|home\.arpa)", re.IGNORECASE
)
"""Names that no public site can have. [RFC6762] [RFC8375]"""
MOST_NAMES = 4


def private_addresses() -> tuple[str, ...]:
    """IPv4 addresses of this machine on private networks, in no need of a name."""
    found = []
    for adapter in ifaddr.get_adapters():
        for ip in adapter.ips:
            if isinstance(ip.ip, str) and is_private(ip.ip):
                found.append(ip.ip)
    return tuple(dict.fromkeys(found))


def is_private(address: str) -> bool:
    """Whether an address is of a private network, and not this machine's own loop."""
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return False
    return found.is_private and not (found.is_loopback or found.is_link_local)


def is_loop(address: str) -> bool:
    """Whether an address is on this machine's own loop."""
    try:
        return ipaddress.ip_address(address).is_loopback
    except ValueError:
        return False


def checked_names(names: list[str]) -> tuple[str, ...]:
    """Names to answer to besides addresses; BadInput for one that a public site could have."""
    if len(names) > MOST_NAMES:
        raise BadInput(f"At most {MOST_NAMES} names.", "names")
    for name in names:
        if not NAME.fullmatch(name):
            raise BadInput(
                f"{name} cannot be used. Use a name that ends in .local, .lan, .internal or "
                ".home.arpa.",
                "names",
            )
    return tuple(dict.fromkeys(name.casefold() for name in names))

"""Keeping a changed phone: one that ships with Oxlen is copied into the kit first."""

from __future__ import annotations

import sqlite3

from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.store.kit.phones import keep_profile, kept_profiles


def keep_own(connection: sqlite3.Connection, changed: PhoneProfile, now: str) -> PhoneProfile:
    """Keep a changed phone, as a copy of one's own where it ships with Oxlen; what was kept."""
    if changed.id in shipped_profiles():
        taken = kept_profiles(connection)
        number = next(n for n in range(1, 1000) if f"my-{changed.id}-{n}" not in taken)
        own = {"id": f"my-{changed.id}-{number}", "name": f"My {changed.name}"[:60]}
        changed = changed.model_copy(update=own)
    keep_profile(connection, changed, now)
    return changed

"""The phone profiles that ship with Oxlen."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

from oxlen.core.errors import NotFound
from oxlen.formats.phone.profile import PhoneProfile


@cache
def shipped_profiles() -> dict[str, PhoneProfile]:
    """Shipped profiles by id, those with the most lenses first."""
    folder = files("oxlen") / "data" / "phones"
    texts = (entry.read_text("utf-8") for entry in folder.iterdir() if entry.name.endswith(".json"))
    profiles = (PhoneProfile.model_validate_json(text) for text in texts)
    return {
        profile.id: profile for profile in sorted(profiles, key=lambda p: (-len(p.lenses), p.id))
    }


def shipped_profile(phone_id: str) -> PhoneProfile:
    """The shipped profile of that id; NotFound says which there are."""
    found = shipped_profiles().get(phone_id)
    if found is None:
        known = ", ".join(shipped_profiles())
        raise NotFound(f"Your kit has no phone named {phone_id}. It has {known}.", phone=phone_id)
    return found

"""A phone's profile with what takes taught of it and of its owner's hand."""

from __future__ import annotations

from collections.abc import Sequence

from oxlen.formats.phone.profile import PhoneProfile
from oxlen.store.kit.learned import Learned


def with_learned(profile: PhoneProfile, taught: Sequence[Learned]) -> PhoneProfile:
    """The profile by the figures in use: the hand's for every lens, the meter's for the phone."""
    for learned in taught:
        if learned.name == "hold_stops":
            held = {"stabiliser_stops": round(learned.value, 2)}
            lenses = [lens.model_copy(update=held) for lens in profile.lenses]
            profile = profile.model_copy(update={"lenses": lenses})
        else:
            offset = profile.meter_offset_stops + learned.value
            profile = profile.model_copy(update={"meter_offset_stops": round(offset, 2)})
    return profile

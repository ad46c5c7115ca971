"""Taking a trade, an alternative or a lens: what it changes in the sheet."""

from __future__ import annotations

from typing import Any

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.trades import Trade
from oxlen.formats.wishes_file import FramesFile, FramingFile, GlassFile, HoldFile
from oxlen.sheets.body import SheetBody

Patch = dict[str, Any]
"""Fields of the sheet's body with their new values; whatever is not named stays."""


def patch_of(trade: Trade, before: Brief, body: SheetBody) -> Patch:
    """What taking a trade changes in the sheet it was offered on."""
    if trade.id == "accept":
        held = {"iso": trade.slip.iso, "shutter_s": trade.slip.shutter_s}
        return {"held": held}
    return {**changes(before, trade.brief, body), "held": None}


def lens_patch(before: Brief, after: Brief, body: SheetBody) -> Patch:
    """What taking another lens changes."""
    return {**changes(before, after, body), "lens": after.lens.id, "mode": None, "held": None}


def changes(before: Brief, after: Brief, body: SheetBody) -> Patch:
    """The body's fields that stand for what differs between two briefs of it."""
    patch: Patch = {}
    plain = {"support": "support", "file_format": "format", "lens_id": "lens", "mode_id": "mode"}
    for ours, theirs in plain.items():
        if getattr(before, ours) != getattr(after, ours):
            patch[theirs] = getattr(after, ours)
    if after.school != before.school:
        patch["school"] = {**body.school.model_dump(), "iso_cap": after.school.iso_cap}
    if after.hold != before.hold:
        patch["hold"] = HoldFile(**vars(after.hold)).model_dump()
    if after.output != before.output:
        snr = after.output.snr_floor
        patch["output"] = {**body.output.model_dump(), "snr": "any" if snr is None else snr}
    if after.glass_on != before.glass_on:
        patch["glass"] = [GlassFile(**vars(glass)).model_dump() for glass in after.glass_on]
    if after.frames != before.frames:
        patch["frames"] = FramesFile(**vars(after.frames)).model_dump()
    if after.framing is not None and after.framing != before.framing:
        patch["framing"] = FramingFile(**vars(after.framing)).model_dump()
    return {**patch, **_motion_changes(before, after, body), **_light_changes(before, after, body)}


def _motion_changes(before: Brief, after: Brief, body: SheetBody) -> Patch:
    patch: Patch = {}
    if after.flicker != before.flicker:
        patch["flicker"] = None
    if after.freeze != before.freeze:
        moved = zip(body.motion, after.freeze, strict=True)
        patch["motion"] = [file.after(freeze).model_dump() for file, freeze in moved]
    if after.show != before.show:
        shown = zip(body.looks, after.show, strict=True)
        patch["looks"] = [file.after(show).model_dump() for file, show in shown]
    return patch


def _light_changes(before: Brief, after: Brief, body: SheetBody) -> Patch:
    if after.readings == before.readings:
        return {}
    if len(after.readings) == len(before.readings):
        shift = after.readings[0].ev100 - before.readings[0].ev100
        return {"light_shift_stops": round(body.light_shift_stops + shift, 2)}
    let_go: Patch = {}
    for field in ("spots", "readings"):
        given = getattr(body, field)
        kept = [one.model_dump() for one in given if one.role != "keep-bright"]
        if len(kept) < len(given):
            let_go[field] = kept
    return let_go

"""Presets the photographer has kept, as open JSON."""

from __future__ import annotations

import sqlite3

from oxlen.core.errors import NotFound
from oxlen.formats.sheet.preset import PresetFile


def keep_preset(connection: sqlite3.Connection, preset: PresetFile, now: str) -> None:
    """Keep a preset under its id, over an earlier one."""
    connection.execute(
        "INSERT INTO preset (id, preset, changed_at, turn)"
        " VALUES (?, ?, ?, (SELECT coalesce(max(turn), 0) + 1 FROM preset))"
        " ON CONFLICT (id) DO UPDATE SET preset = excluded.preset,"
        " changed_at = excluded.changed_at, turn = excluded.turn",
        (preset.id, preset.model_dump_json(), now),
    )


def kept_presets(connection: sqlite3.Connection) -> list[PresetFile]:
    """All kept presets, the latest first."""
    rows = connection.execute("SELECT preset FROM preset ORDER BY turn DESC, changed_at DESC, id")
    return [PresetFile.model_validate_json(row["preset"]) for row in rows]


def drop_preset(connection: sqlite3.Connection, preset_id: str) -> None:
    """Remove a kept preset; NotFound when there is none. Sheets it was applied to stay."""
    if connection.execute("DELETE FROM preset WHERE id = ?", (preset_id,)).rowcount == 0:
        raise NotFound(f"There is no preset named {preset_id}.", preset=preset_id)

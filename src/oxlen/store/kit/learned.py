"""What takes taught of a phone and its owner, and is in use."""

from __future__ import annotations

import sqlite3
from dataclasses import dataclass
from typing import Literal

LearnedName = Literal["hold_stops", "meter_offset_stops"]


@dataclass(frozen=True)
class Learned:
    """A figure in use for a phone, its ±, and how many takes it rests on."""

    phone_id: str
    name: LearnedName
    value: float
    plus_minus: float
    takes: int
    learned_at: str


def learned_of(connection: sqlite3.Connection, phone_id: str) -> list[Learned]:
    """What is in use for a phone."""
    rows = connection.execute(
        "SELECT phone_id, name, value, plus_minus, takes, learned_at FROM learned"
        " WHERE phone_id = ? ORDER BY name",
        (phone_id,),
    )
    return [Learned(**row) for row in rows]


def use_learned(connection: sqlite3.Connection, figure: Learned) -> None:
    """Take a figure in use; one that was in use goes."""
    connection.execute(
        "INSERT INTO learned (phone_id, name, value, plus_minus, takes, learned_at)"
        " VALUES (:phone_id, :name, :value, :plus_minus, :takes, :learned_at)"
        " ON CONFLICT (phone_id, name) DO UPDATE SET value = excluded.value,"
        " plus_minus = excluded.plus_minus, takes = excluded.takes,"
        " learned_at = excluded.learned_at",
        vars(figure),
    )


def forget_learned(connection: sqlite3.Connection, phone_id: str, name: LearnedName) -> None:
    """Go back to the phone's own figure."""
    connection.execute("DELETE FROM learned WHERE phone_id = ? AND name = ?", (phone_id, name))

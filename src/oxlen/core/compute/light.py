"""Registry entries of exposure, reading a scene from a picture, and placing tones."""

from __future__ import annotations

from typing import Any

import numpy as np

from oxlen.core.compute.computation import Computation
from oxlen.core.constants import CLIPPED_CODE
from oxlen.core.light import exposure, placement, tone
from oxlen.core.sensor.raw_level import raw_linear, raw_mid_linear
from oxlen.core.units import require_between, require_positive

SETTINGS = {"N": "f-number", "t": "s", "iso": "ISO"}


def _ev100(N: float, t: float, iso: float) -> dict[str, Any]:
    return {"ev100": exposure.ev100(N, t, iso)}


def _luminance(ev100: float) -> dict[str, Any]:
    return {"luminance": exposure.luminance_cd_m2(ev100)}


def _illuminance(ev100: float) -> dict[str, Any]:
    return {"illuminance": exposure.illuminance_lux(ev100)}


def _apex(N: float, t: float, iso: float) -> dict[str, Any]:
    values = exposure.apex(N, t, iso)
    return {"Av": values.aperture, "Tv": values.time, "Sv": values.speed, "Bv": values.brightness}


def _compensation(*, N: float, t: float, iso: float, bv_file: float) -> dict[str, Any]:
    stops = exposure.compensation_stops(exposure.ev100(N, t, iso), bv_file)
    return {"compensation_stops": stops}


def _srgb_linear(code: float) -> dict[str, Any]:
    require_between("code", code, low=0, high=255)
    return {"linear": tone.srgb_to_linear(code / 255)}


def _srgb_encode(linear: float) -> dict[str, Any]:
    value = float(tone.linear_to_srgb(linear))
    return {"v": value, "code": round(255 * value)}


def _spot_code(
    *, r: float, g: float, b: float, N: float, t: float, iso: float, meter_offset: float
) -> dict[str, Any]:
    codes = np.array([r, g, b])
    require_between("code", codes, low=0, high=255)
    share = float(tone.luminance_share(np.asarray(tone.srgb_to_linear(codes / 255))))
    stops = tone.stops_from_mid(share) + meter_offset
    return {
        "Y": share,
        "ev100": exposure.ev100(N, t, iso) + stops,
        "flag": tone.code_state(r, g, b),
    }


def _spot_mean(*, codes: list[float], N: float, t: float, iso: float) -> dict[str, Any]:
    values = require_between("codes", np.asarray(codes), low=0, high=255)
    mean = float(np.mean(tone.srgb_to_linear(values / 255)))
    return {
        "Y_mean": mean,
        "ev100": exposure.ev100(N, t, iso) + tone.stops_from_mid(mean),
        "clipped_share": float(np.mean(values >= CLIPPED_CODE)),
    }


def _raw_spot(
    *,
    dn: float,
    black: float,
    white: float,
    baseline_exposure: float,
    N: float,
    t: float,
    iso: float,
    meter_offset: float,
) -> dict[str, Any]:
    linear = require_positive("dn above black", float(raw_linear(dn, black, white)))
    stops = np.log2(linear / raw_mid_linear(baseline_exposure)) + meter_offset
    return {"linear": linear, "ev100": exposure.ev100(N, t, iso) + stops}


def _place(*, ev100_spot: float, place: float, iso: float, N: float) -> dict[str, Any]:
    wanted = placement.placed_ev100(ev100_spot, place)
    return {"ev100_set": wanted, "t": exposure.shutter_for_ev100(wanted, N, iso)}


def _headroom(ev100_hi: float, ev100_set: float, headroom: float) -> dict[str, Any]:
    result = placement.highlight_guard(ev100_hi, ev100_set, headroom)
    return {
        "margin_stops": result.margin_stops,
        "ok": result.kept,
        "raise_ev_by": result.raise_ev_by_stops,
    }


def _saturation(K: float, q: float) -> dict[str, Any]:
    return {"headroom": placement.saturation_headroom_stops(K, q)}


LIGHT: tuple[Computation, ...] = (
    Computation(
        "ev100",
        "Exposure of the settings",
        "EV100 = log2(N²/t) − log2(S/100)",
        source="ISO 2720; CIPA DC-008 (Exif), APEX",
        inputs=SETTINGS,
        outputs={"ev100": "EV100"},
        work=_ev100,
    ),
    Computation(
        "luminance_from_ev100",
        "Luminance of a metered surface",
        "L = K/100 · 2^EV100, K = 12.5",
        source="ISO 2720",
        inputs={"ev100": "EV100"},
        outputs={"luminance": "cd/m2"},
        work=_luminance,
    ),
    Computation(
        "illuminance_from_ev100",
        "Illuminance on a flat receptor",
        "E = C/100 · 2^EV100, C = 250",
        source="ISO 2720",
        inputs={"ev100": "EV100"},
        outputs={"illuminance": "lx"},
        work=_illuminance,
    ),
    Computation(
        "apex",
        "APEX values of an exposure",
        "Av = 2·log2 N; Tv = −log2 t; Sv = log2(S/3.125); Bv = Av + Tv − Sv",
        source="CIPA DC-008 (Exif), APEX",
        inputs=SETTINGS,
        outputs={"Av": "APEX", "Tv": "APEX", "Sv": "APEX", "Bv": "APEX"},
        work=_apex,
    ),
    Computation(
        "exposure_compensation_from_file",
        "How much brighter a file was made than its meter asked",
        "compensation = (BrightnessValue + 5) − EV100(settings)",
        source="CIPA DC-008 (Exif), APEX",
        inputs={**SETTINGS, "bv_file": "APEX"},
        outputs={"compensation_stops": "stops"},
        work=_compensation,
    ),
    Computation(
        "srgb_linear",
        "Linear light of a code value",
        "v = code/255; v/12.92 up to 0.04045, else ((v + 0.055)/1.055)^2.4",
        source="IEC 61966-2-1",
        inputs={"code": "0..255"},
        outputs={"linear": "0..1"},
        work=_srgb_linear,
    ),
    Computation(
        "srgb_encode",
        "Code value of linear light",
        "12.92·x up to 0.0031308, else 1.055·x^(1/2.4) − 0.055; code = round(255·v)",
        source="IEC 61966-2-1",
        inputs={"linear": "0..1"},
        outputs={"v": "0..1", "code": "0..255"},
        work=_srgb_encode,
    ),
    Computation(
        "spot_ev100_from_code",
        "Light on a spot of a processed picture",
        "EV100 = EV100(settings) + log2(Y/0.18) + meter offset, Y from linear sRGB",
        source="IEC 61966-2-1; ISO 12232 SOS as the anchor of mid",
        inputs={"r": "0..255", "g": "0..255", "b": "0..255", **SETTINGS, "meter_offset": "stops"},
        outputs={"Y": "linear 0..1", "ev100": "EV100", "flag": "ok|clipped|blocked"},
        work=_spot_code,
    ),
    Computation(
        "spot_mean_ev100",
        "Mean light over grey pixels",
        "mean of the linear values, then EV100(settings) + log2(mean/0.18)",
        source="IEC 61966-2-1",
        inputs={"codes": "list 0..255", **SETTINGS},
        outputs={"Y_mean": "linear", "ev100": "EV100", "clipped_share": "0..1"},
        work=_spot_mean,
    ),
    Computation(
        "raw_spot_ev100",
        "Light on a spot of a raw picture",
        "linear = (DN − black)/(white − black); "
        "EV100 = EV100(settings) + log2(linear/(0.18·2^−BaselineExposure)) + meter offset",
        source="DNG specification 1.7",
        inputs={
            "dn": "DN",
            "black": "DN",
            "white": "DN",
            "baseline_exposure": "stops",
            **SETTINGS,
            "meter_offset": "stops",
        },
        outputs={"linear": "0..1", "ev100": "EV100"},
        work=_raw_spot,
    ),
    Computation(
        "place_exposure",
        "Exposure that puts a spot on a wanted tone",
        "EV100_set = EV100_spot − place; t = 100·N²/(S·2^EV100_set)",
        source="ISO 2720",
        inputs={"ev100_spot": "EV100", "place": "stops from mid", "iso": "ISO", "N": "f-number"},
        outputs={"ev100_set": "EV100", "t": "s"},
        work=_place,
    ),
    Computation(
        "headroom_check",
        "Room between the brightest detail and clipping",
        "margin = EV100_set + headroom − EV100_hi; kept when margin ≥ 0",
        source="ISO 12232",
        inputs={"ev100_hi": "EV100", "ev100_set": "EV100", "headroom": "stops"},
        outputs={"margin_stops": "stops", "ok": "bool", "raise_ev_by": "stops"},
        work=_headroom,
    ),
    Computation(
        "saturation_headroom",
        "Stops from a metered surface to saturation",
        "headroom = log2(78/(q·K))",
        source="ISO 12232",
        inputs={"K": "meter constant", "q": "lens factor"},
        outputs={"headroom": "stops"},
        work=_saturation,
    ),
)

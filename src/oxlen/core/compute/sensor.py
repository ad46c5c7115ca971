"""Registry entries of sensor and noise."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.errors import BadInput
from oxlen.core.sensor import noise
from oxlen.core.sensor.photon_transfer import photon_transfer

SENSOR = {
    "full_well": "e-",
    "base_iso": "ISO",
    "iso": "ISO",
    "headroom": "stops",
    "read_noise": "e-",
    "prnu": "share",
}


def _snr(
    *,
    full_well: float,
    base_iso: float,
    iso: float,
    headroom: float,
    read_noise: float,
    prnu: float,
    k: float,
    M: float,
) -> dict[str, Any]:
    if k > headroom:
        raise BadInput(f"A tone {k:g} stops from mid is clipped at {headroom:g} stops.", "k")
    mid = noise.mid_signal_e(noise.Sensor(full_well, base_iso, headroom, prnu_share=prnu), iso)
    signal = mid * 2.0**k
    return {"n_mid": mid, "n_tone": signal, "snr": noise.snr(signal, read_noise, prnu, frames=M)}


def _snr_output(snr: float, p_in: float, p_out: float) -> dict[str, Any]:
    return {"snr_out": noise.snr_at_output(snr, p_in, p_out)}


def _usable_range(
    *,
    full_well: float,
    base_iso: float,
    iso: float,
    headroom: float,
    read_noise: float,
    prnu: float,
    M: float,
    p_in: float,
    p_out: float,
) -> dict[str, Any]:
    found = noise.usable_range(
        noise.Sensor(full_well, base_iso, headroom, prnu_share=prnu),
        iso=iso,
        read_noise_e=read_noise,
        frames=round(M),
        pixels_in=p_in,
        pixels_out=p_out,
    )
    if found is None:
        return {"k_low": None, "range_stops": None}
    return {"k_low": found.darkest_stops, "range_stops": found.range_stops}


def _photon_transfer(pairs: list[list[float]], black: float) -> dict[str, Any]:
    fit = photon_transfer(pairs, black)
    return {
        "gain_dn_per_e": fit.gain_dn_per_e,
        "intercept_dn2": fit.intercept_dn2,
        "read_noise_dn": fit.read_noise_dn,
        "read_noise_e": fit.read_noise_e,
    }


SENSORS: tuple[Computation, ...] = (
    Computation(
        "snr_mid_and_tone",
        "Signal-to-noise ratio of a tone",
        "n_mid = FW·(S0/S)·2^−h; n = n_mid·2^k; SNR = n/√((n + r²)/M + (PRNU·n)²)",
        source="ISO 12232; EMVA 1288",
        inputs={**SENSOR, "k": "stops from mid", "M": "frames"},
        outputs={"n_mid": "e-", "n_tone": "e-", "snr": "ratio"},
        work=_snr,
    ),
    Computation(
        "snr_output",
        "Signal-to-noise ratio at the size it is seen",
        "SNR·√(P_in/P_out) when P_out < P_in",
        source="ISO 12232",
        inputs={"snr": "ratio", "p_in": "pixels", "p_out": "pixels"},
        outputs={"snr_out": "ratio"},
        work=_snr_output,
    ),
    Computation(
        "usable_range_stops",
        "Usable range of tones",
        "from the tone with SNR 10 at the output up to clipping",
        source="ISO 12232, acceptable noise",
        inputs={**SENSOR, "M": "frames", "p_in": "pixels", "p_out": "pixels"},
        outputs={"k_low": "stops from mid", "range_stops": "stops"},
        work=_usable_range,
    ),
    Computation(
        "photon_transfer",
        "Gain and read noise from flat frames",
        "least squares of variance/2 on mean: slope = gain, intercept = read noise²",
        source="EMVA 1288",
        inputs={"pairs": "pairs [[mean DN, variance of the difference DN^2], ...]", "black": "DN"},
        outputs={
            "gain_dn_per_e": "DN/e-",
            "intercept_dn2": "DN^2",
            "read_noise_dn": "DN",
            "read_noise_e": "e-",
        },
        work=_photon_transfer,
    ),
)

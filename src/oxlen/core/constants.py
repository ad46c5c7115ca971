"""Constants of the trade, each with its unit and source on the line."""

METER_CONSTANT_K = 12.5  # cd·s/(m²·ISO), reflected-light meter, ISO 2720
METER_CONSTANT_C = 250.0  # lx·s/ISO, incident meter with a flat receptor, ISO 2720
APEX_SPEED_BASE = 3.125  # ISO at Sv 0, CIPA DC-008 (Exif) annex C
APEX_BRIGHTNESS_TO_EV100 = 5.0  # EV100 = Bv + 5, from Sv(ISO 100) = 5
MID_LINEAR = 0.18  # linear value a metered surface is rendered at
SATURATION_CONSTANT = 78.0  # ISO 12232 saturation exposure in lx·s times ISO
LUMA_RED, LUMA_GREEN, LUMA_BLUE = 0.2126, 0.7152, 0.0722  # IEC 61966-2-1, ITU-R BT.709
CLIPPED_CODE = 250  # of 255: any channel here or above is taken as clipped
BLOCKED_CODE = 2  # of 255: all channels here or below are taken as blocked
SNR_EXCELLENT, SNR_ACCEPTABLE = 40.0, 10.0  # ISO 12232 noise criteria at mid

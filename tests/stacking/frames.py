"""Sets of frames of a known scene, as files."""

import io

import cv2
import numpy as np
from PIL import Image

from tests.pictures.making import exif, jpeg

SIZE = (240, 320)


def still(size=SIZE, seed=3):
    """Linear light of a wall of patches under a brighter strip (h, w), something in every place."""
    draw = np.random.default_rng(seed)
    light = np.full(size, 0.06)
    light[: size[0] // 4] = 0.4
    for _ in range(160):
        y, x = draw.integers(0, size[0]), draw.integers(0, size[1])
        light[y : y + 14, x : x + 18] = draw.uniform(0.02, 0.5)
    return cv2.GaussianBlur(light, (0, 0), 0.8)


def codes_of(linear):
    """8-bit codes (h, w, 3) of linear light."""
    clipped = np.clip(linear, 0, 1)
    srgb = np.where(clipped <= 0.0031308, 12.92 * clipped, 1.055 * clipped ** (1 / 2.4) - 0.055)
    codes = np.rint(255 * srgb).astype(np.uint8)
    return np.repeat(codes[:, :, None], 3, axis=2)


def linear_of(codes):
    """Linear light of 8-bit or 16-bit codes."""
    v = codes / (65535 if codes.dtype == np.uint16 else 255)
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)


def shot(linear, number=0, *, shutter=(1, 2), iso=50, gap_s=1):
    """A JPEG of linear light that says when it was taken."""
    minutes, seconds = divmod(number * gap_s, 60)
    taken = {"t36867": f"2026:10:03 19:{minutes:02d}:{seconds:02d}"}
    return jpeg(codes_of(linear), exif(iso=iso, shutter=shutter, **taken))


def png(codes):
    """A PNG of codes, which gives them back as they were."""
    buffer = io.BytesIO()
    Image.fromarray(codes).save(buffer, "PNG")
    return buffer.getvalue()


def kept(folder, frames):
    """Files of (name, bytes) in a folder, as `stack_files` takes them."""
    found = []
    for name, data in frames:
        path = folder / name
        path.write_bytes(data)
        found.append((path, name))
    return found

"""Small files that claim much: peak memory and time of each, beside their bounds."""

import io
import struct
import tempfile
import time
import unittest
import zlib
from pathlib import Path

import pillow_heif
import psutil
import tifffile
from PIL import Image

from oxlen.core.errors import OxlenError
from oxlen.store.library import open_library
from oxlen.workers.worker_pool import WORKER_BYTES, WorkerPool
from oxlen.workers.worker_tasks import read_file
from tests.pictures.making import dng, tiff_directory
from tests.workers.test_worker_pool import pid_of_worker

MOST_S = 20.0
MOST_MB = 100 + WORKER_BYTES / 1e6  # with what it starts with
LONG, SHORT, RATIONAL = 4, 3, 5


def repeated_strips(width, height, samples, *, photometric, rows, packed=None, extra=()):
    """A TIFF whose strips all are on the same few bytes."""
    strips = -(-height // rows)
    data = packed or zlib.compress(bytes(width * rows * samples), 9)
    entries = [
        (256, LONG, 1, width),
        (257, LONG, 1, height),
        (258, SHORT, 1, 8),
        (259, SHORT, 1, 8),  # deflate
        (262, SHORT, 1, photometric),
        (273, LONG, strips, 0),
        (277, SHORT, 1, samples),
        (278, LONG, 1, rows),
        (279, LONG, strips, 0),
        *extra,
    ]
    start = 8 + 2 + 12 * len(entries) + 4
    entries[5] = (273, LONG, strips, start)
    entries[8] = (279, LONG, strips, start + 4 * strips)
    at = start + 8 * strips
    tail = struct.pack(f"<{strips}I", *[at] * strips)
    tail += struct.pack(f"<{strips}I", *[len(data)] * strips)
    return tiff_directory(sorted(entries), tail + data)


def png(width, height, *, depth=8, colour=2, filled=False, more=b""):
    """A PNG of a size; with all its rows (black) or next to none of them."""

    def chunk(kind, data):
        check = struct.pack(">I", zlib.crc32(kind + data))
        return struct.pack(">I", len(data)) + kind + data + check

    channels = {0: 1, 2: 3}[colour]
    row = bytes(1 + width * channels * depth // 8)
    squeeze = zlib.compressobj(9)
    body = b"".join(squeeze.compress(row) for _ in range(height if filled else 1))
    header = struct.pack(">IIBBBBB", width, height, depth, colour, *(0, 0, 0))
    pixels = chunk(b"IDAT", body + squeeze.flush())
    start = b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header)
    return start + (chunk(b"zTXt", more) if more else b"") + pixels + chunk(b"IEND", b"")


def jpeg_claiming(width, height, **save):
    """A small JPEG whose header claims another size."""
    buffer = io.BytesIO()
    Image.new("RGB", (64, 64)).save(buffer, "JPEG", **save)
    data = bytearray(buffer.getvalue())
    marker = data.index(b"\xff\xc2" if save.get("progressive") else b"\xff\xc0")
    struct.pack_into(">HH", data, marker + 5, height, width)
    return bytes(data)


def heif_claiming(width, height):
    """A small HEIF whose boxes claim another size."""
    buffer = io.BytesIO()
    pillow_heif.from_pillow(Image.new("RGB", (64, 64))).save(buffer)
    data = bytearray(buffer.getvalue())
    at = data.index(b"ispe")
    while at >= 0:
        struct.pack_into(">II", data, at + 8, width, height)
        at = data.find(b"ispe", at + 1)
    return bytes(data)


def dng_claiming(width, height):
    """A small DNG whose directory claims another size."""
    data = bytearray(dng())
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        tags = file.pages[0].tags
        for name, value in (("ImageWidth", width), ("ImageLength", height)):
            struct.pack_into(f"<{tags[name].dtype.name[0]}", data, tags[name].valueoffset, value)
    return bytes(data)


def hostile_files():
    """Name and bytes of each; none needs more than a megabyte."""
    swelling = zlib.compress(bytes(2 * 10**8), 9)
    yield "ink 12000×12000", repeated_strips(12000, 12000, 4, photometric=5, rows=64)
    yield "20 samples", repeated_strips(9000, 9000, 20, photometric=1, rows=32)
    yield "palette 15000×15000", repeated_strips(15000, 15000, 1, photometric=3, rows=64)
    strip = repeated_strips(99, 99, 3, photometric=2, rows=99, packed=swelling)
    yield "a strip that swells", strip
    yield (
        "a tile larger than its picture",
        repeated_strips(
            100,
            100,
            3,
            photometric=2,
            rows=100,
            extra=((322, LONG, 1, 60000), (323, LONG, 1, 60000)),
        ),
    )
    yield "PNG 15000×15000", png(15000, 15000)
    yield "PNG 12000×12000, 16 bits", png(12000, 12000, depth=16)
    yield "PNG 1×240 million", png(1, 240_000_000, colour=0)
    yield "PNG 99000×2500", png(99_000, 2500, colour=0, filled=True)
    yield "PNG with swelling text", png(9, 9, more=b"t\0\0" + swelling)
    yield "progressive JPEG 15800²", jpeg_claiming(15800, 15800, progressive=True)
    yield "JPEG 15800²", jpeg_claiming(15800, 15800)
    yield "HEIF 15800²", heif_claiming(15800, 15800)
    yield "DNG 15800²", dng_claiming(15800, 15800)
    yield "looping directories", tiff_directory([(256, LONG, 1, 9)], next_offset=8)


class HostileFiles(unittest.TestCase):
    def test_each_ends_in_words_or_a_reading_within_its_bounds(self):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        library = open_library(folder)
        pool = WorkerPool()
        self.addCleanup(pool.stop)
        for name, data in hostile_files():
            incoming = library.incoming_path()
            incoming.write_bytes(data)
            worker = psutil.Process(pool.do("intake", pid_of_worker))
            Path(f"/proc/{worker.pid}/clear_refs").write_text("5")  # its peak begins anew
            began = time.monotonic()
            try:
                reported = pool.do("intake", read_file, folder, incoming, name).report["notes"]
            except OxlenError as error:
                reported = [error.message]
            took_s = time.monotonic() - began
            peak_mb = peak_of(worker.pid)
            print(
                f"{name:32s} {len(data) / 1e3:6.0f} kB  peak {peak_mb:4.0f} of {MOST_MB:.0f} MB  "
                f"{took_s:4.1f} of {MOST_S:.0f} s  {' '.join(reported)[:90]}"
            )
            with self.subTest(name):
                self.assertLess(len(data), 1_100_000)
                self.assertLess(peak_mb, MOST_MB)
                self.assertLess(took_s, MOST_S)


def peak_of(pid):
    """Most memory a process had since its peak was set back, in MB; 0 when it has ended."""
    try:
        lines = Path(f"/proc/{pid}/status").read_text().splitlines()
    except FileNotFoundError:
        return 0.0
    return next(int(line.split()[1]) for line in lines if line.startswith("VmHWM")) / 1e3

"""Two hundred pictures, ten of them bad, the server killed halfway: each good one is there once."""

import shutil
import tempfile
import unittest
from pathlib import Path

import httpx
import numpy as np

from oxlen.store.inbox import inbox
from oxlen.store.library import open_library
from tests.browser.app_in_browser import Server
from tests.pictures.making import exif, jpeg

ALL, BAD = 200, 10


def pictures():
    """Small pictures that all differ, some cut off or no pictures at all."""
    for place in range(ALL):
        codes = np.full((24, 32, 3), 60 + place % 120, dtype=np.uint8)
        codes[place % 24, place // 24] = 255
        data = jpeg(codes, exif(iso=100, shutter=(1, 60)))
        is_bad = place % (ALL // BAD) == 7
        yield f"IMG_{place:04d}.jpg", data[:90] if is_bad else data


class CutHalfway(unittest.TestCase):
    def setUp(self):
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)

    def send(self, server, files):
        """What the page does: one after another; how many were taken and refused."""
        taken = refused = 0
        with httpx.Client(base_url=server.url, timeout=30) as http:
            for name, data in files:
                answer = http.post("/api/inbox", params={"name": name}, content=data)
                taken += answer.status_code == 201
                refused += answer.status_code == 422
        return taken, refused

    def test_repeated_after_a_kill_every_good_one_is_in_once(self):
        files = list(pictures())
        server = Server(self.folder)
        self.send(server, files[: ALL // 2])
        server.process.kill()
        server.process.wait()
        server.process.stdout.close()
        server.start()
        try:
            self.assertEqual(self.send(server, files), (ALL - BAD, BAD))
        finally:
            server.stop()
        with open_library(self.folder).reader() as connection:
            kept = [entry.sha256 for entry in inbox(connection)]
            pictures_kept = connection.execute("SELECT count(*) FROM picture").fetchone()[0]
        self.assertEqual((len(kept), len(set(kept)), pictures_kept), (ALL - BAD,) * 3)

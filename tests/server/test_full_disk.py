"""A disk that is really full and then read-only: sentences, nothing lost, and on it goes."""

import io
import shutil
import subprocess
import tempfile
import unittest
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from oxlen.store.library import open_library
from oxlen.store.outings import add_outing
from oxlen.takes.importing import onto_new_sheet, take_in
from oxlen.takes.outing_out import write_outing
from tests.browser.app_in_browser import Server
from tests.cli.test_commands import oxlen
from tests.in_library import NOW

DISK = "size=4m"


def noise(side):
    """A JPEG that takes about three bytes a pixel."""
    pixels = np.random.default_rng(1).integers(0, 255, (side, side, 3), dtype=np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "JPEG", quality=98, subsampling=0)
    return buffer.getvalue()


def an_outing():
    """An outing file with a picture in it."""
    with tempfile.TemporaryDirectory() as name:
        library = open_library(Path(name) / "data")
        with library.writer() as connection:
            outing_id = add_outing(connection, title="Carried", now=NOW)
        incoming = library.incoming_path()
        incoming.write_bytes(noise(300))
        take_in(
            library,
            incoming,
            "a.jpg",
            now=NOW,
            attach=onto_new_sheet(outing_id, "a", None, now=NOW),
        )
        write_outing(library, outing_id, Path(name) / "outing.zip")
        return (Path(name) / "outing.zip").read_bytes()


def mounted(*words):
    """Whether mounting worked; a machine may forbid it."""
    return subprocess.run(["mount", *words], capture_output=True, check=False).returncode == 0


class SmallDisk(unittest.TestCase):
    def setUp(self):
        self.disk = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.disk, ignore_errors=True)
        if not mounted("-t", "tmpfs", "-o", DISK, "tmpfs", str(self.disk)):
            self.skipTest("nobody may mount a small disk on this machine")
        self.addCleanup(subprocess.run, ["umount", "-l", str(self.disk)], check=True)
        self.data = self.disk / "data"
        open_library(self.data)

    def serve(self):
        server = Server(self.data)
        self.addCleanup(lambda: server.process.poll() is None and server.stop())
        return httpx.Client(base_url=server.url, timeout=30), server

    def test_full_then_freed(self):
        http, server = self.serve()
        outing = http.post("/api/outings", json={"title": "Haul-out"}).json()["id"]
        self.assertEqual(http.get(f"/api/outings/{outing}/file").status_code, 200)
        carried = an_outing()
        filler = self.disk / "filler"
        with filler.open("wb", buffering=0) as file, self.assertRaises(OSError):
            while True:
                file.write(bytes(4096))
        for path, content in (
            (f"/api/outings/{outing}/pictures?name=a.jpg", noise(300)),
            ("/api/outing-files", carried),
            ("/api/inbox?name=a.jpg", noise(300)),
        ):
            with self.subTest(path):
                refused = http.post(path, content=content)
                self.assertEqual(refused.status_code, 507, refused.text)
                self.assertIn("disk is full", refused.json()["detail"])
                self.assertIn("retry-after", refused.headers)
        self.assertEqual(len(http.get("/api/outings").json()), 1)
        filler.unlink()
        taken = http.post(f"/api/outings/{outing}/pictures?name=a.jpg", content=noise(300))
        self.assertEqual(taken.status_code, 201, taken.text)
        http.close()
        self.assertEqual(server.stop(), 0)
        self.assertEqual(oxlen("check", "--data", self.data).returncode, 0)

    def test_read_only_it_can_be_read_backed_up_and_says_why_it_keeps_nothing(self):
        http, server = self.serve()
        http.post("/api/outings", json={"title": "Haul-out"})
        http.close()
        server.stop()
        self.assertTrue(mounted("-o", "remount,ro", str(self.disk)))
        with tempfile.TemporaryDirectory() as elsewhere:
            made = oxlen("backup", Path(elsewhere) / "b.zip", "--data", self.data)
            self.assertEqual(made.returncode, 0, made.stderr)
            self.assertEqual(oxlen("check", "--data", self.data).returncode, 0)
            back = oxlen("restore", Path(elsewhere) / "b.zip", "--data", Path(elsewhere) / "new")
            self.assertEqual(back.returncode, 0, back.stderr)
        refused = oxlen("serve", "--no-browser", "--port", 0, "--data", self.data)
        self.assertNotEqual(refused.returncode, 0)
        self.assertRegex(refused.stderr, "(?i)read-only")
        self.assertNotIn("Traceback", refused.stderr)

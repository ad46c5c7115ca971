"""Starting and stopping the app, and the pages it serves."""

import os
import re
import signal
import socket
import subprocess
import sys
import tempfile
import time
import unittest
from functools import partial
from pathlib import Path

import httpx

from oxlen.cli.serve import _bound
from tests.cli.test_commands import ROOT, process

COMMAND = [sys.executable, "-m", "oxlen", "serve", "--no-browser", "--port", "0", "--data"]


# A busy machine is slow, not wrong.
get, post = partial(httpx.get, timeout=60), partial(httpx.post, timeout=60)


class Serving(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "data"
        environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
        self.process = subprocess.Popen(
            [*COMMAND, str(self.folder)], stdout=subprocess.PIPE, text=True, env=environment
        )
        self.addCleanup(self.process.stdout.close)
        self.addCleanup(self.process.wait)
        self.addCleanup(self.process.kill)
        self.url = re.search(r"http://[\d.:]+", self.process.stdout.readline()).group()

    def test_starts_empty_and_stops_cleanly(self):
        self.assertEqual(get(f"{self.url}/api/outings").json(), [])
        self.process.send_signal(signal.SIGTERM)
        self.assertEqual(self.process.wait(60), 0)

    def test_it_stops_though_an_upload_has_stalled(self):
        outing = post(f"{self.url}/api/outings", json={"title": "Haul-out"}).json()["id"]
        port = int(self.url.rsplit(":", 1)[1])
        with socket.create_connection(("127.0.0.1", port)) as stalled:
            head = (
                f"POST /api/outings/{outing}/pictures?name=a.jpg HTTP/1.1\r\n"
                f"Host: 127.0.0.1:{port}\r\nContent-Length: 100000\r\n\r\nfirst bytes"
            )
            stalled.sendall(head.encode())
            incoming = self.folder / "incoming"
            for _ in range(100):
                if list(incoming.iterdir()):
                    break
                time.sleep(0.05)
            self.process.send_signal(signal.SIGTERM)
            self.process.wait(60)
        self.assertEqual(list((self.folder / "pictures").glob("*/*")), [])

    def test_one_app_to_a_folder_and_a_port(self):
        busy = process("serve", "--no-browser", "--port", 0, "--data", self.folder)
        self.assertEqual(busy.returncode, 2)
        self.assertIn("Another Oxlen is running", busy.stderr)
        port = self.url.rsplit(":", 1)[1]
        taken = process("serve", "--no-browser", "--port", port, "--data", f"{self.folder}-2")
        self.assertIn(f"Port {port} is in use", taken.stderr)
        wild = process("serve", "--no-browser", "--port", 99999, "--data", f"{self.folder}-3")
        self.assertIn("Use 0 to 65535", wild.stderr)

    def test_pages_carry_their_policy_and_assets_stay(self):
        page = get(f"{self.url}/sheets/7")
        nonce = re.search(r'name="csp-nonce" content="([^"]+)"', page.text).group(1)
        policy = page.headers["content-security-policy"]
        self.assertIn(f"'nonce-{nonce}'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotEqual(
            nonce, re.search(r'"csp-nonce" content="([^"]+)"', get(self.url).text).group(1)
        )
        self.assertIn("</api/sheets/7>; rel=preload", page.headers["link"])
        self.assertNotIn("link", get(f"{self.url}/kit").headers)
        script = re.search(r'src="(/assets/[^"]+\.js)"', page.text).group(1)
        asset = get(self.url + script)
        self.assertIn("immutable", asset.headers["cache-control"])
        self.assertEqual(asset.headers["content-encoding"], "gzip")
        for path in ("/api/nowhere", "/assets/%2e%2e/index.html", "/assets/none.js"):
            self.assertEqual(get(self.url + path).status_code, 404, path)

    def test_small_answers_are_not_held_back(self):
        # The event loop turns delayed sending off only for sockets that are named as TCP.
        with _bound(0) as listener:
            self.assertEqual(listener.proto, socket.IPPROTO_TCP)

    def test_only_loopback_is_bound(self):
        self.assertTrue(self.url.startswith("http://127.0.0.1:"))
        refused = get(f"{self.url}/api/outings", headers={"host": "example.org"})
        self.assertEqual(refused.status_code, 403)

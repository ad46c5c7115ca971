"""Connections held open by others: bounded by address, given up in time, closed at stop."""

import logging
import socket
import ssl
import tempfile
import time
import unittest
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

import httpx

from oxlen.network import connections
from oxlen.network.serving import Wanted
from oxlen.server.app import create_app
from oxlen.server.log_lines import MOST_LINES, LineLimit
from oxlen.server.network_state import NetworkState
from oxlen.store.library import open_library
from tests.one_app import CREW

SOON_S = 0.4


class Held(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        library = open_library(Path(folder.name) / "data")
        app = create_app(library, pool=CREW)
        app.state.network_state = NetworkState(
            app, library, lambda: datetime.now(UTC), addresses=lambda: ("127.0.0.2",)
        )
        self.serving = app.state.network_state.serving
        self.addCleanup(self.serving.stop)
        for name in ("HEADER_S", "BODY_PAUSE_S"):
            soon = mock.patch.object(connections, name, SOON_S)
            soon.start()
            self.addCleanup(soon.stop)

    def start(self, *, is_secure=False):
        served = self.serving.start(Wanted(5, is_secure=is_secure, port=0))
        self.at = ("127.0.0.2", served.port)
        return served

    def connected(self, source="127.0.0.9"):
        made = socket.create_connection(self.at, 5, source_address=(source, 0))
        self.addCleanup(made.close)
        made.settimeout(10)
        return made

    def is_ended(self, connection):
        """Whether the server gives a connection up; it has ten seconds on a busy machine."""
        try:
            while connection.recv(4096):
                pass
        except TimeoutError:
            return False
        except OSError:
            return True
        return True

    def until_none_is_open(self):
        for _ in range(200):
            if self.serving.limits.count == 0:
                return
            time.sleep(0.05)
        self.fail(f"{self.serving.limits.count} connections are still open")

    def test_one_host_cannot_shut_others_out(self):
        with mock.patch.object(connections, "HEADER_S", 60.0):
            served = self.start()
            before = len(list(Path("/proc/self/fd").iterdir()))
            silent = []
            for _ in range(100):
                with suppress(ConnectionResetError):  # there was no room for it
                    silent.append(self.connected())
            with httpx.Client(base_url=served.urls[0]) as other:
                self.assertEqual(other.get("/api/outings").status_code, 401)
            self.assertLessEqual(self.serving.limits.count, connections.NETWORK_BY_ADDRESS + 1)
            opened = len(list(Path("/proc/self/fd").iterdir())) - before - len(silent)
            self.assertLess(opened, 2 * connections.NETWORK_BY_ADDRESS)
            self.serving.stop()
        self.assertTrue(all(self.is_ended(connection) for connection in silent))
        self.assertEqual(self.serving.limits.count, 0)

    def test_a_head_that_does_not_come_and_a_body_that_stalls_are_given_up(self):
        self.start()
        host = f"Host: {self.at[0]}:{self.at[1]}\r\n".encode()
        begun = {
            "nothing": b"",
            "half a head": b"GET /api/outings HTTP/1.1\r\nHo",
            "half a body": b"POST /api/pair HTTP/1.1\r\n" + host + b"Content-Length: 500\r\n\r\n{",
            "a second head": b"GET /robots.txt HTTP/1.1\r\n" + host + b"\r\nGET / HT",
        }
        for name, sent in begun.items():
            connection = self.connected()
            connection.sendall(sent)
            with self.subTest(name):
                self.assertTrue(self.is_ended(connection))
        self.until_none_is_open()

    def test_a_handshake_nobody_finishes_is_given_up_and_closed_at_the_end(self):
        self.start(is_secure=True)
        half = self.connected()
        half.sendall(b"\x16\x03\x01\x02\x00\x01")
        self.assertTrue(self.is_ended(half))
        context = ssl.create_default_context(cadata=self.serving.authority().file)
        with httpx.Client(verify=context) as phone:
            url = f"https://{self.at[0]}:{self.at[1]}/api/outings"
            self.assertEqual(phone.get(url).status_code, 401)
        self.until_none_is_open()


class Lines(unittest.TestCase):
    def test_a_flood_of_lines_is_bounded_and_counted(self):
        now = [0.0]
        limit = LineLimit(lambda: now[0])
        line = logging.makeLogRecord({"msg": "Invalid HTTP request received."})
        self.assertEqual(sum(limit.filter(line) for _ in range(5000)), MOST_LINES)
        now[0] = 61.0
        last = logging.makeLogRecord({"msg": "Invalid %s", "args": ("again",)})
        self.assertTrue(limit.filter(last))
        left_out = 5000 - MOST_LINES
        self.assertEqual(last.getMessage(), f"Invalid again ({left_out} earlier lines left out)")

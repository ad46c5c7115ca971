"""Requests made up from the API's own description: no 5xx, and no answer it does not name."""

import os
import random
import shutil
import subprocess
import tempfile
import threading
import time
import unittest
from contextlib import suppress
from pathlib import Path

import httpx
import psutil
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import content_type_conformance

from oxlen.server.problems import STATUS_WORDS
from oxlen.store.connect import connect
from tests.browser.app_in_browser import Server, demo_library
from tests.cli.test_commands import oxlen
from tests.counts import LONG
from tests.server.made_up_requests import SEED, Asker
from tests.server.test_full_disk import mounted

IS_LONG_RUN = bool(os.environ.get(LONG))
EACH, LEAST = (500 if IS_LONG_RUN else 20), 2
BUDGET_S = 3 * 3600.0 if IS_LONG_RUN else 75.0
"""Of the usual run: 20 of either kind until it is used up, then 2, in an order of the seed's."""
DISK = "size=80m"
EVERY_S, LOCKED_S, FULL_S = 1.5, 1.0, 1.5


def named_status(_, response, case):
    """Only statuses that the description names, for the operation or for every refusal."""
    named = {*case.operation.definition.raw["responses"], *map(str, STATUS_WORDS)}
    assert str(response.status_code) in named, (response.status_code, response.content)


NAMED = [named_status, content_type_conformance]


def passing_trouble(_, response, __):
    """In trouble a server may say so, and when to ask again; nothing else above 499."""
    if response.status_code in (503, 507):
        assert "retry-after" in response.headers, response.content
    else:
        assert response.status_code < 500, (response.status_code, response.content)


class AnyRequest(unittest.TestCase):
    def ask_all(self, asker):
        for operation, mode in asker.operations():
            with self.subTest(operation.label, mode=mode.name, seed=SEED):
                asker.ask(operation, mode)
        self.assertGreater(asker.asked, 300)

    def test_every_answer_is_one_the_description_names(self):
        root = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, root)
        demo_library(root / "data")
        server = Server(root / "data")
        self.addCleanup(lambda: server.process.poll() is None and server.stop())
        checks = [not_a_server_error, *NAMED]
        asker = Asker(server.url, checks, each=EACH, least=LEAST, budget_s=BUDGET_S)
        self.ask_all(asker)
        self.assertEqual(asker.often_slow(), [])
        self.assert_nothing_is_left(server)

    def test_in_trouble_it_says_so_and_goes_on_after_it(self):
        disk = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, disk, ignore_errors=True)
        if not mounted("-t", "tmpfs", "-o", DISK, "tmpfs", str(disk)):
            self.skipTest("nobody may mount a small disk on this machine")
        self.addCleanup(subprocess.run, ["umount", "-l", str(disk)], check=True)
        demo_library(disk / "data")
        server = Server(disk / "data")
        self.addCleanup(lambda: server.process.poll() is None and server.stop())
        ended, done = threading.Event(), {"killed": 0, "locked": 0, "filled": 0}
        troubles = threading.Thread(
            target=trouble, args=(server, disk), kwargs={"ended": ended, "done": done}
        )
        troubles.start()
        try:
            asker = Asker(server.url, [passing_trouble, *NAMED], each=3, least=1, budget_s=30.0)
            self.ask_all(asker)
        finally:
            ended.set()
            troubles.join()
        self.assertTrue(all(done.values()), done)
        kept = httpx.get(f"{server.url}/api/outings", timeout=60)
        self.assertEqual(kept.status_code, 200, kept.text)
        server.stop()
        server.start()  # what killed workers left behind is swept
        self.assert_nothing_is_left(server)

    def assert_nothing_is_left(self, server):
        self.assertEqual(server.stop(), 0)
        checked = oxlen("check", "--data", server.folder)
        self.assertEqual(checked.returncode, 0, checked.stdout + checked.stderr)


def trouble(server, disk, *, ended, done):
    """Until it is ended: kill workers, hold the database's lock, fill the disk; counted."""
    draw = random.Random(SEED)
    while not ended.wait(EVERY_S):
        kind = draw.choice(tuple(done))
        if kind == "killed":
            done[kind] += kill_workers(server.process.pid)
        elif kind == "locked":
            done[kind] += hold_lock(disk / "data" / "oxlen.db")
        else:
            done[kind] += fill(disk / "filler")


def kill_workers(pid):
    """Kill the workers of a server; how many there were."""
    killed = 0
    for child in psutil.Process(pid).children(recursive=True):
        with suppress(psutil.Error):
            if "forkserver" in " ".join(child.cmdline()):
                child.kill()
                killed += 1
    return killed


def hold_lock(database):
    """Keep others from writing for a while."""
    with suppress(Exception):
        connection = connect(database)
        try:
            connection.execute("BEGIN IMMEDIATE")
            time.sleep(LOCKED_S)
            return 1
        finally:
            connection.close()
    return 0


def fill(filler):
    """Fill the disk for a while."""
    try:
        with filler.open("wb", buffering=0) as file:
            while True:
                file.write(bytes(65536))
    except OSError:
        time.sleep(FULL_S)
        return 1
    finally:
        filler.unlink(missing_ok=True)

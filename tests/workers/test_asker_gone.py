"""Work is dropped once nobody waits for it; short work under way is finished."""

import time
import unittest
from concurrent.futures import Future
from types import SimpleNamespace
from unittest import mock

from oxlen.core.errors import WorkFailed
from oxlen.server import waiting


class AskerGone(unittest.IsolatedAsyncioTestCase):
    def setUp(self):
        self.enterContext(mock.patch.object(waiting, "LOOK_AGAIN_S", 0.01))

    @staticmethod
    def asker(*, is_gone):
        async def is_disconnected():
            return is_gone

        return SimpleNamespace(is_disconnected=is_disconnected)

    async def test_what_waits_its_turn_is_dropped(self):
        future = Future()
        with self.assertRaisesRegex(WorkFailed, "nobody waits"):
            await waiting.while_asked_for(self.asker(is_gone=True), future)
        self.assertTrue(future.cancelled())

    async def test_what_runs_is_ended_only_after_a_while(self):
        future = Future()
        future.set_running_or_notify_cancel()
        began = time.monotonic()
        with (
            mock.patch.object(waiting, "GRACE_S", 0.2),
            self.assertRaisesRegex(WorkFailed, "nobody waits"),
        ):
            await waiting.while_asked_for(self.asker(is_gone=True), future)
        self.assertGreaterEqual(time.monotonic() - began, 0.2)

    async def test_whoever_stays_gets_it(self):
        future = Future()
        future.set_result(7)
        self.assertEqual(await waiting.while_asked_for(self.asker(is_gone=False), future), 7)

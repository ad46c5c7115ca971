"""Worker processes: bounded in time and memory, replaced when they die, gone when idle."""

import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

import psutil

from oxlen.core.errors import OutOfRange, PictureError, WorkFailed
from oxlen.server.many_sheets import AT_ONCE, in_parts
from oxlen.workers.worker_pool import WorkerPool, outcome


def pid_of_worker():
    return os.getpid()


def refuse():
    raise PictureError("a.jpg", "it is cut.")


def out_of_range():
    raise OutOfRange("iso", 1e9, high=6400, unit="ISO")


def take_memory(size):
    return len(b"\1" * size)


def end_at_once():
    os.kill(os.getpid(), signal.SIGKILL)


def handles():
    return len(list(Path("/proc/self/fd").iterdir()))


def wait(seconds):
    time.sleep(seconds)


def wait_each(seconds):
    time.sleep(sum(seconds))
    return seconds


class TheWorkerPool(unittest.TestCase):
    pool: WorkerPool

    @classmethod
    def setUpClass(cls):
        cls.pool = WorkerPool(limit_s=1.0)
        cls.addClassCleanup(cls.pool.stop)

    def test_two_hands_do_not_wait_for_each_other(self):
        self.pool.do("bench", int)  # its start is not what is asked here
        slow = self.pool.begin("intake", wait, 0.8)
        began = time.monotonic()
        self.assertNotEqual(self.pool.do("bench", pid_of_worker), os.getpid())
        self.assertFalse(slow.done(), time.monotonic() - began)
        slow.result()

    def test_once_stopped_the_rest_of_many_sheets_is_not_begun(self):
        pool = WorkerPool()
        self.addCleanup(pool.stop)
        pool.do("bench", int)

        def given():
            for number in range(40 * AT_ONCE):
                if number == 3 * AT_ONCE:
                    pool.stop()
                yield 0.01

        with tempfile.TemporaryDirectory() as folder, self.assertRaises(WorkFailed):
            in_parts(pool, wait_each, given(), whole=40 * AT_ONCE, beside=Path(folder) / "part")
        with self.assertRaises(WorkFailed):
            pool.begin("bench", int)
        pool.open()
        self.assertEqual(pool.do("bench", int), 0)

    def test_a_stop_is_heard_by_all_who_wait(self):
        pool = WorkerPool()
        self.addCleanup(pool.stop)
        pool.do("bench", int)
        waiting = [pool.begin("bench", wait, 60) for _ in range(3)]
        pool.stop()
        for future in waiting:
            with self.assertRaises(WorkFailed):
                outcome(future)

    def test_a_worker_that_dies_leaves_no_handles_open(self):
        pool = WorkerPool()
        self.addCleanup(pool.stop)
        pool.do("bench", int)
        before = handles()
        for _ in range(4):
            with self.assertRaises(WorkFailed):
                pool.do("bench", end_at_once)
            os.kill(pool.do("bench", pid_of_worker), signal.SIGKILL)
            time.sleep(0.3)
        pool.do("bench", int)
        for _ in range(100):
            if handles() <= before + 1:
                break
            time.sleep(0.1)
        self.assertLessEqual(handles(), before + 1)

    def test_errors_come_back_whole(self):
        with self.assertRaises(PictureError) as caught:
            self.pool.do("intake", refuse)
        self.assertEqual(
            (caught.exception.message, caught.exception.cause), ("a.jpg: it is cut.", "it is cut.")
        )
        with self.assertRaises(OutOfRange) as outside:
            self.pool.do("intake", out_of_range)
        self.assertEqual(outside.exception.details["high"], 6400)

    def test_too_long_too_much_or_dead_is_a_sentence_and_the_next_one_works(self):
        for words, task, *given in (
            ("longer than 1 min", wait, 30),
            ("lack of memory", take_memory, 2_000_000_000),
            ("lack of memory", end_at_once),
        ):
            with self.subTest(task.__name__), self.assertRaisesRegex(WorkFailed, words):
                self.pool.do("intake", task, *given)
            self.assertEqual(self.pool.do("intake", take_memory, 1000), 1000)

    def test_a_worker_ended_from_outside_is_replaced(self):
        first = self.pool.do("intake", pid_of_worker)
        worker = psutil.Process(first)
        os.kill(first, signal.SIGKILL)
        psutil.wait_procs([worker], timeout=2)
        time.sleep(0.3)
        self.assertNotEqual(self.pool.do("intake", pid_of_worker), first)

    def test_a_worker_at_work_ends_with_the_server(self):
        code = (
            "import time; from oxlen.workers.worker_pool import WorkerPool; pool = WorkerPool();"
            "from tests.workers.test_worker_pool import pid_of_worker, wait;"
            "print(pool.do('intake', pid_of_worker), flush=True); pool.do('intake', wait, 30)"
        )
        command = [sys.executable, "-c", code]
        server = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL)
        worker = psutil.Process(int(server.stdout.readline()))
        server.kill()
        server.wait()
        server.stdout.close()
        for _ in range(40):
            if not worker.is_running() or worker.status() == psutil.STATUS_ZOMBIE:
                return
            time.sleep(0.05)
        self.fail("the worker still runs")

    def test_an_idle_worker_goes(self):
        pool = WorkerPool(idle_s=0.1)
        self.addCleanup(pool.stop)
        worker = pool.do("bench", pid_of_worker)
        for _ in range(100):
            if not psutil.pid_exists(worker):
                break
            time.sleep(0.05)
        self.assertFalse(psutil.pid_exists(worker))
        self.assertNotEqual(pool.do("bench", pid_of_worker), worker)

"""Worker processes: bounded in time and memory, replaced when they die, gone when idle."""

import os
import signal
import subprocess
import sys
import time
import unittest
from pathlib import Path

import psutil

from oxlen.core.errors import OutOfRange, PictureError, WorkFailed
from oxlen.workers.crew import Crew


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


class TheCrew(unittest.TestCase):
    crew: Crew

    @classmethod
    def setUpClass(cls):
        cls.crew = Crew(limit_s=1.0)
        cls.addClassCleanup(cls.crew.stop)

    def test_two_hands_do_not_wait_for_each_other(self):
        self.crew.do("bench", int)  # its start is not what is asked here
        slow = self.crew.begin("intake", wait, 0.8)
        began = time.monotonic()
        self.assertNotEqual(self.crew.do("bench", pid_of_worker), os.getpid())
        self.assertFalse(slow.done(), time.monotonic() - began)
        slow.result()

    def test_a_worker_that_dies_leaves_no_handles_open(self):
        crew = Crew()
        self.addCleanup(crew.stop)
        crew.do("bench", int)
        before = handles()
        for _ in range(4):
            with self.assertRaises(WorkFailed):
                crew.do("bench", end_at_once)
            os.kill(crew.do("bench", pid_of_worker), signal.SIGKILL)
            time.sleep(0.3)
        crew.do("bench", int)
        for _ in range(100):
            if handles() <= before + 1:
                break
            time.sleep(0.1)
        self.assertLessEqual(handles(), before + 1)

    def test_errors_come_back_whole(self):
        with self.assertRaises(PictureError) as caught:
            self.crew.do("intake", refuse)
        self.assertEqual(
            (caught.exception.message, caught.exception.cause), ("a.jpg: it is cut.", "it is cut.")
        )
        with self.assertRaises(OutOfRange) as outside:
            self.crew.do("intake", out_of_range)
        self.assertEqual(outside.exception.details["high"], 6400)

    def test_too_long_too_much_or_dead_is_a_sentence_and_the_next_one_works(self):
        for words, task, *given in (
            ("longer than 1 min", wait, 30),
            ("lack of memory", take_memory, 2_000_000_000),
            ("lack of memory", end_at_once),
        ):
            with self.subTest(task.__name__), self.assertRaisesRegex(WorkFailed, words):
                self.crew.do("intake", task, *given)
            self.assertEqual(self.crew.do("intake", take_memory, 1000), 1000)

    def test_a_worker_ended_from_outside_is_replaced(self):
        first = self.crew.do("intake", pid_of_worker)
        worker = psutil.Process(first)
        os.kill(first, signal.SIGKILL)
        psutil.wait_procs([worker], timeout=2)
        time.sleep(0.3)
        self.assertNotEqual(self.crew.do("intake", pid_of_worker), first)

    def test_a_worker_at_work_ends_with_the_server(self):
        code = (
            "import time; from oxlen.workers.crew import Crew; crew = Crew();"
            "from tests.workers.test_crew import pid_of_worker, wait;"
            "print(crew.do('intake', pid_of_worker), flush=True); crew.do('intake', wait, 30)"
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
        crew = Crew(idle_s=0.1)
        self.addCleanup(crew.stop)
        worker = crew.do("bench", pid_of_worker)
        for _ in range(100):
            if not psutil.pid_exists(worker):
                break
            time.sleep(0.05)
        self.assertFalse(psutil.pid_exists(worker))
        self.assertNotEqual(crew.do("bench", pid_of_worker), worker)

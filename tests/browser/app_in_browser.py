"""One app and one browser for many tests, each on its own copy of the demo."""

import atexit
import functools
import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from pathlib import Path
from types import SimpleNamespace

import uvicorn
from playwright.sync_api import expect, sync_playwright

from oxlen.demo.seed import seed_demo
from oxlen.store.library import open_library
from tests.one_app import app_on

ROOT = Path(__file__).parents[2]
expect.set_options(timeout=30_000)  # a busy machine is slow, not wrong
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-sync",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",  # a camera that shows a turning disc
]


def demo_library(folder):
    """The Kettle Reach demo in a folder."""
    seed_demo(open_library(folder))


def as_another_library(folder):
    """Name the sheets of a copy anew: what a browser kept for one is not given to another."""
    with open_library(folder).writer() as connection:
        connection.execute("UPDATE sheet SET uid = lower(hex(randomblob(16)))")


class Server:
    """The app in a process of its own on a free port, as people start it."""

    def __init__(self, folder):
        self.folder = folder
        self.start()

    def start(self):
        environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
        command = [sys.executable, "-m", "oxlen", "serve", "--no-browser", "--port", "0"]
        self.process = subprocess.Popen(
            [*command, "--data", str(self.folder)],
            stdout=subprocess.PIPE,
            text=True,
            env=environment,
        )
        self.url = re.search(r"http://[\d.:]+", self.process.stdout.readline()).group()

    def stop(self, how=signal.SIGTERM):
        self.process.send_signal(how)
        code = self.process.wait(60)
        self.process.stdout.close()
        return code


class SharedServer:
    """One server for the whole run, in a thread; each test is given its own copy of the demo."""

    def __init__(self):
        # The server outlives every library, so it has no life events to hand on.
        config = uvicorn.Config(
            self.answer, port=0, log_level="warning", interface="asgi3", lifespan="off"
        )
        self.uvicorn = uvicorn.Server(config)
        self.thread = threading.Thread(target=self.uvicorn.run, daemon=True)
        self.thread.start()
        while not self.uvicorn.started:
            time.sleep(0.01)
        port = self.uvicorn.servers[0].sockets[0].getsockname()[1]
        self.url = f"http://127.0.0.1:{port}"
        self.app = None

    async def answer(self, scope, receive, send):
        await self.app(scope, receive, send)

    def open(self, folder):
        self.folder = folder
        self.app = app_on(open_library(folder))

    def close(self):
        self.uvicorn.should_exit = True
        self.thread.join(10)


def chromium():
    """Where Chromium is: the build without a window, which is lighter, else the usual one."""
    return shutil.which("chromium-headless-shell") or shutil.which("chromium")


@functools.cache
def shared():
    """Seeded demo, server and browser, begun by the first test that needs them."""
    root = Path(tempfile.mkdtemp())
    atexit.register(shutil.rmtree, root, ignore_errors=True)
    demo_library(root / "seed")
    server = SharedServer()
    playwright = sync_playwright().start()
    browser = playwright.chromium.launch(executable_path=chromium(), args=FLAGS)
    atexit.register(playwright.stop)
    atexit.register(browser.close)
    atexit.register(server.close)
    context = browser.new_context()
    context.set_default_timeout(45_000)
    return SimpleNamespace(
        root=root, server=server, context=context, playwright=playwright, blank_pages=[]
    )


class InBrowser(unittest.TestCase):
    """The server on a copy of the demo of one's own, and a fresh page."""

    def setUp(self):
        self.server = shared().server
        folder = Path(tempfile.mkdtemp(dir=shared().root)) / "data"
        shutil.copytree(shared().root / "seed", folder)
        as_another_library(folder)
        self.begin(folder)
        self.faults = []
        self.page = self.open_page()

    def begin(self, folder):
        self.server.open(folder)

    def open_page(self, width=1280, height=800):
        """A blank page: one left over from an earlier test, as opening another takes a second."""
        page = shared().blank_pages.pop() if shared().blank_pages else shared().context.new_page()
        page.set_viewport_size({"width": width, "height": height})
        heard = {
            "pageerror": lambda error: self.faults.append(str(error)),
            "console": lambda m: self.faults.append(m.text) if m.type == "error" else None,
        }
        for event, hear in heard.items():
            page.on(event, hear)
        self.addCleanup(self.close_page, page, heard)
        return page

    def close_page(self, page, heard):
        """Leave a page as blank as a new one."""
        for event, hear in heard.items():
            page.remove_listener(event, hear)
        page.context.clear_permissions()
        page.unroute_all()
        page.emulate_media(media="screen")
        if page.url.startswith("http"):
            page.evaluate("localStorage.clear(); indexedDB.deleteDatabase('oxlen-waiting')")
        if shared().blank_pages:  # a page behind another is drawn late: one is kept
            page.close()
            return
        # Something small of the same origin: its process stays warm for the next test.
        page.goto(f"{shared().server.url}/robots.txt")
        page.bring_to_front()
        shared().blank_pages.append(page)

    def visit(self, path, page=None):
        (page or self.page).goto(self.server.url + path)

    def sheet(self, ev100, **body):
        """A new sheet with one reading off a hand meter, opened."""
        reading = {"id": "a", "name": "wall", "source": {"kind": "ev", "ev100": ev100}}
        made = {"title": "Made for this", "readings": [reading], "lens": "main", **body}
        outing = self.page.request.get(f"{self.server.url}/api/outings").json()[0]["id"]
        answer = self.page.request.post(f"{self.server.url}/api/outings/{outing}/sheets", data=made)
        assert answer.status == 201, answer.text()
        self.visit(f"/sheets/{answer.json()['id']}")

    def slip(self, field, page=None):
        lines = (page or self.page).get_by_role("region", name="Slip").locator("ol > li")
        named = (page or self.page).get_by_text(field, exact=True)
        return lines.filter(has=named).locator("span").nth(2)

    def region(self, name, page=None):
        return (page or self.page).get_by_role("region", name=name)

    def choose(self, field, page=None):
        """Choose a line of the slip: its instrument opens, with its settings beneath."""
        self.slip(field, page).click()

    def box_of(self, locator):
        """Where something is once the layout has come to rest."""
        expect(locator).to_be_visible()
        before = None
        for _ in range(40):
            box = locator.bounding_box()
            if box == before:
                break
            before = box
            locator.page.wait_for_timeout(100)
        return box

    def saved(self, page=None):
        expect((page or self.page).get_by_text(re.compile(r"^Saved \d"))).to_be_visible()

    def drop(self, selector, files):
        """Drop files as a hand would: (name, bytes) pairs."""
        self.page.wait_for_selector(selector)
        self.page.evaluate(
            """([selector, files]) => {
                const data = new DataTransfer();
                for (const [name, bytes] of files)
                    data.items.add(new File([new Uint8Array(bytes)], name));
                const target = document.querySelector(selector);
                for (const kind of ['dragover', 'drop'])
                    target.dispatchEvent(new DragEvent(kind, {dataTransfer: data, bubbles: true}));
            }""",
            [selector, [[name, list(data)] for name, data in files]],
        )


class WithServerOfItsOwn(InBrowser):
    """For tests that end the server and start it again: a process, as people have it."""

    def begin(self, folder):
        self.server = Server(folder)
        self.addCleanup(lambda: self.server.process.poll() is None and self.server.stop())

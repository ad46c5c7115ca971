"""The app in a process of its own on loopback, as people run it, and a browser to look at it."""

from __future__ import annotations

import re
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from bench.harness.reference import PAGE

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


@contextmanager
def serving(command: str = "serve", data: Path | None = None) -> Iterator[str]:
    """The address of the app while it runs on data of its own, or on some; ended afterwards."""
    with tempfile.TemporaryDirectory() as own:
        folder = str(data or own)
        started = [sys.executable, "-m", "oxlen", command, "--no-browser", "--port", "0"]
        process = subprocess.Popen([*started, "--data", folder], stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        try:
            found = re.search(r"http://[\d.:]+", process.stdout.readline())
            assert found is not None
            yield found.group()
        finally:
            process.send_signal(signal.SIGTERM)
            process.wait()
            process.stdout.close()


@contextmanager
def browsing() -> Iterator[Browser]:
    """The machine's own browser, with no network of its own."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=_browser(), args=FLAGS)
        try:
            yield browser
        finally:
            browser.close()


def page_s(page: Page) -> float:
    """How long the page of fixed work takes in this page's browser."""
    page.set_content(PAGE)
    page.wait_for_function("window.doneAt")
    return float(page.evaluate("window.doneAt - window.begunAt")) / 1000


def reference_page_s(browser: Browser) -> float:
    """The same in a page of its own."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    try:
        return page_s(context.new_page())
    finally:
        context.close()


def _browser() -> str | None:
    return shutil.which("chromium-headless-shell") or shutil.which("chromium")

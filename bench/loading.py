"""The Sheet in a browser: weight of its scripts, and time until it can be used."""

from __future__ import annotations

import re
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator

from playwright.sync_api import sync_playwright

# When the slip's third line stands on the page, in ms since navigation began.
WATCH = """new MutationObserver(() => {
    window.usableAt ||= document.querySelectorAll('[aria-label=Slip] li')[2] && performance.now();
}).observe(document, {childList: true, subtree: true})"""
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, measured, wanted at most)."""
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "oxlen", "demo", "--no-browser", "--port", "0"]
        process = subprocess.Popen([*command, "--data", folder], stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        found = re.search(r"http://[\d.:]+", process.stdout.readline())
        assert found is not None
        try:
            yield from _measure(found.group())
        finally:
            process.send_signal(signal.SIGTERM)
            process.wait()
            process.stdout.close()


def _measure(url: str) -> Iterator[tuple[str, float, float]]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
        times = []
        for _ in range(5):
            page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
            page.add_init_script(WATCH)
            page.goto(f"{url}/sheets/4")
            page.get_by_role("region", name="Slip").locator("li").nth(2).wait_for()
            times.append(page.evaluate("window.usableAt"))
        sizes = page.evaluate(
            "performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js'))"
            ".map(r => r.encodedBodySize)"
        )
        browser.close()
    yield "scripts of the Sheet, kB gzipped", sum(sizes) / 1000, 200
    yield "Sheet usable after navigation, worst of 5, s", max(times) / 1000, 1.0

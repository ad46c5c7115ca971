"""The dry run against one Gaussian blur of the same frame in the same run, and in the browser."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
from playwright.sync_api import Page

from bench.harness.measure import Figures, in_turns, median_ratio
from bench.harness.serving import browsing, reference_page_s, serving
from oxlen.core.simulate.capture import capture
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.randomness import PooledNoise
from oxlen.core.simulate.scene import reduced
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.preview.cache import COARSE_STEP

CASES = (
    ("white-hull-sun", "main", CaptureSettings(50, 1 / 4000, 6.0)),
    ("lantern-evening", "main", CaptureSettings(400, 1 / 15, 4.0, support="braced")),
    ("bronze-bench", "long", CaptureSettings(100, 1 / 60, 1.2, support="tripod")),
)
ROUNDS = 30
"""The blur's own time wavers by half on a machine with two cores: many turns find its best."""
WATCH = """() => {
    window.waits = [];
    let moved = 0, last = null;
    const frame = () => document.querySelector('img[alt^="Predicted frame, slip"]');
    new MutationObserver(() => {
        if (moved && frame()?.dataset.quality === 'coarse' && frame().alt !== last) {
            window.waits.push(performance.now() - moved);
            last = frame().alt;
            moved = 0;
        }
    }).observe(document.body, {subtree: true, attributes: true, childList: true});
    last = frame().alt;
    window.addEventListener('keydown', () => { moved = performance.now(); }, true);
}"""


def figures() -> Figures:
    """What is measured."""
    phone = shipped_profile("wherry-3").to_phone()
    frame = np.random.default_rng(1).random((720, 960, 3), dtype=np.float32)
    for scene_id, lens_id, settings in CASES:
        scene, lens = shipped_scene(scene_id), phone.lens(lens_id)
        small = reduced(scene, COARSE_STEP)

        def run(what=scene, lens=lens, settings=settings):  # type: ignore[no-untyped-def]
            return capture(
                what, lens, lens.modes[0], settings=settings, random=PooledNoise(1)
            ).developed()

        def blurred() -> object:
            return cv2.GaussianBlur(frame, (0, 0), 3)

        full = in_turns(run, blurred, rounds=ROUNDS)
        yield replace(full.figure("dry-running/full-by-blur"), note=scene_id)
        coarse = in_turns(lambda small=small, run=run: run(small), blurred, rounds=ROUNDS)  # type: ignore[misc]
        yield replace(coarse.figure("dry-running/coarse-by-blur"), note=scene_id)
    yield from _in_browser()


def _in_browser() -> Figures:
    with serving("demo") as url, browsing() as browser:
        waits = _waits(browser.new_page(viewport={"width": 1280, "height": 800}), url)
        fixed = [reference_page_s(browser) for _ in waits]
    yield median_ratio([wait / 1000 for wait in waits], fixed).figure("dry-running/moved-by-page")


def _waits(page: Page, url: str) -> list[float]:
    page.goto(f"{url}/sheets/5")
    page.get_by_role("radio", name="Dry run").click()
    page.locator('img[alt^="Predicted frame, slip"][data-quality=full]').wait_for()
    page.evaluate(WATCH)
    page.get_by_role("slider", name="Slip on the map").focus()
    for _ in range(9):
        page.keyboard.press("ArrowLeft")
        page.wait_for_timeout(900)
    waits: list[float] = page.evaluate("window.waits")
    return waits

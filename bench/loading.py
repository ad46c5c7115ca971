"""The Sheet in a browser: weight of its scripts, and time until it can be used."""

from __future__ import annotations

from playwright.sync_api import Browser

from bench.harness.measure import Figure, Figures, ratio_of
from bench.harness.serving import browsing, reference_page_s, serving

ROUNDS = 9
# When the slip's third line is on the page, in ms since navigation began.
WATCH = """new MutationObserver(() => {
    window.usableAt ||= document.querySelectorAll('[aria-label=Slip] li')[2] && performance.now();
}).observe(document, {childList: true, subtree: true})"""


def figures() -> Figures:
    """What is measured."""
    with serving("demo") as url, browsing() as browser:
        yield from _measure(url, browser)


def _measure(url: str, browser: Browser) -> Figures:
    pairs = []
    for _ in range(ROUNDS):
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.add_init_script(WATCH)
        page.goto(f"{url}/sheets/4")
        page.get_by_role("region", name="Slip").locator("li").nth(2).wait_for()
        pairs.append((page.evaluate("window.usableAt") / 1000, reference_page_s(browser)))
    sizes = page.evaluate(
        "performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js')"
        " && r.startTime < window.usableAt)"
        ".map(r => r.encodedBodySize)"
    )
    yield Figure("loading/sheet-scripts-kB", sum(sizes) / 1000)
    yield ratio_of(pairs).figure("loading/sheet-usable-by-page")

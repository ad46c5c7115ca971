"""The Sheet in a browser: weight of its scripts, and time until it can be used."""

from __future__ import annotations

from collections.abc import Iterator

from playwright.sync_api import Browser

from bench.serving import browsing, serving

# When the slip's third line stands on the page, in ms since navigation began.
WATCH = """new MutationObserver(() => {
    window.usableAt ||= document.querySelectorAll('[aria-label=Slip] li')[2] && performance.now();
}).observe(document, {childList: true, subtree: true})"""


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, measured, wanted at most)."""
    with serving("demo") as url, browsing() as browser:
        yield from _measure(url, browser)


def _measure(url: str, browser: Browser) -> Iterator[tuple[str, float, float]]:
    times = []
    for _ in range(5):
        page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        page.add_init_script(WATCH)
        page.goto(f"{url}/sheets/4")
        page.get_by_role("region", name="Slip").locator("li").nth(2).wait_for()
        times.append(page.evaluate("window.usableAt"))
    sizes = page.evaluate(
        "performance.getEntriesByType('resource').filter(r => r.name.endsWith('.js')"
        " && r.startTime < window.usableAt)"
        ".map(r => r.encodedBodySize)"
    )
    yield "scripts of the Sheet, kB gzipped", sum(sizes) / 1000, 200
    yield "Sheet usable after navigation, worst of 5, s", max(times) / 1000, 1.0

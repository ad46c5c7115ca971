"""Oxlen on a phone, as slow as one: a quarter of this processor, over a slow wireless network.

The figures are in a browser of this machine made slower, not on a phone: they show what pages ask
for, and what a change made of it.
"""

from __future__ import annotations

import io

import numpy as np
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, FilePayload, Page, ViewportSize
from tests.pictures.making import exif, jpeg

from bench.harness.measure import Figure, Figures, ratio_of, seconds
from bench.harness.serving import browsing, page_s, serving

SLOWER = 4
NETWORK = {
    "offline": False,
    "latency": 150,  # ms there and back
    "downloadThroughput": 1.6e6 / 8,
    "uploadThroughput": 0.75e6 / 8,
}
SCREEN: ViewportSize = {"width": 390, "height": 844}
ROUNDS = 5
RESTING_MS = 1500
"""Until what is fetched at rest has come: it would weigh on the next opening."""
# When the slip is in the bar below, and when a picture's reading is, in ms.
WATCH = """new MutationObserver(() => {
    window.slipAt ||= [...document.querySelectorAll('button')]
        .some((one) => one.innerText.startsWith('Lens')) && performance.now();
}).observe(document, {childList: true, subtree: true})"""
SCRIPTS = """performance.getEntriesByType('resource')
    .filter((one) => one.name.endsWith('.js') && one.startTime < window.slipAt)
    .map((r) => r.encodedBodySize).reduce((a, b) => a + b, 0)"""
# From choosing a picture until its preview is on the page, in ms.
READ = """document.addEventListener('change', () => performance.mark('chosen'), {capture: true});
new MutationObserver(() => {
    if (document.querySelector('img[src*=preview]'))
        window.readAt ||= performance.now() - performance.getEntriesByName('chosen')[0].startTime;
}).observe(document, {childList: true, subtree: true, attributes: true})"""
ME = '{"is_phone": true, "name": "Bench", "may_change_kit": false}'


def figures() -> Figures:
    """What is measured."""
    with serving("demo") as url, browsing() as browser:
        yield from _opening(url, browser)
        yield from _reading(url, browser)


def _opening(url: str, browser: Browser) -> Figures:
    first = []
    for _ in range(ROUNDS):
        context = _phone(browser)
        first.append(_slip_pair(_slowed(context), f"{url}/sheets/7"))
        context.close()
    yield ratio_of(first).figure("phone-page/first-by-page")
    context = _phone(browser)
    page = context.new_page()
    _slip_s(page, f"{url}/sheets/7")
    yield Figure("phone-page/scripts-kB", page.evaluate(SCRIPTS) / 1000)
    page.evaluate("() => navigator.serviceWorker.register('/sw.js', {type: 'module'})")
    page.evaluate(
        "async () => { await navigator.serviceWorker.ready; for (const one of"
        " await (await fetch('/parts.json')).json()) await (await caches.open('oxlen-parts'))"
        ".add(one); }"
    )
    page.reload()
    page.get_by_role("button", name="Lens ").wait_for()
    page.close()
    again = []
    for _ in range(ROUNDS):
        page = _slowed(context)
        again.append(_slip_pair(page, f"{url}/sheets/7"))
        page.close()
    yield ratio_of(again).figure("phone-page/installed-by-page")


def _reading(url: str, browser: Browser) -> Figures:
    """A 12-megapixel picture chosen on the phone, by loopback, until its reading is there."""
    draw = np.random.default_rng(5)
    codes = np.full((3000, 4000, 3), 118, dtype=np.int16) + draw.integers(
        -14, 15, (3000, 4000, 1), dtype=np.int16
    )
    context = _phone(browser)
    context.route(
        "**/api/me", lambda route: route.fulfill(body=ME, content_type="application/json")
    )
    page = context.new_page()
    page.goto(url)
    sent: list[int] = []
    page.on("request", lambda request: sent.append(len(request.post_data_buffer or b"")))
    read: list[tuple[float, float]] = []
    for number in range(ROUNDS + 1):  # the first shows what starts up
        codes[0, 0] = number
        file = jpeg(codes.astype(np.uint8), exif(), quality=90)
        body = {"title": f"Creek {number}", "phone": "wherry-3"}
        sheet = page.request.post(f"{url}/api/outings/1/sheets", data=body).json()
        page.goto(f"{url}/sheets/{sheet['id']}")
        page.locator("input[capture]").first.wait_for(state="attached")
        page.wait_for_timeout(RESTING_MS)
        page.evaluate(READ)
        page.locator("input[capture]").first.set_input_files(
            [FilePayload(name="creek.jpg", mimeType="image/jpeg", buffer=file)]
        )
        while not page.evaluate("window.readAt"):  # the page's policy forbids watching scripts
            page.wait_for_timeout(50)
        decoded_s = seconds(lambda: _decoded(file))  # noqa: B023
        read.append((page.evaluate("window.readAt") / 1000, decoded_s))
    yield ratio_of(read[1:]).figure("phone-page/read-by-decode")
    yield Figure("phone-page/small-copy-kB", max(sent) / 1000)


def _phone(browser: Browser) -> BrowserContext:
    return browser.new_context(viewport=SCREEN, has_touch=True, is_mobile=True)


def _slowed(context: BrowserContext) -> Page:
    page = context.new_page()
    session = context.new_cdp_session(page)
    session.send("Network.enable")
    session.send("Network.emulateNetworkConditions", NETWORK)
    session.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    return page


def _slip_pair(page: Page, url: str) -> tuple[float, float]:
    """Until the slip is there, and a page of fixed work on a phone as slow."""
    found = _slip_s(page, url)
    context = page.context
    fixed = page_s(_slowed(context))
    return found, fixed


def _decoded(file: bytes) -> None:
    with Image.open(io.BytesIO(file)) as image:
        image.load()


def _slip_s(page: Page, url: str) -> float:
    page.add_init_script(WATCH)
    page.goto(url)
    page.get_by_role("button", name="Lens ").wait_for()
    seconds = float(page.evaluate("window.slipAt")) / 1000
    page.wait_for_timeout(RESTING_MS)
    return seconds

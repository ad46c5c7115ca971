"""Three hundred outings with six thousand sheets: how soon their page is there, and comes back."""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import Page

from bench.harness.measure import Figure, Figures, ratio_of
from bench.harness.running import running
from bench.harness.serving import browsing, reference_page_s
from oxlen.demo.seed import seed_demo
from oxlen.formats.sheet.file import SheetBody
from oxlen.store.library import Library, open_library
from oxlen.store.outings import add_outing
from oxlen.store.pictures import tie_picture
from oxlen.store.sheets import add_sheet

OUTINGS, SHEETS_EACH, TIMES = 300, 20, 5
NOW = "2026-10-03T08:00:00+00:00"
# When the first preview has come, in ms since navigation began.
WATCH = """document.addEventListener('load', event => {
    if (event.target.tagName === 'IMG') window.firstPictureAt ||= performance.now();
}, true)"""


SHOWN_AGAIN = """(() => {
    const seen = document.querySelector('a[href^="/sheets/"] img');
    return seen?.complete && seen.naturalWidth && performance.now() - window.backFrom;
})()"""


def fill(library: Library) -> None:
    """The demo, and many outings like it."""
    seed_demo(library)
    with library.writer() as connection:
        kept = [row[0] for row in connection.execute("SELECT sha256 FROM picture ORDER BY sha256")]
        for number in range(OUTINGS):
            title = f"Haul-out {number + 1}"
            outing = add_outing(connection, title=title, place="Kettle Reach, the slip", now=NOW)
            for place in range(SHEETS_EACH):
                picture = kept[(number + place) % len(kept)]
                body = SheetBody(title=f"Hull {number + 1}, side {place + 1}", picture=picture)
                sheet = add_sheet(connection, outing, body.model_dump_json(), now=NOW)
                tie_picture(connection, sheet, picture)


def figures() -> Figures:
    """What is measured."""
    with tempfile.TemporaryDirectory() as name:
        fill(open_library(Path(name)))
        with running(Path(name)) as app, browsing() as browser:
            page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
            page.add_init_script(WATCH)
            yield from _measure(page, str(app.client.base_url))


def _until(page: Page, expression: str) -> float:
    """The first true value of an expression in the page."""
    while not (found := page.evaluate(expression)):
        page.wait_for_timeout(5)
    return float(found)


def _measure(page: Page, url: str) -> Figures:
    first, back = [], []
    for _ in range(TIMES):
        page.goto(f"{url}/")
        browser = page.context.browser
        assert browser is not None
        fixed = reference_page_s(browser)
        first.append((_until(page, "window.firstPictureAt") / 1000, fixed))
        page.mouse.wheel(0, 3000)
        page.wait_for_timeout(500)
        nodes = page.evaluate("document.getElementsByTagName('*').length")
        page.get_by_role("link", name="Hull").first.click()
        page.get_by_role("region", name="Slip").wait_for()
        page.evaluate("window.backFrom = performance.now(); history.back()")
        back.append((_until(page, SHOWN_AGAIN) / 1000, fixed))
        page.wait_for_timeout(300)
    yield ratio_of(first).figure("many/first-picture-by-page")
    yield ratio_of(back).figure("many/back-by-page")
    yield Figure("many/nodes", nodes)

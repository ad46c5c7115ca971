"""Take the pictures of the README from fresh demo data: `.venv/bin/python tools/screenshots.py`."""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.browser.app_in_browser import FLAGS, Server, chromium, demo_library  # noqa: E402
from tests.pictures.making import exif, jpeg  # noqa: E402

SHOTS = ROOT / "docs" / "screenshots"
WIDE, FIELD = (1280, 800), (390, 844)


def main() -> None:
    """One current picture of each main view."""
    SHOTS.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        demo_library(Path(folder))
        server = Server(Path(folder))
        browser = playwright.chromium.launch(executable_path=chromium(), args=FLAGS)

        def page_at(path: str, size: tuple[int, int], theme: str = "day") -> Page:
            context = browser.new_context(viewport={"width": size[0], "height": size[1]})
            page = context.new_page()
            page.set_default_timeout(8000)
            page.goto(server.url)
            page.evaluate("theme => localStorage.setItem('oxlen-theme', theme)", theme)
            page.goto(server.url + path)
            page.wait_for_timeout(1200)
            return page

        def shoot(page: Page, name: str) -> None:
            page.wait_for_timeout(400)
            page.screenshot(path=SHOTS / f"{name}.png")
            page.context.close()

        shoot(page_at("/", WIDE), "outings")
        shoot(page_at("/sheets/5", WIDE), "sheet")
        shoot(page_at("/sheets/4", WIDE), "conflict")
        shoot(page_at("/kit", WIDE), "kit")
        shoot(page_at("/sheets/8/time", WIDE), "time")
        shoot(page_at("/begin", WIDE), "begin")
        shoot(page_at("/sheets/13?line=focus", WIDE), "focus")
        shot = {"auto": False, "seed": 3}
        take = page_at("/", WIDE)
        take.request.post(f"{server.url}/api/sheets/5/bench-shot", data=shot)
        take.goto(f"{server.url}/sheets/5")
        takes = take.get_by_role("region", name="Takes")
        takes.get_by_role("button", name="Take with the slip").first.click()
        take.get_by_text("All measurements").wait_for()
        shoot(take, "take")
        run = page_at("/sheets/9/run", FIELD)
        for step in run.get_by_role("checkbox").all()[:12]:
            step.check()
        run.get_by_role("region", name="Dial").scroll_into_view_if_needed()
        shoot(run, "run")
        dry = page_at("/sheets/5", WIDE)
        dry.get_by_role("radio", name="Dry run").click()
        dry.wait_for_timeout(3000)
        shoot(dry, "dry-run")
        shop = page_at("/sheets/15/shop?part=check", WIDE)
        shop.get_by_role("button", name="Check series").click()
        shop.get_by_role("region", name="Drift").wait_for(timeout=60_000)
        shop.wait_for_timeout(1000)
        shoot(shop, "shop-series")
        network = page_at("/phone", WIDE)
        network.get_by_role("button", name="Show code").click()
        network.get_by_role("timer").wait_for()
        shoot(network, "phone")
        ruler = page_at("/sheets/9", FIELD)
        ruler.get_by_role("region", name="Exposure map").scroll_into_view_if_needed()
        shoot(ruler, "field")
        drawing = page_at("/sheets/14/drawing", WIDE)
        drawing.get_by_label("Dimmed by").fill("5.5")
        drawing.get_by_label("Dimmed by").press("Enter")
        drawing.get_by_label("Height").fill("1.6")
        drawing.get_by_label("Height").press("Enter")
        drawing.get_by_role("button", name="boat").click()
        drawing.get_by_label("Lamp colour").select_option("warm")
        drawing.wait_for_timeout(2500)
        drawing.evaluate("scrollTo(0, 0)")
        shoot(drawing, "drawing")
        logbook(page_at("/", WIDE), server.url)
        shoot(page_at("/takes", WIDE), "takes")
        light = page_at("/outings/2/light", WIDE)
        light.get_by_role("region", name="Order").get_by_role("listitem").first.wait_for()
        shoot(light, "day")
        night = page_at("/places/1?show=night&date=2027-06-04", WIDE)
        night.get_by_role("region", name="Dark nights").get_by_role("listitem").first.wait_for()
        shoot(night, "nights")
        shoot(stacked(page_at("/takes/stacks?sheet=2", WIDE)), "stack")
        card = page_at("/", FIELD)
        file = Path(folder) / "card.html"
        file.write_bytes(card.request.get(f"{server.url}/api/sheets/9/card.html").body())
        card.goto(file.as_uri())
        card.get_by_label("More light").scroll_into_view_if_needed()
        shoot(card, "card")
        browser.close()
        server.stop()


def stacked(page: Page) -> Page:
    """Frames of the quay with people walking through, stacked without them."""
    page.get_by_label("Name of the new stack").fill("The quay without walkers")
    page.get_by_role("button", name="New stack").click()
    page.get_by_role("button", name="Shoot 20 on bench").click()
    page.get_by_role("heading", name="20 frames").wait_for(timeout=60_000)
    page.get_by_role("radio", name="It vanishes, least noise").check()
    page.get_by_role("button", name="Start").click()
    page.get_by_role("region", name="Result").wait_for(timeout=60_000)
    page.wait_for_timeout(1500)
    page.evaluate("scrollTo(0, 0)")
    return page


def logbook(page: Page, url: str) -> None:
    """Shots on the bench phone for several sheets, and two pictures that wait for theirs."""
    for sheet in (1, 2, 3):
        shot = {"auto": False, "seed": sheet}
        page.request.post(f"{url}/api/sheets/{sheet}/bench-shot", data=shot)
    slip = page.request.get(f"{url}/api/sheets/7").json()["answer"]["plan"]["slip"]
    shutter = (1, round(1 / slip["shutter_s"]))
    for number in (1, 2):
        picture = jpeg(np.full((60, 80, 3), 90 + 20 * number), exif(iso=50, shutter=shutter))
        page.request.post(f"{url}/api/inbox?name=IMG_{number}.jpg", data=picture)
    page.context.close()


if __name__ == "__main__":
    main()

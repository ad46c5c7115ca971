"""One fact has one value: what a page shows twice under one name is the same text."""

from collections import defaultdict

from playwright.sync_api import expect

from tests.browser.app_in_browser import InBrowser

PAGES = [
    *(f"/sheets/{number}" for number in (2, 3, 5, 8, 12)),
    "/places/1?show=night&date=2027-06-04",
    "/places/1?show=night&date=2027-07-02",
]
SHOWN = """() => [...document.querySelectorAll('[data-fact]')]
    .map(part => [part.dataset.fact, part.textContent.trim()])"""


class OneFact(InBrowser):
    def test_a_fact_that_is_shown_twice_has_one_value(self):
        page, twice = self.page, 0
        for path in PAGES:
            self.visit(path)
            page.wait_for_load_state("networkidle")
            expect(page.locator("main, h1").first).to_be_visible()
            if "night" in path:
                expect(page.locator("[data-fact]").nth(1)).to_be_attached()
            facts = defaultdict(list)
            for name, text in page.evaluate(SHOWN):
                facts[name].append(text)
            twice += sum(len(texts) > 1 for texts in facts.values())
            for name, texts in facts.items():
                with self.subTest(path, fact=name):
                    self.assertEqual(len(set(texts)), 1, texts)
        self.assertGreater(twice, 30)

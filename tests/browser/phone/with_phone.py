"""A computer's page and a paired phone beside it."""

from datetime import UTC, datetime

from playwright.sync_api import expect

from oxlen.network.serving import Wanted
from oxlen.server.network_state import NetworkState
from oxlen.store.kit.devices import confirm_device, devices
from tests.browser.app_in_browser import InBrowser, shared

ADDRESS = "127.0.0.2"


class WithPhone(InBrowser):
    """A phone of 390 × 844 with touch, its page as `phone`."""

    def setUp(self):
        super().setUp()
        app = self.server.app
        library = app.state.context.library
        app.state.network_state = NetworkState(
            app, library, lambda: datetime.now(UTC), addresses=lambda: (ADDRESS,)
        )
        self.network = app.state.network_state
        self.addCleanup(self.network.serving.stop)
        browser = shared().context.browser
        context = browser.new_context(
            viewport={"width": 390, "height": 844},
            has_touch=True,
            is_mobile=True,
            ignore_https_errors=True,
        )
        self.addCleanup(context.close)
        self.phone = context.new_page()

    def pair(self):
        """Pair the phone by the words on the computer's screen; where it is served."""
        page = self.page
        self.visit("/phone")
        page.get_by_role("button", name="Show code").click()
        words = page.get_by_role("region", name="Pair a phone").locator("ol li")
        expect(words).to_have_count(6)
        url = self.network.serving.served.urls[0]
        self.phone.goto(url)
        expect(self.phone.get_by_role("heading", name="Pair this phone")).to_be_visible()
        self.phone.get_by_label("The six words").fill(" ".join(words.all_inner_texts()))
        self.phone.get_by_role("button", name="Pair").tap()
        expect(self.phone.get_by_role("heading", name="Confirm on the computer")).to_be_visible()
        self.allow()
        expect(self.phone.get_by_role("heading", name="Outings")).to_be_visible()
        return url

    def allow(self):
        """Allow the phone that wants to pair, on the computer."""
        self.page.get_by_role("button", name="Allow").click()

    def paired(self, *, is_secure=True):
        """Pair the phone without any of the screens; where it is served."""
        served = self.network.serving.start(Wanted(5, is_secure=is_secure, port=0))
        words = " ".join(self.network.desk.offer(self.network.seconds()).words)
        answer = self.phone.request.post(f"{served.urls[0]}/api/pair", data={"words": words})
        self.assertEqual(answer.status, 201)
        with self.server.app.state.context.library.writer() as connection:
            for device in devices(connection, ""):
                confirm_device(connection, device.id, now="", expires_at="2100")
        return served.urls[0]

    def phone_on_sheet(self, **body):
        """A phone that keeps pages, on a sheet that was opened; its address and number."""
        url = self.paired(is_secure=False)
        self.sheet(9.0, **body)
        number = int(self.page.url.rsplit("/", 1)[1])
        self.phone.goto(f"{url}/")
        self.until("() => navigator.serviceWorker.controller !== null")
        self.phone.reload()
        self.until(
            "async () => (await (await caches.open('oxlen-answers')).keys())"
            ".some((kept) => kept.url.includes('/api/outings?'))"
        )
        self.until(
            "async () => (await (await caches.open('oxlen-parts')).keys()).length >"
            " (await (await fetch('/parts.json')).json()).length"
        )
        self.phone.goto(f"{url}/sheets/{number}")
        expect(self.phone.get_by_label("Sheet title")).to_have_value("Made for this")
        return url, number

    def settled(self, shown):
        """Wait until something stays where it is."""
        was = None
        while was != (now := shown.bounding_box()):
            was = now
            self.phone.wait_for_timeout(300)

    def take(self, name, file):
        """Take a picture with the phone's camera, by the bar within reach of the thumb."""
        picked = {"name": name, "mimeType": "image/jpeg", "buffer": file}
        self.phone.get_by_label("Take a picture now").last.set_input_files([picked])

    def add_take(self, name, file):
        picked = {"name": name, "mimeType": "image/jpeg", "buffer": file}
        self.phone.get_by_label("Add takes").first.set_input_files([picked])

    def until(self, expression):
        """Wait for something on the phone; its pages' policy allows no watching script."""
        for _ in range(120):
            if self.phone.evaluate(expression):
                return
            self.phone.wait_for_timeout(100)
        self.fail(expression)

    def sheet_now(self):
        number = self.page.url.rsplit("/", 1)[1]
        return self.page.request.get(f"{self.server.url}/api/sheets/{number}").json()

    def report(self):
        """What is shown of the sheet's picture once it is read."""
        return self.sheet_now()["answer"]["picture"]["report"]

    def kept_bytes(self):
        """Size of the picture that is kept."""
        library = self.server.app.state.context.library
        return library.picture_path(self.sheet_now()["body"]["picture"]).stat().st_size

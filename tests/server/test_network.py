"""The door to the network: who is paired, and what phones may not do."""

import asyncio
import importlib
import pkgutil
import sqlite3
import tempfile
import unittest
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import mock

import httpx
from cryptography import x509
from fastapi import APIRouter

from oxlen.core.errors import NotFound, TooMany
from oxlen.server import routes
from oxlen.server.change_events import MOST_LISTENERS, MOST_OF_PHONES, ChangeEvents, Item
from oxlen.server.network_door import Doorplate, NetworkDoor
from oxlen.server.network_state import NetworkState
from oxlen.server.permits import PERMITS
from oxlen.store.backup import write_backup
from oxlen.store.kit.devices import devices, revoke_device
from oxlen.store.library import open_library
from oxlen.store.restore import restore_backup
from tests.one_app import app_on
from tests.pictures.making import corners, jpeg

NOW = datetime(2026, 11, 26, 12, 0, tzinfo=UTC)
HOST = "192.168.4.7:8711"
HERE = "http://127.0.0.1:8710"


class Clock:
    """Time that tests move on by hand."""

    def __init__(self):
        self.now, self.s = NOW, 0.0

    def __call__(self):
        return self.now

    def seconds(self):
        return self.s


class OnTheNetwork(unittest.IsolatedAsyncioTestCase):
    async def asyncSetUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.clock = Clock()
        self.library = open_library(Path(folder.name) / "data")
        asyncio.get_running_loop().slow_callback_duration = 60
        self.app = app = app_on(self.library, clock=self.clock)
        app.state.network_state = NetworkState(
            app, self.library, self.clock, seconds=self.clock.seconds, addresses=lambda: ()
        )
        self.network = app.state.network_state
        plate = Doorplate(frozenset({HOST, "yard.local:8711"}), is_secure=True)
        door = NetworkDoor(app, self.library, plate, clock=self.clock, is_over=lambda: self.is_over)
        self.computer = self.client(app, HERE)
        self.stranger, self.phone = (self.client(door, f"https://{HOST}") for _ in range(2))
        self.door = door
        self.is_over = False

    def client(self, app, base):
        transport = httpx.ASGITransport(app=app, client=("192.168.4.99", 50_000))
        made = httpx.AsyncClient(transport=transport, base_url=base)
        self.addAsyncCleanup(made.aclose)
        return made

    def code(self):
        return "-".join(self.network.desk.offer(self.clock.s).words)

    async def pair(self, client=None, name="Pocket"):
        client = client or self.phone
        answer = await client.post("/api/pair", json={"words": self.code(), "name": name})
        self.assertEqual(answer.status_code, 201, answer.text)
        waiting = (await self.computer.get("/api/network")).json()["devices"][0]
        self.assertEqual((waiting["name"], waiting["is_confirmed"]), (name, False))
        allowed = await self.computer.post(f"/api/network/devices/{waiting['id']}/confirm")
        self.assertEqual(allowed.status_code, 200, allowed.text)
        return answer


class LetIn(OnTheNetwork):
    async def test_who_is_not_paired_gets_pages_and_nothing_else(self):
        paths = (await self.computer.get("/api/openapi.json")).json()["paths"]
        asked = 0
        for path, operations in paths.items():
            for method in operations:
                plain = path.replace("{sha256}", "0" * 64).replace("{kind}", "lamp")
                url = "/".join("1" if part.startswith("{") else part for part in plain.split("/"))
                answer = await self.stranger.request(method, url, json={})
                with self.subTest(f"{method} {path}"):
                    expected = (422,) if path == "/api/pair" else (401,)
                    self.assertIn(answer.status_code, expected)
                asked += 1
        self.assertGreater(asked, 80)
        self.assertEqual((await self.stranger.get("/api/openapi.json")).status_code, 401)
        page = await self.stranger.get("/sheets/1")
        self.assertIn(page.status_code, (200, 404))
        self.assertIn("default-src 'none'", page.headers["content-security-policy"])
        certificate = await self.stranger.get("/authority.crt")
        self.assertTrue(x509.load_der_x509_certificate(certificate.content).subject)

    async def test_paired_it_works_and_may_not_do_what_the_computer_does(self):
        answer = await self.pair()
        cookie = answer.headers["set-cookie"].lower()
        for part in ("__host-oxlen=", "httponly", "secure", "samesite=strict", "path=/"):
            self.assertIn(part, cookie)
        outing = await self.phone.post("/api/outings", json={"title": "Sluice"})
        self.assertEqual(outing.status_code, 201)
        taken = await self.phone.post(
            f"/api/outings/{outing.json()['id']}/pictures?name=a.jpg", content=jpeg(corners())
        )
        self.assertEqual(taken.status_code, 201, taken.text)
        too_long = await self.phone.post("/api/outings", content=b"x" * 2_100_000)
        self.assertEqual(too_long.status_code, 413)
        for method, path in (
            ("POST", "/api/network/code"),
            ("POST", "/api/network/serving"),
            ("DELETE", "/api/network/devices"),
            ("GET", "/api/network"),
            ("GET", "/api/openapi.json"),
            ("PUT", "/api/kit/phones/mine"),
            ("POST", "/api/kit/mystery-phones"),
            ("POST", "/api/sheets/1/phone"),
        ):
            with self.subTest(path):
                refused = await self.phone.request(method, path, json={})
                self.assertEqual(refused.status_code, 403)
                self.assertEqual(refused.json()["code"], "not-allowed")
        self.assertEqual((await self.phone.get("/api/kit/phones")).status_code, 200)
        (device,) = (await self.computer.get("/api/network")).json()["devices"]
        change = {"name": "Deck phone", "may_change_kit": True}
        await self.computer.patch(f"/api/network/devices/{device['id']}", json=change)
        allowed = await self.phone.post("/api/kit/mystery-phones", json={"seed": -1})
        self.assertEqual(allowed.status_code, 422)  # accepted, and refused for its content
        me = (await self.phone.get("/api/me")).json()
        self.assertEqual(
            (me["name"], me["is_confirmed"], me["may_change_kit"]), ("Deck phone", True, True)
        )

    async def test_knowing_the_words_is_not_enough_until_the_computer_says_so(self):
        paired = await self.phone.post("/api/pair", json={"words": self.code(), "name": "Pocket"})
        self.assertEqual((paired.status_code, paired.json()["is_confirmed"]), (201, False))
        for path in ("/api/me", "/api/outings", "/api/changes"):
            refused = await self.phone.get(path)
            self.assertEqual((refused.status_code, refused.json()["code"]), (401, "not-confirmed"))
        (waiting,) = (await self.computer.get("/api/network")).json()["devices"]
        self.assertEqual(waiting["paired_from"], "192.168.4.99")
        self.clock.now = NOW + timedelta(minutes=11)
        late = await self.computer.post(f"/api/network/devices/{waiting['id']}/confirm")
        self.assertEqual(late.status_code, 404)
        self.assertEqual((await self.phone.get("/api/me")).json()["code"], "not-paired")
        self.clock.now = NOW
        await self.computer.post(f"/api/network/devices/{waiting['id']}/confirm")
        self.assertEqual((await self.phone.get("/api/me")).status_code, 200)
        for number in range(6):
            asked = await self.stranger.post("/api/pair", json={"words": self.code()})
            self.assertEqual(asked.status_code, 201 if number < 5 else 503)

    async def test_trouble_with_the_disk_at_the_door_is_a_sentence_and_shuts_no_phone_out(self):
        await self.pair()
        self.clock.now = NOW + timedelta(minutes=2)
        readonly = sqlite3.OperationalError("attempt to write a readonly database")
        with mock.patch("oxlen.server.network_door.seen_device", side_effect=readonly):
            self.assertEqual((await self.phone.get("/api/outings")).status_code, 200)
        failing = sqlite3.OperationalError("disk I/O error")
        with mock.patch("oxlen.server.network_door.device_of_token", side_effect=failing):
            answer = await self.phone.get("/api/outings")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "storage"))
        self.assertIn("default-src 'none'", answer.headers["content-security-policy"])

    async def test_what_is_open_ends_when_the_phone_is_put_out(self):
        await self.pair()
        changes: ChangeEvents = self.app.state.change_events
        with self.library.reader() as connection:
            (device,) = devices(connection)
        token = next(iter(self.phone.cookies.values()))
        events = changes.listen(device.id, lambda: self.door._is_let_in(f"__Host-oxlen={token}"))
        self.assertIn("retry", await anext(events))
        changes.tell(Item("outings/1", ""))
        self.assertIn("outings/1", await anext(events))
        await self.computer.delete(f"/api/network/devices/{device.id}")
        changes.tell(Item("outings/2", ""))
        with self.assertRaises(StopAsyncIteration):
            await anext(events)

    async def test_a_phone_listens_a_few_times_and_the_computer_always_can(self):
        events = ChangeEvents()
        held = []
        for phone in range(8):
            for _ in range(8):
                with suppress(TooMany):
                    held.append(events.listen(phone))
        self.assertEqual(len(held), MOST_OF_PHONES)
        own = [events.listen() for _ in range(MOST_LISTENERS)]
        with self.assertRaises(TooMany):
            events.listen()
        self.assertEqual(len(own), MOST_LISTENERS)

    def test_every_route_says_who_may_use_it(self):
        found = pkgutil.walk_packages(routes.__path__, f"{routes.__name__}.")
        modules = [importlib.import_module(item.name) for item in found]
        reported = [
            item for module in modules if hasattr(module, "router") for item in module.router.routes
        ]
        self.assertGreater(len(reported), 150)
        for route in reported:
            with self.subTest(route.path):
                self.assertTrue(
                    {dependency.dependency for dependency in route.dependencies} & PERMITS
                )

    async def test_a_route_that_does_not_say_is_shut_to_phones_and_open_here(self):
        await self.pair()
        unsaid = APIRouter()
        unsaid.get("/api/unsaid")(self.code)
        self.app.include_router(unsaid)
        self.app.router.routes.insert(0, self.app.router.routes.pop())
        self.assertEqual((await self.phone.get("/api/unsaid")).status_code, 403)
        self.assertEqual((await self.computer.get("/api/unsaid")).status_code, 200)

    async def test_no_spelling_of_an_address_gets_past_its_permit(self):
        await self.pair()
        (device,) = (await self.computer.get("/api/network")).json()["devices"]
        number = device["id"]
        shut = [
            ("POST", "/api/network/code"),
            ("GET", "/api/network"),
            ("DELETE", "/api/network/devices"),
        ]
        shut += [
            ("PATCH", f"/api/network/devices/{n}") for n in (number, f"+{number}", f"{number}.0")
        ]
        shut += [("POST", f"/api/sheets/{n}/phone") for n in ("1", "1.0", "+1", "%201", "01")]
        shut += [("PUT", "/api/presets/x"), ("POST", "/api/takes/+1/preset")]
        ends = ("", "%0a", "%0A", "%0d", "%00", "%0a%0a", "/")
        for method, path in shut:
            for end in ends:
                with self.subTest(path + end):
                    body = {"name": "Mine", "may_change_kit": True}
                    answer = await self.phone.request(method, path + end, json=body)
                    self.assertIn(answer.status_code, (307, 403, 404, 405), answer.text)
        kept = (await self.computer.get("/api/network")).json()["devices"]
        self.assertEqual([module["may_change_kit"] for module in kept], [False])

    async def test_tokens_end_by_revoking_by_time_and_by_a_restored_backup(self):
        await self.pair()
        token = dict(self.phone.cookies)
        self.assertEqual((await self.phone.get("/api/me")).status_code, 200)
        self.clock.now = NOW + timedelta(days=91)
        self.assertEqual((await self.phone.get("/api/me")).status_code, 401)
        self.clock.now = NOW
        backup = self.library.folder.parent / "all.zip"
        write_backup(self.library, backup)
        restored = self.library.folder.parent / "elsewhere"
        restore_backup(restored, backup)
        with open_library(restored).reader() as connection:
            self.assertEqual(devices(connection), [])
        with self.library.writer() as connection:
            (device,) = devices(connection)
            revoke_device(connection, device.id)
            with self.assertRaises(NotFound):
                revoke_device(connection, device.id)
        stolen = self.client(self.door, f"https://{HOST}")
        stolen.cookies.update(token)
        self.assertEqual((await stolen.get("/api/outings")).status_code, 401)
        for cookie in (
            "__Host-oxlen=",
            "__Host-oxlen=" + "a" * 43,
            "__Host-oxlen=a; __Host-oxlen=b",
        ):
            tried = await self.stranger.get("/api/outings", headers={"cookie": cookie})
            self.assertEqual(tried.status_code, 401)

    async def test_past_the_time_nothing_is_answered_and_no_phone_pairs(self):
        await self.pair()
        words, self.is_over = self.code(), True
        for client in (self.phone, self.stranger):
            paired = await client.post("/api/pair", json={"words": words})
            self.assertEqual((paired.status_code, paired.json()["code"]), (403, "serving-over"))
            self.assertEqual((await client.get("/api/outings")).status_code, 403)

    async def test_a_code_is_used_once(self):
        words = self.code()
        first = await self.phone.post("/api/pair", json={"words": words, "name": "One"})
        again = await self.stranger.post("/api/pair", json={"words": words, "name": "Two"})
        self.assertEqual((first.status_code, again.status_code), (201, 403))
        self.assertEqual(again.json()["code"], "pairing-refused")
        here = await self.computer.post("/api/pair", json={"words": words})
        self.assertEqual(here.status_code, 422)

    async def test_other_names_and_sites_get_nothing_even_with_a_token(self):
        await self.pair()
        rows = (
            {"host": "evil.example:8711"},
            {"host": "192.168.4.7"},
            {"host": "192.168.4.7:80"},
            {"host": "localhost:8711"},
            {"origin": "https://evil.example"},
            {"origin": f"http://{HOST}"},
            {"origin": "null"},
            {"sec-fetch-site": "cross-site"},
            {"sec-fetch-site": "same-site"},
        )
        for headers in rows:
            with self.subTest(headers):
                answer = await self.phone.get("/api/outings", headers=headers)
                self.assertEqual(answer.status_code, 403)
        twice = [("host", HOST), ("host", "evil.example")]
        self.assertEqual((await self.phone.get("/api/outings", headers=twice)).status_code, 403)
        named = await self.phone.get("/api/outings", headers={"host": "yard.local:8711"})
        self.assertEqual(named.status_code, 200)
        # And the loop is as shut to the network's names as before.
        lan = await self.computer.get("/api/outings", headers={"host": HOST})
        self.assertEqual(lan.status_code, 403)

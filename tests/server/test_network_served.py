"""Pairing codes and guessing, the end of serving, and certificates, on real sockets."""

import ssl
import tempfile
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

import httpx
from cryptography import x509

from oxlen.core.errors import BadInput, PairingRefused, PairingWaits
from oxlen.network.addresses import checked_names, is_private
from oxlen.network.certificates import authority
from oxlen.network.deadline import Deadline
from oxlen.network.pairing import LOCKED_S, VALID_S, PairingDesk
from oxlen.network.serving import Served, Wanted
from oxlen.network.words import pairing_words
from oxlen.server.app import create_app
from oxlen.server.network_state import NetworkState
from oxlen.server.who_reaches import who_reaches
from oxlen.store.library import open_library
from tests.one_app import CREW
from tests.server.test_network import NOW, Clock


class Guessing(unittest.TestCase):
    def test_ten_thousand_guesses_never_pair(self):
        desk, now, tried, waits = PairingDesk(), 0.0, 0, 0
        for guess in range(10_000):
            now += 0.05
            if guess % 50 == 0:
                real = desk.offer(now)
            wrong = " ".join(reversed(real.words)) + " wrong"
            with self.assertRaises(PairingRefused) as refused:
                desk.redeem(wrong, now, address=f"192.168.4.{guess % 7}")
            waits += isinstance(refused.exception, PairingWaits)
            tried += 1
        self.assertEqual(tried, 10_000)
        self.assertGreater(waits, 9_000)  # hardly any was even looked at

    def test_waits_double_for_the_address_that_guesses_and_for_no_other(self):
        desk, now = PairingDesk(), 100.0
        right = " ".join(desk.offer(now).words)
        for wait_s in (1, 2, 4, 8, 16):
            with self.assertRaisesRegex(PairingRefused, "do not match"):
                desk.redeem("six wrong words for this one", now, address="192.168.4.66")
            with self.assertRaisesRegex(PairingWaits, "Wait"):
                desk.redeem(right, now + wait_s - 0.5, address="192.168.4.66")
            now += wait_s
        desk.redeem(right, now - 1, address="192.168.4.7")
        for _ in range(10):
            fresh = desk.offer(now)  # the computer is never refused
            with self.assertRaises(PairingRefused):
                desk.redeem("wrong", now, address="192.168.4.66")
            now += 70
        with self.assertRaisesRegex(PairingWaits, "Try again in"):
            desk.redeem(" ".join(fresh.words), now, address="192.168.4.66")
        later = now + LOCKED_S
        desk.redeem(" ".join(desk.offer(later).words), later, address="192.168.4.66")

    def test_a_code_runs_out_and_is_read_however_it_is_typed(self):
        desk = PairingDesk()
        words = desk.offer(0.0).words
        with self.assertRaisesRegex(PairingRefused, "no pairing code"):
            desk.redeem(" ".join(words), VALID_S + 1, address="a")
        words = desk.offer(200.0).words
        desk.redeem(" - ".join(words).upper(), 201.0, address="b")
        self.assertEqual((len(words), len(set(pairing_words()))), (6, 256))
        desk.offer(300.0)
        desk.withdraw()
        with self.assertRaises(PairingRefused):
            desk.redeem(" ".join(words), 301.0, address="b")


class InTime(unittest.TestCase):
    """Serving ends by the clock on the wall and by the steady one, whichever comes first."""

    def test_neither_sleep_nor_a_clock_set_back_lengthens_it(self):
        for wall, steady_s, over in (
            (timedelta(), 0.0, False),
            (timedelta(minutes=4, seconds=59), 299.0, False),
            (timedelta(hours=9), 10.0, True),  # the steady clock stopped in sleep
            (timedelta(hours=-9), 301.0, True),  # the wall's was set back
        ):
            clock = Clock()
            deadline = Deadline.in_minutes(5, clock, clock.seconds)
            clock.now, clock.s = NOW + wall, steady_s
            with self.subTest(wall=wall):
                self.assertEqual(deadline.is_over(clock, clock.seconds), over)


class ServedForReal(unittest.TestCase):
    """On loopback by another address, with the certificate checked as a phone would."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.library = open_library(Path(folder.name) / "data")
        self.app = create_app(self.library, pool=CREW)
        self.app.state.network_state = NetworkState(
            self.app, self.library, lambda: datetime.now(UTC), addresses=lambda: ("127.0.0.2",)
        )
        self.serving = self.app.state.network_state.serving
        self.addCleanup(self.serving.stop)

    def test_https_by_an_authority_made_here_paired_then_ended(self):
        served = self.serving.start(Wanted(5, True, ("yard.local",), port=0))
        self.assertIsInstance(served, Served)
        made = self.serving.authority()
        self.assertEqual(served.fingerprint, made.fingerprint)
        context = ssl.create_default_context(cadata=made.file)
        url = served.urls[0]
        with httpx.Client(verify=context, base_url=url) as phone:
            self.assertEqual(phone.get("/api/outings").status_code, 401)
            words = " ".join(
                self.app.state.network_state.desk.offer(
                    self.app.state.network_state.seconds()
                ).words
            )
            self.assertEqual(phone.post("/api/pair", json={"words": words}).status_code, 201)
            with self.library.writer() as connection:
                connection.execute("UPDATE device SET is_confirmed = 1")
            self.assertEqual(phone.get("/api/outings").status_code, 200)
        key = self.library.folder / "network" / "authority.key"
        self.assertEqual(key.stat().st_mode & 0o777, 0o600)
        # The same authority next time, and nobody else's is believed.
        again = self.serving.start(Wanted(5, True, port=0))
        self.assertEqual(again.fingerprint, served.fingerprint)
        with self.assertRaises(httpx.ConnectError), httpx.Client() as stranger:
            stranger.get(again.urls[0])
        self.serving.stop()
        self.assertIsNone(self.serving.served)
        with self.assertRaises(httpx.ConnectError), httpx.Client(verify=context) as phone:
            phone.get(again.urls[0])

    def test_it_stops_by_itself_and_plain_mode_says_what_it_lacks(self):
        served = self.serving.start(Wanted(1, False, port=0))
        self.assertIn("read the data", who_reaches(served))
        self.assertNotIn("read the data", who_reaches(self.serving.start(Wanted(1, True, port=0))))
        self.serving.stop()
        self.assertIsNone(self.serving.served)

    def test_no_network_is_a_sentence_and_names_must_be_private(self):
        nowhere = NetworkState(
            self.app, self.library, lambda: datetime.now(UTC), addresses=lambda: ()
        )
        with self.assertRaisesRegex(BadInput, "not on a private network"):
            nowhere.serving.start(Wanted(5, True))
        self.assertEqual(checked_names(["Yard.local"]), ("yard.local",))
        for name in ("example.com", "a.local.example", "-x.local"):
            with self.assertRaises(BadInput):
                checked_names([name])
        rows = {"192.168.1.3": True, "10.0.0.1": True, "8.8.8.8": False, "127.0.0.1": False}
        self.assertEqual({row: is_private(row) for row in rows}, rows)

    def test_the_authority_vouches_for_private_places_alone(self):
        made = authority(self.library.folder / "network", datetime.now(UTC))
        found = made.certificate.extensions.get_extension_for_class(x509.NameConstraints)
        self.assertTrue(found.critical)
        names = {
            subtree.value
            for subtree in found.value.permitted_subtrees
            if isinstance(subtree, x509.DNSName)
        }
        self.assertEqual(names, {"local", "lan", "internal", "home.arpa"})
        kinds = {type(subtree) for subtree in found.value.permitted_subtrees}
        self.assertLessEqual({x509.RFC822Name, x509.UniformResourceIdentifier}, kinds)
        serves = made.certificate.extensions.get_extension_for_class(x509.ExtendedKeyUsage)
        self.assertEqual([purpose._name for purpose in serves.value], ["serverAuth"])
        later = datetime.now(UTC) + timedelta(days=3660)
        other = authority(self.library.folder / "network", later)
        self.assertNotEqual(other.fingerprint, made.fingerprint)

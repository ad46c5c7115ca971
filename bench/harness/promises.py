"""What the app answered before it was killed, and whether it is still so afterwards."""

from __future__ import annotations

import hashlib
import io
import random
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from oxlen.core.errors import NotFound
from oxlen.store.inbox import inbox
from oxlen.store.kit.devices import devices
from oxlen.store.library import Library
from oxlen.store.outings import outing_of_uid
from oxlen.store.sheets import sheet, sheets_of
from oxlen.store.stacks import frames_of_stack
from oxlen.store.takes import takes_of

PAIRED_FROM = "127.0.0.3"


@dataclass
class Promised:
    """What was answered well: sheets by version, and content by where it went."""

    sheets: dict[int, int] = field(default_factory=dict)
    takes: list[tuple[int, str]] = field(default_factory=list)
    inbox: list[str] = field(default_factory=list)
    frames: list[tuple[int, str]] = field(default_factory=list)
    outings: list[str] = field(default_factory=list)
    phones: list[str] = field(default_factory=list)
    sent: list[tuple[str, bytes]] = field(default_factory=list)
    """What went out under a mark of its own, answered or not: sent again it must not double."""

    def lost(self, library: Library) -> list[str]:
        """What is not there any more, or only in part, in words."""
        return [*self._lost_pictures(library), *self._lost_work(library)]

    def _lost_pictures(self, library: Library) -> list[str]:
        found = []
        with library.reader() as connection:
            waiting = {entry.sha256 for entry in inbox(connection)}
            for sheet_id, version in self.sheets.items():
                try:
                    if sheet(connection, sheet_id).version < version:
                        found.append(f"the last edit of sheet {sheet_id}")
                except NotFound:
                    found.append(f"sheet {sheet_id}")
            for sheet_id, sha256 in self.takes:
                kept = [take.sha256 for take in takes_of(connection, sheet_id)]
                if kept.count(sha256) != 1:
                    found.append(f"a take of sheet {sheet_id}, there {kept.count(sha256)} times")
            found += ["an inbox picture" for sha256 in self.inbox if sha256 not in waiting]
        return found

    def _lost_work(self, library: Library) -> list[str]:
        found = []
        with library.reader() as connection:
            for stack_id, sha256 in self.frames:
                kept = {frame.sha256 for frame in frames_of_stack(connection, stack_id)}
                if sha256 not in kept or not library.frame_path(stack_id, sha256).is_file():
                    found.append(f"a frame of stack {stack_id}")
            for uid in self.outings:
                here = outing_of_uid(connection, uid)
                if here is None or len(sheets_of(connection, here.id)) != 1:
                    found.append("an imported outing")
            paired = {device.name for device in devices(connection) if device.is_confirmed}
            found += [f"the phone {name}" for name in self.phones if name not in paired]
        return found


@dataclass
class Worker:
    """Does a bit of everything, and notes what was answered."""

    client: httpx.Client
    draw: random.Random
    promised: Promised
    outing_files: list[tuple[str, Path]]
    network: str
    outing: int = 0
    sheet: int = 0
    stack: int = 0
    done: Counter[str] = field(default_factory=Counter)

    def work_until(self, until_s: float) -> None:
        """One thing after another for a while. httpx.HTTPError at the first refusal."""
        if not self.stack:
            self._begin()
        while time.monotonic() < until_s:
            self._one_thing()

    def work(self) -> None:
        """One thing after another until the app is gone: httpx.HTTPError."""
        self._begin()
        while True:
            self._one_thing()

    def _begin(self) -> None:
        self.outing = self._asked("POST", "/api/outings", json={"title": "Kill"}).json()["id"]
        self._import()
        self.stack = self._asked("POST", "/api/stacks", json={"name": "Kill"}).json()["id"]

    def _one_thing(self) -> None:
        ways: list[Callable[[], None]] = [
            self._import,
            self._take,
            self._inbox,
            self._frame,
            self._import_outing,
            self._pair,
        ]
        way = self.draw.choice(ways)
        way()
        self.done[way.__name__.strip("_")] += 1

    def _asked(self, method: str, path: str, **more: object) -> httpx.Response:
        answer = self.client.request(method, path, **more)  # type: ignore[arg-type]
        answer.raise_for_status()
        return answer

    def _picture(self) -> bytes:
        made = io.BytesIO()
        pixels = np.frombuffer(self.draw.randbytes(90 * 120 * 3), np.uint8).reshape(90, 120, 3)
        Image.fromarray(pixels).save(made, "JPEG")
        return made.getvalue()

    def _import(self) -> None:
        path = f"/api/outings/{self.outing}/pictures?name=p.jpg"
        view = self._asked("POST", path, content=self._picture()).json()["sheet"]
        self.sheet = view["id"]
        self.promised.sheets[view["id"]] = view["version"]
        body = {**view["body"], "support": "tripod"}
        edit = {"version": view["version"], "label": "edit", "body": body}
        kept = self._asked("PUT", f"/api/sheets/{view['id']}", json=edit).json()
        self.promised.sheets[view["id"]] = kept["version"]

    def _take(self) -> None:
        data, mark = self._picture(), self.draw.randbytes(8).hex()
        path = f"/api/sheets/{self.sheet}/takes?name=t.jpg&mark={mark}"
        self.promised.sent.append((path, data))
        self._asked("POST", path, content=data)
        self.promised.takes.append((self.sheet, hashlib.sha256(data).hexdigest()))

    def _inbox(self) -> None:
        data, mark = self._picture(), self.draw.randbytes(8).hex()
        path = f"/api/inbox?name=i.jpg&mark={mark}"
        self.promised.sent.append((path, data))
        self._asked("POST", path, content=data)
        self.promised.inbox.append(hashlib.sha256(data).hexdigest())

    def _frame(self) -> None:
        data = self._picture()
        self._asked("POST", f"/api/stacks/{self.stack}/frames?name=f.jpg", content=data)
        self.promised.frames.append((self.stack, hashlib.sha256(data).hexdigest()))

    def _import_outing(self) -> None:
        if not self.outing_files:
            return
        uid, path = self.outing_files.pop()
        done = self._asked("POST", "/api/outing-files", content=path.read_bytes()).json()
        while done["state"] == "working":
            done = self._asked("GET", f"/api/imports/{done['id']}").json()
        self.promised.outings.append(uid)

    def _pair(self) -> None:
        name = f"Phone {self.draw.randrange(10**9)}"
        words = " ".join(self._asked("POST", "/api/network/code").json()["words"])
        with httpx.Client(base_url=self.network, timeout=30) as phone:
            body = {"words": words, "name": name}
            phone.post("/api/pair", json=body).raise_for_status()
        waiting = self._asked("GET", "/api/network").json()["devices"]
        number = next(job["id"] for job in waiting if job["name"] == name)
        self._asked("POST", f"/api/network/devices/{number}/confirm")
        self.promised.phones.append(name)

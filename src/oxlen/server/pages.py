"""The front end as built: one page for every view, its files beside it."""

from __future__ import annotations

import json
import os
import re
import secrets
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from fastapi.responses import FileResponse, HTMLResponse, Response
from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.staticfiles import PathLike, StaticFiles
from starlette.types import Scope

from oxlen.server.local_only import content_security_policy
from oxlen.server.network_state import NetworkState
from oxlen.server.permits import AT_THE_DOOR

NONCE_MARK = "__NONCE__"
PARTS = {".js", ".css", ".woff2"}
BESIDE_THE_PAGE = {
    "sw.js": "text/javascript",
    "theme.js": "text/javascript",
    "manifest.webmanifest": "application/manifest+json",
    "icon.svg": "image/svg+xml",
}
FEATURES = "src/features"
FIRST_SHOWN = {
    "": f"{FEATURES}/outings/OutingsPage.tsx",
    "sheet": f"{FEATURES}/sheet/SheetPage.tsx",
    "takes": f"{FEATURES}/takes/TakesPage.tsx",
}
"""By the path of a page, the source of the front end that draws it."""
NOT_BUILT = "The front end is not built. Run ./oxlen demo."


COMPRESSED = ".br"


class Assets(StaticFiles):
    """Files named by their content, which never change under a name; the browser keeps them."""

    def file_response(  # noqa: PLR0917 - as the framework calls it
        self, full_path: PathLike, stat_result: os.stat_result, scope: Scope, status_code: int = 200
    ) -> Response:
        """A file, or its compressed copy where the browser takes it."""
        response = super().file_response(full_path, stat_result, scope, status_code)
        headers = {"cache-control": "public, max-age=31536000, immutable"}
        smaller = Path(f"{os.fspath(full_path)}{COMPRESSED}")
        if smaller.is_file():
            headers["vary"] = "accept-encoding"
            if isinstance(response, FileResponse) and _takes_brotli(scope):
                kind = {"content-type": response.headers["content-type"]}
                headers |= {"content-encoding": "br", **kind}
                response = FileResponse(smaller, status_code)
        response.headers.update(headers)
        return response


def _takes_brotli(scope: Scope) -> bool:
    taken = Headers(scope=scope).get("accept-encoding", "")
    return "br" in [coding.split(";")[0].strip() for coding in taken.split(",")]


def add_pages(app: FastAPI, built: Path) -> None:
    """Serve the built front end; any path that is not the API gets the page."""
    if (built / "assets").is_dir():
        app.mount("/assets", Assets(directory=built / "assets"))

    @app.get("/parts.json", include_in_schema=False, dependencies=[AT_THE_DOOR])
    def parts() -> list[str]:
        """Every part of the front end but its pictures: what a phone keeps to work offline."""
        found = (built / "assets").glob("*")
        return sorted(f"/assets/{file.name}" for file in found if file.suffix in PARTS)

    for name, kind in BESIDE_THE_PAGE.items():
        _add_file(app, built / name, kind)

    @app.get("/authority.crt", include_in_schema=False, dependencies=[AT_THE_DOOR])
    def authority_file(request: Request) -> Response:
        """The certificate that a phone may be asked to trust; it holds no secret."""
        network: NetworkState = request.app.state.network_state
        kind = "application/x-x509-ca-cert"
        return Response(network.serving.authority().file, media_type=kind)

    @app.get("/{path:path}", include_in_schema=False, dependencies=[AT_THE_DOOR])
    def page(path: str) -> HTMLResponse:
        if path.startswith(("api/", "assets/")):
            raise HTTPException(404, "Page not found.")
        index = built / "index.html"
        if not index.is_file():
            raise HTTPException(404, NOT_BUILT)
        nonce = secrets.token_urlsafe(16)
        html = index.read_text("utf-8").replace(NONCE_MARK, nonce)
        policy = {"content-security-policy": content_security_policy(nonce)}
        headers = {**policy, **_early(path, built), "cache-control": "no-store"}
        return HTMLResponse(html, headers=headers)


def _add_file(app: FastAPI, path: Path, kind: str) -> None:
    @app.get(f"/{path.name}", include_in_schema=False, dependencies=[AT_THE_DOOR])
    def beside_the_page() -> Response:
        if not path.is_file():
            raise HTTPException(404, NOT_BUILT)
        headers = {"cache-control": "no-cache"}  # the worker among them may change under its name
        return Response(path.read_bytes(), media_type=kind, headers=headers)


def _early(path: str, built: Path) -> dict[str, str]:
    """Have what a page shows first fetched while its script still loads: its parts, a sheet."""
    sheet = re.fullmatch(r"sheets/([1-9]\d{0,15})", path)
    part = FIRST_SHOWN.get("sheet" if sheet else path)
    links = [f"</{name}>; rel=modulepreload" for name in parts_of(built, part)] if part else []
    if path == "takes":
        links.append("</api/logbook?>; rel=preload; as=fetch; crossorigin")
    if sheet:
        links += [
            f"</api/{part_path}>; rel=preload; as=fetch; crossorigin"
            for part_path in (sheet[0], "asks")
        ]
    return {"link": ", ".join(links)} if links else {}


def parts_of(built: Path, source: str) -> list[str]:
    """Scripts that a source of the front end is drawn by, its own first; none where it is unbuilt.

    The page's own script and what it brings are left out: the page names them itself.
    """
    progress_path = built / "pages.json"
    if not progress_path.is_file():
        return []
    pages = json.loads(progress_path.read_text("utf-8"))
    at_hand = _with_imports(pages, "index.html")
    return [pages[page]["file"] for page in _with_imports(pages, source) if page not in at_hand]


def _with_imports(pages: dict[str, Any], first: str) -> list[str]:
    found: list[str] = []
    waiting = [first] if first in pages else []
    while waiting:
        page = waiting.pop(0)
        if page not in found:
            found.append(page)
            waiting += pages[page].get("imports", [])
    return found

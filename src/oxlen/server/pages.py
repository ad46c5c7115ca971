"""The front end as built: one page for every view, its files beside it."""

from __future__ import annotations

import re
import secrets
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.responses import HTMLResponse, Response
from starlette.exceptions import HTTPException
from starlette.staticfiles import StaticFiles

from oxlen.server.house import House
from oxlen.server.local_only import content_security_policy

NONCE_MARK = "__NONCE__"
PARTS = {".js", ".css", ".woff2"}
BESIDE_THE_PAGE = {
    "sw.js": "text/javascript",
    "manifest.webmanifest": "application/manifest+json",
    "icon.svg": "image/svg+xml",
}
NOT_BUILT = "The front end has not been built; ./oxlen demo does it."


class Assets(StaticFiles):
    """Files named by their content, which never change under a name."""

    def file_response(self, *args: object, **kwargs: object) -> Response:
        """A file, kept by the browser for good."""
        response = super().file_response(*args, **kwargs)  # type: ignore[arg-type]
        response.headers["cache-control"] = "public, max-age=31536000, immutable"
        return response


def add_pages(app: FastAPI, built: Path) -> None:
    """Serve the built front end; any path that is not the API gets the page."""
    if (built / "assets").is_dir():
        app.mount("/assets", Assets(directory=built / "assets"))

    @app.get("/parts.json", include_in_schema=False)
    def parts() -> list[str]:
        """Every part of the front end but its pictures: what a phone keeps to work offline."""
        found = (built / "assets").glob("*")
        return sorted(f"/assets/{one.name}" for one in found if one.suffix in PARTS)

    for name, kind in BESIDE_THE_PAGE.items():
        _add_file(app, built / name, kind)

    @app.get("/authority.crt", include_in_schema=False)
    def authority_file(request: Request) -> Response:
        """The certificate that a phone may be told to trust; it holds no secret."""
        house: House = request.app.state.house
        kind = "application/x-x509-ca-cert"
        return Response(house.serving.authority().file, media_type=kind)

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> HTMLResponse:
        if path.startswith(("api/", "assets/")):
            raise HTTPException(404, "There is nothing at this address.")
        index = built / "index.html"
        if not index.is_file():
            raise HTTPException(404, NOT_BUILT)
        nonce = secrets.token_urlsafe(16)
        html = index.read_text("utf-8").replace(NONCE_MARK, nonce)
        policy = {"content-security-policy": content_security_policy(nonce)}
        headers = {**policy, **_early(path), "cache-control": "no-store"}
        return HTMLResponse(html, headers=headers)


def _add_file(app: FastAPI, path: Path, kind: str) -> None:
    @app.get(f"/{path.name}", include_in_schema=False)
    def beside_the_page() -> Response:
        if not path.is_file():
            raise HTTPException(404, NOT_BUILT)
        headers = {"cache-control": "no-cache"}  # the worker among them may change under its name
        return Response(path.read_bytes(), media_type=kind, headers=headers)


def _early(path: str) -> dict[str, str]:
    """Have a sheet's answer fetched while its scripts still load."""
    sheet = re.fullmatch(r"sheets/([1-9]\d{0,15})", path)
    if sheet is None:
        return {}
    return {"link": f"</api/sheets/{sheet[1]}>; rel=preload; as=fetch; crossorigin"}

"""The application: routers under /api/v1, the built front end under everything else."""

from __future__ import annotations

import mimetypes
import secrets
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.middleware.trustedhost import TrustedHostMiddleware
from starlette.datastructures import MutableHeaders
from starlette.responses import FileResponse, HTMLResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from redframe.api import description, errors
from redframe.api.bodies import BodyLimits
from redframe.api.calculators import router as calculators
from redframe.api.campaigns import router as campaigns
from redframe.api.cases import router as cases
from redframe.api.colonies import router as colonies
from redframe.api.deadouts import router as deadouts
from redframe.api.disease import router as disease
from redframe.api.feeding import router as feeding
from redframe.api.forecast import association_router
from redframe.api.forecast import router as forecast
from redframe.api.guide import router as guide
from redframe.api.handling import router as handling
from redframe.api.hive_work import router as hive_work
from redframe.api.kept import Shelf
from redframe.api.members import router as members
from redframe.api.movements import router as movements
from redframe.api.pests import router as pests
from redframe.api.places import router as places
from redframe.api.planning import router as planning
from redframe.api.policy import router as policy
from redframe.api.registers import router as registers
from redframe.api.sampling import router as sampling
from redframe.api.search import router as search
from redframe.api.session import router as session
from redframe.api.settings import Settings
from redframe.api.stock import router as stock
from redframe.api.treatments import router as treatments
from redframe.api.turns import Turns
from redframe.api.visits import router as visits
from redframe.stand_ins.laboratory import StandInLaboratory
from redframe.stand_ins.weather import StandInWeather
from redframe.store.database import Database
from redframe.work.members.passwords import Argon2Hasher
from redframe.work.unit_of_work import Services

TOPICS = (
    association_router, campaigns, session, members, places, colonies, visits, sampling, treatments, planning, policy,
    hive_work, guide, forecast, search, calculators, stock, registers, feeding,
    disease, cases, movements, handling, deadouts, pests,
)  # fmt: skip
NONCE_MARK = "__STYLE_NONCE__"
CSP = (
    "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-{nonce}'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def create() -> FastAPI:
    """The application with settings from the environment (for the server)."""
    return build(Settings.from_environment())


def build(settings: Settings) -> FastAPI:
    """The application with the given settings."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        database = Database(settings.database_url, settings.pool_size)
        await database.open()
        app.state.services = Services(database, StandInWeather(), settings.clock)
        yield
        await database.close()

    app = FastAPI(
        title="Red Frame",
        version="1",
        description="Counts, thresholds, treatments and their verification, for those who look after bees.",
        lifespan=lifespan,
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        separate_input_output_schemas=False,
        generate_unique_id_function=lambda route: route.name,
    )
    app.state.settings = settings
    app.state.laboratory = StandInLaboratory()
    app.state.turns = Turns()
    app.state.shelf = Shelf(settings.kept_mb * 2**20)
    app.state.hasher = Argon2Hasher(fast=settings.fast_passwords)
    errors.install(app)
    for topic in TOPICS:
        app.include_router(topic.router, prefix="/api/v1")
    app.openapi = lambda: description.shipped(app)  # type: ignore[method-assign]
    app.add_middleware(BodyLimits)
    app.add_middleware(errors.Unforeseen)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=5)
    if settings.hosts:
        # Loopback too: the launcher asks whether the server answers.
        app.add_middleware(TrustedHostMiddleware, allowed_hosts=[*settings.hosts, "127.0.0.1"], www_redirect=False)
    app.add_middleware(SecurityHeaders, secure=settings.secure)
    _serve_front_end(app, settings.web)
    return app


class SecurityHeaders:
    """Headers on every response; API answers are never kept by a cache."""

    def __init__(self, app: ASGIApp, *, secure: bool = False) -> None:
        self.app = app
        self.secure = secure

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Add the headers to the response's start."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["nonce"] = nonce

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = MutableHeaders(scope=message)
                headers["Content-Security-Policy"] = CSP.format(nonce=nonce)
                headers["X-Content-Type-Options"] = "nosniff"
                headers["Referrer-Policy"] = "same-origin"
                headers["Cross-Origin-Opener-Policy"] = "same-origin"
                headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=(self)"
                if self.secure:
                    headers["Strict-Transport-Security"] = "max-age=31536000"
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        await self.app(scope, receive, send_with_headers)


def _serve_front_end(app: FastAPI, web: Path) -> None:
    """Files of the built front end; any other path without a dot gets the page, so that deep links survive reload."""
    mimetypes.add_type("font/woff2", ".woff2")
    mimetypes.add_type("application/geo+json", ".geojson")
    root = web.resolve()

    @app.api_route("/api/{path:path}", methods=["GET", "POST", "PUT", "DELETE", "PATCH"], include_in_schema=False)
    async def no_such_endpoint(path: str) -> Response:
        return errors.problem(404, "Not found", "There is nothing at this address")

    def file_at(path: str) -> Path | None:
        try:
            wanted = (root / path).resolve()
            return wanted if path and wanted.is_relative_to(root) and wanted.is_file() else None
        except (OSError, ValueError):
            # An address that can be no name of a file: too long, or with a character that none has.
            return None

    @app.api_route("/{path:path}", methods=["GET", "HEAD"], include_in_schema=False, response_model=None)
    async def front_end(path: str, request: Request) -> Response:
        wanted = file_at(path)
        if wanted is not None:
            kept = "public, max-age=31536000, immutable" if path.startswith("assets/") else "no-cache"
            return FileResponse(wanted, headers={"Cache-Control": kept})
        if "." in path.rsplit("/", 1)[-1]:
            return errors.problem(404, "Not found", "There is nothing at this address")
        page = (root / "index.html").read_text(encoding="utf-8")
        nonce = request.scope["state"]["nonce"]
        return HTMLResponse(page.replace(NONCE_MARK, nonce), headers={"Cache-Control": "no-cache"})

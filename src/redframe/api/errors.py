"""Errors as problem documents (RFC 9457): the one place where what went wrong becomes a status code."""

from __future__ import annotations

import logging
from typing import Any

import psycopg
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from psycopg_pool import PoolTimeout
from pydantic import BaseModel
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from redframe.core.errors import CoreError, InvalidInput, Refused
from redframe.core.inputs import faults_of_items
from redframe.store.errors import AlreadyDone, Conflict, NotAllowed, NotFound, StoreError
from redframe.work.members.session import CodeNeeded, TooManyAttempts, WrongSignIn

log = logging.getLogger(__name__)
MOST_FAULTS = 50
"""Faults of one request that are listed: more of them nobody reads."""


class FieldError(BaseModel):
    """One bad field, as the domain writes its path."""

    field: str
    code: str
    message: str


class Problem(BaseModel):
    """What went wrong. `rule` names the rule of the work that refused; `can_override` says that somebody named may."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str = ""
    errors: list[FieldError] = []
    rule: str | None = None
    can_override: bool = False


def describe_in(document: dict[str, Any]) -> dict[str, Any]:
    """Put the problem document into an OpenAPI document: every operation may answer with one."""
    schemas = document.setdefault("components", {}).setdefault("schemas", {})
    problem_schema = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
    schemas.update(problem_schema.pop("$defs"))
    schemas["Problem"] = problem_schema
    for unused in ("HTTPValidationError", "ValidationError"):
        schemas.pop(unused, None)
    content = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
    for operations in document["paths"].values():
        for operation in operations.values():
            operation["responses"].pop("422", None)
            operation["responses"]["4XX"] = {"description": "A problem document", "content": content}
    return document


def problem(
    status: int,
    title: str,
    detail: str = "",
    errors: list[FieldError] | None = None,
    headers: dict[str, str] | None = None,
    **more: Any,
) -> JSONResponse:
    """A problem document as a response."""
    body = Problem(title=title, status=status, detail=detail, errors=errors or [], **more)
    return JSONResponse(body.model_dump(), status, media_type="application/problem+json", headers=headers)


def _fields(faults: list[InvalidInput]) -> list[FieldError]:
    return [FieldError(field=fault.field, code=fault.code, message=fault.message) for fault in faults]


def install(app: FastAPI) -> None:
    """Register the handlers."""

    @app.exception_handler(RequestValidationError)
    async def _request(_: Request, error: RequestValidationError) -> JSONResponse:
        faults = _request_faults(error)
        return problem(422, "A field is wrong", faults[0].message, _fields(faults))

    @app.exception_handler(CoreError)
    async def _core(_: Request, error: CoreError) -> JSONResponse:
        if isinstance(error, InvalidInput):
            return problem(422, "A field is wrong", error.message, _fields([error]))
        assert isinstance(error, Refused)
        errors = [FieldError(field=error.field, code=error.rule, message=error.message)] if error.field else []
        return problem(409, "Refused", error.message, errors, rule=error.rule, can_override=error.can_override)

    @app.exception_handler(StoreError)
    async def _store(_: Request, error: StoreError) -> JSONResponse:
        if isinstance(error, NotFound):
            return problem(404, "Not found", str(error))
        if isinstance(error, NotAllowed):
            return problem(403, "Not allowed", str(error))
        field = error.field if isinstance(error, Conflict) else ""
        errors = [FieldError(field=field, code="conflict", message=str(error))] if field else []
        title = "Recorded before" if isinstance(error, AlreadyDone) else "Changed meanwhile"
        return problem(409, title, str(error), errors)

    @app.exception_handler(WrongSignIn)
    async def _wrong(_: Request, __: WrongSignIn) -> JSONResponse:
        message = "E-mail address and password do not belong together"
        return problem(401, "Not signed in", message, [FieldError(field="password", code="wrong", message=message)])

    @app.exception_handler(CodeNeeded)
    async def _code(_: Request, error: CodeNeeded) -> JSONResponse:
        code = "wrong" if error.wrong else "missing"
        return problem(401, "Not signed in", str(error), [FieldError(field="code", code=code, message=str(error))])

    @app.exception_handler(TooManyAttempts)
    async def _throttled(_: Request, error: TooManyAttempts) -> JSONResponse:
        return problem(429, "Too many attempts", str(error), headers={"Retry-After": str(error.retry_after_seconds)})

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, str(error.detail), headers=dict(error.headers or {}))

    @app.exception_handler(psycopg.IntegrityError)
    async def _integrity(_: Request, error: psycopg.IntegrityError) -> JSONResponse:
        log.warning("refused by %s", error.diag.constraint_name)
        return problem(409, "Refused", "These values do not go together, or belong to a record that is not here.")

    @app.exception_handler(psycopg.DataError)
    @app.exception_handler(OverflowError)
    async def _cannot_be_kept(_: Request, error: Exception) -> JSONResponse:
        # With its trace: a figure that runs over in our own sums must not pass for somebody's mistake.
        log.warning("cannot be kept: %s", error, exc_info=error)
        detail = "A text has characters that cannot be kept, or a number or a day is out of range."
        return problem(422, "A field is wrong", detail)

    @app.exception_handler(psycopg.OperationalError)
    @app.exception_handler(PoolTimeout)
    async def _away(_: Request, __: Exception) -> JSONResponse:
        detail = "The database does not answer. What you typed is kept; try again in a moment."
        return problem(503, "Not available", detail, headers={"Retry-After": "3"})


class Unforeseen:
    """Answers whatever nobody has foreseen with a problem document; it stands inside those who add headers, so that
    this answer has them too."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer, unless an answer has begun already."""
        begun = False

        async def watched(message: Message) -> None:
            nonlocal begun
            begun = begun or message["type"] == "http.response.start"
            await send(message)

        try:
            await self.app(scope, receive, watched)
        except Exception:
            if scope["type"] != "http" or begun:
                raise
            log.exception("unforeseen, at %s", scope["path"])
            detail = "Something went wrong here that nobody has foreseen. What you typed is kept; it was written down."
            await problem(500, "Not answered", detail)(scope, receive, send)


def _request_faults(error: RequestValidationError) -> list[InvalidInput]:
    """FastAPI's findings with the place (body, query, path, header) taken off the field path."""
    items = []
    for item in error.errors()[:MOST_FAULTS]:
        place, *rest = item["loc"]
        location = tuple(rest) if rest and item["type"] != "json_invalid" else (str(place),)
        items.append({**item, "loc": location})
    return faults_of_items(items)

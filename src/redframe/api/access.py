"""Who is asking: the session cookie, the token that guards writes, and the version of what is amended."""

from __future__ import annotations

import hmac
import re
from functools import lru_cache
from typing import Annotated
from urllib.parse import urlsplit

from fastapi import Depends, Header, HTTPException, Request

from redframe.api.settings import Settings
from redframe.store.database import Database, Identity
from redframe.store.session import Session
from redframe.work.members import session as members_session
from redframe.work.members.passwords import Argon2Hasher
from redframe.work.unit_of_work import Services

COOKIE = "redframe_session"
SECURE_COOKIE = f"__Host-{COOKIE}"
"""Under TLS no other host or path can set it."""
SAFE_METHODS = frozenset({"GET", "HEAD", "OPTIONS"})
_VERSION = re.compile(r'(?:W/)?"(\d{1,9})"')


# Dependencies are coroutines throughout: a plain function would be sent to a thread for nothing.


@lru_cache(maxsize=512)
def _device(said: str) -> str:
    # Its patterns are many: read in at the first sign-in, not at the door.
    import ua_parser

    found = ua_parser.parse(said[:400])
    families = (found.user_agent and found.user_agent.family, found.os and found.os.family)
    return " on ".join(one for one in families if one)[:80]


def device_of(request: Request) -> str:
    """The device that a request says it comes from: enough for its owner to know it again."""
    return _device(request.headers.get("user-agent", ""))


async def services_of(request: Request) -> Services:
    """The desk of this process."""
    services: Services = request.app.state.services
    return services


async def settings_of(request: Request) -> Settings:
    """The settings of this process."""
    settings: Settings = request.app.state.settings
    return settings


def hasher_of(request: Request) -> Argon2Hasher:
    """The password hasher of this process."""
    hasher: Argon2Hasher = request.app.state.hasher
    return hasher


def database_of(request: Request) -> Database:
    """The database of this process."""
    services: Services = request.app.state.services
    return services.database


def origin_of(request: Request) -> str:
    """Where a request came from: the address of the other end, or what a proxy that is trusted says of it."""
    return request.client.host if request.client else ""


def cookie_name(request: Request) -> str:
    """The name of the session cookie of this installation."""
    return SECURE_COOKIE if request.app.state.settings.secure else COOKIE


def token_of(request: Request) -> str | None:
    """The token of the session cookie, as far as it can be one."""
    token = request.cookies.get(cookie_name(request))
    return token if token and len(token) <= 200 else None


async def maybe_session(request: Request) -> Session | None:
    """The session of the cookie, or None. Refuses a write that comes from another site."""
    if request.method not in SAFE_METHODS:
        origin = request.headers.get("origin")
        if origin and urlsplit(origin).netloc != request.headers.get("host"):
            raise HTTPException(403, "This request comes from another site")
    token = token_of(request)
    return await members_session.session_of(database_of(request), token) if token else None


async def session(request: Request, found: Annotated[Session | None, Depends(maybe_session)]) -> Session:
    """The session of the cookie; writes need its token in X-CSRF-Token."""
    if found is None:
        raise HTTPException(401, "Sign in first")
    if request.method not in SAFE_METHODS:
        given = request.headers.get("x-csrf-token", "")
        if not hmac.compare_digest(given.encode(), found.csrf_token.encode()):
            raise HTTPException(403, "The session token is missing or old: reload the page")
    return found


async def identity(found: Annotated[Session, Depends(session)]) -> Identity:
    """Who is at work."""
    return found.identity


async def calculator_guest(
    settings: Annotated[Settings, Depends(settings_of)], found: Annotated[Session | None, Depends(maybe_session)]
) -> None:
    """Lets anyone signed in use the calculators, and anyone at all where the installation says so."""
    if found is None and not settings.open_calculators:
        raise HTTPException(401, "Sign in first")


async def version_of(
    if_match: Annotated[str | None, Header(description='The version that was read, as "3"')] = None,
) -> int:
    """The version that the writer has seen."""
    if if_match is None:
        raise HTTPException(428, "Say which version you amend (If-Match)")
    found = _VERSION.fullmatch(if_match.strip())
    if found is None:
        raise HTTPException(400, 'If-Match must be a version in quotes, as "3"')
    return int(found.group(1))


Who = Annotated[Identity, Depends(identity)]
TheServices = Annotated[Services, Depends(services_of)]
Version = Annotated[int, Depends(version_of)]

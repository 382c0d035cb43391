"""Sign-in, sign-out, and the person's own settings."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Request, Response

from redframe.api.access import (
    TheServices,
    Who,
    cookie_name,
    database_of,
    device_of,
    hasher_of,
    maybe_session,
    origin_of,
    settings_of,
)  # fmt: skip
from redframe.api.again import topic
from redframe.api.session.schemas import (
    BegunSecondFactor,
    CodeInput,
    PasswordInput,
    Person,
    PersonInput,
    PresentInput,
    RecoveryCodes,
    SecondFactorView,
    SessionView,
    SignInInput,
    SwitchInput,
)
from redframe.api.settings import Settings
from redframe.store.database import Identity
from redframe.store.session import Device, SecurityEvent, Session
from redframe.work.members import second_factor
from redframe.work.members import session as members_session
from redframe.work.roles import MAY, may
from redframe.work.unit_of_work import Services

router = topic("session")
TheSettings = Annotated[Settings, Depends(settings_of)]


async def _view(services: Services, settings: Settings, found: Session | None) -> SessionView:
    demo = settings.demo_today is not None
    if found is None:
        now = services.clock.now()
        return SessionView(
            person=None, role=None, may=[], places_of_work=[], csrf_token=None, today=now.date(), now=now, demo=demo
        )
    who = found.identity
    async with services.unit_of_work(who) as unit:
        person, places = await members_session.me(unit)
        return SessionView(
            person=Person.model_validate(person),
            role=found.role,
            may=[act for act in MAY if may(who, act)],
            places_of_work=list(places),
            csrf_token=found.csrf_token,
            today=unit.today,
            now=unit.now,
            demo=demo,
        )


@router.get("/session")
async def read_session(
    services: TheServices, settings: TheSettings, found: Annotated[Session | None, Depends(maybe_session)]
) -> SessionView:
    """Who is signed in, if anyone."""
    return await _view(services, settings, found)


@router.post("/session", status_code=201)
async def sign_in(
    given: SignInInput,
    request: Request,
    response: Response,
    services: TheServices,
    settings: TheSettings,
    _: Annotated[Session | None, Depends(maybe_session)],
) -> SessionView:
    """Sign in with e-mail address and password, and with a code where a second factor is on."""
    origin = origin_of(request)
    opened = await members_session.sign_in(
        database_of(request), hasher_of(request), given.email, given.password, given.code, origin, device_of(request)
    )
    return await give_session(request, response, services, settings, opened)


async def give_session(
    request: Request, response: Response, services: Services, settings: Settings, opened: members_session.OpenSession
) -> SessionView:
    """Hand a session just opened to the browser."""
    response.set_cookie(
        cookie_name(request),
        opened.token,
        max_age=int(members_session.SESSION_LASTS.total_seconds()),
        httponly=True,
        samesite="strict",
        secure=settings.secure,
        path="/",
    )
    return await _view(services, settings, await members_session.session_of(database_of(request), opened.token))


def _forget(request: Request, response: Response) -> None:
    """Let the browser forget the session, and the photos that it keeps: on this device somebody else may be next."""
    response.delete_cookie(
        cookie_name(request), path="/", httponly=True, samesite="strict", secure=request.app.state.settings.secure
    )
    response.headers["Clear-Site-Data"] = '"cache"'


@router.delete("/session", status_code=204)
async def sign_out(request: Request, response: Response, _: Who) -> None:
    """Sign out here."""
    await members_session.sign_out(database_of(request), request.cookies[cookie_name(request)])
    _forget(request, response)


@router.get("/sessions")
async def list_sessions(request: Request, who: Who, services: TheServices) -> list[Device]:
    """Where you are signed in, the latest used first."""
    async with services.unit_of_work(who) as unit:
        return await members_session.devices(unit, request.cookies[cookie_name(request)])


@router.delete("/sessions/{session_id}", status_code=204)
async def end_session(session_id: UUID, who: Who, services: TheServices) -> None:
    """Sign out on one of your devices."""
    async with services.unit_of_work(who) as unit:
        await members_session.sign_out_device(unit, session_id)


@router.get("/security-events")
async def list_security_events(who: Who, services: TheServices) -> list[SecurityEvent]:
    """What happened to your account of late, the latest first."""
    async with services.unit_of_work(who) as unit:
        return await members_session.security_events(unit)


@router.delete("/sessions", status_code=204)
async def sign_out_everywhere(request: Request, response: Response, who: Who, services: TheServices) -> None:
    """Sign out on every device."""
    async with services.unit_of_work(who) as unit:
        await members_session.sign_out_everywhere(unit)
    _forget(request, response)


@router.put("/session/association")
async def switch_association(
    given: SwitchInput, request: Request, who: Who, services: TheServices, settings: TheSettings
) -> SessionView:
    """Go on in another association."""
    token = request.cookies[cookie_name(request)]
    async with services.unit_of_work(who) as unit:
        await members_session.switch(unit, token, given.membership_id)
    return await _view(
        services,
        settings,
        await members_session.session_of(database_of(request), request.cookies[cookie_name(request)]),
    )


@router.put("/person")
async def amend_person(given: PersonInput, who: Who, services: TheServices) -> Person:
    """Change your name, units or theme."""
    async with services.unit_of_work(who) as unit:
        return Person.model_validate(await members_session.amend_me(unit, **given.model_dump()))


@router.put("/person/password", status_code=204)
async def change_password(given: PasswordInput, request: Request, who: Who, services: TheServices) -> None:
    """Change your password; every device is signed out."""
    origin = origin_of(request)
    await members_session.change_password(services, who, hasher_of(request), given.present, given.new, origin)


@router.get("/person/second-factor")
async def read_second_factor(who: Who, services: TheServices) -> SecondFactorView:
    """Whether your second factor is on."""
    async with services.unit_of_work(who) as unit:
        found = await second_factor.mine(unit)
        return SecondFactorView(since=found and found.since, codes_left=found.codes_left if found else 0)


@router.post("/person/second-factor", status_code=201)
async def begin_second_factor(
    given: PresentInput, request: Request, who: Who, services: TheServices
) -> BegunSecondFactor:
    """Make a secret for a device to take up; the second factor is on once a code of it was shown."""
    await _know_again(given, request, who, services)
    async with services.unit_of_work(who) as unit:
        begun = await second_factor.begin(unit)
    # Used once in a person's life: not read in at the door.
    import segno

    picture = segno.make(begun.address, error="m").svg_data_uri(scale=4, border=4, light="#ffffff")
    return BegunSecondFactor(secret=begun.secret, address=begun.address, picture=picture)


@router.put("/person/second-factor")
async def confirm_second_factor(given: CodeInput, who: Who, services: TheServices) -> RecoveryCodes:
    """Turn your second factor on by a code of its device."""
    async with services.unit_of_work(who) as unit:
        return RecoveryCodes(recovery_codes=list(await second_factor.confirm(unit, given.code)))


@router.post("/person/second-factor/recovery-codes", status_code=201)
async def make_recovery_codes(given: PresentInput, request: Request, who: Who, services: TheServices) -> RecoveryCodes:
    """New recovery codes in the place of those before."""
    await _know_again(given, request, who, services)
    async with services.unit_of_work(who) as unit:
        return RecoveryCodes(recovery_codes=list(await second_factor.new_codes(unit)))


@router.post("/person/second-factor/end", status_code=204)
async def end_second_factor(given: PresentInput, request: Request, who: Who, services: TheServices) -> None:
    """Turn your second factor off."""
    await _know_again(given, request, who, services)
    async with services.unit_of_work(who) as unit:
        await second_factor.end(unit)


async def _know_again(given: PresentInput, request: Request, who: Identity, services: Services) -> None:
    """See that it is still whose session this is."""
    await members_session.check_present(services, who, hasher_of(request), given.present, origin_of(request))

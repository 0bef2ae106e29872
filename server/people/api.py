"""Sign in, sign out, join, leave."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.base.language import remember
from server.people import second, services, signing
from server.people.auth import TeacherAuth, end_session, forget_group, member_behind, teacher_of
from server.people.deeds import deeds_of
from server.people.device import know_device
from server.people.outputs import account_out, deed_out, second_out, who_out
from server.people.schemas import (
    AccountOut,
    CodeIn,
    DeedOut,
    Done,
    EmailIn,
    LanguageIn,
    NewPasswordIn,
    PasswordIn,
    ProblemOut,
    RecoveryOut,
    SecondOut,
    SignedIn,
    SignIn,
    SignInOut,
    WhoAmI,
)

router = Router()


@router.get("/who", response=WhoAmI, operation_id="who", auth=None)
def who(request: HttpRequest) -> WhoAmI:
    """Who this browser is."""
    member = member_behind(request)
    return who_out(request, member.name if member else None)


@router.post("/sign-in", response={200: SignedIn, 401: ProblemOut, 429: ProblemOut}, operation_id="sign_in", auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, response: HttpResponse, data: SignIn) -> SignedIn:
    """Sign a teacher in."""
    teacher = services.sign_in(request=request, username=data.username, password=data.password, code=data.code)
    know_device(request, response, teacher.id)
    if teacher.language:
        remember(response, teacher.language)
    return SignedIn(teacher=teacher.username, group=None, language=teacher.language)


@router.post("/sign-out", response=Done, operation_id="sign_out", auth=None)
@decorate_view(csrf_protect)
def sign_out(request: HttpRequest) -> Done:
    """Sign the teacher out."""
    services.sign_out(request=request)
    return Done(ok=True)


@router.put("/language", response=Done, operation_id="choose_language", auth=None)
@decorate_view(csrf_protect)
def choose_language(request: HttpRequest, response: HttpResponse, data: LanguageIn) -> Done:
    """Read Pipette in a language: kept on this device, and with the account of who is signed in."""
    services.choose_language(request=request, language=data.language)
    remember(response, data.language)
    return Done(ok=True)


@router.get("/deeds", response=list[DeedOut], auth=TeacherAuth(), operation_id="deeds")
def deeds(request: HttpRequest, lab: uuid.UUID | None = None) -> list[DeedOut]:
    """What the teacher did lately, newest first; of one lab, if it is named."""
    return [deed_out(deed) for deed in deeds_of(teacher_of(request), lab)]


@router.get("/account", response=AccountOut, auth=TeacherAuth(), operation_id="account")
def account(request: HttpRequest) -> AccountOut:
    """The teacher's account."""
    return account_out(teacher_of(request))


@router.post(
    "/account/email",
    response={200: Done, 401: ProblemOut, 422: ProblemOut, 429: ProblemOut},
    auth=TeacherAuth(),
    operation_id="set_email",
)
def set_email(request: HttpRequest, data: EmailIn) -> Done:
    """Keep an address for mail, or none."""
    services.set_email(request=request, actor=teacher_of(request), email=data.email, password=data.password)
    return Done(ok=True)


@router.post(
    "/account/second",
    response={200: SecondOut, 401: ProblemOut, 409: ProblemOut, 429: ProblemOut},
    auth=TeacherAuth(),
    operation_id="begin_second",
)
def begin_second(request: HttpRequest, data: PasswordIn) -> SecondOut:
    """A new secret for an app that shows codes; it counts once a code of it has been typed."""
    return second_out(services.begin_second(request=request, actor=teacher_of(request), password=data.password))


@router.post(
    "/account/second/confirm",
    response={200: RecoveryOut, 401: ProblemOut, 409: ProblemOut},
    auth=TeacherAuth(),
    operation_id="confirm_second",
)
def confirm_second(request: HttpRequest, data: CodeIn) -> RecoveryOut:
    """Turn the second step of signing in on with the app's first code."""
    return RecoveryOut(codes=second.confirm(teacher_of(request), data.code))


@router.post(
    "/account/second/end",
    response={200: Done, 401: ProblemOut, 429: ProblemOut},
    auth=TeacherAuth(),
    operation_id="end_second",
)
def end_second(request: HttpRequest, data: PasswordIn) -> Done:
    """Turn the second step of signing in off."""
    services.end_second(request=request, actor=teacher_of(request), password=data.password)
    return Done(ok=True)


@router.post(
    "/account/delete",
    response={200: Done, 401: ProblemOut, 409: ProblemOut, 429: ProblemOut},
    auth=TeacherAuth(),
    operation_id="delete_account",
)
def delete_account(request: HttpRequest, data: PasswordIn) -> Done:
    """Delete the teacher's account with its labs; signing in within 30 days takes it back."""
    services.delete_account(request=request, actor=teacher_of(request), password=data.password)
    return Done(ok=True)


@router.post(
    "/account/password",
    response={200: Done, 401: ProblemOut, 422: ProblemOut, 429: ProblemOut},
    auth=TeacherAuth(),
    operation_id="change_password",
)
def change_password(request: HttpRequest, data: NewPasswordIn) -> Done:
    """Give the teacher another password; all other browsers are signed out."""
    services.change_password(request=request, actor=teacher_of(request), old=data.old, new=data.new)
    return Done(ok=True)


@router.get("/account/sign-ins", response=list[SignInOut], auth=TeacherAuth(), operation_id="sign_ins")
def sign_ins(request: HttpRequest) -> list[SignInOut]:
    """The browsers in which the teacher is signed in, the newest first."""
    here = request.session.session_key
    return [
        SignInOut(id=one.id, at=one.at, browser=one.browser, here=one.session_key == here)
        for one in signing.alive(teacher_of(request))
    ]


@router.post(
    "/account/sign-ins/{uuid:sign_in_id}/end",
    response={200: Done, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="end_sign_in",
)
def end_sign_in(request: HttpRequest, sign_in_id: uuid.UUID) -> Done:
    """Sign the teacher out in another browser."""
    services.end_sign_in(actor=teacher_of(request), sign_in_id=sign_in_id)
    return Done(ok=True)


@router.post("/leave", response=Done, operation_id="leave", auth=None)
@decorate_view(csrf_protect)
def leave(request: HttpRequest, response: HttpResponse) -> Done:
    """End the group's session, here and on the server."""
    member = member_behind(request)
    end_session(request)
    if member is not None:
        services.tell_rights(member.lab_id, member.group_id)
    forget_group(response)
    return Done(ok=True)

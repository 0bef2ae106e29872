"""Sign in, sign out, join, leave."""

from __future__ import annotations

from django.contrib.auth import logout
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.people import services
from server.people.auth import COOKIE, forget_group, member_of, remember_group
from server.people.models import Teacher
from server.people.schemas import Done, Join, ProblemOut, SignIn, WhoAmI

router = Router()


def _who(request: HttpRequest, group: str | None) -> WhoAmI:
    teacher = request.user.get_username() if isinstance(request.user, Teacher) else None
    return WhoAmI(teacher=teacher, group=group)


@router.get("/who", response=WhoAmI, operation_id="who", auth=None)
def who(request: HttpRequest) -> WhoAmI:
    """Who this browser is."""
    member = member_of(request.COOKIES.get(COOKIE))
    return _who(request, member.name if member else None)


@router.post("/sign-in", response={200: WhoAmI, 401: ProblemOut, 429: ProblemOut}, operation_id="sign_in", auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, data: SignIn) -> WhoAmI:
    """Sign a teacher in."""
    teacher = services.sign_in(request=request, username=data.username, password=data.password)
    return WhoAmI(teacher=teacher.username, group=None)


@router.post("/sign-out", response=Done, operation_id="sign_out", auth=None)
@decorate_view(csrf_protect)
def sign_out(request: HttpRequest) -> Done:
    """Sign the teacher out."""
    logout(request)
    return Done(ok=True)


@router.post("/join", response={200: WhoAmI, 404: ProblemOut, 429: ProblemOut}, operation_id="join", auth=None)
@decorate_view(csrf_protect)
def join(request: HttpRequest, response: HttpResponse, data: Join) -> WhoAmI:
    """Let a group's device in."""
    group = services.join(request=request, code=data.code, pin=data.pin)
    remember_group(response, group)
    return _who(request, group.name)


@router.post("/leave", response=Done, operation_id="leave", auth=None)
@decorate_view(csrf_protect)
def leave(request: HttpRequest, response: HttpResponse) -> Done:
    """End the group's session on this device."""
    forget_group(response)
    return Done(ok=True)

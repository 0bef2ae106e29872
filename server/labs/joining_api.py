"""Join."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.labs import joining
from server.people.auth import end_session, remember_group
from server.people.device import know_device
from server.people.models import GroupSession
from server.people.outputs import who_out
from server.people.schemas import Join, ProblemOut, WhoAmI

router = Router()


@router.post("/join", response={200: WhoAmI, 404: ProblemOut, 429: ProblemOut}, operation_id="join", auth=None)
@decorate_view(csrf_protect)
def join(request: HttpRequest, response: HttpResponse, data: Join) -> WhoAmI:
    """Let a group's device in."""
    session = joining.join(request=request, code=data.code, pin=data.pin)
    welcome(request, response, session)
    return who_out(request, session.group.name)


def welcome(request: HttpRequest, response: HttpResponse, session: GroupSession) -> None:
    """Give a device the session it has just joined with, in the place of any that it had."""
    end_session(request)  # of whichever group had this device before
    remember_group(response, session)
    know_device(request, response, lab=str(session.group.lab_id))

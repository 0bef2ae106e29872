"""A school's accounts: the first, invitations, new passwords, who heads them."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.people.address import site_address
from server.people.auth import TeacherAuth, teacher_of
from server.people.deeds import deeds_of_school
from server.people.device import know_device
from server.people.outputs import deed_out
from server.people.schemas import DeedOut, Done, ProblemOut, WhoAmI
from server.school import accounts, links
from server.school.outputs import link_out, look_out, school_out
from server.school.schemas import (
    ActiveIn,
    CupboardIn,
    FirstIn,
    ForgottenIn,
    HeadIn,
    InviteIn,
    LinkIn,
    LookOut,
    NewLinkOut,
    SchoolOut,
    UseIn,
)

router = Router()
HEAD = {403: ProblemOut, 404: ProblemOut, 409: ProblemOut}


@router.post(
    "/first",
    response={200: WhoAmI, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    operation_id="begin_school",
    auth=None,
)
@decorate_view(csrf_protect)
def begin_school(request: HttpRequest, response: HttpResponse, data: FirstIn) -> WhoAmI:
    """Make the first teacher of a new installation, by the code in the terminal."""
    teacher = links.begin_school(request=request, code=data.code, username=data.username, password=data.password)
    know_device(request, response, teacher.id)
    return WhoAmI(teacher=teacher.username, group=None)


@router.post("/link/look", response={200: LookOut, 404: ProblemOut}, operation_id="look_at_link", auth=None)
@decorate_view(csrf_protect)
def look(request: HttpRequest, data: LinkIn) -> LookOut:
    """What a link is for; it still counts afterwards."""
    return look_out(links.looked_at(data.secret))


@router.post(
    "/link/use",
    response={200: WhoAmI, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    operation_id="use_link",
    auth=None,
)
@decorate_view(csrf_protect)
def use(request: HttpRequest, response: HttpResponse, data: UseIn) -> WhoAmI:
    """Make an account by an invitation, or set a new password by a link; signs the teacher in, once."""
    teacher = links.use_link(request=request, secret=data.secret, username=data.username, password=data.password)
    know_device(request, response, teacher.id)
    return WhoAmI(teacher=teacher.username if request.user.is_authenticated else None, group=None)


@router.post("/forgotten", response={200: Done, 409: ProblemOut}, operation_id="forgotten", auth=None)
@decorate_view(csrf_protect)
def forgotten(request: HttpRequest, data: ForgottenIn) -> Done:
    """Send a link by mail, if the account has an address; the answer is the same if not."""
    links.forgotten(username=data.username, base=site_address(request))
    return Done(ok=True)


@router.get("/school", response=SchoolOut, auth=TeacherAuth(), operation_id="school")
def school(request: HttpRequest) -> SchoolOut:
    """The school's teachers; for its head also open links."""
    return school_out(teacher_of(request))


@router.get("/school/deeds", response=list[DeedOut], auth=TeacherAuth(), operation_id="school_deeds")
def school_deeds(request: HttpRequest) -> list[DeedOut]:
    """What was done with the school's accounts, for its head; empty for others."""
    return [deed_out(deed) for deed in deeds_of_school(teacher_of(request))]


@router.post("/school/invitations", response={200: NewLinkOut, **HEAD}, auth=TeacherAuth(), operation_id="invite")
def invite(request: HttpRequest, data: InviteIn) -> NewLinkOut:
    """A link for one colleague, good once and for seven days."""
    return link_out(request, links.invite(actor=teacher_of(request), name=data.name))


@router.post("/school/links/{uuid:link_id}/end", response={200: Done, **HEAD}, auth=TeacherAuth(), operation_id="end_link")
def end_link(request: HttpRequest, link_id: uuid.UUID) -> Done:
    """Withdraw a link."""
    links.end_link(actor=teacher_of(request), link_id=link_id)
    return Done(ok=True)


@router.post(
    "/school/teachers/{int:teacher_id}/reset",
    response={200: NewLinkOut, **HEAD},
    auth=TeacherAuth(),
    operation_id="reset_colleague",
)
def reset(request: HttpRequest, teacher_id: int) -> NewLinkOut:
    """A link with which a colleague sets a new password."""
    return link_out(request, links.reset_link(actor=teacher_of(request), teacher_id=teacher_id))


@router.put(
    "/school/teachers/{int:teacher_id}/head", response={200: Done, **HEAD}, auth=TeacherAuth(), operation_id="set_head"
)
def set_head(request: HttpRequest, teacher_id: int, data: HeadIn) -> Done:
    """Let a colleague head the school's accounts, or no more."""
    accounts.set_head(actor=teacher_of(request), teacher_id=teacher_id, head=data.head)
    return Done(ok=True)


@router.put(
    "/school/teachers/{int:teacher_id}/active",
    response={200: Done, **HEAD},
    auth=TeacherAuth(),
    operation_id="set_active",
)
def set_active(request: HttpRequest, teacher_id: int, data: ActiveIn) -> Done:
    """End a colleague's account, or let them in again."""
    accounts.set_active(actor=teacher_of(request), teacher_id=teacher_id, active=data.active)
    return Done(ok=True)


@router.put("/school/cupboard", response={200: Done, **HEAD}, auth=TeacherAuth(), operation_id="set_cupboard")
def set_cupboard(request: HttpRequest, data: CupboardIn) -> Done:
    """Choose whose cupboard is the school's."""
    accounts.set_cupboard(actor=teacher_of(request), teacher_id=data.teacher)
    return Done(ok=True)

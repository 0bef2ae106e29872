"""How a school's accounts are sent."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest

from server.base.square_code import qr_path
from server.people.address import site_address
from server.people.models import Teacher
from server.school import accounts, links
from server.school.models import Link
from server.school.schemas import ColleagueOut, LookOut, NewLinkOut, OpenLinkOut, SchoolOut


def school_out(actor: Teacher) -> SchoolOut:
    """The school as one of its teachers may know it."""
    return SchoolOut(
        head=actor.is_head,
        teachers=[
            ColleagueOut(
                id=teacher.id,
                name=teacher.username,
                head=teacher.is_head,
                active=teacher.is_active,
                me=teacher.id == actor.id,
                last=teacher.last_login if actor.is_head else None,
            )
            for teacher in accounts.teachers()
            if actor.is_head or teacher.is_active
        ],
        links=[
            OpenLinkOut(id=link.id, kind=link.kind, name=link.name, made_by=_maker(link), ends_at=link.ends_at)
            for link in links.open_links(actor)
        ],
        cupboard=accounts.cupboard_of(),
    )


def link_out(request: HttpRequest, secret: str) -> NewLinkOut:
    """A new link; its secret stands behind the #, which browsers send to nobody."""
    address = f"{site_address(request)}/link#{secret}"
    path, size = qr_path(address)
    return NewLinkOut(address=address, qr_path=path, qr_size=size)


def look_out(link: Link) -> LookOut:
    """What a link is for."""
    kind: Any = link.kind
    return LookOut(kind=kind, name=link.name, made_by=_maker(link), ends_at=link.ends_at)


def _maker(link: Link) -> str:
    return "" if link.made_by is None else link.made_by.username

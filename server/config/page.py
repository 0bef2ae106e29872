"""The one HTML page: it names the built scripts and carries the CSP nonce.

Until its scripts are here it shows who it is; at /join the form, which lets a group in without any script, and with the few
lines of `early.js` without a new page.
"""

from __future__ import annotations

import json
import re
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_http_methods, require_safe

from galvanic.words import say, speaking
from server.base.authority import der
from server.base.incoming import clean
from server.base.language import wanted_by
from server.base.problems import Problem
from server.labs.joining import join
from server.labs.joining_api import welcome
from server.labs.lookups import language_of_lab
from server.people.device import know_device
from server.people.models import Teacher

JOINED = "pipette_joined"
MOST_TYPED = 40
VERSION = (settings.BASE_DIR / "VERSION").read_text(encoding="ascii").strip()
ENTRY = "src/app/main.tsx"
DRAWS = "src/app/draw.tsx"
BENCH = "src/stages/measure/BenchPage.tsx"  # whose phones are the slowest: all of it is fetched at once
FOR_THE_CLASS = re.compile(r"/labs/(?P<lab>[0-9a-f-]{36})/(?:cards|print|(?:\w+/)?projector)/?")


@dataclass(frozen=True, slots=True)
class Typed:
    """What was typed to join, and why it was refused."""

    code: str = ""
    pin: str = ""
    refused: str = ""


@cache
def built(language: str) -> dict[str, Any] | None:
    """Scripts and styles of the built front end in a language, by Vite's manifest; None if it is not built."""
    manifest = settings.BASE_DIR / "web" / "dist" / "app" / ".vite" / "manifest.json"
    if not manifest.is_file():
        return None
    chunks = json.loads(manifest.read_text(encoding="utf-8"))
    entry, draws = chunks[ENTRY], chunks[DRAWS]
    at_once = [*entry.get("imports", []), f"src/locale/{language}.po", DRAWS, *draws.get("imports", [])]
    at_bench = [*at_once, BENCH, *chunks[BENCH].get("imports", []), f"src/stages/measure/locale/{language}.po"]
    files = {name: f"app/{chunk['file']}" for name, chunk in chunks.items()}
    return {
        "script": files[ENTRY],
        "styles": [f"app/{name}" for name in entry.get("css", [])],
        "preload": list(dict.fromkeys(files[name] for name in at_once)),
        "bench": list(dict.fromkeys(files[name] for name in at_bench)),
        "language": language,
    }


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker, from the root so that it may serve every page."""
    script = settings.BASE_DIR / "web" / "dist" / "app" / "sw.js"
    if not script.is_file():
        return HttpResponse("The front end is not built yet.", status=404, content_type="text/plain")
    response = HttpResponse(script.read_bytes(), content_type="text/javascript; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@require_safe
def authority(request: HttpRequest) -> HttpResponse:
    """The certificate of the school's own authority, as devices take it in; 404 where there is none."""
    certificate = der()
    if not certificate:
        return HttpResponse(say("This server has no certificate of its own."), status=404, content_type="text/plain")
    response = HttpResponse(certificate, content_type="application/x-x509-ca-cert")
    response["Content-Disposition"] = 'attachment; filename="pipette-school.crt"'
    return response


def language_of_page(request: HttpRequest, own: str) -> str:
    """What is for the class's wall or hands speaks the lab's language, everything else the reader's `own`."""
    found = FOR_THE_CLASS.fullmatch(request.path)
    lab = language_of_lab(request.user, found["lab"]) if found and isinstance(request.user, Teacher) else None
    return lab or own


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The application's page, for every address that is not the API's."""
    return drawn(request)


@require_http_methods(["GET", "HEAD", "POST"])
@ensure_csrf_cookie
def join_page(request: HttpRequest) -> HttpResponse:
    """The page to join on. What its form sends before the scripts are here lets a group in, or says why not."""
    if request.method != "POST":
        return drawn(request, form=Typed(clean(request.GET.get("code", ""))[:MOST_TYPED]))
    typed = Typed(clean(request.POST.get("code", ""))[:MOST_TYPED], clean(request.POST.get("pin", ""))[:MOST_TYPED])
    try:
        session = join(request=request, code=typed.code, pin=typed.pin)
    except Problem as problem:
        with speaking(wanted_by(request)):
            return drawn(request, form=replace(typed, refused=say(problem.message)), status=problem.status)
    response = HttpResponseRedirect("/bench")
    welcome(request, response, session)
    response.set_cookie(JOINED, "1", max_age=60, secure=settings.HTTPS, samesite="Lax")  # read by the page's scripts
    return response


def drawn(request: HttpRequest, *, form: Typed | None = None, status: int = 200) -> HttpResponse:
    """The page in its reader's language, at /join with the form."""
    own = wanted_by(request)
    built_page = built(language_of_page(request, own))
    if built_page is None:
        return HttpResponse("The front end is not built yet. Run ./pipette demo.", status=503, content_type="text/plain")
    with speaking(built_page["language"]):
        words = {
            "needs": say("Pipette needs JavaScript to draw and to keep readings safe on this device."),
            "soon": say("One moment…"),
        }
        page_of = built_page | words | {"own": own, "form": form, "said": said_to_join(), "version": VERSION}
        if request.path.startswith("/bench"):
            page_of["preload"] = built_page["bench"]
        response = render(request, "page.html", page_of)
    response.status_code = status
    know_device(request, response)
    response["Cache-Control"] = "no-cache"
    return response


def said_to_join() -> dict[str, str]:
    """What the form says, as the page of the application says it."""
    return {
        "title": say("Join your lab"),
        "about": say("Your teacher has the code of the lab and the PIN of your group. You need no account and no name."),
        "code": say("Code"),
        "example": say("A word and three digits, for example AMBER-123."),
        "pin": say("PIN of your group"),
        "join": say("Join"),
        "teachers": say("Teachers sign in here"),
        "away": say("The server cannot be reached. What you typed stays here; try again when the network is back."),
    }

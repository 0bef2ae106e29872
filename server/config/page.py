"""The one HTML page: it names the built scripts and carries the CSP nonce."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from server.base.authority import der
from server.people.device import know_device

ENTRY = "src/app/main.tsx"


@cache
def built() -> dict[str, Any] | None:
    """Scripts and styles of the built front end, by Vite's manifest; None if it is not built."""
    manifest = settings.BASE_DIR / "web" / "dist" / "app" / ".vite" / "manifest.json"
    if not manifest.is_file():
        return None
    chunks = json.loads(manifest.read_text(encoding="utf-8"))
    entry = chunks[ENTRY]
    return {
        "script": f"app/{entry['file']}",
        "styles": [f"app/{name}" for name in entry.get("css", [])],
        "preload": [f"app/{chunks[name]['file']}" for name in entry.get("imports", [])],
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
        return HttpResponse("This server has no certificate of its own.", status=404, content_type="text/plain")
    response = HttpResponse(certificate, content_type="application/x-x509-ca-cert")
    response["Content-Disposition"] = 'attachment; filename="pipette-school.crt"'
    return response


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The application's page, for every address that is not the API's."""
    built_page = built()
    if built_page is None:
        return HttpResponse("The front end is not built yet. Run ./pipette demo.", status=503, content_type="text/plain")
    response = render(request, "page.html", built_page)
    know_device(request, response)
    response["Cache-Control"] = "no-cache"
    return response

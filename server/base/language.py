"""The language a visitor reads: what they chose on this device, else what their browser asks for, else English."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Literal

from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.utils import translation
from django.utils.cache import patch_vary_headers

from galvanic.words import LANGUAGES, also_in, speaking

YEAR_S = 365 * 86_400
LanguageCode = Literal["en", "de"]
Handler = Callable[[HttpRequest], HttpResponseBase]

also_in(Path(__file__).resolve().parents[1] / "locale")


def wanted_by(request: HttpRequest) -> str:
    """What a visitor chose on this device, or what their browser asks for; the code of a language."""
    found = translation.get_language_from_request(request)
    return found if found in LANGUAGES else "en"


def language_of(request: HttpRequest) -> str:
    """The language of one request. A page says which one it is in by the header, a stream by its address."""
    said = request.GET.get("lang") or request.headers.get("Accept-Language", "")
    return said if said in LANGUAGES else wanted_by(request)


def in_their_language(get_response: Handler) -> Handler:
    """Let everything be said in the visitor's language."""

    def handle(request: HttpRequest) -> HttpResponseBase:
        code = language_of(request)
        with speaking(code), translation.override(code):
            response = get_response(request)
        if request.path.startswith("/api/"):
            patch_vary_headers(response, ["Accept-Language"])
        return response

    return handle


def remember(response: HttpResponse, code: str) -> None:
    """Keep a language on this device."""
    response.set_cookie(settings.LANGUAGE_COOKIE_NAME, code, max_age=YEAR_S, secure=settings.HTTPS, samesite="Lax")

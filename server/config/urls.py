"""The API, and the one page for everything else."""

from django.urls import path, re_path

from server.config.api import api
from server.config.events import events, meter, ticks
from server.config.page import authority, join_page, page, worker

urlpatterns = [
    path("api/labs/<uuid:lab_id>/events", events),
    path("api/bench/events", events),
    path("api/check/events", ticks),
    path("api/bench/cells/<uuid:cell_id>/meter", meter),
    path("api/", api.urls),
    path("sw.js", worker),
    path("authority.crt", authority),
    re_path(r"^join/?$", join_page),
    re_path(r"^(?!api/|static/).*$", page),
]

handler400 = "server.base.errors.bad_request"
handler403 = "server.base.errors.forbidden"
handler404 = "server.base.errors.no_address"
handler500 = "server.base.errors.broken"

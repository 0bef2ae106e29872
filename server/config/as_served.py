"""Requests of tests run as the server's own database role, with the grants a real start gives.

Migrations, fixtures, commands and what a test asks the services itself run as the owner of the tables, as they do in use.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from contextlib import suppress
from threading import local
from typing import Any

import psycopg
from django.apps import apps
from django.core.handlers.base import BaseHandler
from django.db import connection
from django.db.backends.signals import connection_created
from django.db.models.signals import post_migrate

from server.base.roles import grant

ROLE = "pipette_test_server"


def grant_when_migrated() -> Callable[[], object]:
    """Give the role its rights in each database that is made, before it is copied for other processes; how to stop."""
    last = [app for app in apps.get_app_configs() if app.models_module is not None][-1]

    def granted(**_: Any) -> None:
        grant(os.urandom(16).hex(), ROLE)

    post_migrate.connect(granted, sender=last, weak=False)
    return lambda: post_migrate.disconnect(granted, sender=last)


def answer_as_served() -> None:
    """From now on every request of this process, a test client's or a live server's, is answered as the server's role."""
    answer = BaseHandler.get_response

    def as_served(handler: BaseHandler, request: Any) -> Any:
        with AsServed():
            return answer(handler, request)

    BaseHandler.get_response = as_served  # type: ignore[assignment, method-assign]
    connection_created.connect(lambda connection, **_: be_role(connection), weak=False)


thread = local()


def be_role(connection: Any) -> None:
    """A connection as the server's role while its thread answers a request, and as the owner otherwise."""
    with suppress(psycopg.errors.InFailedSqlTransaction):  # and with the rollback the role goes, too
        connection.connection.execute(f"SET ROLE {ROLE}" if getattr(thread, "answers", False) else "RESET ROLE")


class AsServed:
    """This thread's connection as the server's role, also one that is made anew; no query of it is counted."""

    def __enter__(self) -> None:
        self.switch(True)

    def __exit__(self, *_: object) -> None:
        self.switch(False)

    def switch(self, answers: bool) -> None:
        thread.answers = answers
        if connection.connection is not None:
            be_role(connection)

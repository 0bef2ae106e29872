"""Work beside the request that asked for it: in a thread of its own, begun when what was asked has been kept."""

from __future__ import annotations

import logging
from collections.abc import Callable
from threading import Thread

from django.conf import settings
from django.db import connection, transaction

log = logging.getLogger("pipette.beside")


def beside(name: str, work: Callable[[], None]) -> None:
    """Do `work` after the running transaction has been committed, without keeping the request waiting for it.

    It says by itself, in the database, how far it is and what went wrong; what it raises is logged. The server's process may
    end before it does. Tests do it at once (BESIDE is off).
    """
    if not settings.BESIDE:
        work()
        return

    def run() -> None:
        try:
            work()
        except Exception:
            log.exception("work beside a request broke: %s", name)
        finally:
            connection.close()

    transaction.on_commit(Thread(target=run, name=name).start)

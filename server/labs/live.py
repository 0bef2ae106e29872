"""Telling open pages that something in a lab has changed; they fetch it themselves.

A change is announced with PostgreSQL's NOTIFY, which arrives when the transaction commits. Each process listens on one
connection of its own and hands what it hears to the open streams, so any number of processes may serve one lab.
"""

from __future__ import annotations

import asyncio
import uuid
from collections.abc import AsyncIterator

import psycopg
from django.db import connection

CHANNEL = "pipette_lab"
PING_S = 20.0
AGAIN_S = 1.0
WAITING = 50


def announce(lab_id: uuid.UUID) -> None:
    """Say that a lab has changed, as part of the running transaction."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, str(lab_id)])


class Hub:
    """One listening connection of this process, and the queues of its open streams by lab."""

    def __init__(self) -> None:
        self.queues: dict[str, set[asyncio.Queue[None]]] = {}
        self.task: asyncio.Task[None] | None = None

    async def listen(self) -> None:
        """Listen for ever; a lost connection is made again, and every stream is told that it may have missed something."""
        parameters = connection.get_connection_params()
        wanted = {k: parameters[k] for k in ("dbname", "user", "password", "host", "port") if parameters.get(k)}
        while True:
            try:
                async with await psycopg.AsyncConnection.connect(**wanted, autocommit=True, keepalives_idle=30) as listening:
                    await listening.execute(f"LISTEN {CHANNEL}")
                    for lab in tuple(self.queues):
                        self.tell(lab)
                    async for heard in listening.notifies():
                        self.tell(heard.payload)
            except psycopg.OperationalError:
                await asyncio.sleep(AGAIN_S)

    def tell(self, lab: str) -> None:
        """Wake the streams of a lab."""
        for queue in self.queues.get(lab, ()):
            if not queue.full():
                queue.put_nowait(None)

    def subscribe(self, lab: str) -> asyncio.Queue[None]:
        """A queue that gets an item whenever the lab changes."""
        loop = asyncio.get_running_loop()
        if self.task is None or self.task.done() or self.task.get_loop() is not loop:
            self.task = loop.create_task(self.listen())
        queue: asyncio.Queue[None] = asyncio.Queue(WAITING)
        self.queues.setdefault(lab, set()).add(queue)
        return queue

    def leave(self, lab: str, queue: asyncio.Queue[None]) -> None:
        """Forget a stream."""
        queues = self.queues.get(lab, set())
        queues.discard(queue)
        if not queues:
            self.queues.pop(lab, None)


HUB = Hub()


async def stream(lab: uuid.UUID) -> AsyncIterator[str]:
    """Server-sent events of one lab: `changed`, whenever there is something to fetch, and a comment now and then."""
    queue = HUB.subscribe(str(lab))
    try:
        yield "retry: 2000\n\n"
        while True:
            try:
                await asyncio.wait_for(queue.get(), PING_S)
                while not queue.empty():
                    queue.get_nowait()
                yield "event: changed\ndata: 1\n\n"
            except TimeoutError:
                yield ": still here\n\n"
    finally:
        HUB.leave(str(lab), queue)

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
BOARD_S, BENCH_S = 0.02, 0.1  # first whoever made the change gets an answer, then boards hear of it, then benches
QUIET_S = 0.15
WAITING = 50


def announce(lab_id: uuid.UUID, group_id: uuid.UUID | None = None) -> None:
    """Say that a lab has changed (only for `group_id` and the teacher, if given), as part of the running transaction.

    The counts of changes of the lab and of the group, or all its groups, go up, by which what is kept is known to be old.
    """
    with connection.cursor() as cursor:
        cursor.execute("UPDATE labs_lab SET changes = changes + 1 WHERE id = %s", [lab_id])
        cursor.execute(
            "WITH counted AS (UPDATE people_group SET changes = changes + 1 WHERE lab_id = %s AND id = COALESCE(%s, id))"
            " SELECT pg_notify(%s, %s)",
            [lab_id, group_id, CHANNEL, f"{lab_id} {group_id or ''}".strip()],
        )


class Hub:
    """One listening connection of this process, and the queues of its open streams by lab."""

    def __init__(self) -> None:
        self.queues: dict[str, dict[asyncio.Queue[None], str]] = {}
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

    def tell(self, what: str) -> None:
        """Wake the streams of a lab; those of groups only by what concerns their own or all."""
        lab, _, group = what.partition(" ")
        for queue, only in self.queues.get(lab, {}).items():
            if (not only or not group or only == group) and not queue.full():
                queue.put_nowait(None)

    def subscribe(self, lab: str, group: str) -> asyncio.Queue[None]:
        """A queue that gets an item whenever the lab changes, for a group (empty: for the teacher)."""
        loop = asyncio.get_running_loop()
        if self.task is None or self.task.done() or self.task.get_loop() is not loop:
            self.task = loop.create_task(self.listen())
        queue: asyncio.Queue[None] = asyncio.Queue(WAITING)
        self.queues.setdefault(lab, {})[queue] = group
        return queue

    def leave(self, lab: str, queue: asyncio.Queue[None]) -> None:
        """Forget a stream."""
        queues = self.queues.get(lab, {})
        queues.pop(queue, None)
        if not queues:
            self.queues.pop(lab, None)


HUB = Hub()


async def stream(lab: uuid.UUID, group: uuid.UUID | None = None) -> AsyncIterator[str]:
    """Server-sent events of one lab, for a group or the teacher: `changed`, whenever there is something to fetch, a few
    times a second at most, and a comment now and then."""
    queue, wait_s = HUB.subscribe(str(lab), str(group or "")), BENCH_S if group else BOARD_S
    try:
        yield "retry: 2000\n\n"
        while True:
            try:
                await asyncio.wait_for(queue.get(), PING_S)
                await asyncio.sleep(wait_s)
                while not queue.empty():
                    queue.get_nowait()
                yield "event: changed\ndata: 1\n\n"
                await asyncio.sleep(QUIET_S)
            except TimeoutError:
                yield ": still here\n\n"
    finally:
        HUB.leave(str(lab), queue)

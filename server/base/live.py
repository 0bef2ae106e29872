"""Telling open pages that something in a lab has changed; they fetch it themselves.

A change is announced with PostgreSQL's NOTIFY, which arrives when the transaction commits. Each process listens on one
connection of its own and hands what it hears to the open streams, so any number of processes may serve one lab.
"""

from __future__ import annotations

import asyncio
import logging
import time
import uuid
from collections import Counter
from collections.abc import AsyncIterator, Awaitable, Callable, Hashable

import psycopg
from asgiref.sync import sync_to_async
from django.db import connection

from galvanic.words import mark
from server.base.problems import Refusal

CHANNEL = "pipette_lab"
RIGHTS = "rights"
PING_S = 20.0
AGAIN_S = 1.0
BOARD_S, BENCH_S = 0.02, 0.1  # first whoever made the change gets an answer, then boards hear of it, then benches
QUIET_S = 0.15
WAITING = 50
STILL_S = 60.0  # a stream looks at least this often whether it may still run
MOST_STREAMS = 12  # of one group's devices, or one teacher's pages, in one process
TOO_MANY = Refusal(
    429, "too_many_streams", mark("Too many pages of yours are open at once. This one looks for news by itself.")
)
Allowed = Callable[[], Awaitable[bool]]
Tell = Callable[[], Awaitable[bytes]]
log = logging.getLogger("pipette.live")


def notify(payload: str) -> None:
    """Tell every process what has changed, as part of the running transaction; see `Hub.tell` for what is said."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, payload])


class Hub:
    """One listening connection of this process, and the queues of its open streams by lab."""

    def __init__(self) -> None:
        self.queues: dict[str, dict[asyncio.Queue[bool], str]] = {}
        self.heard: Counter[str] = Counter()
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
        """Wake the streams of a lab; those of groups only by what concerns their own or all. `lab group rights` has them
        look whether they may still run; a lab or group `-` is all of them."""
        lab, group, kind = (*what.split(" "), "", "")[:3]
        rights, group = kind == RIGHTS, "" if group == "-" else group
        for name in tuple(self.queues) if lab == "-" else (lab,):
            self.heard[name] += name in self.queues
            for queue, only in self.queues.get(name, {}).items():
                if (not only or not group or only == group) and not queue.full():
                    queue.put_nowait(rights)

    def subscribe(self, lab: str, group: str) -> asyncio.Queue[bool]:
        """A queue that gets an item whenever the lab changes, for a group (empty: for the teacher)."""
        loop = asyncio.get_running_loop()
        if self.task is None or self.task.done() or self.task.get_loop() is not loop:
            self.task = loop.create_task(self.listen())
        queue: asyncio.Queue[bool] = asyncio.Queue(WAITING)
        self.queues.setdefault(lab, {})[queue] = group
        return queue

    def leave(self, lab: str, queue: asyncio.Queue[bool]) -> None:
        """Forget a stream."""
        queues = self.queues.get(lab, {})
        queues.pop(queue, None)
        if not queues:
            self.queues.pop(lab, None)
            self.heard.pop(lab, None)


class Told:
    """What is told after a change, made once for all streams of this process that wait for the same.

    It is made anew for whoever has heard of a change since the making began, so nobody is told less than they heard of.
    """

    def __init__(self) -> None:
        self.made: dict[tuple[str, Hashable], tuple[int, asyncio.Future[bytes]]] = {}

    async def of(self, lab: str, what: Hashable, make: Callable[[], bytes]) -> bytes:
        """The bytes that `make` makes in a thread; `what` names them within the lab."""
        heard, key = HUB.heard[lab], (lab, what)
        begun, future = self.made.get(key, (-1, None))
        if future is None or begun < heard or (future.done() and future.exception() is not None):
            future = asyncio.ensure_future(sync_to_async(make, thread_sensitive=False)())
            self.made[key] = heard, future
        return await asyncio.shield(future)

    def forget(self, lab: str) -> None:
        """Let go of all of a lab's."""
        for key in [key for key in self.made if key[0] == lab]:
            del self.made[key]


HUB, TOLD = Hub(), Told()
_OPEN: Counter[Hashable] = Counter()


def open_for(whose: Hashable) -> Callable[[], None]:
    """Count a stream from now on, before it runs, so that two at once are two; until what is returned is called.

    Raises Problem too_many_streams where someone has as many open as they may.
    """
    if _OPEN[whose] >= MOST_STREAMS:
        raise TOO_MANY()
    _OPEN[whose] += 1
    still = [whose]

    def over() -> None:
        if still:
            _OPEN.subtract(still)
            if not _OPEN[still.pop()]:
                del _OPEN[whose]

    return over


class Still:
    """Whether a stream may still run: looked up when rights have changed, and once a minute."""

    def __init__(self, allowed: Allowed) -> None:
        self.allowed, self.looked_at = allowed, time.monotonic()

    async def runs(self, rights: bool) -> bool:
        """Whether it may; `rights`: somebody's have just changed."""
        if not rights and time.monotonic() - self.looked_at < STILL_S:
            return True
        self.looked_at = time.monotonic()
        return await self.allowed()


async def _told(tell: Tell) -> bytes:
    """What is to be shown, or `1` where it cannot be made: then the page fetches it, and is told why not."""
    try:
        return await tell()
    except Exception:  # whatever it is, the stream goes on, and asking says it in words
        log.exception("what has changed could not be told")
        return b"1"


async def stream(
    lab: uuid.UUID, group: uuid.UUID | None, allowed: Allowed, tell: Tell | None = None
) -> AsyncIterator[str | bytes]:
    """Server-sent events of one lab, for a group or the teacher: `changed`, a few times a second at most, and a comment now
    and then. Ends when it is no longer allowed.

    With `tell` each `changed` brings what is to be shown, as JSON; without, or where that cannot be made just now, the page
    fetches it.
    """
    queue, wait_s = HUB.subscribe(str(lab), str(group or "")), BENCH_S if group else BOARD_S
    still = Still(allowed)
    try:
        yield "retry: 2000\n\n"
        while True:
            rights, changed = False, True
            try:
                rights = await asyncio.wait_for(queue.get(), PING_S)
                await asyncio.sleep(wait_s)
                while not queue.empty():
                    rights |= queue.get_nowait()
            except TimeoutError:
                changed = False
            if not await still.runs(rights):
                return
            if not changed:
                yield ": still here\n\n"
                continue
            yield b"event: changed\ndata: " + (b"1" if tell is None else await _told(tell)) + b"\n\n"
            await asyncio.sleep(QUIET_S)
    finally:
        HUB.leave(str(lab), queue)
        if str(lab) not in HUB.queues:
            TOLD.forget(str(lab))

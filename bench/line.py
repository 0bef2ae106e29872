"""A visitor's connection, as plain as a load can be: for the benches that play whole classes."""

from __future__ import annotations

import asyncio
import json
from collections.abc import Mapping

NO_HEADERS: Mapping[str, str] = {}


class Line:
    """One kept-alive connection with a visitor's cookies."""

    def __init__(self, port: int, cookies: str) -> None:
        self.port, self.cookies = port, cookies
        self.reader: asyncio.StreamReader
        self.writer: asyncio.StreamWriter | None = None

    async def send(self, method: str, path: str, body: object = None, headers: Mapping[str, str] = NO_HEADERS) -> None:
        """Send a request."""
        if self.writer is None:
            self.reader, self.writer = await asyncio.open_connection("127.0.0.1", self.port, limit=2**22)
        data = b"" if body is None else json.dumps(body).encode()
        token = self.cookies.partition("csrftoken=")[2].partition(";")[0]
        head = (
            f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: {self.cookies}\r\nX-CSRFToken: {token}\r\n"
            f"Content-Type: application/json\r\nContent-Length: {len(data)}\r\n"
            + "".join(f"{name}: {value}\r\n" for name, value in headers.items())
            + "\r\n"
        )
        self.writer.write(head.encode() + data)
        await self.writer.drain()

    async def head(self) -> tuple[int, dict[str, str]]:
        """Status and headers of the answer."""
        status = int((await self.reader.readline()).split()[1])
        headers = {}
        while line := (await self.reader.readline()).decode().strip():
            name, _, value = line.partition(": ")
            headers[name.lower()] = value
        return status, headers

    async def ask(self, method: str, path: str, body: object = None) -> tuple[int, bytes]:
        """One request and its whole answer."""
        return (await self.ask_whole(method, path, body, NO_HEADERS))[:2]

    async def ask_whole(
        self, method: str, path: str, body: object, more: Mapping[str, str]
    ) -> tuple[int, bytes, dict[str, str]]:
        """One request with more headers, and its whole answer; anew where the server has closed an idle connection."""
        try:
            await self.send(method, path, body, more)
            status, headers = await self.head()
        except (ConnectionError, IndexError):
            self.writer = None
            await self.send(method, path, body, more)
            status, headers = await self.head()
        return status, await self.reader.readexactly(int(headers.get("content-length", 0))), headers


def cookies_of(client: object, token: str) -> str:
    """A test client's cookies as a header."""
    jar = client.cookies  # type: ignore[attr-defined]
    return "; ".join([*(f"{name}={morsel.value}" for name, morsel in jar.items()), f"csrftoken={token}"])


def p95(values: list[float]) -> float:
    """The 95th percentile."""
    return sorted(values)[int(0.95 * (len(values) - 1))]

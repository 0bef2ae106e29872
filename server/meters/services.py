"""The gateway to meters that speak SCPI over TCP: a group's page listens, the meter is asked twice a second.

Only addresses that a teacher has set are asked, and only inside the networks that the settings allow. Nothing is kept
between streams: each has a connection and a trace of its own.
"""

from __future__ import annotations

import asyncio
import ipaddress
import json
import re
import time
import uuid
from collections.abc import AsyncIterator
from dataclasses import dataclass

from django.conf import settings
from django.db import transaction

from galvanic.bench.readings import as_shown
from galvanic.bench.scpi import ASK_VOLTS, ASK_WHO, MOST_ANSWER, USUAL_RESOLUTION_V, NoVoltage, volts_of
from galvanic.bench.settling import settling
from galvanic.cells import Cell
from galvanic.errors import NotEnoughData, UnreadableReading
from galvanic.words import mark, say
from server.base.live import HUB, Allowed, Still
from server.base.problems import Problem
from server.labs.changes import announce
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.people.services import tell_rights
from server.people.sharing import to_change

USUAL_PORT = 5025  # registered for SCPI over TCP at IANA (scpi-raw)
ANSWER_S = 2.0
EVERY_S = 0.5
AGAIN_S = 2.0
TRACE_S = 90.0
SIMULATED = "Pipette,Simulated"
NOBODY_S = 5.0  # after which nobody's being there is said, however soon it was known: a port tells nothing by its haste
NOBODY = mark("No meter answers at its address. Is it switched on and plugged in? Type the number meanwhile.")
_PORTS = re.compile(r"(.+):(\d+(?:-\d+)?)")


@dataclass(frozen=True, slots=True)
class Address:
    """Where a meter listens."""

    host: str
    port: int


def address_of(text: str) -> Address:
    """Read `host` or `host:port`. Raises Problem for what is no address or lies outside the allowed networks."""
    host, _, port = text.strip().rpartition(":") if ":" in text else (text.strip(), "", str(USUAL_PORT))
    try:
        number = int(port)
        ip = ipaddress.ip_address("127.0.0.1" if host == "localhost" else host)
    except ValueError:
        message = say("Write the meter’s address as numbers, for example 127.0.0.1:5025.")
        raise Problem(422, "address", message, field="address") from None
    if not 0 < number < 65536:
        raise Problem(422, "address", say("A port lies between 1 and 65535."), field="address")
    if not any(allows(row, ip, number) for row in settings.METER_NETWORKS):
        message = say(
            "Meters at that address and port may not be asked. Whoever runs Pipette allows them with PIPETTE_METERS."
        )
        raise Problem(422, "address", message, field="address")
    return Address(str(ip), number)


def allows(row: str, ip: ipaddress.IPv4Address | ipaddress.IPv6Address, port: int) -> bool:
    """Whether a row of the settings, `network` or `network:port` or `network:from-to`, lets this address be asked."""
    network, ports = row.strip(), str(USUAL_PORT)
    if found := _PORTS.fullmatch(network):
        network, ports = found[1], found[2]
    first, _, last = ports.partition("-")
    return ip in ipaddress.ip_network(network) and int(first) <= port <= int(last or first)


@transaction.atomic
def set_address(*, actor: Teacher, group_id: uuid.UUID, text: str) -> Group:
    """Say where a group's meter listens; empty for none. Raises Problem: not_found, or address."""
    group: Group = to_change(Group.objects.select_related("lab"), actor, group_id, "group")
    announce(group.lab_id, group.id)  # first: it locks the lab, and then the group, as every change does
    if text.strip():
        address = address_of(text)
        group.meter_address = f"{address.host}:{address.port}"
    else:
        group.meter_address = ""
    group.save(update_fields=["meter_address"])
    tell_rights(group.lab_id, group.id)
    keep_deed(actor, "meter", group.lab, f"{group.name}: {group.meter_address or 'none'}")
    return group


class Gone(Exception):
    """The meter is not there, or has stopped answering; says so in words."""


class MeterLine:
    """One connection to a meter."""

    def __init__(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        self.reader, self.writer = reader, writer

    @classmethod
    async def open(cls, address: Address) -> MeterLine:
        """Raises Gone where nobody listens."""
        try:
            return cls(*await asyncio.wait_for(asyncio.open_connection(address.host, address.port), ANSWER_S))
        except (OSError, TimeoutError):
            raise Gone(say(NOBODY)) from None

    async def ask(self, question: str) -> str:
        """One line in, one line out. Raises Gone when no answer comes, or too long a one."""
        try:
            self.writer.write(f"{question}\n".encode("ascii"))
            await self.writer.drain()
            answer = await asyncio.wait_for(self.reader.readline(), ANSWER_S)
        except (OSError, TimeoutError, ValueError):
            raise Gone(say("The meter has stopped answering. Check its cable; type the number meanwhile.")) from None
        if not answer or len(answer) > MOST_ANSWER:
            raise Gone(say("The meter hung up. It is tried again; type the number meanwhile."))
        return answer.decode("ascii", "replace").strip()

    def close(self) -> None:
        """Hang up."""
        self.writer.close()


def _event(name: str, **what: object) -> str:
    return f"event: {name}\ndata: {json.dumps(what)}\n\n"


def judge(times: list[float], volts: list[float]) -> dict[str, object]:
    """Whether a trace is steady, with the drift in mV per 10 s and the seconds still to wait where they are known."""
    try:
        settled = settling(times, volts)
    except NotEnoughData:
        return {"steady": False, "drift_mv": None, "wait_s": None}
    return {"steady": settled.steady, "drift_mv": 1e4 * settled.drift_v_per_s, "wait_s": settled.wait_s}


async def samples(
    address: Address, cell: Cell | None, allowed: Allowed, lab: uuid.UUID, group: uuid.UUID
) -> AsyncIterator[str]:
    """Server-sent events of one meter: `sample` with what it shows and how steady it is, `trouble` with a sentence.

    A simulated meter is told which cell hangs on it. A lost meter is tried again; the stream ends when it is no longer
    allowed. Until something has answered as a meter does, every failure looks the same and takes the same time.
    """
    told, still = HUB.subscribe(str(lab), str(group)), Still(allowed)
    try:
        async for event in _samples(address, cell):
            rights = False
            while not told.empty():
                rights |= told.get_nowait()
            if not await still.runs(rights):
                return
            yield event
    finally:
        HUB.leave(str(lab), told)


async def _samples(address: Address, cell: Cell | None) -> AsyncIterator[str]:
    while True:
        line: MeterLine | None = None
        times: list[float] = []
        volts: list[float] = []
        begun, known = time.monotonic(), False
        try:
            line = await MeterLine.open(address)
            simulated = (await line.ask(ASK_WHO)).startswith(SIMULATED)
            if simulated and cell is not None:
                await line.ask(f"SIM:CELL {cell.negative},{cell.electrolyte},{cell.positive};*OPC?")
            first = time.monotonic()
            while True:
                try:
                    value = volts_of(await line.ask(ASK_VOLTS))
                except NoVoltage as trouble:
                    if not known:
                        raise Gone(say(NOBODY)) from None
                    yield _event("trouble", text=str(trouble))
                except UnreadableReading as trouble:
                    known = True
                    yield _event("trouble", text=str(trouble))
                else:
                    known = True
                    now = time.monotonic() - first
                    times.append(now)
                    volts.append(value)
                    while times[0] < now - TRACE_S:
                        del times[0], volts[0]
                    shown = as_shown(value, USUAL_RESOLUTION_V)
                    yield _event(
                        "sample", t_s=round(now, 2), volts_v=value, text=shown, simulated=simulated, **judge(times, volts)
                    )
                await asyncio.sleep(EVERY_S)
        except Gone as gone:
            if not known:
                await asyncio.sleep(max(0.0, begun + NOBODY_S - time.monotonic()))
            yield _event("trouble", text=str(gone) if known else say(NOBODY))
            await asyncio.sleep(AGAIN_S)
        finally:
            if line is not None:
                line.close()

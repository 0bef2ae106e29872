"""A simulated bench meter: SCPI over TCP on loopback, with one cell on its leads. Its answers are marked simulated by name.

Besides the standard's words it knows SIM:CELL negative,electrolyte,positive (hang on this cell, freshly dipped), SIM:DIP
(lift out and dip again) and SIM:FAULT kind, so that a rehearsal can drive it.
"""

from __future__ import annotations

import asyncio
import time
from dataclasses import replace

import numpy as np

from galvanic.bench.scpi import OVERLOAD
from galvanic.cells import Cell
from galvanic.reference import catalogue
from galvanic.simulated.stream import FAULTS, CellStream

NAME = "Pipette,Simulated meter,0,1"
MOST_LINE = 200


class SimulatedMeter:
    """One meter; every connection sees the same cell."""

    def __init__(self, stream: CellStream, seed: int) -> None:
        self.stream, self.rng, self.dipped = stream, np.random.default_rng(seed), time.monotonic()

    def dip(self) -> None:
        """Lift out and dip again: it settles anew."""
        self.dipped = time.monotonic()

    def obey(self, word: str, rest: str) -> str:
        """Carry out a simulation's word; returns an error message, empty where all is well."""
        if word == "SIM:DIP":
            self.dip()
        elif word == "SIM:FAULT" and rest.lower() in FAULTS:
            self.stream = replace(self.stream, fault=rest.lower())
        elif word == "SIM:CELL" and rest.count(",") == 2:
            negative, electrolyte, positive = (part.strip() for part in rest.split(","))
            known = catalogue.electrodes()
            if not {negative, positive} <= set(known) or electrolyte not in catalogue.electrolytes():
                return '-224,"Illegal parameter value"'
            self.stream = self.stream.of(Cell(negative, electrolyte, positive))
            self.dip()
        else:
            return '-113,"Undefined header"'
        return ""

    def answer(self, command: str) -> str | None:
        """The answer to one command, None for one that has none (or for a meter that has fallen silent)."""
        head, _, rest = command.strip().partition(" ")
        word = head.upper()
        if word == "*IDN?":
            return NAME
        if word == "*OPC?":
            return "1"
        if word in ("MEAS:VOLT:DC?", "MEASURE:VOLTAGE:DC?", "READ?", "MEAS:VOLT?"):
            return self._volts()
        if word == "SYST:ERR?":
            return '0,"No error"'
        self.obey(word, rest)
        return None

    def _volts(self) -> str | None:
        if self.stream.fault == "silent":
            return None
        if self.stream.fault == "nonsense":
            return "READY"
        if self.stream.fault == "overload":
            return f"{OVERLOAD * 1.1:.1E}"
        return f"{self.stream.at(time.monotonic() - self.dipped, self.rng):+.6E}"

    async def talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """Serve one connection, a line at a time; several commands stand on a line with semicolons between."""
        try:
            while line := await reader.readline():
                if len(line) > MOST_LINE:
                    break
                for command in line.decode("ascii", "replace").strip().split(";"):
                    said = self.answer(command)
                    if said is not None:
                        writer.write(f"{said}\n".encode("ascii"))
                await writer.drain()
        except (OSError, ValueError, asyncio.CancelledError):
            pass  # the other side is gone, talks too long a line, or the meter is switched off
        finally:
            writer.close()


async def serve(meter: SimulatedMeter, port: int) -> asyncio.Server:
    """Listen on loopback; port 0 takes a free one. Raises OSError where the port is taken."""
    return await asyncio.start_server(meter.talk, "127.0.0.1", port, limit=4096)

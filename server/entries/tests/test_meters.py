"""The gateway against the simulated meter, and against meters that are not there, talk nonsense or stop."""

import asyncio
import json
import time
import unittest
import unittest.mock
import uuid

from django.test import TestCase, override_settings

from galvanic.cells import Cell
from galvanic.simulated.stream import CellStream
from server.base.live import HUB
from server.base.problems import Problem
from server.meters.services import NOBODY, Address, MeterLine, address_of, samples
from server.practise.meter import NAME, SimulatedMeter, serve
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, send, teacher

CELL = Cell("zinc", "rhubarb-juice", "copper")


async def always():
    return True


async def events(address, cell, wanted):
    """The first events of a meter's stream, as (name, data)."""
    found = []
    stream = samples(address, cell, always, uuid.uuid4(), uuid.uuid4())
    async for text in stream:
        name, data = text.strip().split("\n")
        found.append((name.removeprefix("event: "), json.loads(data.removeprefix("data: "))))
        if len(found) == wanted:
            break
    await stream.aclose()
    return found


async def with_meter(wanted, fault="none", talk=None, cell=CELL):
    """Events from a meter of our own on a free port."""
    meter = SimulatedMeter(CellStream(0.5, fault=fault, settle_s=0.01), seed=1)
    server = await (serve(meter, 0) if talk is None else asyncio.start_server(talk, "127.0.0.1", 0))
    async with server:
        return await events(Address("127.0.0.1", server.sockets[0].getsockname()[1]), cell, wanted)


class Gateway(unittest.TestCase):
    def test_a_simulated_meter_is_told_its_cell_and_streams_it(self):
        found = asyncio.run(with_meter(6))
        self.assertEqual({name for name, _ in found}, {"sample"})
        last = found[-1][1]
        self.assertTrue(last["simulated"])
        self.assertAlmostEqual(last["volts_v"], CellStream(0.0).of(CELL).end_v, delta=0.02)
        self.assertRegex(last["text"], r"^\d\.\d{3}$")
        self.assertIsNotNone(last["drift_mv"])

    def test_a_meter_that_is_not_there_is_said_in_words(self):
        with unittest.mock.patch("server.meters.services.NOBODY_S", 0.1):
            name, data = asyncio.run(events(Address("127.0.0.1", 9), CELL, 1))[0]
        self.assertEqual(name, "trouble")
        self.assertIn("No meter answers", data["text"])

    def test_nonsense_and_overload_are_said_in_words_and_it_goes_on(self):
        found = asyncio.run(with_meter(2, "overload"))
        self.assertEqual([name for name, _ in found], ["trouble", "trouble"])
        self.assertIn("too much for its range", found[0][1]["text"])

    def test_what_is_no_meter_looks_as_if_nobody_were_there_and_takes_as_long(self):
        """An open port that talks, one that is silent and a closed one are told apart neither by words nor by time."""

        async def banner(reader, writer):
            writer.write(b"SSH-2.0-secret_1.0\r\n" * 3)
            await writer.drain()

        async def silent(reader, writer):
            await reader.read(1000)
            await asyncio.sleep(1)

        said, took = [], []
        with (
            unittest.mock.patch("server.meters.services.NOBODY_S", 0.4),
            unittest.mock.patch("server.meters.services.ANSWER_S", 0.1),
        ):
            for run in (with_meter(1, "nonsense"), with_meter(1, talk=banner), with_meter(1, talk=silent),
                        events(Address("127.0.0.1", 9), CELL, 1)):  # fmt: skip
                start = time.monotonic()
                said += asyncio.run(run)
                took.append(time.monotonic() - start)
        self.assertEqual({(name, data["text"]) for name, data in said}, {("trouble", NOBODY)})
        self.assertGreaterEqual(min(took), 0.4)

    def test_the_stream_ends_when_it_is_no_longer_allowed(self):
        async def run():
            lab, group, allowed = uuid.uuid4(), uuid.uuid4(), [True]

            async def look():
                return allowed[0]

            meter = SimulatedMeter(CellStream(0.5, settle_s=0.01), seed=1)
            server = await serve(meter, 0)
            async with server:
                stream = samples(Address("127.0.0.1", server.sockets[0].getsockname()[1]), CELL, look, lab, group)
                seen = [await anext(stream)]
                HUB.tell(f"{lab} {group}")
                seen.append(await anext(stream))
                allowed[0] = False
                HUB.tell(f"{lab} {group} rights")
                return seen + [event async for event in stream]

        self.assertEqual(len(asyncio.run(run())), 2)

    def test_a_meter_that_falls_silent_is_said_in_words(self):
        meter = SimulatedMeter(CellStream(0.5, settle_s=0.01), seed=1)

        async def run():
            server = await serve(meter, 0)
            async with server:
                stream = samples(
                    Address("127.0.0.1", server.sockets[0].getsockname()[1]), CELL, always, uuid.uuid4(), uuid.uuid4()
                )
                await anext(stream)
                meter.obey("SIM:FAULT", "silent")
                return await anext(stream)

        with unittest.mock.patch("server.meters.services.ANSWER_S", 0.1):
            self.assertIn("stopped answering", asyncio.run(run()))

    def test_a_peer_that_floods_or_hangs_up_is_left(self):
        async def flood(reader, writer):
            writer.write(b"9" * 100_000)
            await writer.drain()
            writer.close()

        async def hang_up(reader, writer):
            writer.close()

        for talk in (flood, hang_up):
            with unittest.mock.patch("server.meters.services.NOBODY_S", 0.1):
                name, data = asyncio.run(with_meter(1, talk=talk))[0]
            self.assertEqual(name, "trouble")
            self.assertIn("Type the number meanwhile", data["text"])

    def test_the_simulated_meter_speaks_the_standard_and_survives_nonsense(self):
        async def talk():
            server = await serve(SimulatedMeter(CellStream(0.94, settle_s=0.01), 1), 0)
            async with server:
                line = await MeterLine.open(Address("127.0.0.1", server.sockets[0].getsockname()[1]))
                said = [await line.ask("*IDN?"), await line.ask("meas:volt:dc?"), await line.ask("SYST:ERR?")]
                said.append(await line.ask("SIM:CELL no,such,plate;FROBNICATE;*OPC?"))
                line.close()
                return said

        name, volts, error, done = asyncio.run(talk())
        self.assertEqual((name, error, done), (NAME, '0,"No error"', "1"))
        self.assertRegex(volts, r"^[+-]\d\.\d{6}E[+-]\d\d$")


class Addresses(TestCase):
    def test_only_numbers_in_the_allowed_networks_are_asked(self):
        self.assertEqual(address_of(" 127.0.0.1 "), Address("127.0.0.1", 5025))
        self.assertEqual(address_of("localhost:5026"), Address("127.0.0.1", 5026))
        for text in (
            "meter.example:5025",
            "10.0.0.7:5025",
            "127.0.0.1:0",
            "127.0.0.1:22",
            "127.0.0.1:5432",
            "127.0.0.2:5025",
            "127.0.0.1:x",
            "8.8.8.8",
            "::1:5025",
            ":",
        ):
            with self.assertRaises(Problem, msg=text):
                address_of(text)
        with override_settings(METER_NETWORKS=["10.0.0.0/8", "10.9.0.0/16:6000-6002"]):
            self.assertEqual(address_of("10.0.0.7:5025").host, "10.0.0.7")
            self.assertEqual(address_of("10.9.0.7:6001").port, 6001)
            for text in ("10.0.0.7:6001", "10.9.0.7:6003"):
                with self.assertRaises(Problem, msg=text):
                    address_of(text)

    def test_a_teacher_sets_the_meter_and_the_group_sees_that_there_is_one(self):
        ada = teacher()
        lab = lab_of(ada)
        tern = group_of(lab)
        path = f"/groups/{tern.id}/meter"
        self.assertEqual(send(as_teacher(ada), path, {"address": "127.0.0.1:5030"}).status_code, 200)
        self.assertTrue(as_group(tern).get("/api/bench").json()["live_meter"])
        self.assertEqual(send(as_teacher(ada), path, {"address": "10.1.1.1"}).json()["code"], "address")
        send(as_teacher(ada), path, {"address": ""})
        self.assertFalse(as_group(tern).get("/api/bench").json()["live_meter"])

    def test_the_stream_is_for_the_groups_own_cells_and_never_under_wsgi(self):
        cell = cell_of(group_of(lab_of(teacher())))
        self.assertEqual(self.client.get(f"/api/bench/cells/{cell.id}/meter").status_code, 204)


class OverAsgi(TestCase):
    async def test_without_a_meter_or_a_group_there_is_no_stream(self):
        from asgiref.sync import sync_to_async

        lab = await sync_to_async(lambda: lab_of(teacher()))()
        tern = await sync_to_async(lambda: group_of(lab))()
        cell = await sync_to_async(lambda: cell_of(tern))()
        path = f"/api/bench/cells/{cell.id}/meter"
        self.assertEqual((await self.async_client.get(path)).status_code, 404)

"""`./pipette meter`: a simulated meter on loopback."""

from __future__ import annotations

import asyncio
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from galvanic.command.cells import cell_of
from galvanic.errors import GalvanicError
from galvanic.simulated.stream import FAULTS, CellStream
from server.meters.services import USUAL_PORT
from server.practise.meter import SimulatedMeter, serve


class Command(BaseCommand):
    """Start a simulated meter that speaks SCPI over TCP."""

    help = "A simulated meter on loopback: settles, drifts, has an offset, and can be given faults."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--port", type=int, default=USUAL_PORT)
        parser.add_argument("--cell", default="", help="for example “Zn | lemon juice | Cu”; the bench may change it")
        parser.add_argument("--offset-mv", type=float, default=2.0)
        parser.add_argument("--fault", choices=sorted(FAULTS), default="none")
        parser.add_argument("--seed", type=int, default=1)

    def handle(self, *args: Any, **options: Any) -> None:
        stream = CellStream(end_v=0.0, offset_v=options["offset_mv"] / 1000.0, fault=options["fault"])
        try:
            if options["cell"]:
                negative, electrolyte, positive = (part.strip() for part in options["cell"].split("|"))
                stream = stream.of(cell_of(negative, electrolyte, positive))
        except GalvanicError as error:
            raise CommandError(str(error)) from error
        except ValueError as error:
            raise CommandError("Write the cell as “Zn | lemon juice | Cu”.") from error
        try:
            asyncio.run(self.run(SimulatedMeter(stream, options["seed"]), options["port"]))
        except OSError as error:
            raise CommandError(f"Port {options['port']} is taken. Choose another with --port.") from error
        except KeyboardInterrupt:
            self.stdout.write("Stopped.")

    async def run(self, meter: SimulatedMeter, port: int) -> None:
        """Serve until stopped."""
        server = await serve(meter, port)
        number = server.sockets[0].getsockname()[1]
        self.stdout.write(
            f"A simulated meter listens at 127.0.0.1:{number} ({FAULTS[meter.stream.fault]}). Ctrl-C stops it."
        )
        async with server:
            await server.serve_forever()

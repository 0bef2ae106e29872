"""A package that comes in, opened with care: sizes, names, version, and its tables as rows of text."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Sequence
from dataclasses import dataclass
from typing import IO, Any

from galvanic.words import say
from server.base.problems import Problem, RowFault
from server.records.package.write import FORMAT, VERSION

MOST_BYTES = 80_000_000
MOST_UNPACKED, MOST_FILES, MOST_JSON = 300_000_000, 5_000, 2_000_000
MOST_TABLE, MOST_ROWS, MOST_FIELD = 60_000_000, 100_000, 400_000
DESCRIBED = "datapackage.json"


def refused(message: str, rows: Sequence[RowFault] = (), status: int = 422, code: str = "package") -> Problem:
    """The refusal of a package."""
    return Problem(status, code, say("Nothing was brought in. {message}", message=message), "file", rows)


@dataclass(frozen=True, slots=True)
class Opened:
    """An open package and what it says of itself."""

    zipped: zipfile.ZipFile
    described: dict[str, Any]

    @property
    def edition(self) -> str:
        """The edition of the tables it was made with."""
        return str(self.described["pipette"].get("edition", ""))[:20]

    def has(self, name: str) -> bool:
        """Whether it holds a file."""
        return name in self.zipped.namelist()

    def json(self, name: str) -> Any:
        """A JSON file of it. Raises Problem."""
        return _json(self.zipped, name)

    def rows(self, table: str) -> list[tuple[int, dict[str, str]]]:
        """The rows of a table with their lines; none where it has no such table. Raises Problem."""
        name = f"{table}.csv"
        if not self.has(name):
            return []
        if self.zipped.getinfo(name).file_size > MOST_TABLE:
            raise refused(say("{name} is larger than {most_table} MB.", name=name, most_table=MOST_TABLE // 1_000_000))
        try:
            text = self.zipped.read(name).decode("utf-8-sig")
        except (UnicodeDecodeError, zipfile.BadZipFile) as error:
            raise refused(say("{name} is damaged or not in UTF-8.", name=name)) from error
        reader = csv.reader(io.StringIO(text, newline=""))
        try:
            csv.field_size_limit(MOST_FIELD)
            heading = next(reader, [])
            found = []
            for fields in reader:
                if len(fields) != len(heading):
                    fault = RowFault(
                        reader.line_num,
                        say(
                            "This row has {n_fields} fields and the heading {n_heading}.",
                            n_fields=len(fields),
                            n_heading=len(heading),
                        ),
                    )
                    raise refused(say("A row of {name} is not whole.", name=name), [fault])
                found.append((reader.line_num, dict(zip(heading, fields, strict=True))))
                if len(found) > MOST_ROWS:
                    raise refused(say("{name} has more than {most_rows} rows.", name=name, most_rows=MOST_ROWS))
        except csv.Error as error:
            raise refused(say("Line {line_num} of {name} cannot be read.", line_num=reader.line_num, name=name)) from error
        return found


def opened(file: IO[bytes], size: int) -> Opened:
    """Open a package. Raises Problem: too_big, or package for what is none, is damaged, or comes from a newer Pipette."""
    if size > MOST_BYTES:
        raise refused(
            say("The file is larger than {most_bytes} MB.", most_bytes=MOST_BYTES // 1_000_000), status=413, code="too_big"
        )
    try:
        zipped = zipfile.ZipFile(file)
    except (zipfile.BadZipFile, OSError) as error:
        raise refused(say("The file is no zip, or it is damaged.")) from error
    infos = zipped.infolist()
    if len(infos) > MOST_FILES or sum(info.file_size for info in infos) > MOST_UNPACKED:
        raise refused(say("The file unpacks to more than a lab can be."))
    if DESCRIBED not in zipped.namelist():
        raise refused(say("There is no datapackage.json in it, so it is no package of a lab."))
    described = _json(zipped, DESCRIBED)
    about = described.get("pipette") if isinstance(described, dict) else None
    if not isinstance(about, dict) or about.get("format") != FORMAT:
        raise refused(
            say("It is a data package, but not one of a lab of Pipette. Bring its table of readings in as a table.")
        )
    version = about.get("version")
    if not isinstance(version, int) or version > VERSION:
        raise refused(say("It was made by a newer Pipette than this one. Update this one first."))
    return Opened(zipped, described)


def _json(zipped: zipfile.ZipFile, name: str) -> Any:
    try:
        if zipped.getinfo(name).file_size > MOST_JSON:
            raise refused(say("{name} is larger than {most_json} MB.", name=name, most_json=MOST_JSON // 1_000_000))
        return json.loads(zipped.read(name))
    except KeyError as error:
        raise refused(say("{name} is missing in it.", name=name)) from error
    except (ValueError, RecursionError, zipfile.BadZipFile) as error:
        raise refused(say("{name} in it is damaged.", name=name)) from error

"""Database and photographs in one file, and back: a tar with a manifest, PostgreSQL's own dump, and the pictures.

A backup is read back after writing. Restoring goes into a new database, is counted against the manifest, and only then takes
the old one's place; the old one stays beside it under another name until the next restore. Runs as the owner.
"""

from __future__ import annotations

import glob
import hashlib
import io
import json
import os
import shutil
import subprocess
import tarfile
import tempfile
import uuid
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import IO, Any

import psycopg
from django.apps import apps
from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.utils import timezone
from psycopg import sql

from server.entries.models import Photo
from server.entries.photos import path_of

FORMAT, FORMAT_VERSION = "pipette-backup", 1
OWN, DEMO, DEMO_DATABASE = "own", "demo", "pipette_demo"
NAMED = {OWN: "your own data", DEMO: "the demo’s data", "": "a database"}
MANIFEST, DUMP, PHOTOS = "manifest.json", "database.dump", "photographs"
KEPT_BEFORE_CHANGES = 5
MOST_MANIFEST = 50_000_000
BLOCK = 1 << 20
TABLES = "SELECT relname FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY relname"


class BadBackup(Exception):
    """A file that is no backup, is damaged, or comes from a newer version; nothing was changed."""


@dataclass(frozen=True, slots=True)
class Manifest:
    """What a backup holds: when it was made, the migrations it knows, rows by table, SHA-256 by member, and whose data it is
    (`OWN` or `DEMO`; empty in backups of before)."""

    made_at: str
    migrations: Sequence[tuple[str, str]]
    rows: Mapping[str, int]
    sha256: Mapping[str, str]
    missing: Sequence[str]
    data: str = ""
    format: str = FORMAT
    version: int = FORMAT_VERSION


def backup(target: Path, photographs: bool = True) -> Manifest:
    """Write database and photographs into one file, readable by its owner alone, and read it back.

    Raises BadBackup if what was written cannot be read back, OSError where the file cannot be written; then none is left.
    """
    beside = target.with_name(target.name + ".new")
    try:
        with tempfile.TemporaryDirectory(dir=target.parent) as folder:
            dump = Path(folder) / DUMP
            migrations, rows = _snapshot(dump)
            pictures = _pictures() if photographs else {}
            missing = [name for name, path in pictures.items() if not path.is_file()]
            files = {DUMP: dump} | {name: path for name, path in pictures.items() if name not in missing}
            manifest = Manifest(
                timezone.now().isoformat(), migrations, rows, {name: _sha(path) for name, path in files.items()}, missing,
                data_here(),
            )  # fmt: skip
            with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
                _write(file, manifest, files)
        check(beside)
        beside.replace(target)
    finally:
        beside.unlink(missing_ok=True)
    return manifest


def _write(file: IO[bytes], found: Manifest, files: Mapping[str, Path]) -> None:
    with tarfile.open(fileobj=file, mode="w") as tar:
        text = json.dumps(asdict(found), indent=1).encode()
        head = tarfile.TarInfo(MANIFEST)
        head.size = len(text)
        tar.addfile(head, io.BytesIO(text))
        for name, path in files.items():
            tar.add(path, name, recursive=False)
    file.flush()
    os.fsync(file.fileno())


def check(source: Path) -> Manifest:
    """Read a backup through and compare every part with its manifest. Raises BadBackup."""
    try:
        with tarfile.open(source, "r:") as tar:
            manifest = _manifest(tar)
            left = dict(manifest.sha256)
            for member in tar:
                if member.name == MANIFEST:
                    continue
                if not member.isfile() or left.pop(member.name, "") != _sha_of(tar.extractfile(member)):
                    raise BadBackup(f"{source.name} is damaged at {member.name}. Nothing was changed.")
            if left:
                raise BadBackup(f"{source.name} is not whole: {len(left)} parts are missing. Nothing was changed.")
    except (OSError, tarfile.TarError, EOFError) as error:
        raise BadBackup(f"{source.name} cannot be read as a backup of Pipette. Nothing was changed.") from error
    return manifest


def data_here() -> str:
    """Whose data this database holds, by its name: the demo's, or one's own."""
    return DEMO if connection.settings_dict["NAME"] == DEMO_DATABASE else OWN


def restore(source: Path, demo: bool = False) -> Manifest:
    """Put a backup in the place of this database, and its photographs beside those there are.

    Raises BadBackup for a damaged file, one from a newer version, one whose rows do not come back whole, or the
    demo's in the place of one's own data unless `demo`; then nothing was changed.
    """
    manifest = check(source)
    if manifest.data == DEMO and data_here() == OWN and not demo:
        raise BadBackup(
            f"{source.name} is a backup of the demo, not of your own data. Nothing was changed. If the demo is to take the"
            " place of your own data all the same, add --demo."
        )
    known = set(MigrationLoader(None).disk_migrations or {})
    newer = [f"{app}.{name}" for app, name in manifest.migrations if (app, name) not in known and app in _apps()]
    if newer:
        raise BadBackup(f"{source.name} comes from a newer version of Pipette ({newer[-1]}). Nothing was changed.")
    to = connection.settings_dict["NAME"]
    new = f"{to}_restoring_{uuid.uuid4().hex[:8]}"
    connection.close()
    connection.close_pool()  # type: ignore[attr-defined]  # PostgreSQL's own
    with _cluster() as cluster:
        cluster.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(new)))
        try:
            _fill(source, new, manifest)
            _swap(cluster, to, new)
        except BaseException:
            cluster.execute(sql.SQL("DROP DATABASE IF EXISTS {} WITH (FORCE)").format(sql.Identifier(new)))
            raise
    return manifest


def before_change(folder: Path) -> Path | None:
    """A dump before migrations change a database that has data; the newest five stay. None where there is none to keep."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('public.people_teacher') IS NOT NULL")
        if not cursor.fetchone()[0]:
            return None
    name = connection.settings_dict["NAME"]
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    target = folder / f"{name}-before-{timezone.now():%Y-%m-%d-%H%M%S}.pipette"
    backup(target, photographs=False)
    for old in sorted(folder.glob(f"{name}-before-*.pipette"))[:-KEPT_BEFORE_CHANGES]:
        old.unlink()
    return target


def _apps() -> set[str]:
    return {app.label for app in apps.get_app_configs() if app.name.startswith("server.")}


def _snapshot(dump: Path) -> tuple[list[tuple[str, str]], dict[str, int]]:
    """Dump the database and count its rows, both as of one moment; the migrations it has."""
    with psycopg.connect(**_parameters(), autocommit=False) as open_:
        open_.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        snapshot = open_.execute("SELECT pg_export_snapshot()").fetchone()
        tables = [table for (table,) in open_.execute(TABLES).fetchall()]
        rows = {table: _count(open_, table) for table in tables}
        migrations = [(app, name) for app, name in open_.execute("SELECT app, name FROM django_migrations ORDER BY id")]
        named = str(snapshot[0]) if snapshot else ""
        _run("pg_dump", "--format=custom", f"--snapshot={named}", f"--file={dump}", connection.settings_dict["NAME"])
    return migrations, rows


def _fill(source: Path, database: str, found: Manifest) -> None:
    with tempfile.TemporaryDirectory(dir=source.parent) as folder, tarfile.open(source, "r:") as tar:
        dump = Path(folder) / DUMP
        with dump.open("wb") as file:
            part = tar.extractfile(DUMP)
            if part is None:
                raise BadBackup(f"{source.name} holds no database. Nothing was changed.")
            shutil.copyfileobj(part, file, BLOCK)
        _run("pg_restore", "--no-owner", "--no-privileges", "--exit-on-error", f"--dbname={database}", str(dump))
        with psycopg.connect(**{**_parameters(), "dbname": database}) as new:
            for table, count in found.rows.items():
                if _count(new, table) != count:
                    raise BadBackup(f"{table} did not come back whole. Nothing was changed.")
        for member in tar:
            if member.name.startswith(f"{PHOTOS}/") and (picture := tar.extractfile(member)) is not None:
                _put(uuid.UUID(Path(member.name).stem), picture)


def _put(photo: uuid.UUID, picture: IO[bytes]) -> None:
    target = path_of(photo)
    settings.PHOTO_DIR.mkdir(mode=0o700, parents=True, exist_ok=True)
    target.parent.mkdir(mode=0o700, exist_ok=True)
    with os.fdopen(os.open(target, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as file:
        shutil.copyfileobj(picture, file, BLOCK)


def _swap(cluster: psycopg.Connection[Any], to: str, new: str) -> None:
    aside = f"{to}_before_restore"
    cluster.execute("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = %s", [to])
    for text, *names in (
        ("DROP DATABASE IF EXISTS {} WITH (FORCE)", aside),
        ("ALTER DATABASE {} RENAME TO {}", to, aside),
        ("ALTER DATABASE {} RENAME TO {}", new, to),
    ):
        cluster.execute(sql.SQL(text).format(*map(sql.Identifier, names)))


def _pictures() -> dict[str, Path]:
    """Where each photograph that was not removed lies, by its name in the backup."""
    ids = Photo.objects.filter(removed__isnull=True).values_list("id", flat=True)
    return {f"{PHOTOS}/{key}.jpg": path_of(key) for key in ids}


def _manifest(tar: tarfile.TarFile) -> Manifest:
    first = tar.next()
    part = tar.extractfile(first) if first and first.name == MANIFEST and first.size <= MOST_MANIFEST else None
    try:
        kept = json.loads(part.read() if part else b"")
        if kept["format"] != FORMAT:
            raise BadBackup("That is no backup of Pipette. Nothing was changed.")
        if kept["version"] > FORMAT_VERSION:
            raise BadBackup("That backup comes from a newer version of Pipette. Nothing was changed.")
        return Manifest(**(kept | {"migrations": [(app, name) for app, name in kept["migrations"]]}))
    except (KeyError, TypeError, ValueError) as error:
        raise BadBackup("That is no backup of Pipette. Nothing was changed.") from error


def _sha(path: Path) -> str:
    with path.open("rb") as file:
        return _sha_of(file)


def _sha_of(file: IO[bytes] | None) -> str:
    digest = hashlib.sha256()
    while file is not None and (block := file.read(BLOCK)):
        digest.update(block)
    return digest.hexdigest()


def _count(open_: psycopg.Connection[Any], table: str) -> int:
    row = open_.execute(sql.SQL("SELECT count(*) FROM {}").format(sql.Identifier(table))).fetchone()
    return int(row[0]) if row else -1


def _parameters() -> dict[str, Any]:
    to = connection.settings_dict
    return {"host": to["HOST"], "port": to["PORT"], "user": to["USER"], "password": to["PASSWORD"], "dbname": to["NAME"]}


@contextmanager
def _cluster() -> Iterator[psycopg.Connection[Any]]:
    """The cluster's own database, from which others are made and renamed."""
    with psycopg.connect(**{**_parameters(), "dbname": "postgres"}, autocommit=True) as open_:
        yield open_


def _run(program: str, *arguments: str) -> None:
    """Run one of PostgreSQL's programs against this cluster. Raises BadBackup with what it said."""
    installed = sorted(glob.glob(f"/usr/lib/postgresql/*/bin/{program}"), reverse=True)
    path = installed[0] if installed else shutil.which(program)
    if path is None:
        raise BadBackup(f"{program} is not installed: it comes with PostgreSQL’s client programs.")
    to = _parameters()
    surroundings = {**os.environ, "PGHOST": to["host"], "PGPORT": str(to["port"]), "PGUSER": to["user"]}
    done = subprocess.run(  # noqa: S603  (a fixed program with our own arguments)
        [path, *arguments], env={**surroundings, "PGPASSWORD": to["password"]}, capture_output=True, text=True, check=False
    )
    if done.returncode != 0:
        raise BadBackup(f"{program} failed: {done.stderr.strip()[-400:]}")

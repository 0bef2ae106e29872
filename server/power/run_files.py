"""Loggers' files of packs: kept thinned, with what was understood."""

from __future__ import annotations

from galvanic.bench.columns import UNITS
from galvanic.bench.run_file import run_of_file, thinned_run
from galvanic.bench.run_table import BadRun
from galvanic.words import say
from server.base.problems import Problem
from server.entries.once import arrival, keep_once
from server.labs.changes import announce
from server.people.auth import Member
from server.power.entry import RunFileIn
from server.power.models import Pack, RunFile
from server.power.packs import PACK_NOT_HERE

MAX_FILES = 6
KEPT_SAMPLES = 1000


def record_run_file(*, actor: Member, entry: RunFileIn, name: str, content: bytes) -> RunFile:
    """Keep a logger's file of a group's pack; the same id again changes nothing.

    Raises Problem: not_found (the pack), lab_closed, enough, unit_asked, or bad_run; then nothing is kept.
    """

    def create() -> RunFile:
        pack = Pack.objects.visible_to(actor).select_related("group__lab").filter(id=entry.pack_id).first()
        if pack is None:
            raise PACK_NOT_HERE()
        when = arrival(pack.group.lab, entry.clock)
        if RunFile.objects.filter(pack=pack).count() >= MAX_FILES:
            raise Problem(
                409, "enough", say("This pack has {max_files} files, which is the most it can hold.", max_files=MAX_FILES)
            )
        try:
            whole = run_of_file(content, _units(entry))
        except BadRun as error:
            raise Problem(422, error.code, str(error), field="file") from error
        run = thinned_run(whole, KEPT_SAMPLES)
        made = RunFile.objects.create(
            id=entry.id, group_id=actor.group_id, pack=pack, name=name[:100], rows=len(whole.t_s),
            times_s=[t - run.t_s[0] for t in run.t_s], volts_v=list(run.volts_v), current_a=list(run.current_a),
            ended_s=60.0 * entry.ended_min, **when.columns,
        )  # fmt: skip
        announce(actor.lab_id, actor.group_id)
        return made

    return keep_once(RunFile, actor, entry.id, create)[0]


def _units(entry: RunFileIn) -> dict[str, str]:
    """The units that came with the file, by the kind of column that has them."""
    given = {"time": entry.time_unit, "volts": entry.value_unit, "current": entry.value_unit}
    return {kind: unit for kind, unit in given.items() if unit in UNITS[kind]}

"""How a class's result is sent."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict

from galvanic.bench.foretold import Foretold, in_words
from galvanic.cells import Cell
from galvanic.findings.class_notes import class_offsets
from galvanic.findings.class_says import ClassSays, class_says
from galvanic.findings.compare import CellResult, ElectrolyteResult
from galvanic.findings.left_out import LeftOutValue
from galvanic.findings.liquid_notes import PairInLiquids, in_liquids, middles
from galvanic.notes import Note
from galvanic.reference.catalogue import electrolytes
from galvanic.statistics.effects import Slope
from server.entries.counting import reading_counts
from server.findings.elsewhere import elsewhere_of
from server.findings.models import Elsewhere
from server.findings.schemas import (
    AfterClosing,
    AsideOut,
    CellRow,
    CompareOut,
    ElectrolyteResultOut,
    ElsewhereOut,
    GroupMean,
    InLiquid,
    LeftOutOut,
    OffsetOut,
    PairInLiquidsOut,
    PredictedOut,
    RungOut,
    SharedOut,
    SlopeOut,
    SwapOut,
)
from server.findings.services import (
    Kept,
    LeftOut,
    Predictions,
    Said,
    came_late,
    checked_offsets,
    compare_lab,
    kept_readings,
    predictions_of,
    set_aside,
)
from server.labs.models import Lab
from server.labs.outputs import notes_out
from server.labs.policy import stage_of


def _foretold(result: CellResult, predicted: Mapping[str, Said]) -> dict[str, Foretold]:
    """Predictions of the groups that have measured the cell."""
    own = {g.group: g.summary.mean_v for g in result.groups}
    return {group: Foretold(*said, own[group]) for group, said in predicted.items() if group in own}


def foretold_words(results: Sequence[ElectrolyteResult], predictions: Predictions) -> str:
    """How a class's predictions did, in a sentence; empty without any."""
    cells = [cell for result in results for cell in result.cells]
    return in_words([one for cell in cells for one in _foretold(cell, predictions.get(cell.cell, {})).values()])


def cell_row(result: CellResult, predicted: Mapping[str, Said], elsewhere: Sequence[Elsewhere]) -> CellRow:
    """One cell as it is sent."""
    return CellRow(
        short=result.cell.short, negative=result.cell.negative, positive=result.cell.positive, table_v=result.table_v,
        mean_v=result.mean_v, u_v=result.u_v, low_v=result.low_v, high_v=result.high_v, gap_v=result.gap_v,
        gap_percent=result.gap_percent, n=result.n,
        groups=[
            GroupMean(
                group=g.group, mean_v=g.summary.mean_v, u_v=g.summary.u_v, n=g.summary.n, outlier=g.group in result.outliers
            )
            for g in result.groups
        ],
        predicted=[
            PredictedOut(group=group, signed_v=one.predicted_v, right_sign=one.right_plate, off_v=one.off_v)
            for group, one in _foretold(result, predicted).items()
        ],
        elsewhere=[
            ElsewhereOut(id=one.id, volts_v=one.volts_v, u_v=one.u_v, source=one.source, conditions=one.conditions)
            for one in elsewhere
        ],
    )  # fmt: skip


def electrolyte_out(
    result: ElectrolyteResult,
    notes: Sequence[Note],
    predictions: Predictions,
    elsewhere: Mapping[Cell, Sequence[Elsewhere]],
) -> ElectrolyteResultOut:
    """One electrolyte's result as it is sent."""
    return ElectrolyteResultOut(
        electrolyte=result.electrolyte, condition=result.condition, anchor=result.anchor, anchors=list(result.anchors),
        rungs=[RungOut(**asdict(r)) for r in result.rungs],
        loose=list(result.loose),
        swaps=[SwapOut(upper=s.upper, lower=s.lower, by_v=s.by_v, u_v=s.u_v) for s in result.swaps],
        cells=[
            cell_row(cell, predictions.get(cell.cell, {}), elsewhere.get(cell.cell, ()))
            for cell in result.cells
        ],
        tau_v=result.tau_v, dof=result.dof,
        inside_v=result.inside.s_v if result.inside else None,
        between_v=result.between.s_v if result.between else None,
        notes=notes_out(notes),
    )  # fmt: skip


def _slope(found: Slope | None) -> SlopeOut | None:
    if found is None:
        return None
    return SlopeOut(slope=found.slope, intercept=found.intercept, low=found.low, high=found.high)


def _pair(liquids: PairInLiquids) -> PairInLiquidsOut:
    points = []
    for key, mean_v in liquids.volts_v.items():
        ph, kappa = middles(key)
        points.append(InLiquid(electrolyte=key, mean_v=mean_v, ph=ph, conductivity_s_per_m=kappa))
    return PairInLiquidsOut(
        short=liquids.short, negative=liquids.negative, positive=liquids.positive, points=points,
        per_ph=_slope(liquids.effect.per_ph), per_decade=_slope(liquids.effect.per_decade),
        ph_says=liquids.ph_says, conductivity_says=liquids.conductivity_says,
    )  # fmt: skip


def asides_of(lab: Lab) -> list[AsideOut]:
    """Readings that are set aside, with the reason."""
    return [
        AsideOut(
            reading=one.id, group=one.cell.group.name, short=one.cell.cell.short, electrolyte=one.cell.electrolyte,
            text=one.text, unit=one.unit, reason=one.aside,
        )
        for one in set_aside(lab)
    ]  # fmt: skip


def left_out_of(left_out: Sequence[LeftOut]) -> list[LeftOutOut]:
    """Readings that do not count by their verdict."""
    return [
        LeftOutOut(
            reading=one.reading.id, cell_id=one.reading.cell_id, group=one.reading.cell.group.name,
            short=one.reading.cell.cell.short, electrolyte=one.reading.cell.electrolyte,
            condition=one.reading.cell.condition, text=one.reading.text, unit=one.reading.unit,
            standing=one.standing.stand.value, code=one.standing.code, why=one.standing.why,
            repaired_v=one.standing.repaired_v,
        )
        for one in left_out
    ]  # fmt: skip


def _says(lab: Lab, kept: Kept, results: Sequence[ElectrolyteResult]) -> ClassSays:
    out = [
        LeftOutValue(
            one.reading.cell.group.name, one.reading.cell.cell, f"{one.reading.text} {one.reading.unit}", one.standing
        )
        for one in kept.left_out
    ]
    return class_says(kept.every, kept.counting, out, results, kept.shared, checked_offsets(lab))


def after_closing_of(lab: Lab) -> list[AfterClosing]:
    """Readings that came in after the lab had closed."""
    return [
        AfterClosing(
            reading=one.id, group=one.cell.group.name, short=one.cell.cell.short, electrolyte=one.cell.electrolyte,
            text=one.text, unit=one.unit, taken_at=one.taken_at or one.received_at, aside=one.aside,
        )
        for one in came_late(lab)
    ]  # fmt: skip


def compare_out(lab: Lab, anchors: Mapping[str, str]) -> CompareOut:
    """The class's whole result as it is sent."""
    kept = kept_readings(lab)
    results = compare_lab(lab, anchors, kept.readings)
    predictions, elsewhere = predictions_of(lab), elsewhere_of(lab)
    liquids = {result.electrolyte for result in results}
    says = _says(lab, kept, results)
    return CompareOut(
        id=lab.id, title=lab.title, date=lab.date, state=lab.state, simulated=lab.simulated, edition=lab.edition,
        group_count=getattr(lab, "group_count", 0), reading_count=reading_counts([lab.id]).get(lab.id, 0),
        stage=stage_of(lab), released=list(lab.released),
        electrolytes=[electrolyte_out(result, notes, predictions, elsewhere)
            for result, notes in zip(results, says.of_baths, strict=True)
        ],
        added=any(
            (made := electrolytes()[liquid].made) is not None and made.base in liquids for liquid in liquids
        ),
        notes=notes_out(says.of_class),
        foretold=foretold_words(results, predictions),
        liquids=[_pair(in_liquid) for in_liquid in in_liquids(results)],
        offsets=[OffsetOut(**asdict(offset)) for offset in class_offsets(results)],
        shared=[SharedOut(group=one.group, minute=one.minute, volts_v=one.volts_v) for one in kept.shared],
        aside=asides_of(lab),
        left_out=left_out_of(kept.left_out),
        after_closing=after_closing_of(lab),
    )  # fmt: skip

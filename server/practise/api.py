"""The practice bench: one answer with all its tables, open to everybody, kept by the page for use without network."""

from __future__ import annotations

from dataclasses import asdict

from django.http import HttpRequest, HttpResponse
from ninja import Router

from galvanic.bench.faults import symptoms
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.reader import edition
from galvanic.simulated.drill import GROUPS, case, drilled
from galvanic.simulated.drill_readings import displays
from galvanic.simulated.drill_sums import PLATES, SAME_V, sums
from galvanic.simulated.free_bench import (
    CHOICES,
    DIP_V,
    LOADS_OHM,
    METERS,
    MOST_CELLS,
    OFFERED_OHM,
    PLATE_V,
    SECONDS,
    liquids,
    pair_tables,
    plates,
    settling,
)
from galvanic.words import once, say
from server.base.kept import as_json
from server.practise.schemas import (
    ChoiceOut,
    DisplayOut,
    DrillAnswer,
    DrillCase,
    DrillCause,
    DrillHand,
    FreeBenchOut,
    MeterKindOut,
    OfferedLoadOut,
    PairOut,
    PractiseOut,
    SumOut,
)

router = Router()


@router.get("/practise", response=PractiseOut, operation_id="practise")
def practise(request: HttpRequest) -> HttpResponse:
    """All that is practised."""
    return as_json(_body())


@once
def _body() -> bytes:
    """It depends on the tables and the reader's language alone."""
    return practise_out().model_dump_json().encode()


def practise_out() -> PractiseOut:
    """Cases, sums and displays as they are sent."""
    return PractiseOut(
        edition=edition(),
        cases=[_case(symptom) for symptom in GROUPS],
        sums=[SumOut(**asdict(one)) for one in sums()],
        same_v=SAME_V,
        displays=[DisplayOut(**asdict(one)) for one in displays()],
        bench=_bench(),
        names={
            **{key: electrodes()[key].name for key in PLATES if key in electrodes()},
            **{key: electrodes()[key].name for key in plates()},
            **{key: electrolytes()[key].name for key in {*liquids(), *(case(s).cell.electrolyte for s in GROUPS)}},
        },
    )


def _bench() -> FreeBenchOut:
    return FreeBenchOut(
        plates=list(plates()),
        liquids=list(liquids()),
        choices=[
            ChoiceOut(name=say(choice.name), levels={say(level): name for level, name in choice.levels.items()})
            for choice in CHOICES
        ],
        offered=[OfferedLoadOut(ohm=ohm, name=say(name)) for ohm, name in OFFERED_OHM.items()],
        most_cells=MOST_CELLS,
        loads_ohm=list(LOADS_OHM),
        seconds=list(SECONDS),
        pairs=[PairOut(**asdict(table)) for table in pair_tables()],
        meters=[MeterKindOut(**asdict(meter) | {"name": say(meter.name), "beyond": say(meter.beyond)}) for meter in METERS],
        plate_v=PLATE_V,
        dip_v=DIP_V,
        **asdict(settling()),
    )


def _case(symptom: str) -> DrillCase:
    found, known = case(symptom), drilled()
    return DrillCase(
        symptom=symptom,
        seen=symptoms()[symptom].seen,
        cell=found.cell.short,
        negative=found.cell.negative,
        electrolyte=found.cell.electrolyte,
        positive=found.cell.positive,
        symbols=[electrodes()[key].symbol for key in found.cell.pair],
        right_v=found.right_v,
        hands=[DrillHand(key=key, name=say(name)) for key, name in found.hands.items()],
        causes=[
            DrillCause(
                key=key,
                name=known[key].name,
                mend=known[key].mend,
                why=known[key].why,
                answers={hand: DrillAnswer(says=one.says, code=one.code) for hand, one in own.items()},
            )
            for key, own in found.answers.items()
        ],
    )

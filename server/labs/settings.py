"""What a teacher chooses for a lab: one list, with limits and usual values, for the form, the API, the table and copies."""

from __future__ import annotations

import datetime
from dataclasses import asdict, fields
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import BaseModel, Field, StringConstraints, create_model

from galvanic.bench.loading import LEAST_OHM, MOST_OHM
from galvanic.level import Level
from galvanic.planning.kit import CUP_ML
from galvanic.planning.safety import AGE_BANDS, AgeBand
from galvanic.planning.schedule import Steps
from galvanic.planning.tell_apart import SCATTER_V
from galvanic.reference.variables import Variable, variables
from server.base.language import LanguageCode
from server.materials.schemas import Key

Minutes = Annotated[float, Field(ge=0, le=600)]
Period = Annotated[int, Field(ge=10, le=600)]


class Varies(StrEnum):
    """What the lab changes on purpose; everything else is kept the same."""

    PAIRS = "pairs"
    ELECTROLYTE = "electrolyte"
    SPACING = "spacing"
    DEPTH = "depth"
    SURFACE = "surface"
    DILUTION = "dilution"
    AREA = "area"
    LENGTH = "length"
    PLATE_PAIRS = "plate-pairs"
    TEMPERATURE = "temperature"
    STIRRING = "stirring"
    OXYGEN = "oxygen"
    CONCENTRATION = "concentration"
    SALT = "salt"
    ACID = "acid"
    SODA = "soda"
    SKIN = "skin"
    AGE = "age"
    COOKED = "cooked"
    HALVES = "halves"
    VESSEL = "vessel"
    TIME = "time"
    METER = "meter"
    OWN = "own"

    @classmethod
    def of(cls, variable: str) -> Varies:
        """What a lab is said to vary when it changes a variable of the core; there “pairs” are of plates in one cup."""
        return cls.PLATE_PAIRS if variable == "pairs" else cls(variable)

    @property
    def variable(self) -> Variable | None:
        """The variable of the core that it is; None for plates, liquids and settings of the teacher's own."""
        return None if self is Varies.PAIRS else variables().get("pairs" if self is Varies.PLATE_PAIRS else self.value)


if TYPE_CHECKING:

    class StepsIO(BaseModel):
        """Minutes of the steps of a period; see the core's `Steps`."""

        def __init__(self, **minutes: float) -> None: ...

else:
    StepsIO = create_model(
        "StepsIO",
        __doc__="Minutes of the steps of a period; see the core's `Steps`.",
        **{field.name: (Minutes, field.default) for field in fields(Steps)},
    )


class LabSettings(BaseModel):
    """What a teacher chooses beside title, date and groups; each is a column of the lab."""

    minutes: Period = 60
    electrodes: Annotated[list[Key], Field(max_length=40)] = []
    electrolytes: Annotated[list[Key], Field(max_length=20)] = []
    question: Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)] = ""
    varies: Varies = Varies.PAIRS
    kept: Annotated[str, StringConstraints(max_length=300, strip_whitespace=True)] = ""
    conditions: Annotated[list[Annotated[str, StringConstraints(max_length=60)]], Field(max_length=12)] = []
    against: Key = ""
    repeats: Annotated[int, Field(ge=1, le=10)] = 2
    scatter_v: Annotated[float, Field(ge=0.001, le=1.0)] = SCATTER_V
    age: AgeBand = AGE_BANDS[1]
    level: Level = Level.MIDDLE
    activities: Annotated[list[Annotated[str, StringConstraints(max_length=20)]], Field(max_length=10)] = []
    steps: StepsIO = StepsIO(**asdict(Steps()))
    cup_ml: Annotated[float, Field(ge=5, le=1000)] = CUP_ML
    predict: bool = True
    short_circuit: bool = False
    packs: bool = False
    load_ohm: Annotated[float, Field(ge=LEAST_OHM, le=MOST_OHM)] | None = None
    language: LanguageCode = "en"
    template: Annotated[str, StringConstraints(max_length=40)] = ""

    def columns(self) -> dict[str, Any]:
        """The settings as a lab keeps them."""
        return self.model_dump(include=set(LabSettings.model_fields)) | {
            "varies": self.varies.value,
            "level": self.level.value,
        }


class NewLab(LabSettings):
    """A lab as a teacher plans it. `seen`: the mark of the draft that a form was opened with, so that one window does not
    take back what another has changed; empty: whatever it is now."""

    title: str
    date: datetime.date
    seen: Annotated[str, StringConstraints(max_length=40)] = ""
    groups: Annotated[list[Annotated[str, StringConstraints(max_length=60)]], Field(max_length=60)]

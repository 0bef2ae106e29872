"""The few words a bench meter needs: SCPI-1999 `MEASure:VOLTage:DC?` and its answer, a number in V.

The answer is decimal text with or without an exponent, for example `+9.41230000E-01`; 9.9E37 stands for overload
(SCPI-1999, section 7.2.1). The last digit sent is not the meter's last digit, so the resolution is asked for or assumed.
"""

from __future__ import annotations

import math
import re

from galvanic.errors import UnreadableReading
from galvanic.words import say

ASK_VOLTS = "MEAS:VOLT:DC?"
ASK_WHO = "*IDN?"
OVERLOAD = 9.0e37
MOST_V = 1000.0
USUAL_RESOLUTION_V = 0.001
MOST_ANSWER = 200
_NUMBER = re.compile(r"[+-]?(\d+\.?\d*|\.\d+)(E[+-]?\d{1,3})?", re.IGNORECASE)


class NoVoltage(UnreadableReading):
    """What answered is no meter, or no meter that measures a cell: its words are not passed on."""


def volts_of(answer: str) -> float:
    """The voltage in a meter's answer, V. Raises UnreadableReading for an overload, NoVoltage for anything else."""
    text = answer.strip()
    if _NUMBER.fullmatch(text) is None:
        raise NoVoltage(say("The meter’s answer is no voltage. Type the number meanwhile."))
    value = float(text)
    if not math.isfinite(value) or abs(value) >= OVERLOAD:
        raise UnreadableReading(say("The meter says that the voltage is too much for its range."))
    if abs(value) > MOST_V:
        raise NoVoltage(say("The meter’s answer is a voltage that no cell gives. Type the number meanwhile."))
    return value

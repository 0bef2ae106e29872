"""A cause is shown only where its own test, done in the model, moves the plate the way its text says."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.chemistry.gap import explain
from galvanic.chemistry.half import Half
from galvanic.chemistry.plate_account import DROP, LAST_DIGIT_V, STIRRED, account_of
from galvanic.reference.catalogue import electrodes, electrolytes

PLATES = tuple(electrodes())
LIQUIDS = tuple(key for key, row in electrolytes().items() if row.negative_side is None)
DIRECTION = {"traces": 1.0, "complexing": -1.0, "film": -1.0}


class Steps(unittest.TestCase):
    @given(st.sampled_from(PLATES), st.sampled_from(LIQUIDS))
    def test_what_is_shown_passes_its_own_test_and_adds_up_like_all_parts(self, plate, liquid):
        found = account_of(plate, liquid)
        for steps in (found.parts, found.steps):
            self.assertAlmostEqual(found.start_v + math.fsum(step.volts_v for step in steps), found.rest_v, delta=1e-9)
        for step in found.steps:
            if step.code in DIRECTION:
                self.assertGreater(step.moves_v * DIRECTION[step.code], LAST_DIGIT_V, step)
            elif step.do:
                self.assertGreater(abs(step.moves_v), LAST_DIGIT_V, step)

    def test_a_few_drops_lift_copper_in_juice_and_not_zinc_where_hydrogen_and_oxygen_decide(self):
        self.assertIn("traces", [step.code for step in account_of("copper", "lemon-juice").steps])
        self.assertGreater(
            Half.of("copper", "lemon-juice").with_ions(DROP).rest(), Half.of("copper", "lemon-juice").rest() + 0.01
        )
        self.assertNotIn("traces", [step.code for step in account_of("zinc", "lemon-juice").steps])

    def test_in_its_own_salt_the_strength_of_the_solution_is_a_step_that_dilution_bears_out(self):
        """In copper sulfate the oxide's equilibrium lies lower and other reactions bring the plate back: that is one step."""
        found = {step.code: step for step in account_of("copper", "cuso4-1.0").steps}
        self.assertEqual(list(found), ["strength", "other"])
        # 0.0296 V a decade of activity; γ± of copper sulfate from Robinson and Stokes, as in activity.toml
        self.assertAlmostEqual(found["strength"].volts_v, 0.02958 * math.log10(0.0423), delta=0.015)
        self.assertAlmostEqual(found["strength"].moves_v, -0.0296, delta=0.002)
        self.assertNotIn("strength", [step.code for step in account_of("copper", "lemon-juice").steps])

    def test_the_test_says_what_plate_and_reading_do(self):
        by_plate = {(c.plate, c.code): c.test for c in explain(Cell("aluminium", "salt-water", "copper"), 0.55).causes}
        self.assertIn("the plate gets more negative", by_plate["aluminium", "film"])
        self.assertIn("the reading rises", by_plate["aluminium", "film"])
        film = {
            c.code: c.test for c in explain(Cell("zinc", "salt-water", "aluminium"), 0.2).causes if c.plate == "aluminium"
        }
        self.assertIn("the reading falls", film["film"])  # a skin on the positive plate: scratched, the reading sinks

    def test_stirring_is_named_only_where_it_moves_the_plate_most(self):
        for cause in explain(Cell("zinc", "lemon-juice", "copper"), 0.95).causes:
            if cause.test.startswith("stir"):
                half = Half.of(cause.plate, "lemon-juice")
                self.assertGreater(abs(half.in_liquid(stir=STIRRED).rest() - half.rest()), LAST_DIGIT_V)
        tests = [c.test for c in explain(Cell("zinc", "daniell-pot", "copper"), 1.09).causes if c.plate == "copper"]
        self.assertEqual([test.split(":")[0] for test in tests], ["make this plate’s solution ten times weaker"])

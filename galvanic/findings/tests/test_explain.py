"""What-if, what happens at each plate, the accounts on a class's data, and the same pair in several liquids."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.plate_work import at_plates
from galvanic.chemistry.polarisation import Geometry
from galvanic.chemistry.shorted import shorted
from galvanic.chemistry.what_if import Change, what_if
from galvanic.errors import NotEnoughData, OutOfRange
from galvanic.findings.class_accounts import TEXTBOOK, electronegativity, score_accounts
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.liquid_notes import in_liquids, liquid_notes, middles, slope_in_words, what_matters
from galvanic.reference.catalogue import electrolytes

ZINC_COPPER = Cell("zinc", "rhubarb-juice", "copper")
ALUMINIUM = Cell("aluminium", "rhubarb-juice", "copper")


class WhatIf(unittest.TestCase):
    """One thing different at a time. Directions are those of any corrosion text; sizes are the model's own."""

    def test_nothing_changed_is_the_rest_account(self) -> None:
        (accounts,) = predict([ZINC_COPPER], draws=0)
        self.assertAlmostEqual(what_if(ZINC_COPPER, Change()).open_v, accounts["rest"].volts_v or 0.0, places=9)

    def test_the_short_circuit_agrees_with_the_loaded_cell(self) -> None:
        for cell in (ZINC_COPPER, ALUMINIUM, Cell("aluminium", "kelp-brine", "zinc")):
            short = shorted(cell, Geometry())
            found = what_if(cell, Change())
            self.assertAlmostEqual(found.short_a / short.first_a, 1.0, places=6)
            self.assertAlmostEqual(found.steady_a / short.steady_a, 1.0, places=6)

    def test_size_and_distance_change_the_current_and_not_the_voltage(self) -> None:
        usual, large = what_if(ZINC_COPPER, Change()), what_if(ZINC_COPPER, Change(area_m2=8e-4))
        far = what_if(ZINC_COPPER, Change(gap_m=0.1))
        self.assertAlmostEqual(usual.open_v, large.open_v, places=9)
        self.assertAlmostEqual(usual.open_v, far.open_v, places=9)
        self.assertAlmostEqual(large.short_a / usual.short_a, 2.0, places=3)
        self.assertLess(far.short_a, usual.short_a)

    def test_rubbed_under_the_liquid_aluminium_falls_by_some_tenths_of_a_volt_and_gives_no_more_for_it(self) -> None:
        usual, at_once = what_if(ALUMINIUM, Change()), what_if(ALUMINIUM, Change(scratched=True))
        self.assertTrue(0.1 < at_once.open_v - usual.open_v < 0.7, at_once.open_v - usual.open_v)
        self.assertEqual((at_once.short_a, at_once.internal_ohm), (usual.short_a, usual.internal_ohm))

    def test_without_oxygen_the_copper_plate_falls(self) -> None:
        self.assertLess(what_if(ZINC_COPPER, Change(oxygen=0.0)).positive_v, what_if(ZINC_COPPER, Change()).positive_v - 0.1)

    def test_copper_ions_let_much_more_current_flow(self) -> None:
        with_ions = what_if(ZINC_COPPER, Change(ions_mol_per_l=0.5))
        self.assertGreater(with_ions.short_a, 2.0 * what_if(ZINC_COPPER, Change()).short_a)

    def test_a_poor_meter_shows_less(self) -> None:
        poor = what_if(ALUMINIUM, Change(meter_ohm=1e4))
        self.assertLess(poor.shown_v, 0.7 * poor.open_v)
        self.assertGreater(what_if(ALUMINIUM, Change()).shown_v, 0.99 * poor.open_v)

    def test_temperature_moves_the_table_by_its_own_coefficients_and_the_cell_by_little(self) -> None:
        warm, usual = what_if(ZINC_COPPER, Change(celsius=50.0)), what_if(ZINC_COPPER, Change())
        assert warm.table_v is not None and usual.table_v is not None
        # Daniell cell: about -0.1 mV/K (S. G. Bratsch, J. Phys. Chem. Ref. Data 18 (1989) 1, from memory).
        self.assertAlmostEqual((warm.table_v - usual.table_v) / 25.0, -1e-4, delta=1e-4)
        self.assertTrue(0.0 < abs(warm.open_v - usual.open_v) < 0.1)

    def test_what_the_model_does_not_cover_is_refused(self) -> None:
        for wrong in ({"ph": 15.0}, {"celsius": 90.0}, {"ions_mol_per_l": 9.0}, {"oxygen": -1.0}, {"meter_ohm": 0.0}):
            with self.assertRaises(OutOfRange):
                Change(**wrong)  # type: ignore[arg-type]

    @given(
        st.sampled_from(["magnesium", "aluminium", "zinc", "nickel", "graphite"]),
        st.sampled_from(["rhubarb-juice", "kelp-brine", "soda-water"]),
        st.floats(0.0, 14.0),
        st.floats(0.0, 3.0),
        st.floats(0.5, 30.0),
    )
    @settings(max_examples=25, deadline=None)
    def test_any_change_gives_finite_numbers_with_the_meter_below_the_cell(
        self, plate: str, liquid: str, ph: float, oxygen: float, stir: float
    ) -> None:
        found = what_if(Cell.of(plate, liquid, "copper"), Change(ph=ph, oxygen=oxygen, stir=stir))
        self.assertTrue(all(abs(v) < 4.0 for v in (found.negative_v, found.positive_v, found.open_v)))
        self.assertLessEqual(abs(found.shown_v), abs(found.open_v) + 1e-12)


class PlateWork(unittest.TestCase):
    """Half-reactions at each plate."""

    def test_the_metal_dissolves_at_the_negative_plate_and_shares_add_up(self) -> None:
        for liquid in ("rhubarb-juice", "kelp-brine"):
            found = at_plates(Cell("zinc", liquid, "copper"))
            self.assertEqual((found.negative, found.at_negative[0].equation), ("zinc", "Zn → Zn²⁺ + 2 e⁻"))
            self.assertAlmostEqual(sum(one.share for one in found.at_positive), 1.0, delta=0.02)

    def test_acid_and_neutral_liquids_reduce_oxygen_in_their_own_way(self) -> None:
        acid = at_plates(Cell("aluminium", "rhubarb-juice", "graphite"))
        brine = at_plates(Cell("aluminium", "kelp-brine", "copper"))
        self.assertTrue(any("H⁺" in one.equation for one in acid.at_positive))
        self.assertTrue(any("4 OH⁻" in one.equation for one in brine.at_positive))

    def test_own_ions_come_back_only_from_a_solution_of_them(self) -> None:
        def remarks(liquid: str) -> str:
            return " ".join(work.remark for work in at_plates(Cell("zinc", liquid, "copper")).at_positive)

        for liquid in ("cuso4-1.0", "daniell-pot"):
            self.assertIn("from the solution", remarks(liquid))
        for liquid in ("lemon-juice", "salt-water"):
            self.assertNotIn("from the solution", remarks(liquid))

    def test_where_aluminium_stands_above_zinc_zinc_is_the_plate_that_dissolves(self) -> None:
        found = at_plates(Cell("aluminium", "kelp-brine", "zinc"))
        self.assertEqual((found.negative, found.positive), ("zinc", "aluminium"))


def small_class() -> list[ClassReading]:
    """Three groups, four pairs, three liquids, at the rest account's values with a little of each group's own."""
    pairs = [("zinc", "copper"), ("magnesium", "copper"), ("zinc", "tin"), ("aluminium", "zinc")]
    liquids = ["rhubarb-juice", "kelp-brine", "soda-water"]
    cells = [Cell(black, liquid, red) for black, red in pairs for liquid in liquids]
    found = []
    for cell, accounts in zip(cells, predict(cells, draws=0), strict=True):
        for number, group in enumerate(("Tern", "Knot", "Ruff")):
            level = (accounts["rest"].volts_v or 0.0) + 0.02 * (number - 1)
            found += [
                ClassReading(group, cell.positive, cell.negative, cell.electrolyte, level + 0.001 * k, 0.001)
                for k in range(3)
            ]
    return found


class Accounts(unittest.TestCase):
    """The four accounts on a class's data."""

    def test_the_account_the_data_came_from_wins_and_the_table_trails_for_sure(self) -> None:
        found = score_accounts(compare(small_class()))
        self.assertEqual(found.rows[0].account, "rest")
        standard = next(row for row in found.rows if row.account == "standard")
        assert found.rows[0].score is not None and standard.score is not None and standard.against_best is not None
        self.assertLess(found.rows[0].score.rms_v, 0.03)
        self.assertGreater(standard.against_best.low_v, 0.0)
        self.assertEqual(standard.score.signs_right, standard.score.n - 9)  # aluminium and zinc, three liquids, three groups

    def test_electronegativity_ranks_and_never_gives_volts(self) -> None:
        found = score_accounts(compare(small_class())).ranking
        self.assertEqual(found.order[0], "magnesium")
        self.assertIn(("aluminium", "zinc"), found.wrong)
        self.assertIsNone(electronegativity("graphite"))
        self.assertIn("right first step", TEXTBOOK)

    def test_nothing_measured_is_said(self) -> None:
        with self.assertRaises(NotEnoughData):
            score_accounts([])


class Liquids(unittest.TestCase):
    """The same pair in several liquids."""

    def test_pairs_in_several_liquids_are_found_with_honest_slopes(self) -> None:
        found = in_liquids(compare(small_class()))
        self.assertEqual({len(one.volts_v) for one in found}, {3})
        self.assertIn("95 % from", found[0].ph_says)
        self.assertEqual(slope_in_words(None, "for each unit of pH", 2), "With 2 liquids there is no telling; three different ones are needed.")  # fmt: skip

    def test_a_liquids_middle_is_arithmetic_for_ph_and_geometric_for_conductivity(self) -> None:
        row = electrolytes()["lemon-juice"]
        ph, kappa = middles("lemon-juice")
        self.assertAlmostEqual(ph - row.ph.low, row.ph.high - ph, places=12)
        self.assertAlmostEqual(kappa / row.conductivity_s_per_m.low, row.conductivity_s_per_m.high / kappa, places=12)

    def test_the_pair_matters_more_than_the_liquid_here(self) -> None:
        results = compare(small_class())
        table = what_matters(results)
        assert table is not None and table.pair.f is not None
        self.assertGreater(table.pair.f, 10.0)
        self.assertEqual(liquid_notes(results)[0].title, "The pair matters more than the liquid")

    def test_one_liquid_says_nothing_about_liquids(self) -> None:
        self.assertEqual(liquid_notes(compare([r for r in small_class() if r.electrolyte == "kelp-brine"])), [])

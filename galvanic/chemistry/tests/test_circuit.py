"""Packs of real cells against an independent solution of Kirchhoff's equations, and what people find with them."""

import csv
import itertools
import math
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import least_squares

import galvanic.tests
from galvanic.cells import Cell
from galvanic.chemistry.anchoring import UnderLoad, anchored
from galvanic.chemistry.circuit import Curves, OneLiquid, Pack, in_a_row
from galvanic.chemistry.curves import Anchor, PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.expected import expect, how_many, offer, options, smallest, strength, what_holds_back
from galvanic.chemistry.half import Half
from galvanic.chemistry.polarisation import FIRST_S, Geometry, LoadedCell
from galvanic.errors import OutOfRange

FIVE = Geometry(5e-4, 0.02)
LEMON = PackCell(Cell("zinc", "lemon-juice", "copper"), FIVE)
SALT = PackCell(Cell("magnesium", "salt-water", "copper"), FIVE)
CARD = PackCell(Cell("zinc", "salt-card", "copper"), Geometry(4e-4, 1e-3))
PRACTICE = Path(galvanic.tests.__file__).parent / "certified" / "practice-loads.csv"


def meet(pack, load):
    """The meeting point of a pack's middle."""
    return Curves.of(pack).meet(demand(load))


def nodal(rows, ohm):
    """Load voltage and row currents by Kirchhoff's equations node by node, on the halves' own currents.

    Unknown are each plate's potential against its liquid and each row's current; every plate's own current must be the row's,
    every row's potentials must sum to the load's voltage, and the rows' currents to the load's.
    """
    plates = []
    for row in rows:
        for cell in row:
            low, high = (cell.cell.negative, cell.cell.positive)
            halves = [Half.of(key, cell.cell.electrolyte).after(FIRST_S) for key in (low, high)]
            plates.append(
                (halves, cell.geometry.area_m2 * cell.geometry.pairs, LoadedCell.of(cell.cell, cell.geometry).solution_ohm)
            )
    ends = list(itertools.accumulate(len(row) for row in rows))

    def residuals(x):
        potentials, currents = x[: 2 * len(plates)].reshape(-1, 2), x[2 * len(plates) :] * 1e-3
        out, volts = [], []
        for r, (start, end) in enumerate(zip([0, *ends], ends, strict=False)):
            total = 0.0
            for (halves, area, inside), (e_low, e_high) in zip(plates[start:end], potentials[start:end], strict=True):
                out.append(math.asinh((area * float(halves[0].net(np.array([e_low]))[0]) - currents[r]) / 1e-6))
                out.append(math.asinh((area * float(halves[1].net(np.array([e_high]))[0]) + currents[r]) / 1e-6))
                total += e_high - e_low - currents[r] * inside
            volts.append(total)
        return [*out, *(1e3 * (v - currents.sum() * ohm) for v in volts)]

    guess = [e for halves, _, _ in plates for e in (halves[0].rest() + 0.01, halves[1].rest() - 0.1)]
    found = least_squares(residuals, [*guess, *([0.1] * len(rows))], xtol=1e-14, ftol=1e-14, gtol=1e-14, max_nfev=400)
    currents = found.x[2 * len(plates) :] * 1e-3
    return found.cost, currents.sum() * ohm, currents


class Kirchhoff(unittest.TestCase):
    def test_a_row_of_unequal_cells_agrees_with_a_nodal_solution(self):
        for ohm in (470.0, 4700.0):
            cost, volts, currents = nodal([[LEMON, SALT, LEMON]], ohm)
            self.assertLess(cost, 1e-6, "the independent solution did not converge")
            found = meet(Pack(((LEMON, SALT, LEMON),)), ohm)
            self.assertAlmostEqual(found.volts_v, volts, delta=3e-3)
            self.assertAlmostEqual(found.current_a / currents[0], 1.0, delta=5e-3)

    def test_unequal_rows_side_by_side_agree_with_a_nodal_solution(self):
        cost, volts, currents = nodal([[LEMON, LEMON], [SALT, LEMON]], 1000.0)
        self.assertLess(cost, 1e-6, "the independent solution did not converge")
        found = meet(Pack(((LEMON, LEMON), (SALT, LEMON))), 1000.0)
        self.assertAlmostEqual(found.volts_v, volts, delta=2e-3)
        for mine, other in zip(found.rows_a, currents, strict=True):
            self.assertAlmostEqual(1e3 * mine, 1e3 * other, delta=5e-3)

    def test_one_cell_is_the_cell_under_load(self):
        for ohm in (10.0, 470.0, 1e4):
            cell = LoadedCell.of(LEMON.cell, FIVE).after(FIRST_S).at_load(ohm)
            found = meet(in_a_row([LEMON]), ohm)
            self.assertAlmostEqual(found.volts_v, cell.volts_v, delta=1e-3)
            self.assertAlmostEqual(found.current_a / cell.current_a, 1.0, delta=5e-3)

    @settings(max_examples=25, deadline=None)
    @given(
        st.lists(st.lists(st.sampled_from([LEMON, SALT, CARD]), min_size=1, max_size=3), min_size=1, max_size=3),
        st.sampled_from(["led-red", "motor", 100.0, 1e5]),
    )
    def test_shares_add_up_to_the_voltage_and_rows_to_the_current(self, rows, load):
        pack = Pack(tuple(map(tuple, rows)))
        found = meet(pack, load)
        at = 0
        for row in rows:
            self.assertAlmostEqual(sum(s.volts_v for s in found.cells[at : at + len(row)]), found.volts_v, delta=2e-3)
            at += len(row)
        self.assertAlmostEqual(sum(found.rows_a), found.current_a, places=9)
        takes = float(demand(load).takes.current_a(np.array([[found.volts_v]]))[0, 0])
        self.assertAlmostEqual(takes, found.current_a, delta=1e-6 + 0.01 * abs(takes))

    def test_open_voltages_add_up(self):
        self.assertAlmostEqual(
            meet(in_a_row([LEMON] * 4), "led-red").open_v, 4 * meet(in_a_row([LEMON]), 1e8).open_v, places=3
        )

    def test_rows_of_unequal_voltage_send_a_current_round(self):
        self.assertLess(meet(in_a_row([LEMON] * 2, 2), 1e8).round_a, 1e-9)
        found = meet(Pack(((LEMON, LEMON), (LEMON,))), 1e8)
        self.assertGreater(found.round_a, 1e-5)
        alone = [meet(in_a_row([LEMON] * n), 1e8).open_v for n in (1, 2)]
        self.assertTrue(alone[0] < found.open_v < alone[1])


class Faults(unittest.TestCase):
    def test_a_turned_cell_takes_twice_its_voltage(self):
        one = meet(in_a_row([LEMON]), 1e8).open_v
        found = meet(Pack(((LEMON, replace(LEMON, turned=True), LEMON),)), 1e8)
        self.assertAlmostEqual(found.open_v, one, places=3)

    def test_a_small_cell_is_driven_backwards_by_the_others(self):
        worn = replace(LEMON, left=0.02)
        found = meet(Pack(((LEMON, LEMON, LEMON, worn),)), 100.0)
        self.assertEqual([share.backwards for share in found.cells], [False, False, False, True])
        self.assertLess(found.cells[3].volts_v, 0.0)
        self.assertAlmostEqual(found.cells[3].open_v, found.cells[0].open_v, places=3)

    def test_a_wet_bridge_is_a_cell_of_the_two_plates_at_the_joint(self):
        """Alone it takes the voltage that those two plates have left with the bridge as their load."""
        for ohm in (200.0, 2000.0, 50_000.0):
            bridged = Pack(((replace(LEMON, bridge_ohm=ohm), LEMON),))
            one = LoadedCell.of(LEMON.cell, replace(FIVE, gap_m=1e-12)).after(FIRST_S)
            left = one.at_load(ohm)
            lost = left.open_v - left.volts_v
            self.assertAlmostEqual(meet(bridged, 1e8).open_v, 2.0 * left.open_v - lost, delta=3e-3)

    def test_a_bridge_that_conducts_well_costs_a_whole_cell_and_a_dry_one_nothing(self):
        one = meet(in_a_row([LEMON]), 1e8).open_v
        for ohm, cells in ((0.1, 1.0), (1e9, 2.0)):
            found = meet(Pack(((replace(LEMON, bridge_ohm=ohm), LEMON),)), 1e8)
            self.assertAlmostEqual(found.open_v / one, cells, delta=0.01)

    def test_touching_plates_short_their_own_cell(self):
        found = meet(Pack(((LEMON, replace(LEMON, touching_ohm=0.5)),)), 1e8)
        self.assertLess(found.cells[1].open_v, 0.01)

    def test_a_dry_contact_shows_under_a_load_only(self):
        dry = Pack(((LEMON, replace(LEMON, contact_ohm=1e5)),))
        self.assertAlmostEqual(meet(dry, 1e8).open_v, 2 * meet(in_a_row([LEMON]), 1e8).open_v, delta=3e-3)
        self.assertLess(meet(dry, "led-red").current_a, 1e-5)

    def test_cells_in_one_vessel_are_refused_in_a_row_and_free_side_by_side(self):
        shared = replace(LEMON, cup="bowl")
        with self.assertRaisesRegex(OneLiquid, "only one cell's voltage"):
            Pack(((shared, shared),))
        Pack(((shared,), (shared,)))
        with self.assertRaises(OutOfRange):
            Pack(())


class Anchored(unittest.TestCase):
    def test_the_pack_is_foretold_from_the_classes_own_cells(self):
        one = anchored(LEMON, 0.94, 0.01, [UnderLoad(0.0, 0.8e-3)])
        self.assertAlmostEqual(meet(in_a_row([one]), 1e9).open_v, 0.94, places=3)
        self.assertAlmostEqual(1e3 * meet(in_a_row([one]), 0.0).current_a, 0.8, delta=0.01)
        self.assertTrue(one.anchor.volts_measured and one.anchor.load_measured)

    def test_a_voltage_under_a_resistor_is_met_again(self):
        one = anchored(LEMON, 0.94, 0.01, [UnderLoad(470.0, 0.31)])
        self.assertAlmostEqual(meet(in_a_row([one]), 470.0).volts_v, 0.31, delta=0.003)

    def test_what_no_cell_gives_is_passed_over_and_nothing_measured_is_the_model(self):
        self.assertEqual(anchored(LEMON, None).anchor, Anchor())
        odd = anchored(LEMON, 0.94, 0.01, [UnderLoad(470.0, 1.4), UnderLoad(0.0, -1e-3)])
        self.assertFalse(odd.anchor.load_measured)

    def test_measuring_narrows_what_can_be_expected(self):
        bare, held = expect(in_a_row([LEMON] * 3), 1e7), expect(in_a_row([anchored(LEMON, 1.03, 0.005)] * 3), 1e7)
        self.assertLess(held.open_v.high - held.open_v.low, bare.open_v.high - bare.open_v.low)
        self.assertFalse(bare.measured)
        self.assertTrue(held.measured)


class Strengths(unittest.TestCase):
    def test_the_most_power_is_at_no_other_load_more(self):
        for one in (LEMON, SALT):
            found = strength(one)
            self.assertAlmostEqual(found.short_a / meet(in_a_row([one]), 0.0).current_a, 1.0, delta=0.01)
            for times in (0.3, 0.8, 1.25, 3.0):
                point = meet(in_a_row([one]), found.at_ohm * times)
                self.assertLessEqual(point.volts_v * point.current_a, 1.01 * found.power_w)
            best = meet(in_a_row([one]), found.at_ohm)
            self.assertAlmostEqual(best.volts_v * best.current_a / found.power_w, 1.0, delta=0.02)

    def test_the_pair_with_most_volts_need_not_give_most_current(self):
        brine = strength(PackCell(Cell("magnesium", "kelp-brine", "graphite"), FIVE))
        juice = strength(PackCell(Cell("magnesium", "rhubarb-juice", "steel"), FIVE))
        self.assertGreater(brine.open_v, 1.2 * juice.open_v)
        self.assertGreater(juice.short_a, 1.5 * brine.short_a)


class Practice(unittest.TestCase):
    """Verdicts and currents of practice-loads.csv (common practice, no source), currents within a factor of three."""

    CELLS = {
        "zinc | lime juice | copper": "lime-juice",
        "zinc | lemon juice | copper": "lemon-juice",
        "aluminium foil | salt water | copper": "salt-water",
        "zinc | salt-soaked card | copper": "salt-card",
    }

    def packs(self):
        with PRACTICE.open(encoding="utf-8") as file:
            for row in csv.DictReader(file):
                if row["load"] in ("", "0") or row["cells"] not in self.CELLS:
                    continue
                negative = "aluminium-foil" if row["cells"].startswith("alum") else "zinc"
                geometry = Geometry(float(row["area_cm2"] or 5) * 1e-4, float(row["gap_cm"] or 2) * 1e-2)
                cell = PackCell(Cell(negative, self.CELLS[row["cells"]], "copper"), geometry)
                yield row, in_a_row([cell] * int(row["arrangement"].split()[0]))

    def test_every_row_with_a_load_is_met(self):
        seen = 0
        for row, pack in self.packs():
            with self.subTest(row["cells"], what=row["what"]):
                found = expect(pack, row["load"])
                if row["unit"] == "mA":
                    amps = 1e3 * found.meeting.current_a
                    self.assertTrue(float(row["low"]) / 3.0 <= amps <= 3.0 * float(row["high"]), amps)
                else:
                    self.assertEqual(found.verdict, row["low"])
                seen += 1
        self.assertEqual(seen, 6)


class Advice(unittest.TestCase):
    def test_the_smallest_pack_runs_and_with_one_cell_or_one_pair_less_nothing_is_promised(self):
        for load in ("led-red", "led-green", "calculator"):
            found = smallest(LEMON, load)
            self.assertEqual(found.expected.verdict, "runs")
            if found.pairs > 1:
                fewer = replace(LEMON, geometry=replace(FIVE, pairs=found.pairs - 1))
                self.assertNotEqual(expect(in_a_row([fewer] * found.cells), load).verdict, "runs")

    def test_a_motor_needs_more_than_a_table_full_of_plates_and_tap_water_never_runs_it(self):
        self.assertIsNone(smallest(LEMON, "motor"))
        self.assertLess(expect(in_a_row([replace(LEMON, geometry=replace(FIVE, pairs=4))] * 5), "motor").runs, 0.5)
        self.assertIsNone(smallest(PackCell(Cell("zinc", "tap-water", "copper"), FIVE), "motor"))

    def test_two_cells_are_short_of_current_one_is_short_of_volts(self):
        self.assertEqual(what_holds_back(in_a_row([LEMON] * 2), "led-red"), "current")
        self.assertEqual(what_holds_back(in_a_row([LEMON]), "led-red"), "volts")
        worn = Pack(((LEMON, LEMON, replace(LEMON, left=0.03)),))
        self.assertEqual(what_holds_back(worn, "led-red"), "cell 3")

    def test_each_option_does_what_it_says(self):
        found = {option.key: option for option in options(in_a_row([LEMON] * 3), "led-red")}
        now = meet(in_a_row([LEMON] * 3), "led-red").current_a
        self.assertAlmostEqual(found["cell"].times, meet(in_a_row([LEMON] * 4), "led-red").current_a / now, places=6)
        self.assertAlmostEqual(found["row"].times, meet(in_a_row([LEMON] * 3, 2), "led-red").current_a / now, places=6)
        self.assertGreater(found["area"].times, 1.3)

    def test_a_change_that_still_gives_no_current_is_no_gain(self):
        for option in options(in_a_row([LEMON]), "led-red"):
            self.assertEqual(math.isinf(option.times), option.key == "cell", option)

    def test_the_curve_meets_the_load_where_the_pack_does(self):
        pack = in_a_row([LEMON] * 3)
        points = offer(pack, "led-red", 61)
        crossed = next(k for k, point in enumerate(points) if point.takes_a > point.gives_a)
        met = meet(pack, "led-red")
        self.assertTrue(points[crossed - 1].volts_v <= met.volts_v <= points[crossed].volts_v)
        for point in points:
            self.assertTrue(point.low_a <= point.high_a)

    def test_more_cells_in_the_row_never_light_it_less(self):
        chances = [found.runs for found in how_many(in_a_row([LEMON]), "led-red", 6)]
        self.assertEqual(len(chances), 6)
        self.assertTrue(all(b >= a - 0.05 for a, b in zip(chances, chances[1:], strict=False)), chances)

    def test_the_same_question_has_the_same_answer(self):
        pack = in_a_row([LEMON, SALT])
        self.assertEqual(expect.__wrapped__(pack, "led-red").runs, expect.__wrapped__(pack, "led-red").runs)

    def test_a_resistors_current_is_ohms_law_at_the_meeting_point(self):
        found = meet(in_a_row([LEMON] * 2), 330.0)
        self.assertAlmostEqual(found.current_a, found.volts_v / 330.0, delta=1e-6)

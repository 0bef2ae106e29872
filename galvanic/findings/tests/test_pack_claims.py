"""Claims about packs, weighed on the pack's own numbers; shapes of runs are the tests' own."""

import unittest

from galvanic.bench.pack_record import PackRecord
from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.findings.pack_claims import PACK_CAUSES, pack_data, weigh_all, weigh_pack
from galvanic.findings.runs import Done, RunPoint, tell

RED = demand("led-red")


def record(alone=(0.95, 0.95), sums=(0.95, 1.90), **more):
    return PackRecord(alone, sums, RED, under_v=more.pop("under_v", (None,) * len(alone)), **more)


def run(volts, back=(0.93, 0.94), ohm=470.0):
    """Two numbers before, `volts` with the resistor joined at 60 s, one every 20 s, and two after it is taken off."""
    points = [(20.0, 0.95), (40.0, 0.95)] + [(61.0 + 20.0 * k, v) for k, v in enumerate(volts)]
    end = points[-1][0] + 10.0
    points += [(end + 5.0 + 20.0 * k, v) for k, v in enumerate(back)]
    told = tell(
        (PackCell(Cell("zinc", "rhubarb-juice", "copper")),),
        ohm,
        tuple(RunPoint(t, v) for t, v in points),
        (),
        (Done(60.0, "joined"), Done(end, "taken off")),
    )
    return pack_data(PackRecord((0.95,), (0.95,), demand(ohm), under_v=(None,)), told, points, "zinc")


class PackClaims(unittest.TestCase):
    def codes(self, data):
        return {one.key: verdict.code for one, verdict in weigh_all(data)}

    def test_a_bridged_cell_bears_out_one_cell_and_not_too_little_current(self):
        data = pack_data(record(sums=(0.95, 1.05)), None, ())
        self.assertEqual(weigh_pack("pack-cell", data).code, "fits")
        self.assertIn("Cell 2", weigh_pack("pack-cell", data).text)
        self.assertEqual(weigh_pack("pack-volts", data).code, "fits")  # 1.05 V: less than a red LED begins at

    def test_volts_enough_and_a_sag_is_too_little_current(self):
        found = self.codes(pack_data(record((0.95,) * 3, (0.95, 1.9, 2.85), load_v=1.7, load_a=4e-5, lit=False), None, ()))
        self.assertEqual(
            (found["pack-current"], found["pack-volts"], found["pack-load"]), ("fits", "contradicted", "contradicted")
        )

    def test_a_lamp_that_blocks_is_the_wrong_way_round_and_one_that_ran_is_not(self):
        dark = record((0.95,) * 3, (0.95, 1.9, 2.85), load_v=2.84, load_a=0.0, lit=False)
        self.assertEqual(self.codes(pack_data(dark, None, ()))["pack-load"], "fits")
        lit = record((0.95,) * 3, (0.95, 1.9, 2.85), load_v=1.9, lit=True)
        self.assertEqual(self.codes(pack_data(lit, None, ()))["pack-load"], "contradicted")

    def test_a_fall_that_comes_later_and_comes_back_is_of_the_plates_not_of_the_resistance(self):
        found = self.codes(run([0.80, 0.65, 0.55, 0.48, 0.44, 0.42]))
        self.assertEqual((found["pack-plates"], found["pack-inside"]), ("fits", "contradicted"))

    def test_a_fall_that_is_there_at_once_is_not_of_the_plates_and_leaves_the_resistance_open(self):
        data = run([0.50, 0.50, 0.50, 0.49, 0.50, 0.49])
        found = self.codes(data)
        self.assertEqual((found["pack-plates"], found["pack-inside"]), ("contradicted", "cannot_tell"))
        self.assertIn("distance", weigh_pack("pack-inside", data).text)

    def test_what_a_claim_is_weighed_on_is_the_last_before_the_first_and_last_on_load_and_the_last_two_after(self):
        data = run([0.80, 0.65, 0.55, 0.48], back=(0.70, 0.80, 0.90))
        self.assertEqual((data.before_v, data.first_v, data.last_v), (0.95, 0.80, 0.48))
        self.assertAlmostEqual(data.back, 0.85 / 0.95)
        self.assertIsNone(run([0.80, 0.65, 0.55, 0.48], back=(0.70,)).back)

    def test_minutes_of_milliamperes_leave_the_metal_there(self):
        # 0.5 V over 470 ohm is 1.06 mA; in 110 s 0.117 C; zinc: 65.38 g/mol over 2 F gives 0.04 mg. Worked by hand.
        verdict = weigh_pack("pack-metal", run([0.50, 0.50, 0.50, 0.49, 0.50, 0.49]))
        self.assertEqual(verdict.code, "contradicted")
        self.assertIn("0.036", verdict.text)
        self.assertIn("1428", verdict.text)  # 4 cm² of 0.5 mm at 7.14 g/cm³

    def test_without_numbers_every_cause_stays_open_and_asks(self):
        for one, verdict in weigh_all(pack_data(PackRecord((), ()), None, ())):
            self.assertEqual(verdict.code, "cannot_tell", one.key)
            self.assertTrue(verdict.question.endswith("?"), one.key)
        self.assertEqual(len(PACK_CAUSES), 7)

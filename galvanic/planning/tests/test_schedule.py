"""Minutes: what fits, when each cell is, late starts and breaks."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from galvanic.cells import Cell
from galvanic.errors import OutOfRange
from galvanic.planning.schedule import Steps, overfull, timeline

minutes = st.floats(0, 60, allow_nan=False)


class Minutes(unittest.TestCase):
    def test_the_usual_hour_holds_seven_cells(self):
        steps = Steps()
        self.assertEqual((steps.cell, steps.places(60), steps.needed(7)), (6.0, 7, 56.0))
        self.assertEqual(steps.places(20), 1)
        self.assertEqual(steps.places(19), 0)

    def test_a_late_start_and_a_break_cost_cells(self):
        self.assertEqual(Steps(late=5).places(60), 6)
        self.assertEqual(Steps(pause_at=30, pause=12).places(60), 5)

    def test_packs_come_after_the_last_cell_and_cost_cells(self):
        steps = Steps(packs=15.0)
        self.assertEqual((steps.places(60), steps.needed(5)), (5, 59.0))
        self.assertEqual([(one.kind, one.begin, one.end) for one in timeline(1, steps)][2:],
                         [("packs", 12.0, 27.0), ("clear", 27.0, 35.0)])  # fmt: skip
        broken = Steps(packs=15.0, pause_at=20.0, pause=5.0)
        self.assertEqual([(one.begin, one.end) for one in timeline(1, broken) if one.kind == "packs"], [(25.0, 40.0)])

    def test_no_cell_is_cut_by_the_break(self):
        steps = Steps(pause_at=20, pause=5)
        self.assertEqual(steps.cell_times(3), [(6.0, 12.0), (12.0, 18.0), (25.0, 31.0)])

    def test_a_break_and_a_late_start_stand_where_they_were_said(self):
        rests = [one for one in timeline(2, Steps(late=4, pause_at=20, pause=5)) if one.kind in ("late", "pause")]
        self.assertEqual([(one.kind, one.begin, one.end) for one in rests], [("late", 0.0, 4), ("pause", 20, 25)])

    def test_sixty_cells_in_twenty_minutes_do_not_fit(self):
        hand = [Cell("zinc", "lemon-juice", "copper")] * 60
        self.assertEqual(overfull([hand, hand[:1]], Steps(), 20), [0])

    def test_what_is_no_time_is_refused(self):
        for bad in ({"start": -1}, {"read": 700}, {"prepare": 0, "settle": 0, "read": 0, "rinse": 0}):
            with self.assertRaises(OutOfRange):
                Steps(**bad)

    def test_minutes_to_spare_are_planned_for_nothing_and_leave_what_is_planned_where_it_is(self):
        steps = Steps()
        self.assertEqual(steps.places(60), 7)
        shorter = steps.with_places(6, 60)
        self.assertEqual((shorter.places(60), shorter.needed(6)), (6, steps.needed(6)))
        self.assertEqual(timeline(6, shorter), timeline(6, steps))
        self.assertEqual(shorter.with_places(6, 60), shorter)

    @given(st.integers(0, 12), minutes, minutes, minutes)
    def test_stretches_follow_each_other_without_overlap(self, cells, late, pause_at, pause):
        steps = Steps(late=late, pause_at=pause_at, pause=pause)
        line = [one for one in timeline(cells, steps) if one.end > one.begin]
        work = [one for one in line if one.kind not in ("pause", "late")]
        for one, other in zip(work, work[1:], strict=False):
            self.assertLessEqual(one.end, other.begin + 1e-9)
        self.assertEqual([step.cell for step in work if step.kind == "cell"], list(range(cells)))
        for rest in (one for one in line if one.kind == "pause"):
            self.assertTrue(all(w.end <= rest.begin + 1e-9 or w.begin >= rest.end - 1e-9 for w in work))
        self.assertAlmostEqual(work[-1].end if work else 0.0, max(step.end for step in work) if work else 0.0)

    @given(st.floats(10, 300), minutes, minutes)
    def test_as_many_cells_fit_as_are_said_to(self, period, late, pause):
        steps = Steps(late=late, pause_at=25, pause=pause)
        n = steps.places(period)
        if n:
            self.assertLessEqual(steps.needed(n), period + 1e-6)
        if n < 20:
            self.assertGreater(steps.needed(n + 1), period)

"""What a class's tries at the drill show."""

import unittest

import numpy as np
from scipy.stats import binomtest

from galvanic.simulated.class_drill import LEVEL, Try, class_drill, share_found, simulated_try
from galvanic.simulated.drill import GROUPS, case


def tries(*rows, symptom="zero", fault="bridged"):
    """Tries at one fault: (device, what was named, hands)."""
    return [Try(device, symptom, fault, named, tuple(hands)) for device, named, *hands in rows]


class OfAClass(unittest.TestCase):
    def test_each_device_counts_once_with_its_latest_try(self):
        (row,) = class_drill(tries(("a", "loose"), ("b", "bridged"), ("a", "bridged")))
        self.assertEqual((row.devices, row.found, row.taken_for), (2, 2, ()))

    def test_what_it_was_taken_for_is_told_by_hands_that_the_core_answers_differently(self):
        (row,) = class_drill(tries(("a", "loose", "read"), ("b", "loose", "wipe"), ("c", "open_clip", "wipe")))
        drill = case("zero")
        self.assertEqual([(one.named, one.devices) for one in row.taken_for], [("loose", 2), ("open_clip", 1)])
        for one in row.taken_for:
            self.assertTrue(one.tells)
            for hand in drill.hands:
                same = drill.answers["bridged"][hand].code == drill.answers[one.named][hand].code
                self.assertEqual(hand in one.tells, not same, (one.named, hand))
        loose = row.taken_for[0]
        self.assertEqual(loose.untried, sum(not set(hands) & set(loose.tells) for hands in (["read"], ["wipe"])))

    def test_few_tries_say_nothing_and_many_say_which(self):
        def verdict(found, of):
            return class_drill(tries(*((str(k), "bridged" if k < found else "loose") for k in range(of))))[0].verdict

        self.assertEqual([verdict(*case) for case in ((0, 1), (1, 1), (3, 6), (1, 8), (7, 8))],
                         ["few", "few", "few", "not_yet", "found"])  # fmt: skip

    def test_what_is_not_found_comes_first_and_what_the_drill_does_not_know_is_left_out(self):
        rows = tries(*((str(k), "loose") for k in range(6)))
        rows += tries(*((str(k), "open_clip") for k in range(6)), fault="open_clip")
        rows += [Try("a", "zero", "turned", "turned", ()), Try("a", "nothing", "bridged", "bridged", ())]
        rows += [Try("a", "zero", "bridged", "digit", ()), Try("a", "zero", "bridged", "loose", ("shout",))]
        self.assertEqual([one.known for one in rows[-4:]], [False] * 4)
        found = class_drill(rows)
        self.assertEqual([(row.fault, row.devices) for row in found], [("bridged", 6), ("open_clip", 6)])
        self.assertEqual(class_drill([]), [])

    def test_guessing_is_said_to_find_one_of_as_many_as_there_are_causes(self):
        for symptom, group in GROUPS.items():
            (row,) = class_drill(tries(("a", group[0]), symptom=symptom, fault=group[0]))
            self.assertAlmostEqual(row.guess * len(group), 1.0)


class Simulated(unittest.TestCase):
    def test_who_never_follows_the_wires_does_not_find_what_only_the_wires_tell(self):
        rng, symptoms = np.random.default_rng(3), ["minus"]
        blind = [simulated_try(rng, str(k), symptoms, ("wires", "swap", "rub"), 4) for k in range(300)]
        seeing = [simulated_try(rng, str(k), symptoms, (), 9) for k in range(300)]
        shares = [[row.found / row.devices for row in class_drill(tries)] for tries in (blind, seeing)]
        self.assertLess(min(shares[0]), 0.6)
        self.assertGreater(min(shares[1]), 0.75)
        heedless = class_drill(simulated_try(rng, str(k), symptoms, (), 9, 1.0) for k in range(400))
        for row in heedless:
            self.assertAlmostEqual(row.found / row.devices, row.guess, delta=0.15)
        self.assertEqual({hand for one in blind for hand in one.hands} & {"wires", "swap", "rub"}, set())


class Interval(unittest.TestCase):
    def test_it_lies_near_that_of_wilson_by_scipy(self):
        for devices in (8, 12, 30):
            for found in range(1, devices):
                low, high, _ = share_found(found, devices)
                other = binomtest(found, devices).proportion_ci(LEVEL, method="wilson")
                self.assertAlmostEqual(low, other.low, delta=0.06)
                self.assertAlmostEqual(high, other.high, delta=0.06)

    def test_nine_of_ten_intervals_hold_the_true_share(self):
        rng = np.random.default_rng(7)
        held = []
        for share in rng.uniform(0.05, 0.95, 400):
            low, high, _ = share_found(int(rng.binomial(12, share)), 12)
            held.append(low <= share <= high)
        self.assertAlmostEqual(float(np.mean(held)), LEVEL, delta=0.04)

    def test_none_and_all_reach_to_the_end(self):
        self.assertEqual((share_found(0, 5)[0], share_found(5, 5)[1]), (0.0, 1.0))


if __name__ == "__main__":
    unittest.main()

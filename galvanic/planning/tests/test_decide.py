"""A plan made to decide, against drawing the classes anew and against plans that nobody made to decide."""

import unittest
from dataclasses import replace

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.hypotheses import hypotheses_on, made_of, usual_noise_v2, usual_spread_v2, weighed_accounts
from galvanic.planning.decide import decided, made_to_decide, telling_cells
from galvanic.planning.design import Task, design, judge
from galvanic.statistics.hypotheses import DECIDED, SHARED_V, Hypothesis, shared_prior, weigh
from galvanic.statistics.scoring import Values

JUICE = "lemon-juice"
PLATES = ("zinc", "tin", "copper", "graphite")
TASK = Task(PLATES, (JUICE,), 2, 4)


def drawn(hands, classes, seed):
    """In how many of a hundred classes, drawn and weighed one by one, the accounts are decided between."""
    rows = [(cell, group) for group, hand in enumerate(hands) for cell in hand]
    names, answered = weighed_accounts([cell for cell, _ in rows])
    rows = [row for row in rows if row[0] in answered]
    cells, owner = [cell for cell, _ in rows], np.array([group for _, group in rows])
    made, of = made_of(cells), hypotheses_on(cells, names)
    spread = usual_spread_v2(made, owner)
    rng = np.random.default_rng(seed)
    ends = []
    for _ in range(classes):
        holds: Hypothesis = of[int(rng.integers(len(of)))]
        tau = rng.choice(SHARED_V, p=shared_prior())
        covariance = holds.covariance_v2 + spread + tau**2 * (made @ made.T)
        measured = rng.multivariate_normal(holds.says_v, covariance, method="cholesky")
        ends.append(max(weigh(Values(measured, made, spread, len(hands)), of).now.values()))
    return 100.0 * float(np.mean(np.array(ends) >= DECIDED))


class MadeToDecide(unittest.TestCase):
    def test_the_stated_share_comes_when_classes_are_drawn_and_weighed_one_by_one(self):
        for places in (4, 6):
            hands = design(Task(("magnesium", "zinc", "steel", "copper"), (JUICE,), 3, places)).hands
            self.assertAlmostEqual(decided(hands), drawn(hands, 600, seed=places), delta=9.0)  # 200 draws: ± 3.5, twice

    def test_it_decides_more_often_and_keeps_every_limit(self):
        before = design(TASK)
        asked, made = made_to_decide(TASK, before)
        self.assertGreater(decided(made.hands), decided(before.hands) + 20.0)
        self.assertTrue(all(len(hand) <= TASK.places for hand in made.hands))
        self.assertEqual(made.hands, design(asked).hands)
        for cell, n in asked.wished.items():
            self.assertEqual(made.counts[cell], n)
        self.assertIsNone(made_to_decide(asked, made))

    def test_what_is_banned_or_pinned_stays_so(self):
        banned = telling_cells(TASK, 1)[0]
        pinned = {0: (Cell("zinc", JUICE, "tin"),)}
        task = Task(PLATES, (JUICE,), 2, 4, wished={banned: 0}, pinned=pinned)
        found = made_to_decide(task, design(task))
        for hands in (design(task).hands, *([found[1].hands] if found else [])):
            self.assertNotIn(banned, [cell for hand in hands for cell in hand])
            self.assertIn(pinned[0][0], hands[0])

    def test_there_is_nothing_to_decide_where_no_two_accounts_answer(self):
        self.assertIsNone(decided([(Cell("graphite", JUICE, "graphite"),)]))
        self.assertIsNone(decided([]))
        two = Task(("zinc", "copper"), (JUICE,), 2, 3)
        none_left = replace(two, wished={two.cells[0]: 0})
        self.assertEqual(telling_cells(none_left, 3), [])
        self.assertIsNone(made_to_decide(none_left, judge(none_left, [(), ()])))


class Spread(unittest.TestCase):
    def test_one_value_spreads_as_the_usual_noise(self):
        made = made_of([Cell("zinc", JUICE, "copper")])
        self.assertAlmostEqual(float(usual_spread_v2(made, [0])[0, 0]), usual_noise_v2(), places=12)

    def test_only_values_of_one_group_spread_together(self):
        cells = [Cell("zinc", JUICE, "copper"), Cell("zinc", JUICE, "tin"), Cell("zinc", JUICE, "copper")]
        spread = usual_spread_v2(made_of(cells), [0, 0, 1])
        self.assertGreater(spread[0, 1], 0.0)
        self.assertEqual((spread[0, 2], spread[1, 2]), (0.0, 0.0))

"""Half-reactions balance, and are written for the liquid they run in."""

import unittest
from itertools import permutations

from galvanic.cells import Cell
from galvanic.chemistry.equations import for_ph, sides, unbalanced
from galvanic.chemistry.plate_work import at_plates
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions

CUPRITE = "Cu₂O + H₂O + 2 e⁻ → 2 Cu + 2 OH⁻"


class Equations(unittest.TestCase):
    def test_every_half_reaction_of_the_tables_balances_as_it_stands_and_at_every_ph(self):
        for key, half in half_reactions().items():
            self.assertEqual(unbalanced(half.equation), {}, key)
            for ph in (2.3, 7.0, 13.0):
                one = for_ph(half.equation.replace("⇌", "→"), ph)
                self.assertEqual(unbalanced(one), {}, one)
                self.assertNotIn("OH⁻" if ph < 7.0 else "H⁺", {of for side in sides(one) for of in side}, one)

    def test_cuprite_takes_protons_in_juice_and_gives_hydroxide_in_soda(self):
        # Cu₂O + 2 H⁺ + 2 e⁻ → 2 Cu + H₂O: as textbooks have it for acid (from memory).
        self.assertEqual(for_ph(CUPRITE, 2.3), "Cu₂O + 2 H⁺ + 2 e⁻ → 2 Cu + H₂O")
        self.assertEqual(for_ph(CUPRITE, 9.0), CUPRITE)
        self.assertEqual(for_ph("O₂ + 4 H⁺ + 4 e⁻ → 2 H₂O", 9.0), "O₂ + 2 H₂O + 4 e⁻ → 4 OH⁻")

    def test_what_does_not_balance_is_named(self):
        self.assertEqual(unbalanced("Zn → Zn²⁺ + e⁻"), {"charge": 1})
        self.assertEqual(unbalanced("O₂ + 2 H⁺ + 2 e⁻ → H₂O"), {"O": -1})
        self.assertEqual(unbalanced("Zn(OH)₄²⁻ + 2 e⁻ → Zn + 4 OH⁻"), {})

    def test_whatever_is_shown_of_a_plate_balances_and_is_written_for_its_liquid(self):
        plates = [key for key, plate in electrodes().items() if plate.couple][:9]
        for liquid, row in electrolytes().items():
            acid = 0.5 * (row.ph.low + row.ph.high) < 7.0
            for low, high in list(permutations(plates, 2))[::7]:
                found = at_plates(Cell.of(low, liquid, high))
                for work in (*found.at_negative, *found.at_positive):
                    if "→" not in work.equation or "quinone" in work.equation:
                        continue
                    self.assertEqual(unbalanced(work.equation), {}, (liquid, work.equation))
                    self.assertNotIn("OH⁻" if acid else "H⁺", {of for side in sides(work.equation) for of in side}, liquid)
                    self.assertTrue(0.0 < work.share <= 1.0 and work.what_is_seen)

    def test_magnesium_bubbles_at_the_negative_plate_in_juice_and_copper_does_not(self):
        found = at_plates(Cell.of("magnesium", "lemon-juice", "copper"))
        self.assertEqual(found.negative, "magnesium")
        gas = [work for work in found.at_negative if "H₂" in work.equation]
        self.assertEqual(len(gas), 1)
        self.assertGreater(gas[0].share, 0.1)
        tin = at_plates(Cell.of("tin", "kcl-0.10", "copper"))
        self.assertEqual([work for work in tin.at_negative if "H₂" in work.equation], [])

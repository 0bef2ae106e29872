"""Single lines of a table as somebody says they are."""

import unittest

from galvanic.bench.readings_table import look_at
from galvanic.bench.table_mended import FIRST, MOST, Mending, mended, to_mend

HEAD = ["group", "red", "black", "electrolyte", "volts"]
CELL = ["copper", "zinc", "lemon juice"]
ROWS = [(1, HEAD), (2, ["Tern", *CELL, "0.94"]), (3, ["Knot", *CELL, "O.95"]), (4, ["Knot", *CELL, "0.93"])]


class Mended(unittest.TestCase):
    def test_a_cell_that_is_mended_is_read_and_the_table_stays(self):
        self.assertEqual([line for line, _ in look_at(ROWS, 100).faults], [3])
        looked = look_at(ROWS, 100, mending=Mending(cells={(3, 4): "0.95"}))
        self.assertEqual(([one.parsed.text for one in looked.readings], looked.faults), (["0.94", "0.95", "0.93"], ()))
        self.assertEqual(ROWS[2][1][4], "O.95")

    def test_a_line_that_is_left_out_is_not_read_and_the_others_keep_their_numbers(self):
        looked = look_at(ROWS, 100, mending=Mending(without=frozenset({3})))
        self.assertEqual([one.line for one in looked.readings], [2, 4])

    def test_a_heading_that_is_chosen_is_one_whatever_stands_below(self):
        above = [(1, ["who", "plus", "minus", "juice", "meter"]), *[(line + 1, row) for line, row in ROWS]]
        self.assertEqual(look_at(above, 100).headings[0].text, "group")  # looked for, it is the line that names the most
        means = dict(zip(above[0][1], HEAD, strict=True))
        chosen = look_at(above, 100, means, mending=Mending(heading=1, without=frozenset({2, 4})))
        self.assertEqual(chosen.headings[0].text, "who")
        self.assertEqual([one.line for one in chosen.readings], [3, 5])
        self.assertEqual(mended(above, Mending(heading=2))[0], (2, HEAD))

    def test_lines_worth_a_look_are_the_first_those_with_something_amiss_and_those_left_out(self):
        many = [(n + 1, [str(n)]) for n in range(200)]
        mending = Mending(cells={(90, 0): "x"}, without=frozenset({150}))
        lines = to_mend(many, mending, [100])
        self.assertEqual([one.line for one in lines], [*range(1, FIRST + 1), 90, 100, 150])
        self.assertEqual(
            [(one.fields, one.out) for one in lines[-3:]], [(("x",), False), (("99",), False), (("149",), True)]
        )
        self.assertEqual(len(to_mend(many, mending, range(1, 200))), MOST)

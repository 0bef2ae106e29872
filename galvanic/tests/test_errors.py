"""Errors say in fields, for programs, what their sentence says for people."""

import math
import unittest

from galvanic.cells import Cell
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.what_if import Change
from galvanic.errors import GalvanicError, OutOfRange, UnknownMaterial, within
from galvanic.planning.schedule import Steps
from galvanic.reference.catalogue import electrodes
from galvanic.reference.names import find


class Fields(unittest.TestCase):
    def test_a_value_past_a_limit_names_its_field_its_value_and_that_limit(self):
        cases = (
            (lambda: Change(ph=15.0), "ph", 15.0, 14.0),
            (lambda: Change(celsius=-4.0), "celsius", -4.0, 5.0),
            (lambda: Change(meter_ohm=0.0), "meter_ohm", 0.0, 1.0),
            (lambda: Steps(settle=601.0), "settle", 601.0, 600.0),
            (lambda: LoadedCell.of(Cell("zinc", "lemon-juice", "copper")).at_load(-1.0), "load_ohm", -1.0, 0.0),
        )
        for wrong, field, value, limit in cases:
            with self.subTest(field), self.assertRaises(OutOfRange) as caught:
                wrong()
            error = caught.exception
            self.assertEqual((error.field, error.value, error.limit), (field, value, limit))

    def test_what_is_no_number_is_within_nothing(self):
        with self.assertRaises(OutOfRange):
            within("x", math.nan, 0.0, 1.0, "No number.")
        within("x", 1.0, 0.0, 1.0, "The limit itself is within.")

    def test_an_unknown_name_comes_with_what_was_typed_and_the_nearest(self):
        with self.assertRaises(UnknownMaterial) as caught:
            find("zync", electrodes(), "electrode")
        self.assertEqual((caught.exception.value, caught.exception.nearest[0]), ("zync", "zinc"))
        self.assertEqual(GalvanicError("Said.").field, "")

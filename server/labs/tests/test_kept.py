"""Answers that are kept: never older than the last change, each visitor's own, made once for many."""

import threading
import time
import uuid
from types import SimpleNamespace
from unittest import mock

from django.test import SimpleTestCase, TestCase
from pydantic import BaseModel

from server.base import kept
from server.base.live import Hub
from server.labs.changes import announce
from server.labs.models import Lab
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, teacher


class Said(BaseModel):
    n: int


def lab_like(state="open", changes=0):
    return SimpleNamespace(id=uuid.uuid4(), state=state, changes=changes)


class Answers(SimpleTestCase):
    def setUp(self):
        self.made = 0

    def make(self):
        self.made += 1
        return Said(n=self.made)

    def ask(self, lab, whose="board"):
        return kept.answer_json(lab, whose, self.make)

    def test_the_same_question_is_answered_once_until_something_changes(self):
        lab = lab_like()
        self.assertEqual([self.ask(lab), self.ask(lab)], [b'{"n":1}', b'{"n":1}'])
        lab.changes += 1
        self.assertEqual(self.ask(lab), b'{"n":2}')

    def test_other_visitors_and_other_labs_get_their_own(self):
        lab = lab_like()
        self.assertEqual(self.ask(lab, ("bench", 1)), b'{"n":1}')
        self.assertEqual(self.ask(lab, ("bench", 2)), b'{"n":2}')
        self.assertEqual(self.ask(lab_like(), ("bench", 1)), b'{"n":3}')

    def test_what_depends_on_the_time_is_made_anew_after_two_seconds(self):
        lab = lab_like()
        self.ask(lab)
        later = time.monotonic() + kept.FRESH_S + 0.1
        with mock.patch.object(kept.time, "monotonic", return_value=later):
            self.assertEqual(self.ask(lab), b'{"n":2}')

    def test_a_lab_that_is_not_open_is_never_kept(self):
        lab = lab_like("draft")
        self.assertEqual([self.ask(lab), self.ask(lab)], [b'{"n":1}', b'{"n":2}'])

    def test_who_comes_while_it_is_made_waits_and_does_not_make_it_again(self):
        lab, answers = lab_like(), []

        def slowly():
            time.sleep(0.05)
            return self.make()

        def ask():
            answers.append(kept.answer_json(lab, "board", slowly))

        threads = [threading.Thread(target=ask) for _ in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(10)
        self.assertEqual((self.made, answers), (1, [b'{"n":1}'] * 6))

    def test_a_failure_is_not_kept(self):
        lab = lab_like()

        def fail():
            raise ValueError

        with self.assertRaises(ValueError):
            kept.answer_json(lab, "board", fail)
        self.assertEqual(self.ask(lab), b'{"n":1}')

    def test_results_are_made_once_for_each_change_and_the_oldest_are_let_go(self):
        lab = lab_like("closed")
        self.assertEqual([kept.made_once(lab, "x", lambda: self.make().n) for _ in range(3)], [1, 1, 1])
        self.assertEqual(kept.made_once(lab, "y", lambda: self.make().n), 2)
        for _ in range(kept.MOST):
            kept.made_once(lab_like("closed"), "x", lambda: self.make().n)
        before = self.made
        kept.made_once(lab, "x", lambda: self.make().n)
        self.assertEqual(self.made, before + 1)


class Groups(SimpleTestCase):
    def setUp(self):
        self.lab, self.asked = lab_like(), []
        self.tern, self.knot = (SimpleNamespace(id=uuid.uuid4(), changes=0, name=name) for name in ("tern", "knot"))

    def names(self):
        def make(groups):
            self.asked.append([group.name for group in groups])
            return {group.id: group.name.upper() for group in groups}

        return kept.made_of_each(self.lab, "hand", [self.tern, self.knot], make)

    def test_only_groups_that_have_changed_are_asked_for_again(self):
        self.names()
        self.knot.changes += 1
        for _ in range(2):
            self.assertEqual(self.names(), ["TERN", "KNOT"])
        self.assertEqual(self.asked, [["tern", "knot"], ["knot"]])

    def test_who_came_with_an_older_count_gets_the_newer_thing(self):
        self.tern.changes = 5
        self.names()
        self.tern.changes = 4
        self.names()
        self.assertEqual(len(self.asked), 1)

    def test_nothing_is_kept_of_a_lab_that_is_not_open(self):
        self.lab.state = "closed"
        self.names()
        self.names()
        self.assertEqual(self.asked, [["tern", "knot"]] * 2)


class Changes(TestCase):
    """Every change that a page shows raises the lab's count, so nobody is shown something old."""

    def setUp(self):
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.tern = group_of(self.lab)

    def test_board_and_bench_show_a_reading_at_once(self):
        board, bench = as_teacher(self.ada), as_group(self.tern)
        for text in ("0.91", "0.92"):
            board.get(f"/api/labs/{self.lab.id}/board")
            bench.get("/api/bench")
            record(cell_of(self.tern), text)
            seen = board.get(f"/api/labs/{self.lab.id}/board").json()["just_in"][0]["reading"]["text"]
            own = bench.get("/api/bench").json()["cells"][0]["readings"][-1]["text"]
            self.assertEqual((seen, own), (text, text))

    def counts(self):
        return [Lab.objects.get(id=self.lab.id).changes, *(group_of(self.lab, name).changes for name in ("Tern", "Knot"))]

    def test_a_change_counts_for_its_group_or_for_all_and_never_elsewhere(self):
        other = group_of(lab_of(self.ada, title="Other"))
        before, elsewhere = self.counts(), other.changes
        announce(self.lab.id)
        announce(self.lab.id, self.tern.id)
        self.assertEqual([after - count for after, count in zip(self.counts(), before, strict=True)], [2, 2, 1])
        other.refresh_from_db()
        self.assertEqual(other.changes, elsewhere)

    def test_a_reading_costs_the_board_the_same_few_queries_however_many_groups_there_are(self):
        lab = lab_of(self.ada, [f"Group {n}" for n in range(8)])
        board = as_teacher(self.ada)
        board.get(f"/api/labs/{lab.id}/board")
        for name in ("Group 1", "Group 5"):
            record(cell_of(group_of(lab, name)))
            # session, teacher, own materials, lab, groups; of the one group: cells, readings, asked, meter check, set aside; wrong PINs
            with self.assertNumQueries(10):
                board.get(f"/api/labs/{lab.id}/board")


class Told(SimpleTestCase):
    """Whom a change wakes."""

    def woken(self, what):
        hub = Hub()
        queues = {name: mock.Mock(full=lambda: False) for name in ("teacher", "tern", "knot", "elsewhere")}
        hub.queues = {
            "lab": {queues["teacher"]: "", queues["tern"]: "tern", queues["knot"]: "knot"},
            "other": {queues["elsewhere"]: ""},
        }
        hub.tell(what)
        return {name for name, queue in queues.items() if queue.put_nowait.called}

    def test_a_groups_own_change_wakes_it_and_the_teacher_only(self):
        self.assertEqual(self.woken("lab tern"), {"teacher", "tern"})

    def test_a_change_of_the_lab_wakes_all_of_it_and_nobody_else(self):
        self.assertEqual(self.woken("lab"), {"teacher", "tern", "knot"})
        self.assertEqual(self.woken("nowhere"), set())

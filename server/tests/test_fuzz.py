"""The API fuzzed by its own schema, as a teacher, a group and a stranger: no 5xx, and no answer outside the schema.

Bounded and seeded: the same requests on every machine. What a request changes is rolled back, so that each meets the same lab.
"""

import contextlib
import json
import logging
import random
import tempfile
import uuid
from collections import Counter
from pathlib import Path
from unittest import mock

import schemathesis
from django.core.signals import request_finished, request_started
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections, transaction
from django.test import TestCase, override_settings
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi import checks as openapi

from server.config.api import api
from server.entries.models import Reading
from server.people.models import Group
from server.tests.support import as_group, as_teacher, cell_of, group_of, lab_of, record, teacher

EXAMPLES = 2  # right and wrong ones for each of about 150 operations
CHECKS = [not_a_server_error, openapi.status_code_conformance, openapi.response_schema_conformance]
TOKEN = "f" * 32


class Undo(Exception):
    """Takes back what an example changed."""


class Fuzz(TestCase):
    def setUp(self):
        self.enterContext(override_settings(PHOTO_DIR=Path(self.enterContext(tempfile.TemporaryDirectory()))))
        self.enterContext(mock.patch("server.config.threads.TURNED_AWAY_S", 0))
        ada = teacher()
        self.lab = lab_of(ada, short_circuit=True, load_ohm=1000.0)
        self.draft = lab_of(ada, groups=("Ruff",), opened=False)
        for group in Group.objects.filter(lab=self.lab):
            record(cell_of(group), "0.94")
        Group.objects.filter(lab=self.lab).update(changes=1)
        cell, group = cell_of(group_of(self.lab)), group_of(self.lab)
        self.known = {
            "lab_id": [self.lab.id, self.draft.id],
            "group_id": [group.id],
            "cell_id": [cell.id, cell_of(group, 2).id],
            "reading_id": [Reading.objects.first().id],
            "group": [group_of(self.lab, "Knot").id],
        }
        self.jars = {
            "teacher": {k: m.value for k, m in as_teacher(ada).cookies.items()},
            "group": {k: m.value for k, m in as_group(group).cookies.items()},
            "stranger": {},
        }
        schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema(), default=str)))
        schema.app = get_wsgi_application()
        self.operations = [get_all_operation.ok() for get_all_operation in schema.get_all_operations()]
        for signal in (request_started, request_finished):  # as Django's own test client does
            signal.disconnect(close_old_connections)
            self.addCleanup(signal.connect, close_old_connections)
        logging.disable(logging.CRITICAL)
        self.addCleanup(logging.disable, logging.NOTSET)

    def with_known_ids(self, case, rng):
        """Most made-up ids lead nowhere: three of four requests get ids of things that are there."""
        for part in (case.path_parameters, case.body):
            for key in set(part or ()) & set(self.known) if isinstance(part, dict) else ():
                if rng.random() < 0.75:
                    part[key] = str(rng.choice(self.known[key]))
        if isinstance(case.body, dict) and "id" in case.body and rng.random() < 0.9:
            case.body["id"] = str(uuid.UUID(int=rng.getrandbits(128), version=4))
        return case

    def fuzz(self, mode, visitors):
        """Ask every operation some times; how many answers of each hundred (2xx, 4xx) each visitor got."""
        answers = {visitor: Counter() for visitor in self.jars}
        for operation in self.operations:
            self.fuzz_one(operation, mode, visitors(operation.path), answers)
        return answers

    def fuzz_one(self, operation, mode, visitors, answers):
        """Ask an operation: every visitor asks the same."""
        rng = random.Random(operation.label)

        @settings(
            max_examples=EXAMPLES, derandomize=True, database=None, deadline=None, phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        @given(case=operation.as_strategy(generation_mode=mode))
        def ask(case):
            case = self.with_known_ids(case, rng)
            for visitor in visitors:
                answers[visitor][self.status(case, visitor) // 100] += 1

        with contextlib.suppress(Unsatisfiable):  # an operation without anything to send has no wrong request
            ask()

    def status(self, case, visitor):
        """What a visitor is answered; what the request changed is taken back."""
        try:
            with transaction.atomic():
                answer = case.call(
                    cookies=self.jars[visitor] | {"csrftoken": TOKEN},
                    headers={"X-CSRFToken": TOKEN, "Accept-Encoding": "identity"},
                )
                case.validate_response(answer, checks=CHECKS)
                raise Undo
        except Undo:
            return answer.status_code
        except Exception as error:
            error.add_note(f"asked by the {visitor}")
            raise

    def test_right_requests_of_each_visitor_are_answered_by_the_schema(self):
        answers = self.fuzz(GenerationMode.POSITIVE, lambda path: self.jars)
        for visitor, least in (("teacher", 70), ("group", 10), ("stranger", 2)):
            self.assertGreaterEqual(answers[visitor][2], least, answers)  # or nothing but refusals was looked at
            self.assertGreater(answers[visitor][4], 20, answers)

    def test_wrong_requests_of_whom_an_operation_is_for_are_refused_by_the_schema(self):
        answers = self.fuzz(GenerationMode.NEGATIVE, lambda path: ["group" if "/bench" in path else "teacher"])
        self.assertGreater(answers["teacher"][4], 100, answers)
        self.assertGreater(answers["group"][4], 20, answers)

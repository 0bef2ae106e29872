"""Django's test runner, closing with the real counts on a line of their own."""

from __future__ import annotations

import atexit
import logging
import tempfile
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test.runner import DiscoverRunner, ParallelTestSuite, RemoteTestResult, RemoteTestRunner
from whitenoise.middleware import WhiteNoiseMiddleware

from server.config.as_served import answer_as_served, grant_when_migrated


def counts(result: unittest.TestResult) -> tuple[int, int, int]:
    """Passed, failed and skipped tests; a test with several failing subtests is one failed test."""
    bad: set[str] = set()
    broken = 0
    for test, _ in [*result.failures, *result.errors]:
        case = getattr(test, "test_case", test)
        if isinstance(case, unittest.TestCase | PlainSubTest):
            bad.add(case.id())
        else:
            broken += 1  # a class or module that could not be set up: it never counted as run
    bad.update(test.id() for test in result.unexpectedSuccesses)
    skipped = len(result.skipped)
    passed = result.testsRun - len(bad) - skipped
    return max(0, passed), len(bad) + broken, skipped


class PlainSubTest:
    """A failed subtest that can be sent between processes: its names without the test case, whose clients cannot."""

    failureException = AssertionError

    def __init__(self, subtest: Any) -> None:
        self.named: str = str(subtest)
        self.told: str | None = subtest.shortDescription()
        self.test_id: str = subtest.test_case.id()

    def __str__(self) -> str:
        return self.named

    def shortDescription(self) -> str | None:
        return self.told

    def id(self) -> str:
        return self.test_id


class PlainRemoteResult(RemoteTestResult):
    """Reports failed subtests by name, so that a failure in a parallel run is shown instead of ending the run."""

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        super().addSubTest(test, subtest if err is None else PlainSubTest(subtest), err)


class PlainRemoteRunner(RemoteTestRunner):
    """Runs tests in a process of its own."""

    resultclass = PlainRemoteResult


class PlainParallelSuite(ParallelTestSuite):
    """Several processes."""

    runner_class = PlainRemoteRunner


def found_once(find: Callable[[Any], None]) -> Callable[[Any], None]:
    """Every test's client has a server of its own: the built files are looked through for the first only."""
    files: dict[str, Any] = {}

    def known(server: Any) -> None:
        if not files:
            find(server)
            files.update(server.files)
        server.files = files

    return known


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed, N skipped` last."""

    parallel_test_suite = PlainParallelSuite

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        for noisy in ("pipette", "django.security"):
            logging.getLogger(noisy).setLevel(logging.CRITICAL)
        folder = tempfile.TemporaryDirectory(prefix="pipette-photos-")
        atexit.register(folder.cleanup)
        settings.PHOTO_DIR = Path(folder.name)
        settings.BESIDE = False  # a thread would not see what a test has not committed
        WhiteNoiseMiddleware.add_files_from_finders = found_once(WhiteNoiseMiddleware.add_files_from_finders)
        answer_as_served()
        # Slow hashing is the point in use and only a cost here.
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

    def setup_databases(self, **kwargs: Any) -> Any:
        stop = grant_when_migrated()
        try:
            return super().setup_databases(**kwargs)
        finally:
            stop()

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        passed, failed, skipped = counts(result)
        self.closing = f"{passed} passed, {failed} failed, {skipped} skipped"
        self.closing_failed = failed
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        try:
            return super().run_tests(test_labels, **kwargs)
        finally:
            print(getattr(self, "closing", "0 passed, 1 failed, 0 skipped"), flush=True)  # noqa: T201

"""The page before its scripts are here: the form to join lets in, or says why not and keeps what was typed."""

from unittest import mock

from django.test import Client, TestCase

from server.config import page
from server.people.models import GroupSession
from server.tests.support import group_of, lab_of, teacher

BUILT = {"script": "app/a.js", "styles": [], "preload": ["app/b.js"], "bench": ["app/b.js", "app/c.js"], "language": "en"}


class JoinWithoutScripts(TestCase):
    def setUp(self):
        self.enterContext(mock.patch.object(page, "built", lambda language: BUILT | {"language": language}))
        self.lab = lab_of(teacher())
        self.group = group_of(self.lab)
        self.device = Client(enforce_csrf_checks=True)

    def send(self, code, pin, **more):
        token = self.device.get("/join").cookies["csrftoken"].value
        return self.device.post("/join", {"code": code, "pin": pin, "csrfmiddlewaretoken": token}, **more)

    def test_the_right_code_and_pin_open_the_bench(self):
        answer = self.send(self.lab.join_code.lower(), self.group.pin)
        self.assertRedirects(answer, "/bench", fetch_redirect_response=False)
        self.assertEqual(GroupSession.objects.get().group, self.group)
        self.assertEqual(answer.cookies[page.JOINED]["max-age"], 60)
        self.assertEqual(self.device.get("/api/bench").status_code, 200)

    def test_who_joins_again_is_in_one_group_only(self):
        other = group_of(self.lab, "Knot")
        self.send(self.lab.join_code, self.group.pin)
        self.send(self.lab.join_code, other.pin)
        self.assertEqual(self.device.get("/api/who").json()["group"], other.name)
        self.assertEqual(GroupSession.objects.filter(ended_at__isnull=True).count(), 1)

    def test_a_wrong_pin_is_said_and_what_was_typed_stays(self):
        answer = self.send(self.lab.join_code, "000000000000")
        self.assertContains(answer, "No open lab has that code and PIN", status_code=404)
        self.assertContains(answer, f'value="{self.lab.join_code}"', status_code=404)
        self.assertContains(answer, 'value="000000000000"', status_code=404)
        self.assertFalse(GroupSession.objects.exists())
        german = self.send(self.lab.join_code, "1", headers={"accept-language": "de"})
        self.assertContains(german, "Kein offener Versuch hat diesen Code", status_code=404)

    def test_guessing_here_is_slowed_down_as_it_is_for_programs(self):
        answers = [self.send(self.lab.join_code, str(pin)).status_code for pin in range(1000, 1060)]
        self.assertEqual(answers[0], 404)
        self.assertIn(429, answers)

    def test_what_is_typed_stays_text(self):
        for answer in (self.send('"><b id="x">', "<i>"), self.device.get("/join", {"code": '"><b id="x">'})):
            self.assertNotIn('<b id="x">', answer.content.decode())

    def test_without_its_token_nothing_is_done(self):
        answer = self.device.post("/join", {"code": self.lab.join_code, "pin": self.group.pin})
        self.assertEqual((answer.status_code, GroupSession.objects.count()), (403, 0))

    def test_the_page_says_which_version_serves_it(self):
        self.assertContains(self.device.get("/bench"), f'<meta name="version" content="{page.VERSION}">')

    def test_other_pages_only_say_that_they_are_coming(self):
        for path in ("/", "/bench", "/labs"):
            answer = self.device.get(path)
            self.assertContains(answer, "One moment…")
            self.assertNotContains(answer, "<form")
            self.assertEqual("app/c.js" in answer.content.decode(), path == "/bench")
        self.assertEqual(Client().post("/bench").status_code, 405)

"""A question to the class: asked at the desk, answered on phones without a name, shown on the wall when it is over."""

import re

from playwright.sync_api import expect

from e2e.browser import LAPTOP, PHONE
from e2e.live import BrowserTestCase
from server.asking.models import ClassAnswer, ClassQuestion
from server.tests.support import lab_of, teacher


class Asked(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.ada = teacher()
        self.lab = lab_of(self.ada)
        self.desk = self.device(LAPTOP)
        self.signed_in(self.desk, "ada")

    def ask(self, ready):
        self.desk.goto(f"/labs/{self.lab.id}/ask")
        self.desk.get_by_role("button", name=re.compile("Begin with")).click()
        self.desk.get_by_role("option", name=ready).click()
        self.desk.get_by_role("button", name="Ask the class").click()
        self.desk.get_by_role("link", name="On the wall").wait_for()
        return ClassQuestion.objects.get(ended_at=None)

    def test_two_phones_answer_one_changes_its_mind_and_the_wall_waits_for_the_end(self):
        asked = self.ask("What gives one cell more volts?")
        for choice in ("bigger plates", "two metals"):
            phone = self.device(PHONE, touch=True)
            phone.goto(f"/answer?code={asked.code}")
            phone.get_by_role("button", name="Send the answer").click()
            expect(phone.get_by_role("alert")).to_contain_text("Choose one first")
            phone.get_by_text(re.compile(choice)).click()
            phone.get_by_role("button", name="Send the answer").dblclick()
            expect(phone.get_by_role("status")).to_contain_text("Sent: ")
        self.assertEqual(ClassAnswer.objects.count(), 2)
        wall = self.device(LAPTOP)
        self.signed_in(wall, "ada")
        wall.goto(f"/labs/{self.lab.id}/ask/projector")
        expect(wall.get_by_text("2 answers, one a device")).to_be_visible()
        expect(wall.get_by_text("1 of 2")).to_have_count(0)
        phone.get_by_role("button", name="Change the answer").click()
        phone.get_by_text("bigger plates").click()
        phone.get_by_role("button", name="Send the answer").click()
        expect(self.desk.get_by_text("2 of 2")).to_be_visible()
        expect(self.desk.get_by_text("Bigger plates, more volts")).to_be_visible()
        self.desk.get_by_role("button", name="End it and show the sums").click()
        expect(wall.get_by_text("2 of 2")).to_be_visible()
        self.check_access(self.desk)

    def test_words_stay_on_the_phone_while_the_network_is_away(self):
        asked = self.ask("What is still unclear to you?")
        phone = self.device(PHONE, touch=True)
        phone.goto(f"/answer?code={asked.code}")
        phone.get_by_label("Your answer").fill("where the ions go")
        phone.context.set_offline(True)
        phone.get_by_role("button", name="Send the answer").click()
        expect(phone.get_by_role("alert")).to_be_visible()
        expect(phone.get_by_label("Your answer")).to_have_value("where the ions go")
        phone.context.set_offline(False)
        phone.get_by_role("button", name="Send the answer").click()
        expect(phone.get_by_role("status")).to_contain_text("where the ions go")
        expect(self.desk.get_by_text("where the ions go")).to_be_visible()
        self.check_access(phone)

"""Browser tests on the demo's labs."""

from e2e.live import BrowserTestCase
from server.labs.models import Lab
from server.people.models import Teacher
from server.practise.services import TEACHER, make_demo


class DemoTestCase(BrowserTestCase):
    """The demo as it is started, its labs by what they are."""

    def setUp(self) -> None:
        super().setUp()
        make_demo()
        self.teacher = Teacher.objects.get(username=TEACHER)
        self.labs = {lab.title: lab for lab in self.teacher.labs.all()}
        self.closed = self.labs["Tidewater cell survey"]
        self.running = next(lab for lab in self.labs.values() if lab.state == Lab.State.OPEN)
        self.draft = next(lab for lab in self.labs.values() if lab.state == Lab.State.DRAFT)

"""Every button of every page, pressed twice before anything can answer: one deed each, and no page breaks."""

from collections import defaultdict
from urllib.parse import urlsplit

from playwright.sync_api import Page, Request, Response

from e2e.browser import PHONE
from e2e.kept_pages import plain
from e2e.live import BrowserTestCase
from server.labs.models import Lab
from server.people.models import Group, Teacher
from server.practise.services import TEACHER, make_demo

# Buttons of the page itself (no list to open, no file to choose), by what they are called; the n-th of a name is its own.
BUTTONS = """() => {
  const all = [...document.querySelectorAll("main button, aside button")];
  return all.filter((one) => one.checkVisibility() && !one.disabled && !one.ariaHasPopup && one.type !== "reset"
    && one.getAttribute("aria-disabled") !== "true")
    .map((one) => (one.ariaLabel || one.textContent || "").trim());
}"""
PRESS_TWICE = """([name, nth]) => {
  const all = [...document.querySelectorAll("main button, aside button")].filter((one) =>
    one.checkVisibility() && !one.disabled && (one.ariaLabel || one.textContent || "").trim() === name);
  const button = all[nth];
  if (!button) return false;
  button.click(); button.click();
  return true;
}"""
QUIETLY = "window.print = () => {}; window.confirm = () => false;"
SAME = 2  # of the buttons of one name: a table has one in each row
ENDS = ("Sign out", "Leave this bench", "Delete for good")  # the page is over with them
BROKEN = "Something went wrong"
IN_ROUNDS = '"kind":"improve"'  # a better plan is looked for round by round


class EveryButton(BrowserTestCase):
    def setUp(self):
        super().setUp()
        make_demo()
        self.wrong: list[str] = []
        self.writing: list[Request] = []
        self.under_way: set[Request] = set()
        self.pressed = 0

    def listen(self, page: Page) -> Page:
        page.add_init_script(QUIETLY)
        page.on("request", self.sent)
        page.on("response", self.answered)
        page.on("requestfinished", lambda one: self.under_way.discard(one))
        page.on("requestfailed", lambda one: self.under_way.discard(one))
        return page

    def sent(self, request: Request) -> None:
        if request.method != "GET" and "/api/" in request.url:
            self.writing.append(request)
            self.under_way.add(request)

    def settle(self, page: Page) -> None:
        """Wait until nothing that was pressed is under way any more, what waits for its turn among it."""
        quiet = 0
        while quiet < 3:
            page.wait_for_timeout(60)
            quiet = 0 if self.under_way else quiet + 1

    def answered(self, response: Response) -> None:
        if response.status >= 500:
            self.wrong.append(f"{response.request.method} {urlsplit(response.url).path}: {response.status}")

    def press_all(self, page: Page, path: str) -> None:
        """Press each button of a page twice; after one that has changed the page it is opened anew."""
        self.open(page, path)
        names = page.evaluate(BUTTONS)
        count: dict[str, int] = defaultdict(int)
        for name in names:
            nth = count[name]
            count[name] += 1
            if nth >= SAME or name in ENDS or not name:
                continue
            self.writing.clear()
            there = page.evaluate(PRESS_TWICE, [name, nth])
            if not there:
                self.open(page, path)
                there = page.evaluate(PRESS_TWICE, [name, nth])
            if not there:
                continue  # what was pressed before has taken it away, for good
            self.pressed += 1
            self.settle(page)
            self.judge(page, f"{path}: {plain(name)}")
            if urlsplit(page.url).path != urlsplit(self.url + path).path or page.get_by_role("dialog").count():
                self.open(page, path)

    def judge(self, page: Page, what: str) -> None:
        """One press too many is one deed: what makes something is sent once, or again with the same id."""
        if page.get_by_text(BROKEN).count():
            self.wrong.append(f"{what}: the page broke")
        made = defaultdict(set)
        for one in self.writing:
            if one.method == "POST" and IN_ROUNDS not in (one.post_data or ""):
                made[urlsplit(one.url).path].add(one.post_data or "")
        self.wrong += [f"{what}: {path} was sent as {sorted(said)}" for path, said in made.items() if len(said) > 1]

    def open(self, page: Page, path: str) -> None:
        page.goto(path)
        page.get_by_role("heading").first.wait_for()
        page.wait_for_load_state("networkidle")

    def test_a_teachers(self):
        teacher = Teacher.objects.get(username=TEACHER)
        labs = {lab.title: lab for lab in teacher.labs.all()}
        closed = labs["Tidewater cell survey"].id
        running = next(lab.id for lab in labs.values() if lab.state == Lab.State.OPEN)
        draft = next(lab.id for lab in labs.values() if lab.state == Lab.State.DRAFT)
        page = self.listen(self.device())
        self.signed_in(page, TEACHER)
        of_lab = [
            *(f"/labs/{closed}/{part}" for part in ("board", "compare", "explain", "claims", "power", "report", "notebook")),
            *(f"/labs/{running}/{part}" for part in ("board", "compare", "explain", "power")),
            *(f"/labs/{draft}/{part}" for part in ("safety", "kit", "plan", "setup")),
        ]
        for path in ("/labs", "/labs/new", "/materials", "/practise", "/school", "/account", *of_lab):
            self.press_all(page, path)
        self.assertEqual(self.wrong, [])
        self.assertGreater(self.pressed, 150)

    def test_a_groups(self):
        running = Lab.objects.get(state=Lab.State.OPEN)
        page = self.listen(self.device(PHONE, touch=True))
        self.joined(page, Group.objects.filter(lab=running).order_by("position").first())
        for path in (
            "/bench/1",
            "/bench/5",
            "/bench/packs",
            "/bench/notebook",
            "/bench/results",
            "/bench/explain",
            "/practise",
        ):
            self.press_all(page, path)
        self.assertEqual(self.wrong, [])
        self.assertGreater(self.pressed, 30)

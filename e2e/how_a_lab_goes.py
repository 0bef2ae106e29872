"""A whole lab in a browser, on the product as it is started:  python -m e2e.how_a_lab_goes URL TEACHER PASSWORD

Drives what docs/guide.md calls “How a lab goes” once: plan, open, predict, measure (also with the network cut and on a press
too many), board, compare, explain, power, report, practise. It makes a lab of its own there; each step is printed when done.
"""

from __future__ import annotations

import re
import sys
import time
from collections.abc import Callable

from playwright.sync_api import Browser, Page, expect

from e2e.browser import LAPTOP, PHONE, chromium

expect.set_options(timeout=20_000)
GROUPS = ("Dunlin", "Oystercatcher")
SITS_V = {"magnesium": -1.45, "zinc": -0.80, "steel": -0.35, "tin": -0.30, "copper": 0.15}  # invented, near what juices give


class Walk:
    """A teacher on a laptop, a group on a phone and one on a laptop."""

    def __init__(self, browser: Browser, url: str) -> None:
        self.url = url
        self.faults: list[str] = []
        self.teacher, self.phone, self.laptop = (self.device(browser, size) for size in (LAPTOP, PHONE, LAPTOP))

    def device(self, browser: Browser, size: dict[str, int]) -> Page:
        touch = size is PHONE
        context = browser.new_context(
            viewport=size, has_touch=touch, is_mobile=touch, base_url=self.url, locale="en-GB", reduced_motion="reduce"
        )
        page = context.new_page()
        page.set_default_timeout(20_000)
        page.on("pageerror", lambda error: self.faults.append(str(error)))
        page.on("response", lambda answer: answer.status >= 500 and self.faults.append(f"{answer.status} {answer.url}"))
        return page

    def plan(self, teacher: str, password: str) -> None:
        page = self.teacher
        page.goto("/sign-in")
        page.get_by_label("Name").fill(teacher)
        page.get_by_label("Password").fill(password)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link", name="Plan a lab").click()
        page.get_by_role("textbox", name="Title").fill(f"How a lab goes, {time.strftime('%H:%M:%S')}")
        page.get_by_role("textbox", name="Minutes", exact=True).fill("60")
        page.get_by_text("All pairs", exact=True).click()
        page.get_by_label("Their names, one a line").fill("\n".join(GROUPS))
        expect(page.get_by_text(re.compile("Fits: ")).first).to_be_visible()
        page.get_by_role("button", name="Keep this plan").dblclick()
        expect(page.get_by_role("heading", name="Who does what, when")).to_be_visible()

    def change_the_plan(self) -> None:
        page = self.teacher
        square = page.get_by_role("button", name=re.compile(r"^\w\w \| \w\w, ")).first
        square.click()
        square.press("-")
        expect(page.get_by_role("button", name="Take back the last change")).to_be_visible()
        page.get_by_role("button", name="Take back the last change").click()
        expect(page.get_by_role("button", name="Take back the last change")).to_have_count(0)

    def open(self) -> None:
        page = self.teacher
        page.get_by_role("link", name="Sign off the safety sheet").first.click()
        page.get_by_text("I have read this sheet").click()
        page.get_by_role("button", name="Sign off the safety sheet").click()
        page.get_by_role("link", name="To the plan").click()
        page.get_by_role("button", name="Open the bench").dblclick()
        expect(page.get_by_role("heading", name="The room, minute by minute")).to_be_visible()
        self.lab = page.url.split("/labs/")[1].split("/")[0]
        page.get_by_text("Groups see", exact=False).first.wait_for()

    def join(self) -> None:
        board = self.teacher.request.get(f"/api/labs/{self.lab}/board").json()
        for page, group in zip((self.phone, self.laptop), board["groups"], strict=True):
            page.goto("/join")
            page.get_by_label("Code").fill(board["join_code"])
            page.get_by_label("PIN of your group").fill(group["pin"])
            page.get_by_role("button", name="Join").click()
            expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()

    def predict(self) -> None:
        page = self.phone
        page.get_by_role("button", name="zinc", exact=True).first.tap()
        page.get_by_label("How many volts by the table?").fill("1.1")
        page.get_by_role("button", name="Keep this prediction").tap()
        expect(page.get_by_text(re.compile("You predicted: zinc negative"))).to_be_visible()
        self.laptop.get_by_role("button", name="Skip").click()

    def read(self, page: Page, text: str) -> None:
        field = page.get_by_role("textbox", name="Reading in")
        field.fill(text)
        field.press("Enter")
        expect(field).to_have_value("")

    def measure(self) -> None:
        """Both groups measure everything they have; the phone without network for a while, and with a slip."""
        self.laptop.get_by_label("Leads together, V").fill("0.00")
        self.laptop.get_by_label("On a fresh dry cell, V").fill("1.58")
        self.laptop.get_by_role("button", name="Keep this check").dblclick()
        for page, error_v in ((self.phone, 0.0), (self.laptop, 0.01)):
            cells = page.request.get("/api/bench").json()["cells"]
            for n, cell in enumerate(cells):
                page.goto(f"/bench/{n + 1}")
                expect(page.get_by_role("heading", name="Build this cell")).to_be_visible()
                if page is self.phone and n == 2:
                    page.context.set_offline(True)
                skip = page.get_by_role("button", name="Skip")
                if skip.count():
                    skip.click()
                volts = SITS_V[cell["positive"]] - SITS_V[cell["negative"]] + error_v
                for step in (0.0, 0.01, -0.01):
                    self.read(page, f"{volts + step:.2f}")
                if page is self.phone and n == 2:
                    expect(page.get_by_text("3 not sent yet")).to_be_visible()
                    page.context.set_offline(False)
                expect(page.get_by_text("All readings sent")).to_be_visible()
        page = self.phone
        page.goto("/bench/1")
        self.read(page, "940")
        page.get_by_role("button", name=re.compile("Correct 940")).tap()
        page.get_by_role("button", name="wrong unit").tap()
        page.get_by_role("button", name="Type in mV").tap()
        self.read(page, "940")
        expect(page.get_by_text("corrected: wrong unit")).to_be_visible()

    def board(self) -> None:
        page = self.teacher
        expect(page.get_by_text("14 of 14 cells have all 3.")).to_be_visible()
        page.get_by_role("button", name="Pause").click()
        page.get_by_role("button", name="Go on").click()
        page.get_by_role("button", name="5 min more").click()
        page.get_by_role("link", name="Projector").click()
        page.get_by_text("Back to the board").click()

    def compare(self) -> None:
        page = self.teacher
        page.get_by_role("link", name="Compare", exact=True).first.click()
        expect(page.get_by_role("heading", name="Cells, widest gap first")).to_be_visible()
        page.get_by_role("button", name="Numbers of all cells and groups").click()
        expect(page.get_by_role("row", name=re.compile("zinc, copper"))).to_be_visible()
        page.get_by_role("tab", name="groups").click()
        page.get_by_role("button", name="Readings of a group").click()
        page.get_by_role("button", name="Set aside, with a reason").first.click()
        page.get_by_label("Reason").fill("plates touched")
        page.get_by_label("Reason").press("Enter")
        expect(page.get_by_role("heading", name="What changed")).to_be_visible()
        page.get_by_role("button", name="Take it back").first.click()

    def show(self, *parts: str) -> None:
        """Tick what groups see, on the page that has it."""
        for part in parts:
            self.teacher.get_by_text(part, exact=True).click()
            expect(self.teacher.get_by_role("checkbox", name=part)).to_be_checked()

    def explain(self) -> None:
        page = self.teacher
        page.get_by_role("link", name="Explain", exact=True).first.click()
        expect(page.get_by_role("heading", name=re.compile("where .* went"))).to_be_visible()
        self.show("the class’s results", "where the volts went", "a form for their own claims")
        phone = self.phone
        phone.goto("/bench")
        phone.get_by_role("link", name="make your claim").tap()
        phone.get_by_role("button", name=re.compile("Where did the volts go?")).tap()
        phone.get_by_role("option", name="It is the acid (the pH)").tap()
        phone.get_by_role("group", name="Your readings that show it").get_by_role("button").first.tap()
        phone.get_by_label("Why do these readings show it?").fill("The lemon gives its hydrogen ions to the copper.")
        phone.get_by_role("button", name="Claim it").dblclick()
        expect(phone.get_by_role("button", name="Revise this")).to_have_count(1)
        page.reload()
        page.get_by_role("link", name="Read and answer them").click()
        page.get_by_label("Your answer").fill("How do you know?")
        page.get_by_role("button", name="Send").click()
        expect(page.get_by_text("All 1 claim answered.")).to_be_visible()

    def power(self) -> None:
        page, phone = self.teacher, self.phone
        page.get_by_role("link", name="Power", exact=True).first.click()
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        self.show("a bench for packs: cells in a row")
        phone.goto("/bench/packs")
        phone.get_by_role("button", name="Begin a pack").dblclick()
        phone.get_by_role("button", name="Begin with this cell").tap()
        for label, text in (("Cell 1 alone, V", "0.95"), ("Cell 1, V", "0.95")):
            phone.get_by_label(label, exact=True).fill(text)
            phone.get_by_label(label, exact=True).press("Enter")
        expect(phone.get_by_text("All sent")).to_be_visible()
        page.reload()
        page.get_by_role("button", name="What groups have built: 1 pack").click()

    def report(self) -> None:
        page, phone = self.teacher, self.phone
        page.goto(f"/labs/{self.lab}/report")
        self.show("their notebook, to write and hand in")
        phone.goto("/bench/notebook")
        phone.get_by_label("What is your answer to the question").fill("Zinc is the most negative but one.")
        phone.get_by_label("What is your answer to the question").blur()
        phone.get_by_role("button", name="Hand in").first.dblclick()
        expect(phone.get_by_role("heading", name=re.compile("Handed in"))).to_be_visible()
        page.reload()
        expect(page.get_by_text("1 notebook waits for you.")).to_be_visible()
        page.get_by_role("link", name="Dunlin").click()
        page.get_by_label("To the whole").fill("Clear and short.")
        page.get_by_role("button", name="Give it back").dblclick()
        expect(page.get_by_text("Given back; the group sees it in its notebook.")).to_be_visible()
        phone.reload()
        expect(phone.get_by_text("Clear and short.")).to_be_visible()
        package = page.request.get(f"/api/labs/{self.lab}/package.zip")
        assert package.ok and package.body()[:2] == b"PK", package.status

    def practise(self) -> None:
        page = self.laptop
        page.goto("/practise")
        expect(page.get_by_role("heading", name="What is wrong here?")).to_be_visible()

    def close(self) -> None:
        page = self.teacher
        page.goto(f"/labs/{self.lab}/board")
        page.get_by_role("button", name="Close the bench").dblclick()
        expect(page.get_by_text("closed", exact=False).first).to_be_visible()


def main() -> None:
    """Print each step; exits with 1 where the browser told of a fault."""
    url, teacher, password = sys.argv[1:4]
    with chromium() as browser:
        walk = Walk(browser, url)
        steps: list[tuple[str, Callable[[], None]]] = [
            ("plan", lambda: walk.plan(teacher, password)),
            ("change the plan", walk.change_the_plan),
            ("open", walk.open),
            ("join", walk.join),
            ("predict", walk.predict),
            ("measure", walk.measure),
            ("board", walk.board),
            ("compare", walk.compare),
            ("explain, with a claim", walk.explain),
            ("power", walk.power),
            ("report", walk.report),
            ("practise", walk.practise),
            ("close", walk.close),
        ]
        for name, step in steps:
            step()
            print(f"done: {name}", flush=True)  # noqa: T201
    if walk.faults:
        sys.exit("\n".join(walk.faults))


if __name__ == "__main__":
    main()

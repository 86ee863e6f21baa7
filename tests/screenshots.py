"""Remake docs/screenshots/ from the demo data: one picture per main view, at 1280×800."""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page

from felloe.demo.people import PASSWORD
from tests.browser import context, sign_in


class Shooter:
    """Walks the demo shop as a mechanic and takes one picture of each main view."""

    def __init__(self, base: str, folder: Path) -> None:
        self.base, self.folder = base, folder
        self.page: Page = context().new_page()
        self.problems: list[str] = []
        self.page.on("console", lambda m: self.problems.append(m.text) if m.type == "error" else None)
        self.page.on("pageerror", lambda e: self.problems.append(str(e)))

    def shoot(self, name: str) -> None:
        self.page.wait_for_load_state("networkidle")
        self.page.wait_for_timeout(150)
        self.page.screenshot(path=str(self.folder / f"{name}.png"))

    def job(self, number: int) -> dict[str, str]:
        """Ids of a job, its newest set and newest plan."""
        get = self.page.request.get
        rail = get(f"{self.base}/api/v1/rail").json()
        everything = [h["job"] for h in rail["hanging"]] + rail["handed_back"]
        job = next(j for j in everything if j["number"] == number)
        sets = get(f"{self.base}/api/v1/jobs/{job['id']}/reading-sets").json()
        plans = get(f"{self.base}/api/v1/jobs/{job['id']}/plans").json()
        return {
            "job": job["id"],
            "first": sets[0]["id"] if sets else "",
            "set": sets[-1]["id"] if sets else "",
            "plan": plans[-1]["id"] if plans else "",
        }

    def run(self) -> None:
        page, base = self.page, self.base
        page.goto(base)
        page.get_by_label("Name").wait_for()
        sign_in(page, base, "bram", PASSWORD)
        # The way in answers 403 while nobody is signed in; that is no fault.
        self.problems.clear()
        self.shoot("rail")
        page.goto(f"{base}/take-in")
        page.get_by_role("textbox", name="Customer", exact=True).fill("nurs")
        page.get_by_role("button", name="District Nurses").wait_for()
        self.shoot("take-in")
        live = self.job(123)
        page.goto(f"{base}/jobs/{live['job']}/live/{live['plan']}")
        page.get_by_role("group", name="Next nipple").wait_for()
        self.shoot("live")
        checks = self.job(119)
        page.goto(f"{base}/jobs/{checks['job']}/checks")
        page.get_by_role("heading", level=2).first.wait_for()
        self.shoot("checks")
        page.goto(f"{base}/jobs/{self.job(110)['job']}/decide")
        page.get_by_role("link", name="110").first.wait_for()
        self.shoot("decide")
        page.goto(f"{base}/api/v1/jobs/{self.job(102)['job']}/report")
        page.get_by_role("heading", level=1).wait_for()
        self.shoot("report")
        page.goto(f"{base}/practice")
        page.get_by_role("button", name="Begin: By the plan").or_(page.get_by_role("link", name="Go on: By the plan")).click()
        page.get_by_role("group", name="The stand").wait_for()
        # As a hand does it: dials round, dish, the meter on every spoke, then the plan.
        page.keyboard.type("13")
        for _ in range(32):
            page.keyboard.type("76")
        page.get_by_role("radio", name="L16: ").get_by_text("").first.wait_for(state="attached")
        page.wait_for_load_state("networkidle")
        page.keyboard.press("p")
        page.get_by_role("region", name="The next nipple of the plan").wait_for()
        self.shoot("practice")
        page.goto(f"{base}/shop")
        page.get_by_role("button", name="Back wall").wait_for()
        self.shoot("shop")
        page.goto(f"{base}/jobs/{self.job(127)['job']}")
        page.get_by_role("link", name="All that is known of this wheel").click()
        page.get_by_role("article").nth(1).wait_for()
        self.shoot("history")
        page.goto(f"{base}/instruments")
        page.get_by_role("button", name="Hand meter B").click()
        self.shoot("instruments")
        ids = self.job(106)
        page.goto(f"{base}/jobs/{ids['job']}")
        self.shoot("job")
        page.goto(f"{base}/jobs/{ids['job']}/parts")
        self.shoot("parts")
        page.goto(f"{base}/jobs/{self.job(114)['job']}/spokes")
        page.get_by_role("radiogroup", name="Length, left").wait_for()
        self.shoot("spokes")
        page.goto(f"{base}/jobs/{self.job(122)['job']}/lacing")
        page.get_by_role("region", name="Spoke in hand").wait_for()
        self.shoot("lacing")
        page.goto(f"{base}/stock")
        page.get_by_role("button", name="Spoke 287", exact=False).click()
        self.shoot("stock")
        page.goto(f"{base}/jobs/{ids['job']}/state/{ids['first']}")
        self.shoot("state")
        page.goto(f"{base}/jobs/{ids['job']}/plan/{ids['plan']}")
        self.shoot("plan")
        quick = self.job(111)
        page.goto(f"{base}/jobs/{quick['job']}/readings/{quick['set']}")
        page.get_by_label("tension of R2").wait_for()
        page.keyboard.type("22")
        self.shoot("readings")
        done = self.job(108)
        page.goto(f"{base}/jobs/{done['job']}/sign-off")
        self.shoot("sign-off")
        if self.problems:
            raise SystemExit("the console complained:\n" + "\n".join(self.problems))


if __name__ == "__main__":
    folder = Path(sys.argv[2])
    folder.mkdir(parents=True, exist_ok=True)
    Shooter(sys.argv[1], folder).run()
    print(f"· {len(list(folder.glob('*.png')))} pictures in {folder.name}/")

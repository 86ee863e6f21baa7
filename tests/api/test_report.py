"""The report on a wheel: read back from its PDF by another library, for every way in which a job can stand or end."""

from __future__ import annotations

import io
import json
from typing import Any

from PIL import ImageFile
from pypdf import PdfReader

from felloe.core.record import record_from_dict
from felloe.queue.models import Job
from tests.api.shop import BenchCase, person

WARNING = "Do not ride it as it is."


class Reports(BenchCase):
    def pdf(self, paper: str = "") -> PdfReader:
        answer = self.client.get(f"/api/v1/jobs/{self.job.pk}/report.pdf{paper and f'?paper={paper}'}")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/pdf"))
        return PdfReader(io.BytesIO(answer.content))

    def text(self) -> str:
        found = self.pdf()
        self.assertEqual(len(found.pages), 1, "one sheet")
        return " ".join(found.pages[0].extract_text().split())

    def html(self) -> str:
        return self.client.get(f"/api/v1/jobs/{self.job.pk}/report").content.decode()

    def version(self) -> int:
        return Job.objects.get(pk=self.job.pk).version

    def leave(self) -> None:
        """Measured as left, signed off and handed back."""
        self.agree_and_refit(self.job)
        self.set = self.open_set("as_left")
        self.read_all()
        body = {"version": self.version(), "reason": ""}
        signed = self.post(f"jobs/{self.job.pk}/sign-off", body)
        self.assertEqual(signed.status_code, 201, signed.content)
        gone = self.post(f"jobs/{self.job.pk}/hand-back", {"version": self.version(), "note": "Ride it gently at first."})
        self.assertEqual(gone.status_code, 200, gone.content)

    def test_a_repaired_wheel(self) -> None:
        self.read_all(lump_mm=1.4)
        self.leave()
        text = self.text()
        comparison = self.get(f"jobs/{self.job.pk}/comparison").json()
        for part in (
            f"{self.job.number} ", "Handed back repaired", f"“{self.job.complaint}”", "Invented Customer agreed",
            "at the counter", "True the wheel.", "Against sound, as it was agreed.", "Back in the bike, every step checked.",
            "Signed off by Bram",
            "Ride it gently at first.", "What the makers", "wheel-record.json",
            f"{comparison['as_found']['lateral_tir_mm']:.2f} mm", f"{comparison['as_left']['lateral_tir_mm']:.2f} mm",
            f"mean {comparison['as_left']['right_mean_n']:.0f} N",
        ):  # fmt: skip
            self.assertIn(part, text)
        self.assertNotIn("Not to be ridden", text)
        self.assertEqual(text.count("outside"), 0)

    def test_the_data_comes_along_and_reads_back(self) -> None:
        self.read_all()
        found = self.pdf()
        self.assertEqual(list(found.attachments), ["wheel-record.json"])
        data = json.loads(found.attachments["wheel-record.json"][0])
        self.assertEqual(data, self.get(f"jobs/{self.job.pk}/record").json())
        self.assertEqual(len(record_from_dict(data).sets[0].readings.tension), 36)

    def test_a_reader_that_speaks_finds_its_way(self) -> None:
        root: Any = self.pdf().trailer["/Root"]
        self.assertTrue(root["/MarkInfo"]["/Marked"])
        self.assertIn("/StructTreeRoot", root)
        self.assertEqual(root["/Lang"], "en")
        self.assertIn("Report on a wheel", self.pdf().metadata.title)  # type: ignore[union-attr, operator]

    def test_both_papers(self) -> None:
        sizes = [[round(float(x)) for x in self.pdf(paper).pages[0].mediabox[2:]] for paper in ("", "letter", "nonsense")]
        # ISO 216 and ANSI/ASME Y14.1, in points, from memory.
        self.assertEqual(sizes, [[595, 842], [612, 792], [595, 842]])

    def test_nothing_measured_nothing_claimed(self) -> None:
        text = self.text()
        for part in (
            "Not handed back yet. It stands at: Take in.",
            "Nothing was agreed.",
            "Nothing was measured on this wheel.",
        ):
            self.assertIn(part, text)
        self.assertNotIn("inside", text)

    def test_measured_once_is_compared_with_nothing(self) -> None:
        self.read_all()
        text = self.text()
        self.assertIn("as measured", text)
        self.assertNotIn("as found", text)
        self.assertIn("Against sound. ", text, "nothing was agreed, so nothing is said of it")

    def test_few_readings_are_called_estimates(self) -> None:
        for spoke in ("R1", "L1", "R9"):
            self.read("lateral", spoke, 0.1)
        self.assertIn("inside, estimated", self.text())

    def test_what_was_turned_after_the_readings_is_said(self) -> None:
        self.read_all(lump_mm=1.4)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        spoke = plan["moves"][0]["spoke"]
        self.assertNotIn("Nipples were turned after", self.text())
        self.put(f"plans/{plan['id']}/moves/{spoke}", {"state": "done"})
        text = self.text()
        self.assertIn("Nipples were turned after this was measured", text)
        self.assertIn("1 nipple turned in 1 pass.", text)

    def test_unsafe_and_declined_with_the_warning_that_was_given(self) -> None:
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "crack", "spoke": "R4"})
        self.assertIn("Not to be ridden as it is:", self.text())
        said = {"outcome": "refused", "chosen": ["new_rim"], "by_whom": "Wen", "how": "phone", "warning": WARNING}
        self.assertEqual(self.post(f"jobs/{self.job.pk}/decisions", said).status_code, 201)
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        body = {"version": self.version(), "end": "declined", "reason": "Wants to think about a new wheel."}
        ended = self.post(f"jobs/{self.job.pk}/ends", body, client=owner)
        self.assertEqual(ended.status_code, 200, ended.content)
        text = self.text()
        for part in ("Handed back without a repair", "repair declined", "Not to be ridden as it is:", "Crack at R4",
                     f"The customer was told: {WARNING}", "Wen declined", "by phone"):  # fmt: skip
            self.assertIn(part, text)

    def test_no_fault_of_the_wheel(self) -> None:
        self.post(f"jobs/{self.job.pk}/diagnosis/findings", {"cause": "brake_off_centre", "reason": "Pads sit to the right."})
        for step in self.get(f"jobs/{self.job.pk}/refit").json()["steps"]:
            self.post(f"jobs/{self.job.pk}/refit", {"step": step["key"], "result": "right"})
        body = {"version": self.version(), "end": "no_fault", "reason": "Brake centred, wheel spins free."}
        ended = self.post(f"jobs/{self.job.pk}/ends", body)
        self.assertEqual(ended.status_code, 200, ended.content)
        text = self.text()
        for part in ("no fault of the wheel", "Found: Brake off-centre.", "Brake centred, wheel spins free."):
            self.assertIn(part, text)

    def test_what_was_typed_is_text_and_nothing_else(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(complaint='<script>alert(1)</script> & "rubs" {and}')
        page = self.html()
        self.assertIn("&lt;script&gt;alert(1)&lt;/script&gt; &amp;", page)
        self.assertNotIn("<script>", page)
        self.assertIn("<script>alert(1)</script> &", self.text())

    def test_a_long_job_stays_readable(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(complaint="rubs and creaks " * 30)
        for spoke in range(1, 19):
            self.post(f"jobs/{self.job.pk}/marks", {"kind": "spoke_corroded", "spoke": f"R{spoke}"})
        found = self.pdf()
        self.assertLessEqual(len(found.pages), 2)
        self.assertIn("R18", "".join(page.extract_text() for page in found.pages))

    def test_photos_are_looked_at_as_before_a_report_was_printed(self) -> None:
        self.pdf()
        self.assertFalse(ImageFile.LOAD_TRUNCATED_IMAGES)

    def test_only_here(self) -> None:
        stranger = self.speak_for(self.stranger)
        for path in ("report", "report.pdf"):
            self.assertEqual(stranger.get(f"/api/v1/jobs/{self.job.pk}/{path}").status_code, 404)

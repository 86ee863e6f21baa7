"""Another language is one catalogue: what the server says follows the request, what was typed stays."""

from __future__ import annotations

import tempfile
from pathlib import Path
from unittest.mock import patch

from felloe.api import language
from felloe.core.said import say, say_count
from felloe.queue.models import JobEvent
from tests.api.shop import BenchCase

#: A few words of German, as a translator would send them.
CATALOGUE = """msgid ""
msgstr ""
"Language: de\\n"
"Content-Type: text/plain; charset=utf-8\\n"
"Plural-Forms: nplurals=2; plural=(n != 1);\\n"

msgid "There is nothing here, or it belongs to another shop."
msgstr "Hier ist nichts, oder es gehört einer anderen Werkstatt."

msgid "complaint"
msgstr "Beanstandung"

#, python-brace-format
msgid "{what} must lie between {low:g} and {high:g} {unit}; found {shown}"
msgstr "{what} liegt zwischen {low:g} und {high:g} {unit}; gefunden {shown}"
"""


#: Three forms, in the order that the catalogue's own rule gives them.
POLISH = """msgid ""
msgstr ""
"Language: pl\\n"
"Content-Type: text/plain; charset=utf-8\\n"
"Plural-Forms: nplurals=3; plural=(n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? 1 : 2);\\n"

#, python-brace-format
msgid "{count} flange hole"
msgid_plural "{count} flange holes"
msgstr[0] "{count} otwór"
msgstr[1] "{count} otwory"
msgstr[2] "{count} otworów"
"""


class Languages(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        (Path(folder.name) / "de.po").write_text(CATALOGUE, encoding="utf-8")
        (Path(folder.name) / "pl.po").write_text(POLISH, encoding="utf-8")
        held = patch.object(language, "CATALOGUES", Path(folder.name))
        held.start()
        self.addCleanup(held.stop)
        for kept in (language.languages, language._messages):
            kept.cache_clear()
            self.addCleanup(kept.cache_clear)

    def test_the_first_language_there_is(self) -> None:
        for header, wanted in (
            ("de-AT,de;q=0.9,en;q=0.5", "de"),
            ("fr, en", "en"),
            ("", "en"),
            ("x" * 5000, "en"),
            ("en, de", "en"),
        ):
            with self.subTest(header=header[:20]):
                self.assertEqual(self.client.get("/api/v1/session", HTTP_ACCEPT_LANGUAGE=header)["Content-Language"], wanted)

    def test_counts_take_the_form_that_the_catalogue_s_rule_says(self) -> None:
        for count, wanted in ((1, "1 otwór"), (3, "3 otwory"), (5, "5 otworów"), (12, "12 otworów"), (22, "22 otwory")):
            with self.subTest(count=count):
                said = say_count("{count} flange hole", "{count} flange holes", count=count)
                self.assertEqual(language.spoken_for(said, "pl"), wanted)
        self.assertEqual(language.spoken_for(say("{off_mm:.1f} mm", off_mm=0.25), "pl"), "0,2 mm")

    def test_an_answer_says_what_it_depends_on(self) -> None:
        self.assertIn("Accept-Language", self.client.get("/api/v1/session")["Vary"])

    def test_a_refusal_in_the_language_of_the_request(self) -> None:
        path = "/api/v1/jobs/00000000-0000-0000-0000-000000000000"
        self.assertEqual(self.client.get(path, HTTP_ACCEPT_LANGUAGE="de").json()["detail"][:4], "Hier")
        self.assertEqual(self.client.get(path).json()["detail"][:5], "There")

    def test_history_is_kept_as_messages_and_told_in_the_reader_s_language(self) -> None:
        job = self.job
        self.patch(f"jobs/{job.pk}", {"version": job.version, "complaint": "rubs {and} clicks"})
        self.assertIn("complaint: “", JobEvent.objects.get(job=job, kind="changed").note)
        for header, wanted in (("de", "Beanstandung"), ("en", "complaint")):
            events = self.client.get(f"/api/v1/jobs/{job.pk}", HTTP_ACCEPT_LANGUAGE=header).json()["events"]
            self.assertIn(f"{wanted}: “{job.complaint}” → “rubs {{and}} clicks”", [event["note"] for event in events])
            self.assertIn(job.complaint, [event["note"] for event in events])

    def test_the_same_key_answers_again_in_the_reader_s_language(self) -> None:
        body, path = {"version": self.job.version, "complaint": "hops"}, f"/api/v1/jobs/{self.job.pk}"
        answers = [
            self.client.patch(path, body, format="json", HTTP_IDEMPOTENCY_KEY="press", HTTP_ACCEPT_LANGUAGE=header).json()
            for header in ("en", "de")
        ]
        called = [answer["events"][-1]["note"].partition(":")[0] for answer in answers]
        self.assertEqual(called, ["complaint", "Beanstandung"])

    def test_in_the_pseudo_language_nothing_said_stays_plain(self) -> None:
        job = self.client.get(f"/api/v1/jobs/{self.job.pk}", HTTP_ACCEPT_LANGUAGE="en-xa").json()
        self.assertEqual(job["complaint"], self.job.complaint)
        path = f"/api/v1/jobs/{self.job.pk}/diagnosis"
        said = self.client.get(path, HTTP_ACCEPT_LANGUAGE="en-xa").json()
        plain = self.client.get(path).json()
        self.assertNotEqual(said, plain)
        self.assertNotRegex(str([check["question"] for check in said["other_checks"]]), "[A-Za-z]")
        self.assertEqual([check["key"] for check in said["other_checks"]], [check["key"] for check in plain["other_checks"]])

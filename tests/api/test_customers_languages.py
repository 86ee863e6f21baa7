"""Everything that a customer reads is there in every language that customers are written to, with the same figures."""

from __future__ import annotations

import itertools
import string
from dataclasses import fields as fields_of
from typing import Any

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po
from django.test import SimpleTestCase
from django.utils import timezone

from felloe.api.language import CATALOGUES, LETTERS
from felloe.cli.sentences import gathered
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.diagnosis.condition import CONDITIONS
from felloe.core.endings import ENDS
from felloe.core.refit.checklist import AXLES, DROPOUTS, TYRES, BikeFacts, refit_steps
from felloe.core.said import Said
from felloe.core.stages import STAGES
from felloe.core.terms import term
from felloe.core.truing.tiers import TIERS
from felloe.queue.models import Job, Signature
from felloe.repair.models import Decision
from felloe.report.services import report_of
from tests.api.shop import BenchCase
from tests.core.test_letters import sentences

#: Where a report's own sentences stand, and those of damage that it takes in.
SOURCES = ("felloe/report/", "felloe/repair/services/unsafe.py", "felloe/core/diagnosis/rim_damage.py")
#: What damage says to who enters it, and of the rim's shape to who judges it; no report says it.
NOT_SAID = {"a flat, and its spokes are slack already"}
ALSO = {"{cause}: found, and not yet noted as put right.", "{mark} at {spoke}"}
WORDS = ("lateral", "radial", "dish", "tension", "front", "rear")


def leaves(said: object) -> set[str]:
    """The templates of a message and of the messages within it."""
    if not isinstance(said, Said):
        return set()
    return {said.template}.union(*(leaves(part) for part in said.given.values()))


def report_sentences() -> set[str]:
    """Every template of a report: its own, found in its sources, and the words of tables that it takes in."""
    own = set()
    for message in gathered():
        if message.id and any(str(place).startswith(SOURCES) for place, _ in message.locations):
            own.add(message.id if isinstance(message.id, str) else message.id[0])
    tables: list[str] = [
        *PLACES.values(), *(c.name for c in CAUSES.values()), *(c.name for c in CONDITIONS.values()),
        *(c.remedy for c in CONDITIONS.values()), *ENDS.values(),
        *(s.name for s in STAGES), *(t.said for t in TIERS.values()), *Decision.How.labels, *Signature.Purpose.labels,
        *(term(word) for word in WORDS),
    ]  # fmt: skip
    for brake, rear, axle, tyre, slots in itertools.product(("rim", "disc", "hub"), (True, False), AXLES, TYRES, DROPOUTS):
        for torque, hub_gear, alone in ((None, False, False), (12.0, True, False), (None, False, True)):
            bike = BikeFacts(brake, rear, slots, axle, torque, tyre, True, hub_gear, not alone)
            tables += [step.text for step in refit_steps(bike)]
    own = {text for text in own if text not in NOT_SAID and not text.startswith("bent to the")} | ALSO
    return own.union(*(leaves(text) or {str(text)} for text in tables))


def placeholders(template: str) -> list[str]:
    return sorted(name for _, name, _, _ in string.Formatter().parse(template) if name)


def catalogues() -> dict[str, Catalog]:
    found = {}
    for file in sorted([*CATALOGUES.glob("*.po"), *LETTERS.glob("*.po")], key=lambda path: path.stem):
        with file.open("rb") as opened:
            found[file.stem] = read_po(opened, locale=file.stem)
    return found


def templates_of(catalogue: Catalog) -> set[str]:
    return {message.id if isinstance(message.id, str) else message.id[0] for message in catalogue if message.id}


class Complete(SimpleTestCase):
    def test_every_sentence_is_there_with_the_same_figures(self) -> None:
        wanted = sentences() | report_sentences()
        self.assertGreater(len(wanted), 200)
        found = catalogues()
        self.assertEqual(list(found), ["de", "pt"])
        for language, catalogue in found.items():
            self.assertEqual(set(), wanted - templates_of(catalogue), language)
            if (LETTERS / f"{language}.po").exists():
                self.assertEqual(set(), templates_of(catalogue) - wanted, f"{language} holds what nobody says")
            for message in catalogue:
                if not message.id:
                    continue
                ones = [message.id] if isinstance(message.id, str) else list(message.id)
                forms = [message.string] if isinstance(message.string, str) else list(message.string)
                for one, form in zip(ones, forms, strict=True):
                    with self.subTest(language, template=one):
                        self.assertEqual(placeholders(one), placeholders(form))
                        self.assertTrue(form.strip())


class Reports(BenchCase):
    """Reports as they come about: nothing in them stays English but what somebody typed."""

    def unsaid(self, language: str) -> set[str]:
        report = report_of(self.bram, self.job.pk, language)
        known = templates_of(catalogues()[language])
        said: set[str] = set()

        def walk(value: Any) -> None:
            nonlocal said
            if isinstance(value, Said):
                # A row of messages is punctuation and what stands between it.
                said |= {
                    t for t in leaves(value) if any(c.isalpha() for c in "".join(p[0] for p in string.Formatter().parse(t)))
                }
            elif isinstance(value, list):
                for part in value:
                    walk(part)
            elif hasattr(value, "__dataclass_fields__"):
                for field in fields_of(value):
                    walk(getattr(value, field.name))

        walk(report)
        self.assertGreater(len(said), 8)
        return said - known

    def test_half_done_unsafe_and_refused(self) -> None:
        self.read_all(lump_mm=1.2)
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "crack", "spoke": "R4"})
        self.post(f"jobs/{self.job.pk}/breaks", {"spoke": "R7", "place": "elbow", "noticed_on": "2026-11-01"})
        for step in self.get(f"jobs/{self.job.pk}/refit").json()["steps"][:3]:
            self.post(f"jobs/{self.job.pk}/refit", {"step": step["key"], "result": "wrong"})
        said = {"outcome": "refused", "chosen": ["new_rim"], "by_whom": "Wen", "how": "phone", "warning": "Do not ride it."}
        self.post(f"jobs/{self.job.pk}/decisions", said)
        for language in ("de", "pt"):
            self.assertEqual(self.unsaid(language), set(), language)

    def test_repaired(self) -> None:
        self.read_all(lump_mm=1.2)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        self.put(f"plans/{plan['id']}/moves/{plan['moves'][0]['key']}", {"state": "done"})
        self.agree_and_refit(self.job)
        self.set = self.open_set("as_left")
        self.read_all()
        Job.objects.filter(pk=self.job.pk).update(
            stage="done", handed_back_at=timezone.now(), ended_as="repaired", recheck_on="2027-02-01"
        )
        for language in ("de", "pt"):
            self.assertEqual(self.unsaid(language), set(), language)

    def test_the_page_speaks_the_customers_language(self) -> None:
        self.read_all()
        customer = self.job.wheel.bike.customer
        self.patch(f"customers/{customer.pk}", {"version": customer.version, "language": "de"})
        page = self.client.get(f"/api/v1/jobs/{self.job.pk}/report").content.decode()
        self.assertIn("Bericht über ein Laufrad", page)
        self.assertIn('lang="de"', page)
        self.assertIn("Report on a wheel", self.client.get(f"/api/v1/jobs/{self.job.pk}/report?language=en").content.decode())
        self.assertIn("Bericht", self.client.get(f"/api/v1/jobs/{self.job.pk}/report?language=xx").content.decode())

"""A report on its way out: its language, its paper, its record, its signature."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.language import customers_languages
from felloe.api.writing import language_of
from felloe.queue import services as queue
from felloe.records.services import wheel_records
from felloe.report.render import PAPERS, pdf_of
from felloe.report.services import report_of
from felloe.signing.services import signer_of

REPORT_NAME = "wheel-report.pdf"


def reports_language(user: User, job_id: UUID, asked: str = "") -> str:
    """The language asked for where Felloe writes it, else the customer's; 404 for another shop's job."""
    customer = queue.find_job(user, job_id).wheel.bike.customer
    return asked if asked in customers_languages() else language_of(customer.language)


def thinks_in_kgf(user: User) -> bool:
    """In which unit forces are written for this person."""
    return user.force_unit == User.ForceUnit.KGF


def signed_pdf(user: User, job_id: UUID, language: str, paper: str = "") -> bytes:
    """The report of a job as it stands, signed with the shop's key; where that cannot be opened, it says that it is not."""
    report, record = report_of(user, job_id, language), wheel_records.export_record(user, job_id)
    signer = signer_of(user)
    fingerprint = signer.fingerprint if signer else ""
    page = pdf_of(report, record, language, paper if paper in PAPERS else "a4", fingerprint, in_kgf=thinks_in_kgf(user))
    return signer.signed(page, report.number, timezone.now()) if signer else page

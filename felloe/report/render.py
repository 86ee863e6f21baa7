"""A report as a page and as a PDF, from one template; the PDF is tagged, and carries the wheel record as data."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.template.loader import render_to_string
from PIL import ImageFile

from felloe.api.language import customers_languages, spoken_to_customer
from felloe.api.writing import name_of
from felloe.core.said import say
from felloe.report.answers import Report

ROOM = Path(__file__).resolve().parent
STYLE = ROOM / "static" / "report" / "report.css"
#: What the page itself says.
LABELS: dict[str, str] = {
    "title": say("Report on a wheel"),
    "tag": say("tag"),
    "wrong": say("What was wrong"),
    "agreed": say("What was agreed"),
    "done": say("What was done"),
    "figures": say("As it was measured"),
    "figure": say("figure"),
    "found": say("as found"),
    "left": say("as left"),
    "once": say("as measured"),
    "bound": say("surely"),
    "limit": say("at most"),
    "inside": say("inside"),
    "outside": say("outside"),
    "estimated": say("estimated"),
    "sure": say("Surely: 95 of 100 wheels that fit the readings lie below. Estimated: too few readings to call it measured."),
    "unmeasured": say("Nothing was measured on this wheel."),
    "watch": say("What to watch"),
    "signed": say("Word and name"),
    "print": say("As PDF"),
    "data": say("The wheel record is attached to this file as data: wheel-record.json."),
    "key": say("Signed with the shop's key"),
    "check": say("The page check-report.html, which the shop gives away, checks this file without the shop."),
    "unsigned": say("This file is not signed."),
}
PAPERS = {"a4": "A4", "letter": "letter"}


def html_of(report: Report, language: str, pdf_address: str = "", fingerprint: str = "", *, in_kgf: bool = False) -> str:
    """The page; with `pdf_address` it links to its PDF, without it is the PDF's own. Forces are in N, or all in kgf."""
    spoken: dict[str, Any] = {
        "report": spoken_to_customer(asdict(report), language, in_kgf=in_kgf),
        "words": spoken_to_customer(dict(LABELS), language),
        "language": language,
        "pdf": f"{pdf_address}?language={language}" if pdf_address else "",
        "others": [(code, name_of(code)) for code in customers_languages() if code != language],
        "fingerprint": fingerprint,
    }
    return render_to_string("report/report.html", spoken)


def pdf_of(
    report: Report, record: dict[str, Any], language: str, paper: str, fingerprint: str, *, in_kgf: bool = False
) -> bytes:
    """One sheet of A4 or Letter, tagged for readers that speak, with the wheel record attached. It says the `fingerprint`
    of the key that it is signed with; empty where it is not."""
    # Not before the first PDF: it takes its time, and asks for Pango, which nothing else needs.
    from weasyprint import CSS, HTML, Attachment
    from weasyprint.text.fonts import FontConfiguration
    from weasyprint.urls import URLFetcher

    # It lets every picture of the process be broken off, which photos of the bench must not be; a report has none.
    ImageFile.LOAD_TRUNCATED_IMAGES = False
    fonts = FontConfiguration()
    sheet = CSS(string=f"@page {{ size: {PAPERS[paper]}; }}", font_config=fonts)
    data = Attachment(
        string=json.dumps(record, ensure_ascii=False, indent=1),
        name="wheel-record.json",
        description="Wheel record",
        relationship="Data",
    )
    # Nothing is fetched but what ships with Felloe.
    page = HTML(
        string=html_of(report, language, fingerprint=fingerprint, in_kgf=in_kgf),
        base_url=str(STYLE.parent),
        url_fetcher=URLFetcher(allowed_protocols={"file"}),
    )
    made: bytes = page.write_pdf(
        stylesheets=[CSS(filename=str(STYLE), font_config=fonts), sheet],
        font_config=fonts,
        attachments=[data],
        pdf_variant="pdf/ua-1",
    )
    return made

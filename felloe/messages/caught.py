"""Where nothing leaves the machine: e-mails are kept to be looked at."""

from __future__ import annotations

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from felloe.messages.models import CaughtMail


class EmailBackend(BaseEmailBackend):
    """Django's way of sending mail, which here ends in the database."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        for mail in email_messages:
            CaughtMail.objects.create(
                shop_id=mail.extra_headers.get("X-Felloe-Shop"),
                to=", ".join(mail.to),
                subject=str(mail.subject),
                text=str(mail.body),
            )
        return len(email_messages)

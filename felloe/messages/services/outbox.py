"""Letters by e-mail: written in the transaction of the deed, sent by the worker, retried, and never sent twice."""

from __future__ import annotations

import contextlib
from datetime import timedelta
from smtplib import SMTPException, SMTPRecipientsRefused, SMTPResponseException
from uuid import UUID

from django.conf import settings
from django.core.mail import EmailMessage, get_connection
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.letters import ASK, LETTERS
from felloe.core.said import say
from felloe.links import services as links
from felloe.links.models import CustomerLink
from felloe.messages import answers
from felloe.messages.models import CaughtMail, Message
from felloe.places.here import atomic
from felloe.queue import services as queue

MOST_TRIES = 10
MOST_SHOWN = 200
#: The same letter to the same customer within so long is one press too many.
AGAIN_AFTER = timedelta(minutes=2)


@atomic
def write(user: User, job_id: UUID, kind: str, link_id: UUID | None, host: str) -> Message:
    """Put a letter into the outbox; it goes out when this is committed."""
    from felloe.messages.tasks import deliver  # the task calls back into this module

    queue.find_job(user, job_id, lock=True)
    job = queue.find_job(user, job_id)
    link, address = link_of(user, job_id, kind, link_id, host)
    letter = links.letter_of(user, job_id, kind, link, address)
    if not letter.email:
        raise Refused("no_email", say("This customer has no e-mail address: enter it first, or call."), 422)
    recent = Message.objects.filter(job=job, kind=kind, text=letter.letter_text, to=letter.email)
    if recent.filter(created_at__gt=timezone.now() - AGAIN_AFTER).exclude(state=Message.State.FAILED).exists():
        raise Refused("written_already", say("The same letter went into the outbox a moment ago."), 409)
    made = Message.objects.create(
        shop_id=user.shop_id,
        job=job,
        kind=kind,
        language=letter.language,
        to=letter.email,
        subject=letter.letter_subject,
        text=letter.letter_text,
        created_by=user,
    )
    queue.log(job, user, TOLD_BY.get(kind, "written"), say("written by e-mail: {letter}", letter=LETTERS[kind]))
    deliver.defer(message_id=str(made.pk))
    return made


#: What a letter tells takes the call off the desk's list.
TOLD_BY = {"ready": "told_fetch", "moved": "told_call", "promised": "told_promise", "ask": "told_approve"}


def link_of(user: User, job_id: UUID, kind: str, link_id: UUID | None, host: str) -> tuple[CustomerLink | None, str]:
    """The link that a letter holds, with its address; a question cannot do without."""
    if link_id is None:
        if kind == ASK:
            raise Refused("link_missing", say("Make the link with the question first."), 422)
        return None, ""
    link = CustomerLink.objects.filter(shop_id=user.shop_id, job_id=job_id, pk=link_id).first()
    if link is None:
        raise Http404
    if links.state_of(link) not in ("open", "answered") or (kind == ASK and not link.asked):
        raise Refused("link_over", say("This link is closed: make a new one."), 409)
    return link, links.address_of(link, host)


class NotTaken(Exception):
    """The mail server did not take a letter; the worker tries again."""


def deliver(message_id: UUID) -> None:
    """Send one letter. Raises NotTaken where it surely did not go, as long as there is patience."""
    with atomic():
        message = Message.objects.select_for_update().filter(pk=message_id).first()
        if message is None or message.state not in (Message.State.QUEUED, Message.State.GOING):
            return
        if message.state == Message.State.GOING:
            # Somebody was interrupted between handing it over and noting so: a second one is worse than a question.
            message.state = Message.State.UNSURE
            message.save(update_fields=["state"])
            return
        message.state, message.tries = Message.State.GOING, message.tries + 1
        message.save(update_fields=["state", "tries"])
    problem, surely_not = _hand_over(mail_of(message))
    if not problem:
        message.state, message.sent_at, message.problem = Message.State.SENT, timezone.now(), ""
    elif not surely_not:
        message.state, message.problem = Message.State.UNSURE, problem
    else:
        last = message.tries >= MOST_TRIES
        message.state = Message.State.FAILED if last else Message.State.QUEUED
        message.problem = problem
    message.save(update_fields=["state", "sent_at", "problem"])
    if message.state == Message.State.QUEUED:
        raise NotTaken(problem)


def _hand_over(mail: EmailMessage) -> tuple[str, bool]:
    """Give a letter to the mail server: what went wrong, empty if nothing, and whether it surely did not go.

    Without a connection, or with the server's own refusal, it surely did not. Where the line broke while it was being given,
    nobody knows.
    """
    connection = get_connection()
    try:
        connection.open()
    except (OSError, SMTPException) as error:
        return _named(error), True
    try:
        connection.send_messages([mail])
    except (SMTPResponseException, SMTPRecipientsRefused) as error:
        return _named(error), True
    except (OSError, SMTPException) as error:
        return _named(error), False
    finally:
        with contextlib.suppress(OSError, SMTPException):
            connection.close()
    return "", True


def _named(error: Exception) -> str:
    return f"{type(error).__name__}: {error}"[:200]


def mail_of(message: Message) -> EmailMessage:
    """The e-mail of a letter; its name stays the same whatever happens, so that who gets it twice can tell."""
    shop = message.shop
    return EmailMessage(
        subject=message.subject,
        body=message.text,
        from_email=settings.DEFAULT_FROM_EMAIL,
        to=[message.to],
        reply_to=[shop.email] if shop.email else [],
        headers={
            "Message-ID": f"<{message.pk}@{settings.DEFAULT_FROM_EMAIL.partition('@')[2] or 'localhost'}>",
            "Content-Language": message.language,
            "X-Felloe-Shop": str(message.shop_id),
            "Auto-Submitted": "auto-generated",
        },
    )


@atomic
def again(user: User, message_id: UUID) -> Message:
    """Send once more what failed, or what perhaps never went: by somebody's word."""
    from felloe.messages.tasks import deliver as task

    message = Message.objects.select_for_update().filter(shop_id=user.shop_id, pk=message_id).first()
    if message is None:
        raise Http404
    if message.state not in (Message.State.FAILED, Message.State.UNSURE):
        raise Refused("on_its_way", say("It is on its way, or was sent already."), 409)
    message.state, message.tries, message.problem = Message.State.QUEUED, 0, ""
    message.save(update_fields=["state", "tries", "problem"])
    queue.log(message.job, user, "written", say("sent again by e-mail: {letter}", letter=LETTERS[message.kind]))
    task.defer(message_id=str(message.pk))
    return message


def outbox(user: User) -> answers.Outbox:
    """The newest letters of the shop, and what was caught where nothing leaves."""
    rows = Message.objects.filter(shop_id=user.shop_id).select_related("job", "created_by").order_by("-created_at")[:MOST_SHOWN]
    catches = settings.EMAIL_BACKEND == "felloe.messages.caught.EmailBackend"
    caught = CaughtMail.objects.filter(shop_id=user.shop_id).order_by("-at")[:MOST_SHOWN] if catches else []
    return answers.Outbox(
        letters=[letter_values(row) for row in rows],
        catches=catches,
        caught=[
            answers.Caught(at=mail.at, recipients=mail.to, letter_subject=mail.subject, letter_text=mail.text)
            for mail in caught
        ],
    )


def letter_values(row: Message) -> answers.SentLetter:
    return answers.SentLetter(
        id=row.pk,
        job=row.job_id,
        number=row.job.number,
        kind=row.kind,
        what=LETTERS[row.kind],
        recipient=row.to,
        letter_subject=row.subject,
        letter_text=row.text,
        state=row.state,
        tries=row.tries,
        problem=row.problem,
        by=row.created_by.display_name if row.created_by else "",
        created_at=row.created_at,
        sent_at=row.sent_at,
    )

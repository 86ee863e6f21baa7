"""What is written to customers, in plain words. Each sentence is a message, so that it can be said in their language."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.said import say

ASK, READY, MOVED, PROMISED, STATUS = "ask", "ready", "moved", "promised", "status"
DO_NOT_RIDE = say("Please do not ride this wheel as it is.")
#: What can be written, and how the desk calls it.
LETTERS: dict[str, str] = {
    ASK: say("the question whether to go on"),
    PROMISED: say("the day"),
    MOVED: say("that it will be later"),
    READY: say("that it is ready"),
    STATUS: say("how it stands"),
}


@dataclass(frozen=True)
class About:
    """What a letter speaks of, all as it is said in the customer's language; empty where there is none.

    `own_words`: what the shop writes under every letter.
    """

    shop: str
    phone: str
    name: str
    number: int
    bike: str
    what: str = ""
    price: str = ""
    tier_plain: str = ""
    ready: str = ""
    warning: str = ""
    link: str = ""
    status: str = ""
    unsafe: bool = False
    open_price: str = ""
    own_words: str = ""


@dataclass(frozen=True)
class Letter:
    """Subject and sentences, one a line."""

    subject: str
    lines: tuple[str, ...]


def letter(kind: str, about: About) -> Letter:
    """The letter of a kind of LETTERS; a KeyError for any other."""
    body = {ASK: _ask, READY: _ready, MOVED: _moved, PROMISED: _promised, STATUS: _status}[kind](about)
    lines = [say("Hello {name},", name=about.name), *body]
    if about.unsafe and kind != READY:
        lines.append(DO_NOT_RIDE)
    if about.link:
        lines.append(say("See it here: {link}", link=about.link))
    lines += [line for line in about.own_words.splitlines() if line.strip()]
    if about.phone:
        lines.append(say("Questions? Call us: {phone}", phone=about.phone))
    lines.append(about.shop)
    subject = say("Your wheel, tag {number}", number=str(about.number))
    return Letter(subject, tuple(lines))


def question(about: About) -> list[str]:
    """What is asked, sentence by sentence: the same in a letter and on the customer's page."""
    lines: list[str] = [say("We looked at the wheel of your {bike}. We propose: {what}.", bike=about.bike, what=about.what)]
    lines.append(say("That costs {price}, with all taxes.", price=about.price))
    if about.tier_plain:
        lines.append(about.tier_plain)
    if about.ready:
        lines.append(say("It will be ready by {ready}.", ready=about.ready))
    if about.warning:
        lines.append(say("Please note: {warning}", warning=about.warning))
    return lines


def _ask(about: About) -> list[str]:
    return [*question(about), say("Do you agree? We begin when we have your word.")]


def _ready(about: About) -> list[str]:
    lines: list[str] = [say("The wheel of your {bike} is ready. You can fetch it.", bike=about.bike)]
    if about.open_price:
        lines.append(say("To be paid: {price}.", price=about.open_price))
    return lines


def _moved(about: About) -> list[str]:
    lines: list[str] = [say("The wheel of your {bike} will take longer than we said. We are sorry.", bike=about.bike)]
    lines.append(say("It will be ready by {ready}.", ready=about.ready) if about.ready else say("We will tell you the day."))
    return lines


def _promised(about: About) -> list[str]:
    first = say("We have the wheel of your {bike}.", bike=about.bike)
    return [first, say("It will be ready by {ready}.", ready=about.ready) if about.ready else say("We will tell you the day.")]


def _status(about: About) -> list[str]:
    lines: list[str] = [say("This is how it stands with the wheel of your {bike}.", bike=about.bike), about.status]
    if about.ready:
        lines.append(say("It will be ready by {ready}.", ready=about.ready))
    return lines


#: How a job stands, to somebody who waits for it. By stage; what it waits for, being ready and having left come first.
_STAGES: dict[str, str] = {
    "take_in": say("It has come in and waits its turn."),
    "check_on_bike": say("We are finding out what is wrong."),
    "check_off_bike": say("We are finding out what is wrong."),
    "identify": say("We are finding out what is wrong."),
    "as_found": say("We are measuring it."),
    "decide": say("We are working out what to propose."),
}


def status_words(stage: str, waiting_on: str = "", ready: bool = False, ended_as: str = "") -> str:
    """How a job stands, in one sentence."""
    if ended_as:
        return say("You have it back, repaired.") if ended_as == "repaired" else say("You have it back, without a repair.")
    if ready:
        return say("It is ready. You can fetch it.")
    if waiting_on == "customer":
        return say("We wait for your word.")
    if waiting_on == "parts":
        return say("We wait for parts.")
    return _STAGES.get(stage, say("It is being repaired."))


#: What else stands on the customer's page.
PAGE: dict[str, str] = {
    "title": say("Your wheel"),
    "tag": say("Tag"),
    "name": say("Your name"),
    "agree": say("I agree"),
    "decline": say("I do not agree"),
    "together": say("Together, with all taxes"),
    "tax": say("of which tax"),
    "report": say("The report on your wheel, as PDF"),
    "order": say("With “I agree” you order this work at this price."),
    "agreed": say("You agreed. Thank you: we go on."),
    "declined": say("You did not agree. We leave the wheel as it is."),
    "who": say("Please write your name."),
    "over": say("This page is closed. Please call us."),
    "changed": say("What we propose has changed since. Please call us, or wait for our new question."),
    "ours": say("This is how the customer sees it. Only they answer here; at the counter their word is taken down."),
    "unknown": say("There is nothing here. Please check the address, or call the shop."),
    "often": say("Too often in a short time. Please wait ten minutes."),
}

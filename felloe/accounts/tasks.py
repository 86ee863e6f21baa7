"""Letters about one's own sign-in, by the worker: whoever asks learns nothing from how long it takes."""

from __future__ import annotations

from uuid import UUID

from procrastinate.contrib.django import app

from felloe.accounts.services import passwords


@app.task(queue="mail")
def send_letter(shop_code: str, username: str, language: str) -> None:
    passwords.send_letter(shop_code, username, language)


@app.task(queue="mail")
def tell_of_change(person_id: str, language: str) -> None:
    passwords.tell_of_change(UUID(person_id), language)

"""Letters about one's own sign-in, by the worker: whoever asks learns nothing from how long it takes."""

from __future__ import annotations

from procrastinate.contrib.django import app

from felloe.accounts.services import passwords


@app.task(queue="mail")
def send_letter(shop_code: str, username: str, language: str) -> None:
    passwords.send_letter(shop_code, username, language)

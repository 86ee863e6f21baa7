"""Open the first shop of this installation, with its owner."""

from __future__ import annotations

import getpass
import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from felloe.accounts.models import Shop
from felloe.accounts.services.shops import open_first_shop
from felloe.api.language import customers_languages
from felloe.api.problems import Refused


class Command(BaseCommand):
    help = "Open the first shop with its owner; does nothing where there is one."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--shop")
        parser.add_argument("--zone")
        parser.add_argument("--currency")
        parser.add_argument("--language", help="in which customers are written to until told otherwise")
        parser.add_argument("--owner", help="the name to sign in with")
        parser.add_argument("--owner-name", help="first and last name")
        parser.add_argument("--password-file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        there = Shop.objects.order_by("pk").first()
        if there is not None:
            self.stdout.write(f"· the shop “{there.name}” is there already and stays as it is")
            return
        shop = options["shop"] or self.ask("What is the shop called?")
        zone = options["zone"] or self.ask(
            "Its time zone?", Path("/etc/timezone").read_text().strip() if Path("/etc/timezone").exists() else "Europe/Lisbon"
        )
        currency = options["currency"] or self.ask("Its currency?", "EUR")
        spoken = ", ".join(customers_languages())
        language = options["language"] or self.ask(f"The language of its customers ({spoken})?", "en")
        owner = options["owner"] or self.ask("The owner signs in as?")
        called = options["owner_name"] or self.ask("The owner's first and last name?", owner.capitalize())
        try:
            password = self.password(options["password_file"])
            made = open_first_shop(shop, zone, currency, owner, called, password, language)
        except Refused as refused:
            raise CommandError("; ".join(error["message"] for error in refused.extra["errors"])) from refused
        self.stdout.write(f"· the shop “{made.name}” is open, times in {made.time_zone}; {owner} owns it")

    def ask(self, question: str, usual: str = "") -> str:
        if not os.isatty(0):
            if usual:
                return usual
            raise CommandError(f"{question} Nobody is here to answer: give it as a flag (see --help).")
        return input(f"{question} {f'[{usual}] ' if usual else ''}").strip() or usual

    def password(self, file: Path | None) -> str:
        if file is not None:
            return file.read_text(encoding="utf-8").strip()
        if not os.isatty(0):
            raise CommandError("The owner's first password? Nobody is here to answer: give --password-file.")
        first = getpass.getpass("The owner's password, ten characters or more: ")
        if first != getpass.getpass("Once more: "):
            raise CommandError("The two differ. Nothing was made; try again.")
        return first

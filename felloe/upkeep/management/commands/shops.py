"""The shops of this server: bin/felloe shops list|add|suspend|resume|limit|export|import|move|erase."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from felloe.accounts.models import Shop
from felloe.accounts.services import shops as accounts
from felloe.api.problems import Refused
from felloe.places.here import at, place, places
from felloe.upkeep.archive import Damaged
from felloe.upkeep.services import shops
from felloe.upkeep.services.database import Place
from felloe.upkeep.services.moving_shops import CannotMove, held_at, move_shop


class Command(BaseCommand):
    help = "List, add, suspend, limit, export, import and erase the shops of this server."

    def add_arguments(self, parser: CommandParser) -> None:
        deeds = parser.add_subparsers(dest="deed", required=True)
        deeds.add_parser("list", help="every shop with its people, open jobs and limits")
        add = deeds.add_parser("add", help="a new shop with its owner")
        for flag in ("--code", "--name", "--zone", "--owner", "--owner-name"):
            add.add_argument(flag, required=True)
        add.add_argument("--currency", default="EUR")
        add.add_argument("--language", default="en", help="in which its customers are written to until told otherwise")
        add.add_argument("--password-file", type=Path, required=True, help="the owner's first password")
        for deed, does in (("suspend", "nobody of it is let in any more"), ("resume", "let its people in again")):
            deeds.add_parser(deed, help=does).add_argument("code")
        limit = deeds.add_parser("limit", help="what it may have at most")
        limit.add_argument("code")
        for name in accounts.LIMITS:
            limit.add_argument(f"--{name.replace('_', '-')}", type=int)
        out = deeds.add_parser("export", help="all its rows into a new file")
        out.add_argument("code")
        out.add_argument("file", type=Path)
        deeds.add_parser("import", help="put an exported shop in").add_argument("file", type=Path)
        move = deeds.add_parser("move", help="to another place of this server (FELLOE_PLACES), equal row for row")
        move.add_argument("code")
        move.add_argument("to", metavar="PLACE", help=f"one of {', '.join(places())}")
        gone = deeds.add_parser("erase", help="every row of a suspended shop goes, for good")
        gone.add_argument("code")
        gone.add_argument("--really", required=True, metavar="CODE", help="the code once more")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            with at(self._where(options)):
                getattr(self, f"_{options['deed']}")(options)
        except Refused as refused:
            errors = refused.extra.get("errors") or [{"message": refused.detail}]
            raise CommandError("; ".join(error["message"] for error in errors)) from refused
        except (Shop.DoesNotExist, LookupError) as error:
            raise CommandError(f"there is no shop “{options['code']}” here; see: bin/felloe shops list") from error
        except (Damaged, PermissionError, OSError) as error:
            raise CommandError(str(error)) from error

    def _where(self, options: dict[str, Any]) -> str:
        """The place that a shop's code is found at; a new one goes to the place in force (FELLOE_PLACE)."""
        held = held_at(options["code"]) if options.get("code") else []
        if options["deed"] == "add" and held:
            raise CommandError(f"a shop “{options['code']}” is at “{held[0]}” already")
        return held[0] if held else place()

    def _move(self, options: dict[str, Any]) -> None:
        if options["to"] not in places():
            raise CommandError(f"there is no place “{options['to']}”: {', '.join(places())}")
        try:
            found = move_shop(options["code"], options["to"])
        except CannotMove as error:
            raise CommandError(str(error)) from error
        if found is None:
            self.stdout.write("· it was there already, equal row for row, and is erased where it was; it stays suspended")
            return
        rows = sum(table.rows for table in found.tables.values())
        self.stdout.write(f"· {rows} rows of {len(found.tables)} tables are at “{options['to']}”, equal row for row")
        self.stdout.write("· its people sign in anew; backups of the former place hold it until they are let go")

    def _list(self, options: dict[str, Any]) -> None:
        for name in places():
            with at(name):
                self._list_here("" if len(places()) == 1 else f", at {name}")

    def _list_here(self, where: str) -> None:
        for shop in Shop.objects.order_by("code"):
            people = shop.staff.filter(is_active=True).count()
            limits = ", ".join(f"{name.replace('_', ' ')} {getattr(shop, name)}" for name in accounts.LIMITS)
            state = f", suspended since {shop.suspended_at:%Y-%m-%d}" if shop.suspended_at else ""
            self.stdout.write(f"{shop.code}  {shop.name}: {people} people{state}{where}; {limits}")

    def _add(self, options: dict[str, Any]) -> None:
        password = options["password_file"].read_text(encoding="utf-8").strip()
        made = accounts.open_shop(
            options["name"], options["zone"], options["currency"], options["owner"], options["owner_name"], password,
            options["code"], options["language"],
        )  # fmt: skip
        self.stdout.write(f"· the shop “{made.name}” is open; its people sign in to {made.code}")

    def _suspend(self, options: dict[str, Any]) -> None:
        accounts.suspend(options["code"])
        self.stdout.write("· suspended: nobody of it is let in, nothing of it is lost")

    def _resume(self, options: dict[str, Any]) -> None:
        accounts.suspend(options["code"], until_told=False)
        self.stdout.write("· its people are let in again")

    def _limit(self, options: dict[str, Any]) -> None:
        given = {name: options[name] for name in accounts.LIMITS if options[name] is not None}
        if any(value < 0 for value in given.values()):
            raise CommandError("a limit is not below 0")
        accounts.limit(options["code"], **given)
        self._list(options)

    def _export(self, options: dict[str, Any]) -> None:
        found = shops.export_shop(Place.of_settings(), options["code"], options["file"])
        rows = sum(table.rows for table in found.tables.values())
        self.stdout.write(f"· {rows} rows of {len(found.tables)} tables. Guard the file: it holds names and hashed passwords")

    def _import(self, options: dict[str, Any]) -> None:
        elsewhere = [name for name in held_at(shops.opened(options["file"]).code) if name != place()]
        if elsewhere:
            raise CommandError(f"a shop of that code is at “{elsewhere[0]}” already")
        try:
            found = shops.import_shop(Place.of_settings(), options["file"])
        except shops.There as there:
            raise CommandError(f"“{there}” is here already") from there
        rows = sum(table.rows for table in found.tables.values())
        self.stdout.write(f"· {found.name}: {rows} rows of {len(found.tables)} tables, all equal to the file")

    def _erase(self, options: dict[str, Any]) -> None:
        if options["really"] != options["code"]:
            raise CommandError("the two codes differ: nothing was touched")
        try:
            gone = shops.erase_shop(Place.of_settings(), options["code"])
        except shops.There as there:
            raise CommandError("suspend it first: somebody may be at work in it") from there
        self.stdout.write(f"· {sum(gone.values())} rows are gone. Backups hold them until they are let go themselves")

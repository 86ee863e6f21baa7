"""Many shops on one server, as whoever runs it keeps them: opened, suspended, limited, taken out, put in elsewhere, erased."""

from __future__ import annotations

import io
import tempfile
import zipfile
from pathlib import Path
from typing import Any

from django.core.management import CommandError, call_command
from django.db import connection
from django.test import Client, TransactionTestCase

from felloe.accounts.models import Shop, SignedIn, User
from felloe.accounts.services import shops as accounts
from felloe.bench.models import Reading
from felloe.live.models import LiveEvent
from felloe.queue.models import Job
from felloe.queue.services.photos import add_photo
from felloe.stock import services as stock
from felloe.upkeep.archive import Damaged
from felloe.upkeep.services import shops
from felloe.upkeep.services.database import Place, tables_in
from tests.api.described import DescribedClient
from tests.api.shop import PRICES, ShopCase, open_job, person
from tests.api.test_counter import picture

PASSWORD = "a long password"


def said(*words: str) -> str:
    out = io.StringIO()
    call_command("shops", *words, stdout=out)
    return out.getvalue()


class Kept(ShopCase):
    def entered(self, shop: Shop, username: str) -> Any:
        return self.post("session", {"username": username, "password": PASSWORD, "shop": shop.code}, client=DescribedClient())

    def test_opened_with_an_owner_who_can_sign_in(self) -> None:
        with tempfile.NamedTemporaryFile("w") as file:
            file.write(PASSWORD)
            file.flush()
            words = ("--zone=Europe/Lisbon", "--owner=maud", "--owner-name=Maud Penhale", f"--password-file={file.name}")
            said("add", "--code=north-quay", "--name=North Quay", *words)
            for code in ("north-quay", "North Quay", "", "x" * 41):
                with self.assertRaises(CommandError):
                    said("add", f"--code={code}", "--name=Other", *words)
        made = Shop.objects.get(code="north-quay")
        self.assertEqual(self.entered(made, "maud").json()["role"], "owner")
        self.assertIn("north-quay  North Quay: 1 people", said("list"))

    def test_suspended_nobody_is_let_in_and_nobody_stays_in(self) -> None:
        self.assertEqual(self.get("rail").status_code, 200)
        said("suspend", self.shop.code)
        self.assertProblem(self.get("rail"), 403, "not_signed_in")
        self.assertProblem(self.entered(self.shop, "bram"), 400, "sign_in_failed")
        self.assertEqual(self.entered(self.elsewhere, "stranger").status_code, 200)
        said("resume", self.shop.code)
        self.assertEqual(self.entered(self.shop, "bram").status_code, 200)
        self.assertEqual(self.get("rail").status_code, 200)

    def test_limits_are_the_shops_own(self) -> None:
        job = open_job(self.bram)
        said("limit", self.shop.code, "--most-open-jobs=1", "--most-staff=2", "--most-photo-mb=0")
        from felloe.api.problems import Refused

        owner = self.speak_for(self.bram)
        with self.assertRaises(Refused) as full:
            open_job(self.bram)
        self.assertEqual(full.exception.code, "shop_full")
        open_job(self.stranger)
        new = {"username": "kit", "name": "Kit", "role": "mechanic", "password": PASSWORD}
        User.objects.filter(pk=self.bram.pk).update(role="owner")
        self.assertProblem(self.post("shop/staff", new, client=owner), 422, "shop_full")
        with self.assertRaises(Refused) as full:
            add_photo(self.bram, job.pk, picture((20, 20)))
        self.assertEqual(full.exception.code, "shop_full")
        with self.assertRaises(CommandError):
            said("limit", self.shop.code, "--most-staff=-1")
        with self.assertRaisesRegex(CommandError, "no shop"):
            said("limit", "nowhere", "--most-staff=1")


class Moved(TransactionTestCase):
    def setUp(self) -> None:
        self.here = Shop.objects.create(name="Here", code="here", prices_minor=PRICES)
        self.there = Shop.objects.create(name="There", code="there", prices_minor=PRICES)
        self.bram, self.ines = person(self.here, "bram"), person(self.there, "bram")
        for user in (self.bram, self.ines):
            client = DescribedClient()
            client.force_login(user)
            job = open_job(user)
            made = client.post(f"/api/v1/jobs/{job.pk}/reading-sets", {"stage": "as_found"}, format="json").json()["id"]
            for spoke in ("R1", "L1"):
                body = {"kind": "tension", "spoke": spoke, "value": 900, "unit": "N"}
                client.post(f"/api/v1/reading-sets/{made}/readings", body, format="json")
            part = stock.add_part(user, {"kind": "tape", "name": "Tape\t“21”\\", "attributes": {"width_mm": 21}})
            stock.count_bin(user, part.pk, 7)
            add_photo(user, job.pk, picture((40, 30)))
            self.entered(user)
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.folder / "here.felloe-shop"

    def entered(self, user: User) -> int:
        body = {"username": user.username, "password": PASSWORD, "shop": user.shop.code}
        return Client().post("/api/v1/session", body, content_type="application/json").status_code

    def held(self) -> dict[str, Any]:
        """Every table, as PostgreSQL writes its rows out, but what no shop owns."""
        with Place.of_settings().connect() as at:
            return {name: held for name, held in tables_in(at).items() if not name.startswith(("django_", "axes_"))}

    def without_numbers(self) -> dict[str, list[str]]:
        """The rows of tables that count themselves up, without the count."""
        found = {}
        with Place.of_settings().connect() as at:
            for name in ("trail_change", "api_writekey"):
                rows = at.execute(f"SELECT (to_jsonb(t) - 'id')::text FROM {name} t ORDER BY 1").fetchall()
                found[name] = [row[0] for row in rows]
        return found

    def test_out_erased_and_in_again_every_row_of_every_table_is_as_it_was(self) -> None:
        before, counted = self.held(), self.without_numbers()
        said("export", "here", str(self.file))
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        with self.assertRaisesRegex(CommandError, "suspend it first"):
            said("erase", "here", "--really=here")
        with self.assertRaisesRegex(CommandError, "differ"):
            said("erase", "here", "--really=there")
        self.assertEqual(self.held(), before)
        accounts.suspend("here")
        said("erase", "here", "--really=here")
        self.assertEqual(list(Shop.objects.all()), [self.there])
        self.assertEqual({user.shop_id for user in User.objects.all()}, {self.there.pk})
        self.assertEqual({job.shop_id for job in Job.objects.all()}, {self.there.pk})
        self.assertEqual(Reading.objects.count(), 2)
        self.assertEqual({row.person_id for row in SignedIn.objects.all()}, {self.ines.pk})
        with connection.cursor() as cursor:
            # Nothing of the shop is left in any column of any table.
            cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
            for (table,) in cursor.fetchall():
                cursor.execute(f"SELECT count(*) FROM {table} t WHERE t::text LIKE %s", [f"%{self.here.pk}%"])
                self.assertEqual(cursor.fetchone()[0], 0, table)
        said("import", str(self.file))
        after = self.held()
        # What has just changed was told to the pages that were open then, and is no news elsewhere.
        self.assertFalse(LiveEvent.objects.filter(shop_id=self.here.pk).exists())
        counts_up = set(counted) | {"links_linkvisit", "accounts_pintry", "live_liveevent"}
        self.assertEqual(
            {n: v for n, v in after.items() if n not in counts_up}, {n: v for n, v in before.items() if n not in counts_up}
        )
        self.assertEqual(self.without_numbers(), counted)
        # The first session went with the shop; whoever works there signs in again, and goes on where he was.
        self.assertEqual(self.entered(self.bram), 200)
        self.assertEqual(stock.figures_of(stock.parts_of(self.bram)[0]).on_hand, 7)

    def test_what_is_here_already_or_damaged_or_of_another_version_touches_nothing(self) -> None:
        shops.export_shop(Place.of_settings(), "here", self.file)
        before = self.held()
        with self.assertRaisesRegex(CommandError, "here already"):
            said("import", str(self.file))
        accounts.suspend("here")
        shops.erase_shop(Place.of_settings(), "here")
        bare = self.held()
        self.assertNotEqual(bare, before)
        for change in (self.cut, self.swapped, self.newer):
            bad = change()
            with self.assertRaises(CommandError, msg=change.__name__):
                said("import", str(bad))
            self.assertEqual(self.held(), bare, change.__name__)
        with self.assertRaisesRegex(CommandError, "no shop"):
            said("export", "nowhere", str(self.folder / "other"))
        self.assertFalse((self.folder / "other").exists())
        said("import", str(self.file))
        self.assertEqual(Shop.objects.count(), 2)

    def cut(self) -> Path:
        bad = self.folder / "cut"
        bad.write_bytes(self.file.read_bytes()[:-200])
        return bad

    def rewritten(self, name: str, change: Any) -> Path:
        bad = self.folder / f"changed-{name}"
        with zipfile.ZipFile(self.file) as old, zipfile.ZipFile(bad, "w") as new:
            for member in old.namelist():
                data = old.read(member)
                new.writestr(member, change(data) if member == name else data)
        return bad

    def swapped(self) -> Path:
        return self.rewritten("bench_reading", lambda data: data.replace(b"900", b"901", 1))

    def newer(self) -> Path:
        return self.rewritten(shops.MANIFEST, lambda data: data.replace(b'"migrations": ', b'"migrations": 9'))

    def test_a_row_that_points_at_nothing_is_refused(self) -> None:
        found = shops.export_shop(Place.of_settings(), "here", self.file)
        accounts.suspend("here")
        shops.erase_shop(Place.of_settings(), "here")
        with Place.of_settings().connect() as at:
            self.assertEqual(shops._astray(at, list(found.columns), self.there.pk), [])
            at.execute("SET session_replication_role = replica")
            at.execute("DELETE FROM wheels_wheel")
            self.assertIn("queue_job.wheel_id", shops._astray(at, list(found.columns), self.there.pk))

    def test_a_user_without_the_right_is_told_so(self) -> None:
        accounts.suspend("here")
        with Place.of_settings().connect() as at, at.transaction(force_rollback=True):
            at.execute("SET ROLE felloe_fenced")
            with self.assertRaisesRegex(PermissionError, "GRANT SET ON PARAMETER"):
                shops._without_triggers(at)
        self.assertRaises(Damaged, shops.opened, self.folder / "nothing")

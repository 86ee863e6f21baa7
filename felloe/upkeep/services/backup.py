"""Backing up while the shop works: one snapshot for the dump and for what every table holds."""

from __future__ import annotations

import os
import shutil
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path

from django.conf import settings
from django.db.migrations.recorder import MigrationRecorder
from django.utils import timezone

from felloe.accounts.models import User
from felloe.upkeep import answers
from felloe.upkeep.archive import DUMP, Damaged, Manifest, checked, seal, write
from felloe.upkeep.models import BackupRun
from felloe.upkeep.services.database import Place, tables_in
from felloe.upkeep.services.rotation import kept

SUFFIX = ".felloe-backup"
_STAMP = "%Y%m%dT%H%M%S%fZ"
#: After so many hours without a good backup the owner is warned.
WARN_AFTER_HOURS = 26
SHOWN = 10


def back_up(to: Path, passphrase: str, second: Path | None = None) -> BackupRun:
    """Make a backup in `to`, read it back, copy it to `second`, let go of old ones. A failure is noted, and raised.

    Raises ValueError for a passphrase that guards nothing, OSError or RuntimeError for what failed.
    """
    if len(passphrase) < 12:
        raise ValueError("the passphrase has at least 12 characters")
    at, began = timezone.now(), time.monotonic()
    try:
        made = _made(to, passphrase, at)
    except Exception as error:
        BackupRun.objects.create(at=at, good=False, seconds=time.monotonic() - began, reason=str(error)[:300])
        raise
    run = BackupRun(at=at, file=made.name, bytes=made.stat().st_size, good=True)
    try:
        if second is not None:
            _copied(made, second)
            run.copied = True
    except (OSError, Damaged) as error:
        run.reason = f"second place: {error}"[:300]
    for place in (to, second) if run.copied else (to,):
        if place is not None:
            _rotate(place)
    run.seconds = time.monotonic() - began
    run.save()
    return run


def _made(to: Path, passphrase: str, at: datetime) -> Path:
    to.mkdir(parents=True, exist_ok=True, mode=0o700)
    place = Place.of_settings()
    target = to / f"{at.astimezone(UTC):{_STAMP}}{SUFFIX}"
    with tempfile.TemporaryDirectory(dir=to, prefix=".making-") as folder, place.connect() as snapshot:
        # The dump and the count see the same moment, whatever is written meanwhile.
        snapshot.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
        row = snapshot.execute("SELECT pg_export_snapshot()").fetchone()
        assert row is not None
        dump = Path(folder, DUMP)
        place.run("pg_dump", ["-Fc", "--no-owner", f"--snapshot={row[0]}", "-f", str(dump)])
        tables = tables_in(snapshot)
        snapshot.execute("ROLLBACK")
        manifest = Manifest(at.isoformat(), MigrationRecorder.Migration.objects.count(), tables)
        unready = Path(folder, "unready")
        write(unready, manifest, dump, seal(secrets(), passphrase))
        checked(unready)
        # Only a whole one ever carries the name.
        os.replace(unready, target)
    return target


def secrets() -> dict[str, str]:
    """What no database holds, and without which sealed keys and links cannot be read, beside every FELLOE_ setting."""
    found = {key: value for key, value in os.environ.items() if key.startswith("FELLOE_") and "PASSPHRASE" not in key}
    return found | {
        "FELLOE_SECRET_KEY": str(settings.SECRET_KEY),
        "FELLOE_FORMER_SECRET_KEYS": ",".join(str(secret) for secret in settings.SECRET_KEY_FALLBACKS),
    }


def _copied(made: Path, second: Path) -> None:
    second.mkdir(parents=True, exist_ok=True, mode=0o700)
    unready = second / f".{made.name}"
    shutil.copyfile(made, unready)
    os.chmod(unready, 0o600)
    checked(unready)
    os.replace(unready, second / made.name)


def _rotate(place: Path) -> None:
    files = {}
    for file in place.glob(f"*{SUFFIX}"):
        try:
            files[datetime.strptime(file.name.removesuffix(SUFFIX), _STAMP).replace(tzinfo=UTC)] = file
        except ValueError:
            # Not one of ours: it stays.
            continue
    stay = kept(list(files))
    for at, file in files.items():
        if at not in stay:
            file.unlink()


def newest_backups(user: User) -> answers.Backups:
    """The last backups, and how old the last good one is, for the owner."""
    runs = list(BackupRun.objects.order_by("-at")[:SHOWN])
    good = BackupRun.objects.filter(good=True).order_by("-at").first()
    hours = (timezone.now() - good.at).total_seconds() / 3600 if good else None
    return answers.Backups(
        last_good_at=good.at if good else None,
        hours=round(hours, 1) if hours is not None else None,
        overdue=hours is None or hours > WARN_AFTER_HOURS,
        copied=good.copied if good else False,
        runs=[
            answers.Backup(
                at=run.at,
                file=run.file,
                bytes=run.bytes,
                seconds=round(run.seconds, 1),
                good=run.good,
                copied=run.copied,
                reason=run.reason,
            )
            for run in runs
        ],
    )

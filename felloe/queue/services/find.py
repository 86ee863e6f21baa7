"""One search over everything a caller may say: number, name, telephone, bike, asset number, words of the complaint."""

from __future__ import annotations

import re
from uuid import UUID

from django.contrib.postgres.search import SearchQuery, TrigramWordSimilarity
from django.db.models import Case, Func, Q, QuerySet, TextField, Value, When
from django.db.models.functions import Coalesce, Lower

from felloe.accounts import fence
from felloe.accounts.models import Shop, User
from felloe.queue.models import Job, JobFind
from felloe.queue.services.jobs import for_rail

#: So many hits are shown; whoever is not among them is asked for one word more.
MOST = 20
#: A slip of the pen is looked for where fewer than so many hits are exact.
FEW = 3
#: So many close spellings are weighed against each other.
WEIGHED = 60
#: The end of a telephone number, which every spelling of it shares: country code, trunk zero and spaces come before.
_PHONE_END = 8
_PHONE = re.compile(r"^[+(0-9][0-9 ()+./-]*$")
#: PostgreSQL's trigrams need three letters; shorter words are looked for as beginnings of words.
_TRIGRAM = 3


def _folded(user: User, text: str) -> str:
    """Lower case and without accents, by the very functions that wrote what is searched."""
    unaccented = Func(Value(text), function="unaccent", output_field=TextField())
    return str(Shop.objects.filter(pk=user.shop_id).values_list(Lower(unaccented), flat=True).get())


def find(user: User, text: str) -> list[Job]:
    """Jobs of the shop, open ones first, that fit every word of `text`; close spellings where few fit."""
    text = "".join(c if c.isprintable() else " " for c in text)
    words = _folded(user, text).split()[:8] if text.strip() else []
    if not words:
        return []
    return _jobs(user, _fitting(user, words, text))


def _fitting(user: User, words: list[str], text: str) -> list[UUID]:
    """Ids of jobs. Looked for outside of the fence, under which PostgreSQL may not use the trigrams' index (its operators are
    not leakproof); the jobs themselves are fetched within, where an id of another shop's finds nothing."""
    with fence.beyond():
        rows = JobFind.objects.filter(shop_id=user.shop_id)
        exact = list(_ordered(rows.filter(_every(words) | _phone(text)), text).values_list("job_id", flat=True)[:MOST])
        if len(exact) < FEW and len("".join(words)) > _TRIGRAM:
            exact += _close(rows.exclude(job_id__in=exact), " ".join(words))[: MOST - len(exact)]
        return exact


def _close(rows: QuerySet[JobFind], said: str) -> list[UUID]:
    """Close spellings, the nearest first. A common name fits thousands: only so many of them are weighed, open ones first."""
    near: list[tuple[float, UUID]] = []
    for is_open in (True, False):
        some = rows.filter(job__handed_back_at__isnull=is_open, words__trigram_word_similar=said)
        weighed = some.annotate(near=TrigramWordSimilarity(said, "words")).values_list("near", "job_id")[:WEIGHED]
        near += [(value - (0.0 if is_open else 0.05), job) for value, job in weighed]
    return [job for _, job in sorted(near, key=lambda found: (-found[0], str(found[1])))]


def _every(words: list[str]) -> Q:
    found = Q()
    for word in words:
        beginning = re.sub(r"[^\w]", "", word)
        if len(word) >= _TRIGRAM:
            found &= Q(words__contains=word)
        elif beginning:
            found &= Q(vector=SearchQuery(f"{beginning}:*", config="simple", search_type="raw"))
    return found or Q(pk__in=[])


def _phone(text: str) -> Q:
    digits = re.sub(r"[^0-9]", "", text)
    if not _PHONE.match(text.strip()) or len(digits) < 4:
        return Q(pk__in=[])
    return Q(digits__contains=digits[-_PHONE_END:])


def _ordered(rows: QuerySet[JobFind], text: str) -> QuerySet[JobFind]:
    """The job of that number first, then what is open, then the newest."""
    said = text.strip()
    number = int(said) if said.isascii() and said.isdigit() and len(said) < 10 else -1
    first = Case(When(job__number=number, then=Value(0)), When(job__handed_back_at=None, then=Value(1)), default=Value(2))
    return rows.order_by(first, Coalesce("job__handed_back_at", "job__created_at").desc(), "job_id")


def _jobs(user: User, ids: list[UUID]) -> list[Job]:
    found = for_rail(Job.objects.filter(shop_id=user.shop_id, pk__in=ids))
    by_id = {job.pk: job for job in found}
    return [by_id[pk] for pk in ids if pk in by_id]

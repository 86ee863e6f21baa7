"""Tax, quotes and what an approval is worth."""

from __future__ import annotations

import random
import unittest
from fractions import Fraction

from felloe.core.decision.options import RepairOption
from felloe.core.decision.prices import PriceList
from felloe.core.money.consent import Asked, consent_digits, consent_words, plain_words
from felloe.core.money.quote import BadExtra, BinPart, Extra, checked_extras, open_minor, quote, why_void
from felloe.core.money.tax import BadTax, Tax
from felloe.core.stock.worth import worth_of
from felloe.core.truing.tiers import FINE, SOUND

PRICES = PriceList({"labour_hour": 6000, "spoke": 150, "nipple": 50})


def option(key: str = "replace", minutes: float = 40, **parts: int) -> RepairOption:
    return RepairOption(key, key, minutes, parts, None, "", None, "", "")


class Taxes(unittest.TestCase):
    def test_worked_by_hand(self) -> None:
        # 19 % on 100.00; 119.00 with 19 % in it; 20 % in 9.99 is 1.665, and a half goes up.
        for tax, total, wanted in (
            (Tax(1900, False), 10_000, (10_000, 1900, 11_900)),
            (Tax(1900, True), 11_900, (10_000, 1900, 11_900)),
            (Tax(2000, True), 999, (832, 167, 999)),
            (Tax(0, True), 999, (999, 0, 999)),
            (Tax(550, False), 1, (1, 0, 1)),
            (Tax(500, False), 10, (10, 1, 11)),
        ):
            with self.subTest(tax=tax, total=total):
                found = tax.of(total)
                self.assertEqual((found.net_minor, found.tax_minor, found.gross_minor), wanted)

    def test_against_fractions_it_is_never_off_by_more_than_half_a_coin(self) -> None:
        rng = random.Random(4)
        for _ in range(2000):
            points, included, total = rng.randint(0, 5000), rng.random() < 0.5, rng.randint(0, 10**7)
            found = Tax(points, included).of(total)
            self.assertEqual(found.net_minor + found.tax_minor, found.gross_minor)
            self.assertEqual(found.gross_minor if included else found.net_minor, total)
            exact = Fraction(points, 10_000) * (Fraction(total) / (1 + Fraction(points, 10_000)) if included else total)
            self.assertLessEqual(abs(found.tax_minor - exact), Fraction(1, 2))

    def test_rates_that_cannot_be(self) -> None:
        for points in (-1, 5001):
            with self.assertRaises(BadTax):
                Tax(points)


class Quotes(unittest.TestCase):
    def test_line_by_line(self) -> None:
        made = quote([option(minutes=40, spoke=3, nipple=3), option("true", 30)], PRICES, tax=Tax(1900, False))
        self.assertEqual(
            [(line.kind, line.count, line.unit_minor, line.total_minor) for line in made.lines],
            [
                ("labour", 40, 6000, 4000),
                ("parts", 3, 150, 450),
                ("parts", 3, 50, 150),
                ("labour", 30, 6000, 3000),
            ],
        )
        self.assertEqual(made.amounts and made.amounts.gross_minor, 7600 + 1444)

    def test_picked_parts_stand_at_their_bins_price_and_once_only(self) -> None:
        bins = [BinPart("spoke", "DB 1.8, 288", 2, 210), BinPart("spoke", "no price", 5, None), BinPart("rim", "Rim", 1, 9900)]
        made = quote([option(minutes=0, spoke=3), option(minutes=0, spoke=1)], PRICES, bins)
        self.assertEqual(
            [(line.what, line.count, line.unit_minor) for line in made.lines],
            [("DB 1.8, 288", 2, 210), ("Spoke", 1, 150), ("Spoke", 1, 150)],
        )

    def test_what_has_no_price_has_no_total(self) -> None:
        made = quote([option(rim=1)], PRICES)
        self.assertIsNone(made.amounts)
        self.assertEqual(made.missing, ("Rim",))

    def test_what_the_shop_adds_and_takes_off(self) -> None:
        made = quote([option(minutes=60)], PRICES, extras=[Extra("Tube", 700), Extra("For the wait", -1700)])
        self.assertEqual(made.amounts and made.amounts.gross_minor, 5000)
        below = quote([option(minutes=60)], PRICES, extras=[Extra("Too much", -6001)])
        self.assertIsNone(below.amounts)
        self.assertIn("more than the price", below.refusal)
        free = quote([option(minutes=60)], PRICES, extras=[Extra("Goodwill", -6000)])
        self.assertEqual(free.amounts and free.amounts.gross_minor, 0)
        waiting = quote([], PRICES, extras=[Extra("For the wait", -500)])
        self.assertEqual((waiting.amounts, waiting.refusal, len(waiting.lines)), (None, "", 1))
        for what, amount in (("", 5), ("  ", 5), ("x", 0), ("x", 10_000_001)):
            with self.assertRaises(BadExtra):
                Extra(what, amount)
        with self.assertRaises(BadExtra):
            checked_extras([Extra("x", 1)] * 21)

    def test_an_approval_stands_until_tier_or_quote_change(self) -> None:
        agreed = {"tier": "sound", "quote": 1}
        self.assertEqual(why_void(agreed, dict(agreed)), "")
        self.assertIn("tier", why_void(agreed, {"tier": "fine", "quote": 1}))
        self.assertIn("quote", why_void(agreed, {"tier": "sound", "quote": 2}))

    def test_what_stands_open(self) -> None:
        self.assertEqual(open_minor(5000, []), 5000)
        self.assertEqual(open_minor(5000, [2000, 4000, -1000]), 0)
        self.assertEqual(open_minor(None, [100]), -100)


class Worth(unittest.TestCase):
    def test_of_bins(self) -> None:
        self.assertEqual(worth_of([(3, 150), (0, 900), (-2, 100), (4, None), (1, 0)]), (450, 1))
        self.assertEqual(worth_of([]), (0, 0))


class Consent(unittest.TestCase):
    def test_everything_that_is_agreed_is_said(self) -> None:
        asked = Asked(
            "The Room",
            41,
            "Tourer",
            "True the wheel",
            "€ 42.00",
            plain_words(SOUND),
            "Thursday, 16:00",
            "It is cracked.",
            "407",
        )
        said = " ".join(consent_words(asked))
        for part in (
            "The Room",
            "41",
            "Tourer",
            "True the wheel",
            "€ 42.00",
            "straight",
            "Thursday, 16:00",
            "It is cracked.",
            "4 0 7",
        ):
            self.assertIn(part, said)
        self.assertIn(
            "tell you the day", " ".join(consent_words(Asked("S", 1, "B", "w", "p", plain_words(FINE), "", "", "000")))
        )

    def test_digits_are_those_of_one_question(self) -> None:
        found = [consent_digits(b"secret", "shop", "job", price) for price in range(3000)]
        self.assertEqual({len(digits) for digits in found}, {3})
        self.assertTrue(all(digits.isdigit() for digits in found))
        # Alike: each of ten thousand would be about as often as the next.
        self.assertGreater(len(set(found)), 900)
        self.assertEqual(consent_digits(b"secret", 1, 2), consent_digits(b"secret", 1, 2))
        self.assertNotEqual([consent_digits(b"a", i) for i in range(20)], [consent_digits(b"b", i) for i in range(20)])

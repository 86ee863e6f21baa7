"""Bundles: a wheel, a customer or a whole shop as one open file, and taking a wheel or a customer in."""

from felloe.portable.services.out import customer_bundle, shop_bundle, wheel_bundle
from felloe.portable.services.send import send_customer, sent_of
from felloe.portable.services.take import take_in
from felloe.portable.services.underway import how_far

__all__ = ["customer_bundle", "how_far", "send_customer", "sent_of", "shop_bundle", "take_in", "wheel_bundle"]

"""Errors of the trade. Each carries the field it is about and a message fit for the bench."""

from __future__ import annotations


class TradeError(ValueError):
    """Something that a wheel, a reading or a record cannot be.

    `field` is a dotted path to the value at fault ("rim.erd_mm"), empty when the whole is at fault.
    `code` is stable, for programs; the message is for people.
    """

    code = "trade_error"

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field

    def under(self, prefix: str) -> TradeError:
        """The same error, its field placed below `prefix`."""
        path = f"{prefix}.{self.field}" if self.field else prefix
        return type(self)(self.message, path)


class ImpossibleGeometry(TradeError):
    """Dimensions that no wheel can have."""

    code = "impossible_geometry"


class UnknownSpoke(TradeError):
    """A spoke name that is malformed or that this wheel does not have."""

    code = "unknown_spoke"


class OutsideCalibration(TradeError):
    """A meter reading that its table does not cover: refused, never extrapolated."""

    code = "outside_calibration"


class BadTable(TradeError):
    """A meter table that is not a usable calibration."""

    code = "bad_table"


class BadReading(TradeError):
    """A reading that no wheel gives."""

    code = "bad_reading"


class BadRecord(TradeError):
    """A wheel record that cannot be read: not JSON, wrong shape, wrong version, too large."""

    code = "bad_record"


class UnsolvableWheel(TradeError):
    """A wheel that is well described, but that the mechanical model cannot hold in balance."""

    code = "unsolvable_wheel"

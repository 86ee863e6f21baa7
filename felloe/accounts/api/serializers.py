from __future__ import annotations

from typing import Any

from django.conf import settings
from rest_framework import serializers

from felloe.accounts import answers
from felloe.accounts.models import Shop, User
from felloe.accounts.rights import Role, rights_of
from felloe.accounts.services import second_factor
from felloe.api.answers import AnswerSerializer
from felloe.api.moments import moment_now


class PersonSerializer(serializers.ModelSerializer[User]):
    name = serializers.CharField(source="display_name", read_only=True)

    class Meta:
        model = User
        fields = ["id", "username", "name", "role"]
        read_only_fields = fields


class StaffSerializer(serializers.ModelSerializer[User]):
    """A person as the owner sees him. `has_pin`: there are digits for a quick change at a shared tablet."""

    name = serializers.CharField(source="display_name", read_only=True)
    has_pin = serializers.SerializerMethodField()
    second_factor = serializers.SerializerMethodField()
    skills = serializers.ListField(child=serializers.CharField(), read_only=True)

    class Meta:
        model = User
        fields = ["id", "username", "name", "role", "skills", "is_active", "has_pin", "second_factor", "version"]
        read_only_fields = fields

    def get_second_factor(self, user: User) -> bool:
        # The list has asked for all at once.
        known = getattr(user, "factor_on", None)
        return second_factor.is_on(user) if known is None else bool(known)

    def get_has_pin(self, user: User) -> bool:
        return bool(user.pin)


class StaffAddSerializer(serializers.Serializer[Any]):
    username = serializers.RegexField(r"^[\w.@+-]+$", max_length=60)
    name = serializers.CharField(max_length=120)
    role = serializers.ChoiceField(choices=Role.choices)
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    skills = serializers.ListField(child=serializers.CharField(max_length=20), required=False, max_length=20)


class StaffChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    name = serializers.CharField(max_length=120, required=False)
    role = serializers.ChoiceField(choices=Role.choices, required=False)
    is_active = serializers.BooleanField(required=False)
    password = serializers.CharField(max_length=200, trim_whitespace=False, required=False, allow_blank=True)
    sign_out = serializers.BooleanField(required=False, help_text="Everywhere, as when a tablet was lost")
    drop_second_factor = serializers.BooleanField(required=False)
    skills = serializers.ListField(child=serializers.CharField(max_length=20), required=False, max_length=20)


class PinSetSerializer(serializers.Serializer[Any]):
    pin = serializers.CharField(max_length=8, allow_blank=True)


class PinSerializer(serializers.Serializer[Any]):
    person = serializers.UUIDField()
    pin = serializers.CharField(max_length=8)


class ShopSerializer(serializers.ModelSerializer[Shop]):
    letter_texts = serializers.DictField(child=serializers.CharField(max_length=500, allow_blank=True), required=False)

    class Meta:
        model = Shop
        fields = [
            "name",
            "address",
            "phone",
            "email",
            "promise_line_percent",
            "interrupted_percent",
            "language",
            "letter_texts",
            "tag_text",
            "keep_photos_months",
            "keep_letters_months",
            "keep_customers_months",
            "version",
        ]
        extra_kwargs = {
            "keep_photos_months": {"max_value": 240},
            "keep_letters_months": {"max_value": 240},
            "keep_customers_months": {"max_value": 240},
            "promise_line_percent": {"min_value": 50, "max_value": 99},
            "interrupted_percent": {"min_value": 0, "max_value": 70},
            "version": {"read_only": False},
        }


class SessionSerializer(serializers.ModelSerializer[User]):
    name = serializers.CharField(source="display_name", read_only=True)
    shop = serializers.CharField(source="shop.name", read_only=True)
    shop_code = serializers.CharField(source="shop.code", read_only=True)
    time_zone = serializers.CharField(source="shop.time_zone", read_only=True)
    several_shops = serializers.SerializerMethodField(help_text="Whether this person has a name in another shop too")
    rights = serializers.SerializerMethodField(help_text="The operations that this person may carry out")
    live = serializers.SerializerMethodField(help_text="Where changes are heard: a path, or a port of this host")
    moment = serializers.SerializerMethodField(help_text="From when on changes are to be heard")

    class Meta:
        model = User
        fields = [
            *("id", "username", "name", "role", "shop", "shop_code", "time_zone", "force_unit", "several_shops"),
            *("rights", "live", "moment"),
        ]
        read_only_fields = fields

    def get_several_shops(self, user: User) -> bool:
        return user.one_person is not None

    def get_rights(self, user: User) -> list[str]:
        return rights_of(user.role)

    def get_live(self, user: User) -> str:
        return str(settings.FELLOE_LIVE)

    def get_moment(self, user: User) -> str:
        return moment_now()


class SignInSerializer(serializers.Serializer[Any]):
    """`shop` is its code, needed where several work on the server; `code` is asked for where there is a second factor."""

    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    shop = serializers.CharField(max_length=40, required=False, allow_blank=True)
    code = serializers.CharField(max_length=20, required=False, allow_blank=True)


class LetterAskSerializer(serializers.Serializer[Any]):
    username = serializers.CharField(max_length=150)
    shop = serializers.CharField(max_length=40, required=False, allow_blank=True)


class NewPasswordSerializer(serializers.Serializer[Any]):
    """By the link of the letter."""

    person = serializers.UUIDField()
    token = serializers.CharField(max_length=100)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class PasswordSerializer(serializers.Serializer[Any]):
    old = serializers.CharField(max_length=200, trim_whitespace=False)
    new = serializers.CharField(max_length=200, trim_whitespace=False)


class ProofSerializer(serializers.Serializer[Any]):
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class CodeSerializer(serializers.Serializer[Any]):
    code = serializers.CharField(max_length=20)


class AddressSerializer(serializers.Serializer[Any]):
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    email = serializers.EmailField(max_length=200, allow_blank=True)


class BranchJoinSerializer(serializers.Serializer[Any]):
    """The other name: of which shop, and what proves that it is his."""

    shop = serializers.CharField(max_length=40)
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)
    code = serializers.CharField(max_length=20, required=False, allow_blank=True)


class BranchGoSerializer(serializers.Serializer[Any]):
    branch = serializers.UUIDField()


class OwnAccountSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.OwnAccount


class NewFactorSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.NewFactor


class SpareCodesSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpareCodes


class SettingsSerializer(serializers.Serializer[Any]):
    force_unit = serializers.ChoiceField(choices=User.ForceUnit.choices)

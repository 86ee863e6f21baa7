from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.accounts.models import User
from felloe.accounts.rights import rights_of


class PersonSerializer(serializers.ModelSerializer[User]):
    name = serializers.CharField(source="display_name", read_only=True)

    class Meta:
        model = User
        fields = ["id", "username", "name", "role"]
        read_only_fields = fields


class SessionSerializer(serializers.ModelSerializer[User]):
    name = serializers.CharField(source="display_name", read_only=True)
    shop = serializers.CharField(source="shop.name", read_only=True)
    rights = serializers.SerializerMethodField(help_text="The operations that this person may carry out")

    class Meta:
        model = User
        fields = ["id", "username", "name", "role", "shop", "force_unit", "rights"]
        read_only_fields = fields

    def get_rights(self, user: User) -> list[str]:
        return rights_of(user.role)


class SignInSerializer(serializers.Serializer[Any]):
    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


class SettingsSerializer(serializers.Serializer[Any]):
    force_unit = serializers.ChoiceField(choices=User.ForceUnit.choices)

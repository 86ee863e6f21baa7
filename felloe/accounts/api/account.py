"""One's own sign-in: password, address, second factor, and where one is signed in. None of it by digits only."""

from __future__ import annotations

from uuid import UUID

from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.throttling import SimpleRateThrottle
from rest_framework.views import APIView

from felloe.accounts import answers, fence, tasks
from felloe.accounts.api import serializers as s
from felloe.accounts.api.operations import operation, staff
from felloe.accounts.services import branches, passwords, second_factor, sessions
from felloe.accounts.services.sign_in_tries import address_of
from felloe.api.checked import checked
from felloe.api.language import asked_for


def _account(request: Request) -> Response:
    person = staff(request)
    return Response(
        s.OwnAccountSerializer(
            answers.OwnAccount(
                email=person.email,
                second_factor=second_factor.is_on(person),
                spare_codes=second_factor.spare_left(person),
                sessions=sessions.sessions_of(person, request._request.session.session_key),
                branches=branches.branches_of(person),
            )
        ).data
    )


def _tell_of_change(request: Request, person_id: UUID) -> None:
    """By the worker: a mail server that is away undoes no change, and holds nobody up."""
    language = asked_for(request.headers.get("Accept-Language", ""))
    tasks.tell_of_change.defer(person_id=str(person_id), language=language)


class LettersAsked(SimpleRateThrottle):
    """So many letters are asked for from one address; to one person fewer go, see `passwords.BETWEEN_LETTERS`."""

    rate = "20/hour"

    def get_cache_key(self, request: Request, view: object) -> str | None:
        return f"letters-{address_of(request._request)}" if request.method == "POST" else None


@method_decorator(csrf_protect, name="dispatch")
class NewPasswordView(APIView):
    """For whom does not know the password any more: a letter is asked for, and its link sets a new one."""

    throttle_classes = [LettersAsked]

    @operation("session_letter", request=s.LetterAskSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        values = checked(s.LetterAskSerializer, request.data)
        shop = passwords.shop_meant(values.get("shop", ""))
        language = asked_for(request.headers.get("Accept-Language", ""))
        tasks.send_letter.defer(
            shop_code=shop.code if shop else "", username=values["username"].strip().lower(), language=language
        )
        return Response(status=204)

    @operation("session_reset", request=s.NewPasswordSerializer, responses={204: None})
    def put(self, request: Request) -> Response:
        values = checked(s.NewPasswordSerializer, request.data)
        passwords.set_anew(values["person"], values["token"], values["password"])
        _tell_of_change(request, values["person"])
        return Response(status=204)


class AccountView(APIView):
    @operation("own_account", responses=s.OwnAccountSerializer)
    def get(self, request: Request) -> Response:
        return _account(request)

    @operation("account_address", request=s.AddressSerializer, responses=s.OwnAccountSerializer)
    def patch(self, request: Request) -> Response:
        values = checked(s.AddressSerializer, request.data)
        passwords.prove(request._request, staff(request), values["password"])
        passwords.set_address(staff(request), values["email"])
        return _account(request)


class PasswordView(APIView):
    @operation("account_password", request=s.PasswordSerializer, responses=s.OwnAccountSerializer)
    def post(self, request: Request) -> Response:
        values = checked(s.PasswordSerializer, request.data)
        passwords.change_password(request._request, staff(request), values["old"], values["new"])
        _tell_of_change(request, staff(request).pk)
        return _account(request)


class OtherSessionsView(APIView):
    @operation("sessions_close", request=None, responses={200: s.OwnAccountSerializer})
    def delete(self, request: Request) -> Response:
        sessions.end_all(staff(request), request._request.session.session_key)
        return _account(request)


class OtherSessionView(APIView):
    @operation("session_close", request=None, responses={200: s.OwnAccountSerializer})
    def delete(self, request: Request, session_id: UUID) -> Response:
        sessions.end_session(staff(request), session_id)
        return _account(request)


class SecondFactorView(APIView):
    """Begin (POST, with the password), confirm with a code (PUT), and end (PATCH, with the password)."""

    @operation("factor_begin", request=s.ProofSerializer, responses={201: s.NewFactorSerializer})
    def post(self, request: Request) -> Response:
        values = checked(s.ProofSerializer, request.data)
        passwords.prove(request._request, staff(request), values["password"])
        return Response(s.NewFactorSerializer(second_factor.begin(staff(request))).data, status=201)

    @operation("factor_confirm", request=s.CodeSerializer, responses=s.SpareCodesSerializer)
    def put(self, request: Request) -> Response:
        code = checked(s.CodeSerializer, request.data)["code"]
        return Response(s.SpareCodesSerializer(second_factor.confirm(staff(request), code)).data)

    @operation("factor_end", request=s.ProofSerializer, responses=s.OwnAccountSerializer)
    def patch(self, request: Request) -> Response:
        values = checked(s.ProofSerializer, request.data)
        passwords.prove(request._request, staff(request), values["password"])
        second_factor.end(staff(request))
        return _account(request)


class BranchesView(APIView):
    """Who works in several shops: names are joined once (POST), or parted again (DELETE)."""

    @operation("branch_join", request=s.BranchJoinSerializer, responses=s.OwnAccountSerializer)
    def post(self, request: Request) -> Response:
        values = checked(s.BranchJoinSerializer, request.data)
        branches.join(
            request._request, staff(request), values["shop"], values["username"], values["password"], values.get("code", "")
        )
        staff(request).refresh_from_db(fields=["one_person"])
        return _account(request)

    @operation("branch_part", request=None, responses={200: s.OwnAccountSerializer})
    def delete(self, request: Request) -> Response:
        branches.part(staff(request))
        staff(request).refresh_from_db(fields=["one_person"])
        return _account(request)


class BranchView(APIView):
    """The tablet goes on in another shop of the same person."""

    @operation("branch_go", request=s.BranchGoSerializer, responses=s.SessionSerializer)
    def post(self, request: Request) -> Response:
        there = branches.go_to(request._request, staff(request), checked(s.BranchGoSerializer, request.data)["branch"])
        with fence.within(there.shop_id):
            return Response(s.SessionSerializer(there).data)

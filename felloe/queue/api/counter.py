"""Photos, the tag and the signature of a job."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.conf import settings
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.renderers import JSONRenderer
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.squares import rows_of
from felloe.api.write_keys import write_once
from felloe.queue import answers
from felloe.queue import services as queue
from felloe.queue.models import Photo, Signature
from felloe.queue.services import counter, photos


class PhotoSerializer(serializers.ModelSerializer[Photo]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = Photo
        fields = ["id", "caption", "width", "height", "by", "created_at"]
        read_only_fields = fields


class SignatureSerializer(serializers.ModelSerializer[Signature]):
    strokes = serializers.ListField(
        child=serializers.ListField(child=serializers.ListField(child=serializers.FloatField())), read_only=True
    )
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = Signature
        fields = ["id", "purpose", "name", "strokes", "by", "created_at"]
        read_only_fields = fields


class SignatureRequestSerializer(serializers.Serializer[Any]):
    purpose = serializers.ChoiceField(choices=Signature.Purpose.choices)
    name = serializers.CharField(max_length=120)
    strokes = serializers.ListField(
        child=serializers.ListField(child=serializers.ListField(child=serializers.FloatField(), max_length=2), max_length=4000),
        required=False,
        max_length=60,
    )


class TagSerializer(AnswerSerializer):
    signatures = SignatureSerializer(many=True)

    class Meta:
        dataclass = answers.Tag


class PictureParser(BaseParser):
    """The raw bytes of a picture, one byte past the limit at most; the service says what is wrong with them."""

    media_type = "image/*"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"photo": stream.read(photos.MOST_BYTES + 1)}  # type: ignore[attr-defined]


class JpegRenderer(JSONRenderer):
    """Lets a browser ask for a picture; a picture is answered past it, so what it renders are refusals."""

    media_type = "image/jpeg"
    format = "jpg"


class PhotosView(APIView):
    def get_parsers(self) -> list[BaseParser]:
        return [PictureParser()]

    @operation("photos", responses=PhotoSerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(PhotoSerializer(photos.photos_of(staff(request), job_id), many=True).data)

    @operation(
        "photo_add",
        request={"image/jpeg": OpenApiTypes.BINARY},
        parameters=[OpenApiParameter("caption", str)],
        responses={201: PhotoSerializer},
    )
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        sent: dict[str, bytes] = dict(request.data)
        made = photos.add_photo(staff(request), job_id, sent.get("photo", b""), request.query_params.get("caption", ""))
        return Response(PhotoSerializer(made).data, status=201)


class PhotoView(APIView):
    renderer_classes = [JpegRenderer, JSONRenderer]

    @operation("photo_pixels", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, photo_id: UUID) -> HttpResponse:
        photo = photos.find_photo(staff(request), photo_id)
        answer = HttpResponse(bytes(photo.data), content_type="image/jpeg")
        answer["Cache-Control"] = "private, max-age=31536000, immutable"
        return answer


class TagView(APIView):
    @operation("tag", responses=TagSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        job = queue.find_job(staff(request), job_id)
        base = settings.FELLOE_ADDRESS or request.build_absolute_uri("/")
        address = f"{base.rstrip('/')}/jobs/{job.pk}"
        value = answers.Tag(
            address=address,
            rows=rows_of(address),
            shop=staff(request).shop.name,
            own_text=staff(request).shop.tag_text,
            signatures=counter.signatures_of(job),
        )
        return Response(TagSerializer(value).data)


class SignaturesView(APIView):
    @operation("sign", request=SignatureRequestSerializer, responses={201: SignatureSerializer})
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = SignatureRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        made = counter.sign(staff(request), job_id, values["purpose"], values["name"], values.get("strokes", []))
        return Response(SignatureSerializer(made).data, status=201)

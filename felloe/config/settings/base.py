"""Settings common to every way of running Felloe. Secrets and places come from the environment."""

from __future__ import annotations

import os
from datetime import timedelta
from ipaddress import ip_network
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

from felloe.config.logs import settings_of
from felloe.places.said import more_places

ROOT = Path(__file__).resolve().parents[3]
WEB_DIST = ROOT / "web" / "dist"
STATE_DIR = Path(os.environ.get("FELLOE_STATE", ROOT / ".felloe"))

SECRET_KEY = os.environ.get("FELLOE_SECRET_KEY", "")
#: Former secrets, with commas between: what they sealed and signed is still read.
SECRET_KEY_FALLBACKS = [secret for secret in os.environ.get("FELLOE_FORMER_SECRET_KEYS", "").split(",") if secret]
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost"]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django.contrib.postgres",
    "csp",
    "axes",
    "rest_framework",
    "drf_spectacular",
    "felloe.api",
    "felloe.accounts",
    "felloe.customers",
    "felloe.wheels",
    "felloe.calendar",
    "felloe.signing",
    "felloe.upkeep",
    "felloe.queue",
    "felloe.condition",
    "felloe.stock",
    "felloe.instruments",
    "felloe.bench",
    "felloe.building",
    "felloe.repair",
    "felloe.promises",
    "felloe.records",
    "felloe.trail",
    "felloe.links",
    "felloe.report",
    "felloe.fleet",
    "felloe.practice",
    "felloe.messages",
    "felloe.privacy",
    "felloe.portable",
    "felloe.live",
    "felloe.demo",
    "procrastinate.contrib.django",
]

MIDDLEWARE = [
    "felloe.config.observed.observed",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "felloe.api.middleware.Compressed",
    "csp.middleware.CSPMiddleware",
    "felloe.places.asked.by_cookie",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "felloe.api.language.by_language",
    "felloe.api.middleware.signed_answers",
    "felloe.api.middleware.keepable_questions",
]

ROOT_URLCONF = "felloe.config.urls"
WSGI_APPLICATION = "felloe.config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [WEB_DIST],
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("FELLOE_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("FELLOE_DB_PORT", "5432"),
        "NAME": os.environ.get("FELLOE_DB_NAME", "felloe"),
        "USER": os.environ.get("FELLOE_DB_USER", "felloe"),
        "PASSWORD": os.environ.get("FELLOE_DB_PASSWORD", ""),
        # With a pooler between (deploy/cluster/pgbouncer.ini) a connection goes back to it with its request: 0.
        "CONN_MAX_AGE": int(os.environ.get("FELLOE_DB_KEEP_S", "60")),
        "CONN_HEALTH_CHECKS": True,
    }
}

# Whole shops may live in other databases, and what is only read be asked of a standby (felloe/places/).
DATABASES |= more_places(DATABASES["default"], os.environ)
DATABASE_ROUTERS = ["felloe.places.router.Router"]

#: A worker serves one place, and what is asked for there goes into its queue.
PROCRASTINATE_DATABASE_ALIAS = os.environ.get("FELLOE_PLACE") or "default"
PROCRASTINATE_ON_APP_READY = "felloe.places.tasks.follow_place"

AUTH_USER_MODEL = "accounts.User"
PASSWORD_HASHERS = ["felloe.accounts.hashing.BoundedArgon2"]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "felloe.accounts.backend.ShopBackend"]
#: A name from an address, not an address: behind one there is a whole shop.
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_RESET_ON_SUCCESS = True
AXES_CLIENT_IP_CALLABLE = "felloe.accounts.services.sign_in_tries.address_of"
AXES_USERNAME_CALLABLE = "felloe.accounts.services.sign_in_tries.name_of"
#: Failures stand in the database with name and address; who came in and when is nobody's business.
AXES_ENABLE_ACCESS_FAILURE_LOG = True
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
#: Its middleware answers for Django's own forms; here the service refuses before it asks.
#: Names are somebody's within a shop: our own backend asks for both.
SILENCED_SYSTEM_CHECKS = ["axes.W002", "auth.W004"]
#: For the link in the letter that a new password is asked for with.
PASSWORD_RESET_TIMEOUT = 60 * 60
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
CSRF_FAILURE_VIEW = "felloe.api.problems.csrf_failure"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 14
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
STATIC_ROOT = STATE_DIR / "static"
STATICFILES_DIRS = [WEB_DIST] if WEB_DIST.is_dir() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
# Vite puts an eight-character hash in every asset's name, so these may be cached for ever.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+$"

#: What the QR code on a tag opens, where the shop's own address differs from the one that is asked for.
FELLOE_ADDRESS = os.environ.get("FELLOE_ADDRESS", "")
#: Where instruments that stream over TCP may be looked for.
FELLOE_INSTRUMENT_NETWORKS = [
    # A network that is none stops the server here, with its text, and not a request later.
    str(ip_network(net.strip()))
    for net in os.environ.get("FELLOE_INSTRUMENT_NETWORKS", "").split(",")
    if net.strip()
]
#: Mail: Django's own settings, from the environment.
EMAIL_BACKEND = os.environ.get("FELLOE_MAIL_BACKEND", "django.core.mail.backends.smtp.EmailBackend")
EMAIL_HOST = os.environ.get("FELLOE_MAIL_HOST", "127.0.0.1")
EMAIL_PORT = int(os.environ.get("FELLOE_MAIL_PORT", "25"))
EMAIL_HOST_USER = os.environ.get("FELLOE_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("FELLOE_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("FELLOE_MAIL_TLS", "") == "yes"
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = os.environ.get("FELLOE_MAIL_FROM", "workshop@localhost")
#: Where the live process is heard: a path of this address, as in /live, or a port of this host, as in :8461. Empty: nowhere.
FELLOE_LIVE = os.environ.get("FELLOE_LIVE", "")
#: A worker (`manage.py procrastinate worker`) runs, and plays the queue beside the questions; without it they wait for it.
FELLOE_PLAYS_ASIDE = os.environ.get("FELLOE_PLAYS_ASIDE", "") == "1"
DATA_UPLOAD_MAX_MEMORY_SIZE = 2_500_000

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF],
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "worker-src": [SELF],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
        "object-src": [NONE],
    }
}

#: Offer the pseudo-language too, in which a sentence that was missed stays plain English.
FELLOE_PSEUDO_LANGUAGE = False
REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["rest_framework.authentication.SessionAuthentication"],
    "DEFAULT_PERMISSION_CLASSES": ["felloe.accounts.api.permissions.MayDoIt"],
    "DEFAULT_RENDERER_CLASSES": ["felloe.api.language.SpokenRenderer"],
    "DEFAULT_PARSER_CLASSES": ["felloe.api.parsing.KeepableJSONParser"],
    "EXCEPTION_HANDLER": "felloe.api.problems.problem_response",
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "UNAUTHENTICATED_USER": "django.contrib.auth.models.AnonymousUser",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Felloe",
    "DESCRIPTION": "The wheel bench of a bicycle shop. Lengths in mm, forces in N, angles in degrees, turns + tighten.",
    "VERSION": "1",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "SCHEMA_PATH_PREFIX": "/api/v1",
    "ENUM_NAME_OVERRIDES": {
        "EndEnum": "felloe.records.api.ending.WITHOUT_REPAIR",
        "RequirementKeyEnum": "felloe.records.api.serializers.REQUIREMENT_KEYS",
        "PlaceKindEnum": "felloe.queue.models.Place.Kind",
        "DeskTaskEnum": "felloe.core.promise.desk.ORDER",
        "StageEnum": "felloe.queue.api.serializers.ALL_STAGES",
        "OpenStageEnum": "felloe.queue.api.serializers.STAGE_CHOICES",
        "SetStageEnum": "felloe.bench.models.ReadingSet.Stage",
        "PracticeModeEnum": "felloe.core.practice.exercises.MODES",
        "SideEnum": ["R", "L"],
        "PartKindKeyEnum": "felloe.stock.api.serializers.KINDS",
        "SmallPartEnum": ["nipple", "washer", "spoke"],
        "OverUnderEnum": ["over", "under"],
        "HeadWayEnum": "felloe.building.api.serializers.HEADS",
        "LedgerMoveEnum": "felloe.stock.api.serializers.MOVES",
        "AttributeKindEnum": "felloe.stock.api.serializers.ATTRIBUTE_KINDS",
        "DishOptionEnum": ["tighten", "ease", "half"],
        "PlanMoveStateEnum": "felloe.bench.models.PlanMove.State",
        "WaitingOnEnum": "felloe.queue.models.Job.WaitingOn",
        "PositionEnum": "felloe.wheels.models.Wheel.Position",
        "ConditionLevelEnum": "felloe.core.diagnosis.condition.LEVELS",
        "FrameAdviceEnum": ["leave", "set", "refer"],
        "RefitResultEnum": "felloe.repair.models.RefitAnswer.Result",
        "PaymentHowEnum": "felloe.repair.models.Payment.How",
        "LinkStateEnum": ["open", "answered", "expired", "revoked"],
        "LetterKindEnum": "felloe.links.api.serializers.LETTER_KEYS",
        "DecisionHowEnum": "felloe.repair.models.Decision.How",
        "AtTheDeskEnum": "felloe.repair.api.serializers.AT_THE_DESK",
        "ConditionKindEnum": "felloe.repair.api.serializers.CONDITION_KEYS",
        "ReadingKindEnum": "felloe.bench.models.Reading.Kind",
        "PlanModeEnum": "felloe.bench.api.serializers.MODE_KEYS",
        "BikeUseEnum": "felloe.customers.models.Bike.Use",
        "InstrumentUseEnum": "felloe.instruments.models.Instrument.Use",
        "InstrumentKindEnum": "felloe.instruments.api.serializers.INSTRUMENT_KEYS",
        "MeasuredKindEnum": "felloe.instruments.api.serializers.MEASURED_KINDS",
        "DialKindEnum": "felloe.instruments.api.serializers.DIAL_KINDS",
        "SpokeMaterialEnum": "felloe.wheels.api.serializers.SPOKE_MATERIALS",
        "RimMaterialEnum": ["aluminium", "carbon", "steel"],
        "FrameMaterialEnum": "felloe.repair.api.serializers.FRAME_MATERIAL_KEYS",
        "EndingHowEnum": "felloe.condition.models.Ending.How",
    },
}
LOGGING = settings_of(os.environ.get("FELLOE_LOG_LEVEL", "INFO"))
#: Where gunicorn's workers keep their counts together; empty: each its own.
FELLOE_METRICS_DIR = os.environ.get("PROMETHEUS_MULTIPROC_DIR", "")
#: The demo may be loaded: never where a shop works.
FELLOE_DEMO = False

"""The databases that the environment says, besides the first one."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

#: “north=10.0.0.5:5432/felloe” and the like, with commas between; the standby of a place is “north-standby=…”.
_SAID = re.compile(r"([a-z][a-z0-9]{0,19}(?:-standby)?)=([^:/,\s]+):(\d{1,5})/([A-Za-z0-9_]+)")


def more_places(first: Mapping[str, Any], env: Mapping[str, str]) -> dict[str, dict[str, Any]]:
    """Django's settings of FELLOE_PLACES, each as the first but for host, port, name and its own password, where one is set
    (FELLOE_DB_PASSWORD_NORTH), and of FELLOE_DB_STANDBY, the name of the first one's standby at the same host and port.

    Raises ValueError with what cannot be read: the server stops there, and not a request later.
    """
    made: dict[str, dict[str, Any]] = {}
    for said in filter(None, (part.strip() for part in env.get("FELLOE_PLACES", "").split(","))):
        found = _SAID.fullmatch(said)
        if found is None or found[1] in {"default", *made}:
            raise ValueError(f"FELLOE_PLACES: “{said}” is no place like north=10.0.0.5:5432/felloe, or is there twice")
        own = env.get(f"FELLOE_DB_PASSWORD_{found[1].removesuffix('-standby').upper()}", first["PASSWORD"])
        made[found[1]] = {**first, "HOST": found[2], "PORT": found[3], "NAME": found[4], "PASSWORD": own}
    if env.get("FELLOE_DB_STANDBY"):
        made.setdefault("default-standby", {**first, "NAME": env["FELLOE_DB_STANDBY"]})
    for name in made:
        if name.endswith("-standby") and name.removesuffix("-standby") not in {"default", *made}:
            raise ValueError(f"FELLOE_PLACES: there is a standby “{name}” and no place that it stands by")
    return made

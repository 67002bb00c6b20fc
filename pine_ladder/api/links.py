"""Addresses as they are known outside: on paper, on a phone's camera, in a calendar program."""

from __future__ import annotations

import os
from ipaddress import ip_address
from urllib.parse import urlsplit

import segno
from fastapi import Request
from pydantic import BaseModel

from pine_ladder.api.serving import PREFIX

PUBLIC_URL = "PINE_LADDER_PUBLIC_URL"
"""Where the application is reached, as https://gym.example; else as the request came."""


class Shown(BaseModel):
    """An address, and a picture of it (QR code, an SVG as a data address) for a phone to read."""

    address: str
    qr: str


def only_here(address: str) -> bool:
    """Whether an address is reached from this machine alone."""
    host = urlsplit(address).hostname or ""
    try:
        return ip_address(host).is_loopback
    except ValueError:
        return host == "localhost" or host.endswith(".localhost")


def public_url(request: Request) -> str:
    """Where the application is reached from outside, without a slash at its end."""
    here = str(request.base_url).rstrip("/") + path_prefix(request)
    return configured_url() or here


def path_prefix(request: Request) -> str:
    """The path of its host under which the application is reached, as `/ladder`; mostly empty."""
    return str(getattr(request.state, PREFIX, ""))


def configured_url() -> str | None:
    """Return the public address set for this gym, without a slash at its end, or None.

    Letters that anybody can ask for carry this one alone: the sender of a request chooses its own.
    """
    return (os.environ.get(PUBLIC_URL) or "").rstrip("/") or None


def shown(request: Request, path: str) -> Shown:
    """The address of a path as it is known outside, and its QR code (ISO/IEC 18004)."""
    address = public_url(request) + path
    return Shown(address=address, qr=segno.make(address, micro=False).svg_data_uri(scale=4))

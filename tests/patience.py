"""How long the simulated services are waited for: those that answer, however busy the machine is; no other."""

from __future__ import annotations

from typing import Any

from django.test import override_settings

PATIENT = 30
"""Seconds; a bound against hanging."""
SHORT = 1
"""Seconds, for who does not answer at all."""


def waiting(mode: str) -> Any:
    """The setting under which a service of this mode is asked."""
    return override_settings(OUTSIDE_SECONDS=SHORT if mode == "slow" else PATIENT)

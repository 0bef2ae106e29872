"""Sending mail, where the school's server can: PIPETTE_MAIL says how (see server/config/settings.py)."""

from __future__ import annotations

import logging
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail

log = logging.getLogger("pipette.mail")


def can_send() -> bool:
    """Whether mail is configured."""
    return bool(settings.MAIL)


def send(to: str, subject: str, text: str) -> bool:
    """Send a mail; whether it was handed over. What went wrong is in the log, never the text."""
    try:
        send_mail(subject, text, None, [to])
    except (SMTPException, OSError) as error:
        log.warning("a mail could not be handed over: %s", type(error).__name__)
        return False
    return True

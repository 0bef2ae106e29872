"""Sending mail, where the school's server can: PIPETTE_MAIL says how (see server/config/settings.py)."""

from __future__ import annotations

import logging
from smtplib import SMTPException
from threading import Thread

from django.conf import settings
from django.core.mail import send_mail

log = logging.getLogger("pipette.mail")


def can_send() -> bool:
    """Whether mail is configured."""
    return bool(settings.MAIL)


def send(to: str, subject: str, text: str) -> Thread:
    """Hand a mail over beside the request, which so takes no longer where there is somebody to send it to.

    What went wrong is in the log, never the text.
    """

    def hand_over() -> None:
        try:
            send_mail(subject, text, None, [to])
        except (SMTPException, OSError) as error:
            log.warning("a mail could not be handed over: %s", type(error).__name__)

    thread = Thread(target=hand_over, name="mail")
    thread.start()
    return thread

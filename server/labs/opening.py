"""Signing the safety sheet off, letting groups in, ending the lab."""

from __future__ import annotations

import uuid

from django.db import transaction
from django.dispatch import Signal
from django.utils import timezone

from galvanic.reference import reader
from galvanic.words import say
from server.base.problems import Problem
from server.labs.changes import announce
from server.labs.models import Lab, SignOff
from server.labs.policy import sheet_of, signed
from server.labs.services import fresh_code, lab_to_change
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.services import tell_rights

opened = Signal()  # a lab is being opened: applications above may prepare it, in the same transaction


@transaction.atomic
def open_lab(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """Let groups in. Opening an open lab changes nothing; a closed one opens again.

    Raises Problem: refused_by_rule where the safety sheet forbids the plan, not_signed where nobody has signed the sheet as
    it is now.
    """
    lab = lab_to_change(actor, lab_id)
    if lab.state == Lab.State.OPEN:
        return lab
    sheet = sheet_of(lab)
    if sheet.refusals:
        raise Problem(409, "refused_by_rule", sheet.refusals[0].hazard.text + " " + sheet.refusals[0].hazard.do)
    if not signed(lab, sheet):
        raise Problem(409, "not_signed", say("Read the safety sheet and sign it off first; then groups can be let in."))
    lab.join_code = lab.join_code or fresh_code()
    lab.state = Lab.State.OPEN
    lab.opened_at = lab.opened_at or timezone.now()
    lab.closed_at = None
    lab.save(update_fields=["join_code", "state", "opened_at", "closed_at"])
    opened.send(sender=Lab, lab=lab)
    announce(lab.id)
    keep_deed(actor, "opened", lab)
    return lab


@transaction.atomic
def sign_off(*, actor: Teacher, lab_id: uuid.UUID, fingerprint: str) -> SignOff:
    """Keep that a teacher has read the safety sheet and takes it on.

    Raises Problem: not_found, refused_by_rule, or sheet_changed where the sheet is another one than that which was read.
    """
    lab = lab_to_change(actor, lab_id)
    sheet = sheet_of(lab)
    if sheet.refusals:
        raise Problem(409, "refused_by_rule", sheet.refusals[0].hazard.text + " " + sheet.refusals[0].hazard.do)
    if fingerprint != sheet.fingerprint:
        raise Problem(
            409, "sheet_changed", say("The materials have changed since you read this sheet. Read it again, please.")
        )
    rows = [[e.hazard.key, e.hazard.severity, e.hazard.text, e.hazard.do, list(e.because)] for e in sheet.entries]
    kept = {"age": sheet.age, "edition": reader.edition(), "entries": rows}
    keep_deed(actor, "signed_off", lab)
    return SignOff.objects.create(lab=lab, teacher=actor, fingerprint=fingerprint, sheet=kept)


@transaction.atomic
def close_lab(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """End recording. Raises Problem for a draft, which has nothing to close."""
    lab = lab_to_change(actor, lab_id)
    if lab.state == Lab.State.DRAFT:
        raise Problem(409, "not_open", say("This lab was never opened, so there is nothing to close."))
    if lab.state == Lab.State.OPEN:
        lab.state = Lab.State.CLOSED
        lab.closed_at = timezone.now()
        lab.save(update_fields=["state", "closed_at"])
        announce(lab.id)
        tell_rights(lab.id)
        keep_deed(actor, "closed", lab)
    return lab

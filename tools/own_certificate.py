"""A school's own certificates: `own_certificate.py FOLDER NAME …` makes what is missing, prints the authority's fingerprint.

The authority is made once and lasts ten years. It may sign only for addresses of private networks, names that end in .local,
.lan, .home.arpa or .internal, and what it was first made for, so that trusting it lets nobody pose as any other site. The
server's certificate lasts 397 days (what browsers take at most is 398) and is made anew a month before, or for other names.
"""

from __future__ import annotations

import ipaddress
import os
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

YEARS_10, DAYS_397, MONTH = timedelta(days=3652), timedelta(days=397), timedelta(days=30)
PRIVATE = (
    "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128",
)  # fmt: skip
_ADDRESS = (ipaddress.IPv4Address, ipaddress.IPv6Address)
ENDINGS = ("local", "lan", "home.arpa", "internal", "localhost")


class NotAllowed(Exception):
    """A name or an address that the authority may not sign for."""


def general(name: str) -> x509.IPAddress | x509.DNSName:
    """An address, or a name; one without a dot is this network's: `lab-laptop` is lab-laptop.local."""
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name if "." in name or name in ENDINGS else f"{name}.local")


def allows(subtree: x509.GeneralName, name: x509.GeneralName) -> bool:
    """Whether a name or an address lies in one that an authority is limited to (RFC 5280, 4.2.1.10)."""
    if isinstance(subtree, x509.IPAddress) and isinstance(name, x509.IPAddress):
        network, address = subtree.value, name.value
        return not isinstance(network, _ADDRESS) and isinstance(address, _ADDRESS) and address in network
    if isinstance(subtree, x509.DNSName) and isinstance(name, x509.DNSName):
        return name.value == subtree.value or name.value.endswith(f".{subtree.value}")
    return False


def _only(name: str) -> x509.GeneralName:
    """A name alone, or an address as a network of its own, as limits are written."""
    made = general(name)
    return made if isinstance(made, x509.DNSName) else x509.IPAddress(ipaddress.ip_network(name))


def _named(common: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, common)])


def _begun(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, lasts: timedelta
) -> x509.CertificateBuilder:
    now = datetime.now(UTC)
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + lasts)
    )


def _use(signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=signs,
        crl_sign=signs,
        encipher_only=False,
        decipher_only=False,
    )


def make_authority(names: list[str]) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    """A new authority for one school, whose server has these names."""
    key = ec.generate_private_key(ec.SECP256R1())
    name = _named(f"Pipette, this school's own, {datetime.now(UTC):%Y-%m-%d}")
    allowed: list[x509.GeneralName] = [x509.IPAddress(ipaddress.ip_network(network)) for network in PRIVATE]
    allowed += [x509.DNSName(ending) for ending in ENDINGS]
    allowed += [_only(name) for name in names if not any(allows(subtree, general(name)) for subtree in allowed)]
    made = (
        _begun(name, name, key.public_key(), YEARS_10)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_use(signs=True), critical=True)
        .add_extension(x509.NameConstraints(permitted_subtrees=allowed, excluded_subtrees=None), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    return made, key


def make_certificate(
    authority: x509.Certificate, by: ec.EllipticCurvePrivateKey, names: list[str]
) -> tuple[x509.Certificate, ec.EllipticCurvePrivateKey]:
    """A certificate of the server for these names and addresses. Raises NotAllowed."""
    limits = authority.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
    for name in names:
        if not any(allows(subtree, general(name)) for subtree in limits):
            raise NotAllowed(
                f"The school's authority was not made for {name}. To make a new one, which every device has to trust anew, "
                "move its folder (.run/certificate) away."
            )
    key = ec.generate_private_key(ec.SECP256R1())
    # Its common name is no host's name: OpenSSL would hold one against the limits wherever only addresses stand beside it.
    made = (
        _begun(_named("Pipette, server"), authority.subject, key.public_key(), DAYS_397)
        .add_extension(x509.SubjectAlternativeName([general(name) for name in names]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_use(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(by.public_key()), critical=False)
        .sign(by, hashes.SHA256())
    )
    return made, key


def serves(certificate: x509.Certificate, names: list[str]) -> bool:
    """Whether a certificate is for all these names and lasts another month."""
    there = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return {general(name) for name in names} <= set(there) and certificate.not_valid_after_utc > datetime.now(UTC) + MONTH


def _keep(path: Path, content: bytes, secret: bool) -> None:
    new = path.with_suffix(".new")
    with os.fdopen(os.open(new, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600 if secret else 0o644), "wb") as file:
        file.write(content)
    new.replace(path)


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    plain = serialization.NoEncryption()
    return key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, plain)


def in_folder(folder: Path, names: list[str]) -> str:
    """Make authority and certificate where they are missing or over; returns the authority's SHA-256 fingerprint."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    root, root_key = folder / "authority.pem", folder / "authority-key.pem"
    own, own_key = folder / "server.pem", folder / "server-key.pem"
    if not (root.is_file() and root_key.is_file()):
        authority, by = make_authority(names)
        _keep(root_key, _pem(by), secret=True)
        _keep(root, authority.public_bytes(serialization.Encoding.PEM), secret=False)
        own.unlink(missing_ok=True)
    authority = x509.load_pem_x509_certificate(root.read_bytes())
    if not (own.is_file() and own_key.is_file() and serves(x509.load_pem_x509_certificate(own.read_bytes()), names)):
        loaded = serialization.load_pem_private_key(root_key.read_bytes(), None)
        assert isinstance(loaded, ec.EllipticCurvePrivateKey)
        certificate, key = make_certificate(authority, loaded, names)
        _keep(own_key, _pem(key), secret=True)
        _keep(own, certificate.public_bytes(serialization.Encoding.PEM), secret=False)
    return authority.fingerprint(hashes.SHA256()).hex(":").upper()


def main() -> None:
    """Make what is missing."""
    try:
        sys.stdout.write(in_folder(Path(sys.argv[1]), list(dict.fromkeys(sys.argv[2:]))) + "\n")
    except NotAllowed as error:
        sys.exit(str(error))


if __name__ == "__main__":
    main()

"""Certificates made here: an authority of one's own, and one for each time that is served.

The authority may vouch for servers at private addresses and private names alone, so that whoever
stole its key could pass for no public site, no person and no program.
"""

from __future__ import annotations

import datetime
import ipaddress
import os
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

AUTHORITY, AUTHORITY_KEY = "authority.crt", "authority.key"
AUTHORITY_DAYS, SERVER_DAYS = 3650, 90
EARLIER = datetime.timedelta(days=1)
"""Clocks of phones run behind."""
PRIVATE_NETWORKS = (
    "10.0.0.0/8",
    "100.64.0.0/10",
    "169.254.0.0/16",
    "172.16.0.0/12",
    "192.0.2.0/24",
    "192.168.0.0/16",
    "127.0.0.0/8",
)
PRIVATE_NAMES = ("local", "lan", "internal", "home.arpa")
NOWHERE = "oxlen.invalid"
"""A name that can be nobody's. [RFC 2606]"""
SERVES = x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH])
Key = ec.EllipticCurvePrivateKey


@dataclass(frozen=True)
class Authority:
    """The authority that phones may be asked to trust; its certificate as PEM and DER."""

    certificate: x509.Certificate
    key: Key

    @property
    def fingerprint(self) -> str:
        """SHA-256 of the certificate, in pairs, to be compared by eye."""
        digest = self.certificate.fingerprint(hashes.SHA256()).hex().upper()
        return " ".join(digest[place : place + 4] for place in range(0, len(digest), 4))

    @property
    def file(self) -> bytes:
        """The certificate as a file to install, without its key."""
        return self.certificate.public_bytes(serialization.Encoding.DER)


def authority(folder: Path, now: datetime.datetime) -> Authority:
    """The authority kept in a folder, made when there is none or it has run out."""
    kept = _kept(folder)
    if (
        kept is not None
        and _is_bound(kept)
        and kept.certificate.not_valid_after_utc > now + EARLIER
    ):
        return kept
    made = _new_authority(now)
    folder.mkdir(parents=True, exist_ok=True)
    _write_private(folder / AUTHORITY_KEY, _key_bytes(made.key))
    (folder / AUTHORITY).write_bytes(made.certificate.public_bytes(serialization.Encoding.PEM))
    return made


def _is_bound(made: Authority) -> bool:
    """Whether an authority is bound to serving: those of an earlier Oxlen were not."""
    try:
        found = made.certificate.extensions.get_extension_for_class(x509.ExtendedKeyUsage)
    except x509.ExtensionNotFound:
        return False
    return list(found.value) == list(SERVES)


def _kept(folder: Path) -> Authority | None:
    try:
        certificate = x509.load_pem_x509_certificate((folder / AUTHORITY).read_bytes())
        key = serialization.load_pem_private_key((folder / AUTHORITY_KEY).read_bytes(), None)
    except (OSError, ValueError):
        return None
    if not isinstance(key, Key) or key.public_key() != certificate.public_key():
        return None
    return Authority(certificate, key)


def _new_authority(now: datetime.datetime) -> Authority:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name(
        [
            x509.NameAttribute(NameOID.ORGANIZATION_NAME, "Oxlen"),
            x509.NameAttribute(NameOID.COMMON_NAME, "Oxlen on your own computer"),
        ]
    )
    allowed: list[x509.GeneralName] = [
        x509.IPAddress(ipaddress.ip_network(network)) for network in PRIVATE_NETWORKS
    ]
    allowed += [x509.DNSName(name) for name in PRIVATE_NAMES]
    # Naming a kind at all shuts out every other name of it: no person's mail, no site's address.
    allowed += [x509.RFC822Name(NOWHERE), x509.UniformResourceIdentifier(NOWHERE)]
    usage = _usage(signs_certificates=True)
    certificate = (
        _begun(name, name, key=key, now=now)
        .not_valid_after(now + datetime.timedelta(days=AUTHORITY_DAYS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.NameConstraints(allowed, None), critical=True)
        .add_extension(usage, critical=True)
        .add_extension(SERVES, critical=False)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    return Authority(certificate, key)


def server_certificate(
    maker: Authority,
    folder: Path,
    *,
    addresses: Sequence[str],
    names: Sequence[str],
    now: datetime.datetime,
) -> tuple[Path, Path]:
    """Files of a certificate for these addresses and names, and of its key; made anew each time."""
    key = ec.generate_private_key(ec.SECP256R1())
    known: list[x509.GeneralName] = [x509.IPAddress(ipaddress.ip_address(a)) for a in addresses]
    known += [x509.DNSName(name) for name in names]
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Oxlen")])
    signer = x509.AuthorityKeyIdentifier.from_issuer_public_key(maker.key.public_key())
    certificate = (
        _begun(subject, maker.certificate.subject, key=key, now=now)
        .not_valid_after(now + datetime.timedelta(days=SERVER_DAYS))
        .add_extension(x509.SubjectAlternativeName(known), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs_certificates=False), critical=True)
        .add_extension(SERVES, critical=False)
        .add_extension(signer, critical=False)
        .sign(maker.key, hashes.SHA256())
    )
    chain = certificate.public_bytes(serialization.Encoding.PEM)
    chain += maker.certificate.public_bytes(serialization.Encoding.PEM)
    files = folder / "server.crt", folder / "server.key"
    files[0].write_bytes(chain)
    _write_private(files[1], _key_bytes(key))
    return files


def _begun(
    subject: x509.Name, issuer: x509.Name, *, key: Key, now: datetime.datetime
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - EARLIER)
    )


def _usage(*, signs_certificates: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs_certificates,
        key_cert_sign=signs_certificates,
        crl_sign=signs_certificates,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        encipher_only=False,
        decipher_only=False,
    )


def _key_bytes(key: Key) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _write_private(path: Path, content: bytes) -> None:
    """Write a file that only its owner may read, from its first moment on."""
    path.parent.mkdir(parents=True, exist_ok=True)
    path.unlink(missing_ok=True)
    with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        file.write(content)

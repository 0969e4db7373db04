"""A certificate for the house's network: one that is given, or one that is made on the spot."""

import hashlib
import ipaddress
import os
import ssl
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from weary_cedar.core.errors import CannotStore, Problem

#: One that is made here is good for so long.
GOOD_FOR = timedelta(days=397)


@dataclass(frozen=True)
class Certificate:
    """Where certificate and key are, and by what a person knows it again; made here or not."""

    file: Path
    key: Path
    fingerprint: str
    own: bool


def given(file: Path, key: Path) -> Certificate:
    """A certificate of the person's own, as PEM.

    Raises:
        CannotStore: it cannot be read, or the key is not its key.
    """
    try:
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(file, key)
        text = file.read_text(encoding="ascii")
    except (OSError, ssl.SSLError, UnicodeDecodeError) as error:
        right = "a certificate and its key as PEM files"
        problem = Problem("--tls-cert", str(file), right)
        raise CannotStore(f"The certificate cannot be used: {error}; give {right}.", (problem,)) from None
    return Certificate(file, key, _fingerprint(text), own=False)


def made(folder: Path, addresses: Sequence[str]) -> Certificate:
    """A certificate made on the spot, kept in the data folder; only its owner reads the key.

    Args:
        folder: the data folder.
        addresses: of this machine on the network.
    """
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Weary Cedar in this house")])
    now = datetime.now(UTC)
    names = [x509.IPAddress(ipaddress.ip_address(address)) for address in addresses]
    certificate = (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(name)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + GOOD_FOR)
        .add_extension(x509.SubjectAlternativeName(names), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(key, hashes.SHA256())
    )
    text = certificate.public_bytes(serialization.Encoding.PEM).decode("ascii")
    file, secret = folder / "network-certificate.pem", folder / "network-key.pem"
    form, plain = serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    file.write_text(text, encoding="ascii")
    secret.unlink(missing_ok=True)
    with os.fdopen(os.open(secret, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out:
        out.write(key.private_bytes(serialization.Encoding.PEM, form, plain))
    return Certificate(file, secret, _fingerprint(text), own=True)


def _fingerprint(pem: str) -> str:
    """SHA-256 of a certificate, as browsers show it."""
    first = pem[pem.index("-----BEGIN CERTIFICATE") :]
    first = first[: first.index("-----END CERTIFICATE-----") + len("-----END CERTIFICATE-----")]
    digest = hashlib.sha256(ssl.PEM_cert_to_DER_cert(first)).hexdigest().upper()
    return ":".join(digest[place : place + 2] for place in range(0, len(digest), 2))

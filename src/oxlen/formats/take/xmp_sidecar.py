"""XMP sidecars: rating, note and keywords of a picture as other programs read them. [ISO16684]"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from xml.sax.saxutils import escape, quoteattr

from defusedxml import ElementTree

from oxlen.core.errors import BadInput

RDF = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}"
DC = "{http://purl.org/dc/elements/1.1/}"
XMP = "{http://ns.adobe.com/xap/1.0/}"
OXLEN = "{urn:oxlen:take:1}"
NOT_IN_XML = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
"""Characters that XML has no place for."""
PACKET = """<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/">
 <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
  <rdf:Description rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/"
    xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:oxlen="urn:oxlen:take:1" xmp:Rating="{rating}"
    dc:identifier={identifier}>
   <dc:title><rdf:Alt><rdf:li xml:lang="x-default">{title}</rdf:li></rdf:Alt></dc:title>
   <dc:description><rdf:Alt><rdf:li xml:lang="x-default">{note}</rdf:li></rdf:Alt></dc:description>
   <dc:subject><rdf:Bag>{keywords}</rdf:Bag></dc:subject>
   <oxlen:why>{why}</oxlen:why>
  </rdf:Description>
 </rdf:RDF>
</x:xmpmeta>
<?xpacket end="w"?>
"""
REJECTED = -1
"""What the standard has for a picture that was thrown away."""


@dataclass(frozen=True)
class Sidecar:
    """What a sidecar says of a picture, named by its content's SHA-256; rating −1 = rejected.

    `why` is None in the sidecars of other programs.
    """

    sha256: str
    rating: int = 0
    note: str = ""
    keywords: tuple[str, ...] = ()
    title: str = ""
    why: str | None = None


def write_sidecar(sidecar: Sidecar) -> str:
    """A sidecar as XMP."""
    return PACKET.format(
        rating=sidecar.rating,
        identifier=quoteattr(f"sha256:{sidecar.sha256}"),
        title=_text(sidecar.title),
        note=_text(sidecar.note),
        keywords="".join(f"<rdf:li>{_text(word)}</rdf:li>" for word in sidecar.keywords),
        why=_text(sidecar.why or ""),
    )


def _text(text: str) -> str:
    """Words as XML has them, a carriage return as it is."""
    return escape(in_xml(text), {"\r": "&#13;"})


def in_xml(text: str) -> str:
    """Words without the characters that XML has no place for."""
    return NOT_IN_XML.sub("", text)


def read_sidecar(text: str) -> Sidecar:
    """A sidecar read back. BadInput for one that is no XMP or names no picture."""
    try:
        root = ElementTree.fromstring(text.strip("\ufeff \n\r\t\0"))
    except Exception as error:
        raise BadInput("That is not an XMP file. Choose a .xmp sidecar.", "file") from error
    given = dict(_stated(root))
    identifier = _first(given.get(DC + "identifier", ()))
    if not identifier.startswith("sha256:"):
        raise BadInput("This sidecar does not name its picture.", "file")
    rating = _first(given.get(XMP + "Rating", ())) or "0"
    return Sidecar(
        identifier.removeprefix("sha256:"),
        max(REJECTED, min(5, round(float(rating)))) if _is_number(rating) else 0,
        _first(given.get(DC + "description", ())),
        keywords=tuple(given.get(DC + "subject", ())),
        title=_first(given.get(DC + "title", ())),
        why=_first(given[OXLEN + "why"]) if OXLEN + "why" in given else None,
    )


def _stated(root: Any) -> Iterator[tuple[str, tuple[str, ...]]]:
    for description in root.iter(RDF + "Description"):
        for name, value in description.attrib.items():
            yield name, (value,)
        for node in description:
            items = [item.text or "" for item in node.iter(RDF + "li")]
            text = node.text or ""
            yield node.tag, tuple(items or [text if node.tag.startswith(OXLEN) else text.strip()])


def _first(values: Sequence[str]) -> str:
    return values[0] if values else ""


def _is_number(text: str) -> bool:
    try:
        return math.isfinite(float(text))
    except ValueError:
        return False

"""XML with the place of every element in the file's own bytes, so that it can be changed in places.

Parsed by expat. A document type declaration is refused: with it go entities, which could grow without end or name other
files.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from html import escape
from xml.etree import ElementTree
from xml.parsers import expat

from oak_square.core.errors import BadFile
from oak_square.core.words import say
from oak_square.formats.limits import Limits

__all__ = ["Element", "in_text", "in_value", "parse_xml"]

_TAG = re.compile(rb"<[^\s/>]+(?:\s+[^\s=>/]+\s*=\s*(?:\"[^\"]*\"|'[^']*'))*\s*(/?)>")
_ENCODING = re.compile(rb"\A\s*<\?xml[^>]*encoding\s*=\s*[\"']([A-Za-z0-9._-]+)[\"']")
_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
_ENCODINGS = {"utf-8", "us-ascii", "ascii", "iso-8859-1", "latin-1", "windows-1252"}


def in_text(words: str) -> str:
    """Return words as they stand between tags; characters that XML has none of are replaced."""
    return escape(_CONTROL.sub(chr(0xFFFD), words), quote=False)


def in_value(words: str) -> str:
    """Return words as the quoted value of an attribute."""
    return f'"{escape(_CONTROL.sub(chr(0xFFFD), words))}"'


@dataclass(slots=True, eq=False)
class Element:
    """An element and where it stands.

    Attributes
    ----------
    tag : str
        Its name without a namespace.
    start, opened, closing, end : int
        Of the whole element, behind its opening tag, before its closing tag, behind it: bytes. One that closes itself
        has `opened`, `closing` and `end` in one place.
    """

    data: bytes = field(repr=False)
    tag: str
    attributes: dict[str, str]
    parent: Element | None
    start: int
    opened: int
    closing: int = 0
    end: int = 0
    children: list[Element] = field(default_factory=list)

    def all(self, *path: str) -> list[Element]:
        """Return the elements at a path of tags below this one."""
        found = [self]
        for tag in path:
            found = [c for e in found for c in e.children if c.tag == tag]
        return found

    def one(self, *path: str) -> Element | None:
        """Return the first element at a path of tags below this one."""
        found = self.all(*path)
        return found[0] if found else None

    def walk(self) -> Iterator[Element]:
        """Yield this element and all below it, in the file's order."""
        due = [self]
        while due:
            element = due.pop()
            yield element
            due += reversed(element.children)

    def move(self, data: bytes, by: int) -> None:
        """Let this element and all below it stand `by` further on, in a text that holds their own."""
        for element in self.walk():
            element.data = data
            element.start, element.opened = element.start + by, element.opened + by
            element.closing, element.end = element.closing + by, element.end + by

    def raw(self) -> bytes:
        """Return the bytes between its tags."""
        return self.data[self.opened : self.closing]

    def text(self) -> str:
        """Return its text, entities and comments resolved."""
        raw = self.raw()
        if b"<" in raw or b"&" in raw:
            try:
                return "".join(ElementTree.fromstring(b"<t>" + raw + b"</t>").itertext())
            except (ElementTree.ParseError, ValueError):
                return ""
        return raw.decode("utf-8", "replace").strip()

    def value_span(self, name: str) -> tuple[int, int] | None:
        """Return where the value of an attribute stands; None where there is none of that name."""
        head = self.data[self.start : self.opened]
        match = re.search(rb"\s(?:[\w.-]+:)?" + name.encode() + rb"\s*=\s*(?:\"([^\"]*)\"|'([^']*)')", head)
        if match is None:
            return None
        group = 1 if match[1] is not None else 2
        return self.start + match.start(group), self.start + match.end(group)


def parse_xml(
    data: bytes, file: str, limits: Limits, *, blanked: bytes | None = None, is_utf8: bool = False
) -> Element:
    """Return the root of an XML file; `blanked`, of the same length, is parsed in its place where it is given.

    With `is_utf8` the bytes are UTF-8, whatever they say of themselves.

    Raises
    ------
    BadFile
        If it is not well formed, declares a document type, or is in an encoding that is not read.
    """
    match = _ENCODING.match(data[:400].removeprefix(b"\xef\xbb\xbf"))
    encoding = match[1].decode().lower() if match is not None else "utf-8"
    if (encoding not in _ENCODINGS and not is_utf8) or data[:2] in {b"\xff\xfe", b"\xfe\xff"}:
        raise BadFile(file, say("is XML in an encoding that is not read ({encoding})", encoding=encoding))
    builder = _Builder(data, file, limits)
    parser = expat.ParserCreate("utf-8" if is_utf8 else None)
    parser.StartElementHandler = builder.opening
    parser.EndElementHandler = builder.closing
    parser.StartDoctypeDeclHandler = builder.refused
    parser.SetParamEntityParsing(expat.XML_PARAM_ENTITY_PARSING_NEVER)
    builder.parser = parser
    try:
        parser.Parse(data if blanked is None else blanked, True)
    except expat.ExpatError as error:
        raise BadFile(
            file,
            say(
                "is no well-formed XML: line {lineno}: {errorstring}",
                lineno=error.lineno,
                errorstring=expat.ErrorString(error.code),
            ),
        ) from error
    if builder.root is None:
        raise BadFile(file, say("is empty XML"))
    return builder.root


class _Builder:
    def __init__(self, data: bytes, file: str, limits: Limits) -> None:
        self.data, self.file, self.limits = data, file, limits
        self.root: Element | None = None
        self.at: Element | None = None
        self.depth = self.count = 0
        self.parser: expat.XMLParserType

    def opening(self, name: str, attributes: dict[str, str]) -> None:
        self.depth, self.count = self.depth + 1, self.count + 1
        if self.depth > self.limits.depth or self.count > self.limits.elements:
            raise BadFile(
                self.file,
                say(
                    "has over {elements} elements, or nests over {depth} deep",
                    elements=self.limits.elements,
                    depth=self.limits.depth,
                ),
            )
        start = self.parser.CurrentByteIndex
        match = _TAG.match(self.data, start)
        if match is None:
            raise BadFile(self.file, say("has a tag at byte {start} that can't be read", start=start))
        own = {k.rpartition(":")[2]: v for k, v in attributes.items()}
        element = Element(self.data, name.rpartition(":")[2], own, self.at, start, match.end())
        if match[1]:
            element.closing = element.end = match.end()
        if self.at is None:
            self.root = element
        else:
            self.at.children.append(element)
        self.at = element

    def closing(self, _name: str) -> None:
        self.depth -= 1
        element = self.at
        assert element is not None
        if not element.end:
            element.closing = self.parser.CurrentByteIndex
            element.end = self.data.index(b">", element.closing) + 1
        self.at = element.parent

    def refused(self, *_declaration: object) -> None:
        raise BadFile(self.file, say("declares a document type, which is not read: it could name or grow other text"))

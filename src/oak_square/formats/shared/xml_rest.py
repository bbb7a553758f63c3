"""What an XML file says beside what steps change: its elements, their attributes and texts, as values to compare."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Set
from dataclasses import dataclass, field

from oak_square.formats.shared.kept import TO_NOTHING, Kept
from oak_square.formats.shared.xml_spans import Element

__all__ = ["BySteps", "rest_of_xml"]

_NAMES = ("id", "name", "sid")
_REFERENCES = {"id", "source", "url", "target", "name"}


@dataclass(frozen=True, slots=True, kw_only=True)
class BySteps:
    """What steps change in an XML format.

    Attributes
    ----------
    elements : mapping of tag to set of tags of parents
        Elements that are left out whole where they stand in one of these; in any where the set is empty.
    attributes : mapping of tag to set of attributes
    texts : mapping of tag to tag
        Elements whose texts are left out, where the other one is above them.
    loose : set of attributes
        What a copy or a piece may have otherwise.
    hung : set of tags
        Elements that steps hang elsewhere, with all in them.
    alike : mapping of tag to tag
        What an element may become that is hung elsewhere.
    """

    elements: Mapping[str, frozenset[str]] = field(default_factory=dict)
    attributes: Mapping[str, frozenset[str]] = field(default_factory=dict)
    texts: Mapping[str, str] = field(default_factory=dict)
    loose: frozenset[str] = frozenset()
    hung: frozenset[str] = frozenset()
    alike: Mapping[str, str] = field(default_factory=dict)


def rest_of_xml(roots: Iterable[Element], changed: BySteps) -> Kept:
    """Return how often each element stands in its place, with its attributes and its text, but for what steps change.

    Its place is the path of tags above it, each with the first of its names.
    """
    lines = Counter[tuple[str, ...]]()
    near = Counter[tuple[tuple[str, ...], tuple[str, ...]]]()
    forms = set[tuple[str, ...]]()
    for root in roots:
        named = {e.attributes["id"] for e in root.walk() if "id" in e.attributes}
        forms |= {(TO_NOTHING, *_list_dangling(e, named)) for e in root.walk() if any(_list_dangling(e, named))}
        for place, tag, told, text in _list_lines(root, changed):
            lines[(place, *told, text)] += 1
            forms.add(_describe_element(changed, tag, told, text, _REFERENCES))
            form = _describe_element(changed, tag, told, text, _REFERENCES | changed.loose)
            near[(_place_in_node(place, changed), *told, text.strip()), form] += 1
    made = frozenset(form for _, form in near if len(form) == 1)
    return Kept(lines=lines, forms=frozenset(forms), near=near, made=made)


def _describe_element(changed: BySteps, tag: str, told: list[str], text: str, left_out: Set[str]) -> tuple[str, ...]:
    """Return what an element is, whatever it is called and refers to."""
    own = (word for word in told if word.partition("=")[0] not in left_out)
    return changed.alike.get(tag, tag), *own, *([text] if text.strip() else [])


def _place_in_node(place: str, changed: BySteps) -> str:
    """Return the end of a place, from the last element on that steps hang elsewhere."""
    words = place.split("/")
    at = max((k for k, word in enumerate(words) if word.partition("#")[0] in changed.hung), default=0)
    tag, _, name = words[at].partition("#")
    return "/".join([f"{changed.alike.get(tag, tag)}#{name}", *words[at + 1 :]])


def _list_dangling(element: Element, named: set[str]) -> list[str]:
    """Return the attributes of an element that refer to something inside the file that is not there."""
    own = element.attributes
    return sorted(
        f"{k}={own[k]}" for k in ("source", "url", "target") if own.get(k, "")[:1] == "#" and own[k][1:] not in named
    )


def _list_lines(root: Element, changed: BySteps) -> Iterator[tuple[str, str, list[str], str]]:
    due = [(root, "")]
    while due:
        element, above = due.pop()
        apart = changed.elements.get(element.tag)
        if apart is not None and (not apart or (element.parent is not None and element.parent.tag in apart)):
            continue
        named = next((element.attributes[n] for n in _NAMES if n in element.attributes), "")
        place = f"{above}/{element.tag}#{named}"
        left_out = changed.attributes.get(element.tag, frozenset())
        told = sorted(f"{k}={v}" for k, v in element.attributes.items() if k not in left_out)
        is_told = not element.children and f"/{changed.texts.get(element.tag)}#" not in place
        text = element.text() if is_told else ""
        yield place, element.tag, told, text
        due += [(child, place) for child in element.children]

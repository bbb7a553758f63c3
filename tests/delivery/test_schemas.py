"""What Oak Square makes is what the standards' own checkers want: COLLADA's schema, OpenUSD's validators, lib3mf."""

from __future__ import annotations

from pathlib import Path

import pytest

from oak_square.delivery.batch import find_sources
from oak_square.delivery.run import Run
from oak_square.delivery.running import deliver
from oak_square.demo import BATCH, SHEET
from oak_square.sheet.text import load_sheet, parse_sheet


@pytest.fixture(scope="module", params=["received", "prepared"])
def made(request, tmp_path_factory):
    """Deliver the demo batch in a format, as it came or through its sheet; return the folder."""

    def in_format(key):
        out = tmp_path_factory.mktemp("made") / key
        text = "prep-sheet: 1\nsteps: []\n"
        sheet = parse_sheet(text, "s") if request.param == "received" else load_sheet(SHEET)[0]
        sheet = sheet.model_copy(update={"deliver": sheet.deliver.model_copy(update={"format": key})})
        manifest = deliver(Run(sources=tuple(find_sources([BATCH])), sheet=sheet, sheet_bytes=b"", out=out, jobs=2))
        assert {e["status"] for e in manifest["assets"]} <= {"delivered", "unchanged"}
        return out

    return in_format


def test_collada_keeps_its_schema(made):
    collada = pytest.importorskip("collada")
    etree = pytest.importorskip("lxml.etree")
    home = Path(collada.__file__).parent / "resources"

    class Beside(etree.Resolver):
        def resolve(self, url, _public, context):
            return self.resolve_filename(str(home / "xsd.xml"), context) if "xml.xsd" in url else None

    parser = etree.XMLParser(no_network=True)
    parser.resolvers.add(Beside())
    schema = etree.XMLSchema(etree.parse(str(home / "schema-1.4.1.xml"), parser))
    for path in sorted(made("dae").glob("*.dae")):
        schema.validate(etree.parse(str(path)))
        assert [str(e) for e in schema.error_log] == [], path.name


def test_usd_keeps_its_validators(made):
    validation = pytest.importorskip("pxr.UsdValidation")
    from pxr import Usd

    context = validation.ValidationContext(validation.ValidationRegistry().GetOrLoadAllValidators())
    for path in sorted(made("usda").glob("*.usd*")):
        said = [f"{e.GetName()}: {e.GetMessage()}" for e in context.Validate(Usd.Stage.Open(str(path)))]
        assert said == [], path.name


def test_3mf_is_read_without_a_warning(made):
    lib3mf = pytest.importorskip("lib3mf")
    for path in sorted(made("3mf").glob("*.3mf")):
        reader = lib3mf.get_wrapper().CreateModel().QueryReader("3mf")
        reader.ReadFromFile(str(path))
        assert reader.GetWarningCount() == 0, path.name

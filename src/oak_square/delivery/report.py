"""What a run came to, for people and for pipelines: one HTML page that stands by itself, CSV, or JSON."""

from __future__ import annotations

import base64
import csv
import io
import os
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from html import escape
from pathlib import Path
from typing import Any

from oak_square.core.errors import BadUsage, did_you_mean
from oak_square.core.lengths import format_deviation, format_size
from oak_square.core.words import in_english
from oak_square.delivery.documents import json_text
from oak_square.delivery.files import holds, write_whole
from oak_square.delivery.pictures import MOST_PICTURED, Pictured

__all__ = ["check_reports", "report_text", "write_reports"]

Entry = dict[str, Any]
_KINDS = (".html", ".csv", ".json")
_EXTENTS = ("width", "height", "depth")
_ORDER = ("failed", "refused", "delivered", "unchanged")
_FORMULAS = ("=", "+", "-", "@", "\t", "\r")


def check_reports(reports: Sequence[Path], out: Path) -> None:
    """Make sure that reports can be written where they are asked for, before anything is.

    Raises
    ------
    BadUsage
        If one has another suffix than `.html`, `.csv` and `.json`, takes the manifest's place, or can't be written.
    """
    for path in reports:
        suffix = path.suffix.lower()
        if suffix not in _KINDS:
            hint = did_you_mean(suffix, _KINDS)
            raise BadUsage(f"--report {path}: its suffix says no kind of report ({', '.join(_KINDS)}){hint}")
        if path.resolve() == (out / "delivery.json").resolve():
            raise BadUsage(f"--report {path}: that is the delivery's manifest: give the report another name")
        home = next(p for p in path.resolve().parents if p.exists())
        if path.is_dir() or not home.is_dir() or not os.access(home, os.W_OK):
            raise BadUsage(f"--report {path}: can't be written there")


def write_reports(
    reports: Iterable[Path], manifest: dict[str, Any], pictures: Mapping[str, Pictured] | None = None
) -> None:
    """Write each report, whole or not at all; `pictures` of assets, by source, are for a page.

    Raises
    ------
    OSError
        If one can't be written.
    """
    for path in reports:
        data = report_text(path.suffix.lower(), manifest, pictures).encode("utf-8", "backslashreplace")
        if not holds(path, data):
            try:
                path.parent.mkdir(parents=True, exist_ok=True)
                write_whole(path, data)
            except OSError as error:
                raise OSError(error.errno, error.strerror, str(path)) from error


def report_text(suffix: str, manifest: dict[str, Any], pictures: Mapping[str, Pictured] | None = None) -> str:
    """Return a manifest as a report of a kind, by its suffix; in English, as the manifest is."""
    manifest = in_english(manifest)
    if suffix == ".json":
        return json_text({**manifest, "totals": _count_outcomes(manifest)})
    return _csv_rows(manifest) if suffix == ".csv" else _make_page(manifest, pictures or {})


def _count_outcomes(manifest: dict[str, Any]) -> dict[str, int]:
    counts = Counter(entry["status"] for entry in manifest["assets"])
    return {status: counts[status] for status in _ORDER}


def _csv_rows(manifest: dict[str, Any]) -> str:
    """Return a row for each asset; text that a spreadsheet would take for a formula is marked as text."""
    sizes = [f"{extent}_{when}_m" for when in ("before", "after") for extent in _EXTENTS]
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(["source", "status", "output", "reason", *sizes, "deviation_m", "steps", "warnings", "source_sha256",
                   "output_sha256"])  # fmt: skip
    for entry in manifest["assets"]:
        told = [entry[f"size_{when}_m"] or {} for when in ("before", "after")]
        steps = "; ".join(f"{s['step']} {s['do']}: {s['outcome']}" for s in entry["steps"])
        texts = [entry["source"], entry["status"], entry["output"], entry["reason"]]
        rows.writerow(
            [*map(_as_text, texts), *(size.get(extent, "") for size in told for extent in _EXTENTS),
             "" if entry["deviation_m"] is None else entry["deviation_m"], _as_text(steps),
             _as_text("; ".join(entry["warnings"])), entry["source_sha256"] or "", entry["output_sha256"] or ""]
        )  # fmt: skip
    return out.getvalue()


def _as_text(text: str | None) -> str:
    text = text or ""
    return f"'{text}" if text.startswith(_FORMULAS) else text


_STYLE = """
:root { color-scheme: light; }
body { font: 14px/1.45 system-ui, sans-serif; color: #2A2521; background: #F6F2EA; margin: 2rem auto; max-width: 72rem;
  padding: 0 1rem; }
h1 { font-size: 1.5rem; margin: 0; } p { margin: .3rem 0 1rem; color: #6B6157; }
.totals b { color: #2A2521; }
table { border-collapse: collapse; width: 100%; background: #FFFDF8; } caption { text-align: left; padding: .3rem 0; }
th, td { text-align: left; vertical-align: top; padding: .45rem .6rem; border-bottom: 1px solid #D9CFBE; }
th button { font: inherit; font-weight: 600; background: none; border: 0; padding: 0; cursor: pointer; color: inherit; }
td img { display: block; margin: .2rem 0; background: #FFFDF8; } td small { display: block; color: #6B6157; }
td.n { font-variant-numeric: tabular-nums; white-space: nowrap; }
.status::before { display: inline-block; width: 1.1em; }
.failed .status { color: #B4432F; } .failed .status::before { content: "▲"; }
.refused .status { color: #8A5A0E; } .refused .status::before { content: "◆"; }
.delivered .status { color: #4A6B2A; } .delivered .status::before { content: "●"; }
.unchanged .status::before { content: "○"; }
ul { margin: .2rem 0; padding-left: 1.1rem; } td b { font-weight: 600; }
.tools { margin: 0 0 .6rem; } .tools input, .tools select { font: inherit; padding: .25rem .4rem; }
@media print { body { background: #fff; margin: 0; max-width: none; } .tools { display: none; }
  tr { break-inside: avoid; } thead { display: table-header-group; } }
"""
_SCRIPT = """
const rows = [...document.querySelectorAll('tbody tr')], body = document.querySelector('tbody');
const words = document.getElementById('words'), status = document.getElementById('which');
const shown = document.getElementById('shown');
function filter() {
  const text = words.value.toLowerCase();
  let count = 0;
  for (const row of rows) {
    const fits = row.textContent.toLowerCase().includes(text) && (!status.value || row.className === status.value);
    row.hidden = !fits;
    count += fits;
  }
  shown.textContent = count + ' of ' + rows.length + ' shown';
}
words.addEventListener('input', filter);
status.addEventListener('change', filter);
document.querySelectorAll('th button').forEach((button, column) => button.addEventListener('click', () => {
  const head = button.closest('th'), up = head.getAttribute('aria-sort') !== 'ascending';
  document.querySelectorAll('th').forEach(th => th.removeAttribute('aria-sort'));
  head.setAttribute('aria-sort', up ? 'ascending' : 'descending');
  const key = row => row.cells[column].dataset.key ?? row.cells[column].textContent;
  const order = (a, b) => key(a).localeCompare(key(b), undefined, {numeric: true});
  rows.sort((a, b) => up ? order(a, b) : order(b, a)).forEach(row => body.append(row));
}));
document.querySelector('.tools').hidden = false;
filter();
"""


def _make_page(manifest: dict[str, Any], pictures: Mapping[str, Pictured]) -> str:
    title = manifest["sheet"]["title"] or "a batch"
    totals = ", ".join(f"<span><b>{n}</b> {status}</span>" for status, n in _count_outcomes(manifest).items() if n)
    heads = "".join(f'<th scope="col"><button type="button">{word}</button></th>' for word in
                    ("Asset", "Status", "Size before", "Size after", "Off by at most", "What happened"))  # fmt: skip
    ranked = sorted(manifest["assets"], key=lambda e: (_ORDER.index(e["status"]), e["source"]))
    choices = "".join(f"<option>{s}</option>" for s, n in _count_outcomes(manifest).items() if n)
    drawn = (
        "; before and after from the same side and at the same scale, a cross where the origin is" if pictures else ""
    )
    most = f"Pictures are of the first {MOST_PICTURED} assets alone."
    notes = "".join(f"<li>{_escape_text(w)}</li>" for w in manifest["warnings"])
    digest = manifest["sheet"]["sha256"][:12]
    return f"""<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy"
  content="default-src 'none'; img-src data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<meta name="viewport" content="width=device-width">
<title>Delivery: {_escape_text(title)}</title>
<style>{_STYLE}</style>
</head>
<body>
<main>
<h1>{_escape_text(title)}</h1>
<p>Delivered and proved by Oak Square {_escape_text(manifest["oak_square"])}; sheet {digest}.</p>
<p class="totals">{totals or "<span>nothing to deliver</span>"}</p>
{f"<ul>{notes}</ul>" if notes else ""}
{f"<p>{most}</p>" if pictures and len(manifest["assets"]) > MOST_PICTURED else ""}
<div class="tools" hidden>
<label>Find <input id="words" type="search"></label>
<label>Status <select id="which"><option value="">all</option>{choices}</select></label>
<span id="shown" role="status"></span>
</div>
<table>
<caption>Every asset, gravest first{drawn}</caption>
<thead><tr>{heads}</tr></thead>
<tbody>
{"".join(_asset_row(e, pictures.get(e["source"])) for e in ranked)}</tbody>
</table>
{_describe_proof(manifest.get("proof"))}</main>
<script>{_SCRIPT}</script>
</body>
</html>
"""


def _describe_proof(told: Any) -> str:
    """Return what each file was held against, and what it was not."""
    if not told:
        return ""
    lists = (("compared", told["compared"]), ("not compared", told["not_compared"]))
    rows = "".join(
        f"<h2>{word.capitalize()}</h2><ul>{''.join(f'<li>{_escape_text(w)}</li>' for w in words)}</ul>"
        for word, words in lists
    )
    return f"<details><summary>What the proof looks at</summary>{rows}</details>\n"


def _asset_row(entry: Entry, pictured: Pictured | None) -> str:
    sizes = [entry[f"size_{when}_m"] for when in ("before", "after")]
    images = [None, None] if pictured is None else [pictured.before, pictured.after]
    said = [f"{entry['source']} {when}" for when in ("before", "after")]
    drawn = [_embed_picture(image, words) for image, words in zip(images, said, strict=True)]
    if pictured is not None and pictured.closer != 1.0 and drawn[1]:
        drawn[1] += f"<small>drawn {_escape_text(_format_factor(pictured.closer))} as large</small>"
    told = "".join(
        f'<td class="n" data-key="{max(s.values()) if s else 0:.9f}">{_print_size(s)}{picture}</td>'
        for s, picture in zip(sizes, drawn, strict=True)
    )
    off = entry["deviation_m"]
    most = "" if off is None else _escape_text(in_english(format_deviation(off)))
    happened = _list_happened(entry)
    output = entry["output"]
    into = f"<br><small>as {_escape_text(output)}</small>" if output and output != entry["source"] else ""
    return (
        f'<tr class="{_escape_text(entry["status"])}"><th scope="row">{_escape_text(entry["source"])}{into}</th>'
        f'<td class="status">{_escape_text(entry["status"])}</td>{told}'
        f'<td class="n" data-key="{0 if off is None else off:.12f}">{most}</td>'
        f"<td>{happened}</td></tr>\n"
    )


def _list_happened(entry: Entry) -> str:
    """Return lists of what happened to an asset, each under its heading where there are several."""
    steps = {True: list[str](), False: list[str]()}  # by whether it is a check
    for step in entry["steps"]:
        refused = " (refused)" if step["outcome"] == "refused" else ""
        words = f"step {step['step']}, {step['do']}: {step['detail'] or step['outcome']}{refused}"
        steps[step["do"] == "check"].append(words)
    of_steps = [w for w in entry["warnings"] if w.startswith("step ")]
    of_file = [w for w in entry["warnings"] if not w.startswith("step ")]
    reason = [entry["reason"]] if entry["reason"] else []
    parts = {"Why not": reason, "Steps": steps[False], "Checks": steps[True], "What else they bring about": of_steps,
             "What the file can't hold, or holds otherwise": of_file}  # fmt: skip
    there = {words: lines for words, lines in parts.items() if lines}
    found = ""
    for words, lines in there.items():
        head = f"<b>{_escape_text(words)}</b>" if len(there) > 1 else ""
        found += f"{head}<ul>{''.join(f'<li>{_escape_text(line)}</li>' for line in lines)}</ul>"
    return found


def _embed_picture(image: bytes | None, words: str) -> str:
    if image is None:
        return ""
    data = base64.b64encode(image).decode()
    return f'<br><img width="200" height="150" alt="{_escape_text(words)}" src="data:image/png;base64,{data}">'


def _format_factor(factor: float) -> str:
    return f"{factor:.3g} times" if factor >= 1 else f"1/{1 / factor:.3g}"


def _print_size(size: dict[str, float] | None) -> str:
    return _escape_text(in_english(format_size(size["width"], size["height"], size["depth"]))) if size else ""


def _escape_text(text: object) -> str:
    """Return text as a page shows it: nothing in it is taken for anything else."""
    shown = "".join(c if c.isprintable() else repr(c)[1:-1] for c in str(text))
    return escape(shown)

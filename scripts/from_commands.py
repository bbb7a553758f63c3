"""Writes what is made from the commands themselves: the man page, and the completions of three shells."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from oak_square.cli import COMMANDS, whole
from oak_square.core.findings.finding import LEVELS
from oak_square.core.stages import STAGES
from oak_square.formats.register import made
from oak_square.version import __version__

SHARE = Path(__file__).resolve().parent.parent / "share"
VIEWS = ("bench", "line-up", "before-after", "set-out", "stand")  # held against the window's own by a test
CHOICES = {"--stage": STAGES, "--view": VIEWS, "--to": tuple(made()), "--fail-on": LEVELS}
EXITS = (
    ("0", "Done; warnings allowed."),
    ("1", "A finding at or above --fail-on; a proof that does not hold; sheets that differ."),
    ("2", "Wrong usage, and nothing was written."),
    ("3", "Some or all assets failed or were refused; the rest were delivered."),
)


def commands() -> Iterator[tuple[str, Any]]:
    """Yield every command with its words, those of a group after one another."""
    group = whole()
    for name in COMMANDS:
        command = group.get_command(None, name)
        yield name, command
        for inner, each in getattr(command, "commands", {}).items():
            yield f"{name} {inner}", each


def options(command: Any) -> list[tuple[list[str], str, str]]:
    """Return a command's options: their words, what they take, what they do."""
    found = []
    for each in command.params:
        if each.param_type_name == "option":
            takes = "" if each.is_flag else (each.metavar or (each.name or "value").upper())
            found.append(([o for o in each.opts if o.startswith("-")], takes, each.help or ""))
    return found


def arguments(command: Any) -> str:
    """Return what a command takes besides options."""
    return " ".join(each.metavar or each.name.upper() for each in command.params if each.param_type_name == "argument")


def roff(text: str) -> str:
    """Return text as a manual page's language has it."""
    plain = text.replace("\\", "\\e").replace("-", "\\-").replace("…", "...")
    return f"\\&{plain}" if plain.startswith((".", "'")) else plain


def man_page() -> str:
    """Return the manual page, section 1."""
    lines = [
        f'.TH OAK\\-SQUARE 1 "" "Oak Square {__version__}" "User Commands"',
        ".SH NAME",
        "oak\\-square \\- make batches of imported 3D models true, and prove what is delivered",
        ".SH SYNOPSIS",
        ".B oak\\-square",
        "[\\fICOMMAND\\fR] [\\fIOPTIONS\\fR] [\\fIARGUMENTS\\fR]",
        ".SH DESCRIPTION",
        "Without a command, the window opens. Models are glTF, OBJ, STL, PLY, OFF, COLLADA, 3MF and OpenUSD files; a",
        "folder is searched for them. The files that are read are never written to.",
        ".SH COMMANDS",
    ]
    for name, command in commands():
        lines += [
            ".TP",
            f".B {roff(f'{name} {arguments(command)}'.strip())}",
            roff((command.help or "").split("\n")[0]),
        ]
        for words, takes, does in options(command):
            lines += [".RS", ".TP", f".B {roff(', '.join(words) + (f' {takes}' if takes else ''))}", roff(does), ".RE"]
    lines += [".SH OPTIONS", ".TP", ".B \\-\\-version", "Say which version this is.", ".TP", ".B \\-\\-help"]
    lines += ["Say what there is; after a command, what that takes.", ".SH EXIT STATUS"]
    for code, words in EXITS:
        lines += [".TP", f".B {code}", roff(words)]
    lines += [
        ".SH ENVIRONMENT",
        ".TP", ".B OAK_SQUARE_LIMITS", "Bounds of what is read, such as nodes=50000.",
        ".TP", ".B OAK_SQUARE_NOUNS", "A table of names of things of your own, beside the one that ships.",
        ".SH SEE ALSO", "The manual in docs/, which the window shows behind F1.",
    ]  # fmt: skip
    return "\n".join(lines) + "\n"


def _words(command: Any) -> list[str]:
    return [*(o for words, _, _ in options(command) for o in words), "--help"]


def bash() -> str:
    """Return the completion for bash."""
    tops = {name.split()[0]: None for name, _ in commands()}
    lines = [
        "# Completion of oak-square for bash; made from the commands.",
        "_oak_square() {",
        '  local here="${COMP_WORDS[COMP_CWORD]}" before="${COMP_WORDS[COMP_CWORD-1]}"',
        '  local command="${COMP_WORDS[1]}" inner="${COMP_WORDS[2]}" words=""',
        '  case "$before" in',
    ]
    lines += [f'    {o}) COMPREPLY=($(compgen -W "{" ".join(of)}" -- "$here")); return ;;' for o, of in CHOICES.items()]
    lines += ["  esac", "  if [ $COMP_CWORD = 1 ]; then", f'    words="{" ".join(tops)} --help --version"', "  else"]
    lines += ['    case "$command $inner" in']
    for name, command in sorted(commands(), key=lambda each: -each[0].count(" ")):
        inner = " ".join(getattr(command, "commands", {}))
        pattern = f'"{name}"' if " " in name else f'"{name} "*'
        lines.append(f'      {pattern}) words="{" ".join([*([inner] if inner else []), *_words(command)])}" ;;')
    lines += [
        "    esac", "  fi", '  case "$here" in',
        '    -*) COMPREPLY=($(compgen -W "$words" -- "$here")) ;;',
        '    *) COMPREPLY=($(compgen -W "$words" -- "$here") $(compgen -f -- "$here")) ;;',
        "  esac", "}", "complete -o filenames -F _oak_square oak-square",
    ]  # fmt: skip
    return "\n".join(lines) + "\n"


def zsh() -> str:
    """Return the completion for zsh."""
    lines = ["#compdef oak-square", "# Made from the commands.", "local -a commands", "commands=("]
    lines += [f"  '{name}:{words.rstrip('.')}'" for name, (_, words) in COMMANDS.items()]
    lines += [")", "if (( CURRENT == 2 )); then", "  _describe command commands", "  return", "fi", "case $words[2] in"]
    for name, command in commands():
        if " " in name:
            continue
        inner = " ".join(getattr(command, "commands", {}))
        specs = [f"'{o}[{_quoted(does)}]{_zsh_value(o, takes)}'" for ws, takes, does in options(command) for o in ws]
        rest = f"'1:what:({inner})'" if inner else "'*:file:_files'"
        lines.append(
            f"  {name}) shift words; (( CURRENT-- )); _arguments {' '.join([*specs, rest])} '*:file:_files' ;;"
        )
    lines[-1] = lines[-1]
    return "\n".join([*lines, "esac"]) + "\n"


def _zsh_value(option: str, takes: str) -> str:
    if not takes:
        return ""
    of = CHOICES.get(option)
    return f":value:({' '.join(of)})" if of else ":value:_files"


def _quoted(text: str) -> str:
    return text.replace("'", "").replace("[", "(").replace("]", ")").replace(":", ";")


def fish() -> str:
    """Return the completion for fish."""
    lines = ["# Completion of oak-square for fish; made from the commands."]
    for name, (_, words) in COMMANDS.items():
        lines.append(f'complete -c oak-square -n __fish_use_subcommand -a {name} -d "{words.rstrip(".")}"')
    for name, command in commands():
        seen = f'"__fish_seen_subcommand_from {name.split()[-1]}"'
        for inner in getattr(command, "commands", {}):
            lines.append(f"complete -c oak-square -n {seen} -a {inner}")
        for words, takes, does in options(command):
            long = next((w[2:] for w in words if w.startswith("--")), "")
            choices = f' -x -a "{" ".join(CHOICES[words[0]])}"' if words[0] in CHOICES else " -r" if takes else ""
            said = does.replace('"', "")
            lines.append(f'complete -c oak-square -n {seen} -l {long}{choices} -d "{said}"')
    return "\n".join(lines) + "\n"


def written() -> dict[Path, str]:
    """Return every file that is made, and what it holds."""
    return {
        SHARE / "oak-square.1": man_page(),
        SHARE / "completion" / "oak-square": bash(),
        SHARE / "completion" / "_oak-square": zsh(),
        SHARE / "completion" / "oak-square.fish": fish(),
    }


if __name__ == "__main__":
    for path, text in written().items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, "utf-8")
        print(path, file=sys.stderr)

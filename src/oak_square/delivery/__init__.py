"""The batch runner: finding, surveying, delivering, proving."""

from oak_square.delivery.batch import Source, find_book, find_sources, passed_over, told_apart
from oak_square.delivery.files import Digests, json_text
from oak_square.delivery.guessing import book_for, guessed
from oak_square.delivery.pictures import Pictured, pictures_of
from oak_square.delivery.pool import in_processes
from oak_square.delivery.proving import prove
from oak_square.delivery.report import check_reports, write_reports
from oak_square.delivery.running import WOULD_STOP, Run, Stopped, Unrecorded, deliver
from oak_square.delivery.surveying import (
    load_book,
    receive,
    survey_batch,
    survey_document,
    survey_source,
)
from oak_square.delivery.watching import Watcher, watching

__all__ = [
    "WOULD_STOP",
    "Digests",
    "Pictured",
    "Run",
    "Source",
    "Stopped",
    "Unrecorded",
    "Watcher",
    "book_for",
    "check_reports",
    "deliver",
    "find_book",
    "find_sources",
    "guessed",
    "in_processes",
    "json_text",
    "load_book",
    "passed_over",
    "pictures_of",
    "prove",
    "receive",
    "survey_batch",
    "survey_document",
    "survey_source",
    "told_apart",
    "watching",
    "write_reports",
]

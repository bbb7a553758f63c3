"""The batch runner: finding, surveying, delivering, proving."""

from oak_square.delivery.batch import Source, find_sources
from oak_square.delivery.files import json_text
from oak_square.delivery.proving import prove
from oak_square.delivery.running import Run, deliver, in_processes
from oak_square.delivery.surveying import load_book, receive, survey_document, survey_source

__all__ = [
    "Run",
    "Source",
    "deliver",
    "find_sources",
    "in_processes",
    "json_text",
    "load_book",
    "prove",
    "receive",
    "survey_document",
    "survey_source",
]

"""The manual: pages written by hand, and those made from the steps and findings themselves."""

from oak_square.manual.pages import Page, pages

__all__ = ["Page", "pages"]

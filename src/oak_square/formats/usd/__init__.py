"""OpenUSD: text and binary layers, and packages of them."""

from oak_square.core.words import say
from oak_square.formats.register import enter

__all__ = ["USDA", "USDC", "USDZ"]

USDA = enter(__name__, "usda", say("USD text"), ".usda", scenes=True)
USDC = enter(__name__, "usdc", say("USD binary"), ".usdc", ".usd", scenes=True)
USDZ = enter(__name__, "usdz", say("USD package"), ".usdz", is_made=False)

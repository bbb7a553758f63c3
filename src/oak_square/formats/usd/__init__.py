"""OpenUSD: text and binary layers, and packages of them."""

from oak_square.formats.usd import set_out
from oak_square.formats.usd.files import Usda, Usdc, Usdz

__all__ = ["Usda", "Usdc", "Usdz", "set_out"]

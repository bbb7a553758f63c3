"""Oak Square: a bench for batches of imported 3D models."""

__version__ = "0.1.0"

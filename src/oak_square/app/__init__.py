"""The window: with the languages it speaks, all that imports Qt or VTK."""

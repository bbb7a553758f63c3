"""The prep sheet: its model, its YAML, and what it makes of an asset."""

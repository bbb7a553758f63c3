"""The batch runner: finding, surveying, delivering, proving."""

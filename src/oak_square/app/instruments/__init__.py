"""What is taken in hand in the Bench, one file an instrument."""

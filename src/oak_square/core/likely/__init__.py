"""What an asset most likely is: the unit it was made in, which of its axes is up, which is front; and why."""

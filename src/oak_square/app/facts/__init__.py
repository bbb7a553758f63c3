"""From the session to the plain values that the window shows. No Qt."""

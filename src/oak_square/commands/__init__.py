"""The commands: each file parses, calls, prints and ends; it is loaded when its command is asked for."""

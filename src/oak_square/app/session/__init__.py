"""What is open and worked on: values, and the one that changes them. No widget."""

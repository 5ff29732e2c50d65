"""The public sites of this installation."""

"""What is written, whatever sort it is of."""

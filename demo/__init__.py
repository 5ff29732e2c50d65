"""The demo data: the Varrow Canal Trust and its museum, all invented, and the scripts that draw its pictures."""

"""Attacks: each is made, and must come to nothing. What the clauses are, stands in docs/security.md."""

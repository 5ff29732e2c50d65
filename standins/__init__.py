"""Simulated outside services, for the demo and for tests: invented, on loopback, and able to fail on request."""

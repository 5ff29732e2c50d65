"""Benchmarks: python -m bench.NAME, while ./start is running. Each prints ratios to a reference of the same run."""

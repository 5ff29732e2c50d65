"""Faults that are made on purpose: kills, lost answers, full disks. STILLPAGE_LONG_TESTS=1 makes many more of each."""

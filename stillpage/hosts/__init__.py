"""Hosts that films may be shown from, and the films that the library has from there.

- `models`: a host as an administrator allows it; where an item of the library stands
- `asking`: what a host says of a film, asked over the network
- `keeping`: films elsewhere as items of the library, brought in, asked for again
- `table`: the hosts as an administrator keeps them
"""

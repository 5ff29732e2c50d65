"""Programs that look at files of strangers, each in a process of its own."""

from __future__ import annotations


def limited(seconds: int, memory: int, size: int) -> list[str]:
    """What stands before a command: it ends with whoever began it, gives way to others, and has limits: of seconds of a
    processor, of bytes of memory, and of bytes of each file that it writes.

    Programs of Debian's util-linux and coreutils, since a function run between fork and exec is not safe with threads.
    """
    limits = [f"--as={memory}", f"--cpu={seconds}:{seconds + 5}", f"--fsize={size}", "--core=0"]
    return ["setpriv", "--pdeathsig", "KILL", "prlimit", *limits, "nice", "-n", "10"]

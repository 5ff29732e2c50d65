"""Setting up and running Still Page on one machine: what `./start` and `./test` call. Standard library only."""

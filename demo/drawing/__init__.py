"""The scripts that draw the demo's pictures and print its documents. They need what `requirements-dev.txt` names."""

"""Pages: their place in the Contents, and their addresses. What is written on them belongs to `stillpage.written`."""

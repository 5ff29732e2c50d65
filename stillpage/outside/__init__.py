"""What is fetched from elsewhere: files by address, and pictures of a commons."""

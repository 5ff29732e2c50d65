"""Pictures and, later, captions, animations and documents: what their bytes say and what is made of them."""

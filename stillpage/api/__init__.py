"""The HTTP interface under /api/: routes, problem documents, and the page that carries the front end."""

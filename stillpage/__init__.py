"""The application: a Django project with one app a concern.

``sites`` (the public sites), ``people`` (accounts, roles, who may do what), ``library`` (the media library), ``pages``
(pages and their working copies), ``publishing`` (live copies and serving them) and ``api`` (the HTTP interface).
Each imports only those before it.
"""

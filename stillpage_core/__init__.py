"""The rules and the computation of Still Page.

Pure Python: this package imports no web framework, opens no socket and reads no clock it is not given.
Read it in this order: ``document`` (what a document is), ``reading`` and ``writing`` (what goes in and out),
``checking`` (what is wrong and how it is repaired), then ``media``, ``sites`` and ``comparing``.
"""

"""A version from all sides, as pages, the slice, the path and the command line show it.

Belongs here: putting together what the other parts know. Must never happen here: a rule of its own.
Imitate `overview.py`.
"""

"""Amounts that meet targets: the question posed, solved, what stops it, and other ways to make a layer.

Belongs here: what amounts could be. Must never happen here: how a version begins, what is said of it.
Imitate `solve.py`.
"""

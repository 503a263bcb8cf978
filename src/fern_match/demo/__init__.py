"""The demo world: invented bars whose labels and readings the core makes from hidden formulas.

Belongs here: made-up matches. Must never happen here: a figure that the core did not compute.
Imitate `night_crossing.py`.
"""

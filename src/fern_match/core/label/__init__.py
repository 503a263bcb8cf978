"""What a label says and what its figures stand for: panels by region, rounding both ways, net weight, statement, cross-checks.

Belongs here: rules of labels. Must never happen here: anything about layers or recipes.
Imitate `intervals.py`.
"""

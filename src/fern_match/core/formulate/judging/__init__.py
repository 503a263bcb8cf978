"""What is said of a version that is as it is: balance, fats, handling, where a boil ends.

Belongs here: sentences from amounts and tables. Must never happen here: changing an amount.
Imitate `balance.py`.
"""

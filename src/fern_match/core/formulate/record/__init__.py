"""What a version is: as typed, as read in grams, what its layers add up to, and amounts written back.

Belongs here: the record and what follows from it alone. Must never happen here: choosing amounts, judging them.
Imitate `formula.py`.
"""

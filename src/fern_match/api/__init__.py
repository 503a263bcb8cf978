"""The HTTP edge: one router per step, routes that only translate, one error shape.

Belongs here: requests and answers. Must never happen here: a computation of the job.
Imitate `study.py`.
"""

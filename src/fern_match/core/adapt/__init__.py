"""Adapting a version to a rule: whole proposals, worked out, each of one system.

Belongs here: rules, swaps and what follows from them. Must never happen here: how amounts are solved (formulate).
Imitate `rules.py`.
"""

from fern_match.core.adapt.asking import category_choices, rule_choices, rules_of, shipped_rules, suggested_limits
from fern_match.core.adapt.holding import Holding, holding, limits_held
from fern_match.core.adapt.keep import kept
from fern_match.core.adapt.propose import Adapted, Proposal, adapted
from fern_match.core.adapt.rules import BadRule, Breach, Rule, breaches
from fern_match.core.adapt.unmet import LeftOut, Unmet

__all__ = [
    "Adapted",
    "BadRule",
    "Breach",
    "Holding",
    "LeftOut",
    "Proposal",
    "Rule",
    "Unmet",
    "adapted",
    "breaches",
    "category_choices",
    "holding",
    "kept",
    "limits_held",
    "rule_choices",
    "rules_of",
    "shipped_rules",
    "suggested_limits",
]

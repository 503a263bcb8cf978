"""Adapting a version to a rule: whole proposals, worked out, each of one system.

Belongs here: rules, swaps and what follows from them. Must never happen here: how amounts are solved (formulate).
Imitate `rules.py`.
"""

from fern_match.core.adapt.asking import category_choices, rule_choices, rules_of, shipped_rules, suggested_limits
from fern_match.core.adapt.holding import Holding, holding, limits_held, refused_by
from fern_match.core.adapt.keep import kept
from fern_match.core.adapt.propose import Adapted, Proposal, adapted, check_asked
from fern_match.core.adapt.renaming import outlived_names
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
    "check_asked",
    "holding",
    "kept",
    "limits_held",
    "outlived_names",
    "refused_by",
    "rule_choices",
    "rules_of",
    "shipped_rules",
    "suggested_limits",
]

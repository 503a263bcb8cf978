"""Sums with units, as typed: "12 x 0.6 g", "1 lb 4 oz", "1 cup + 2 tbsp", "(3 + 5)/2 oz"."""

import re
from dataclasses import dataclass, replace

from fern_match.core.measures.numbers import FIGURE, Comma, Unread, figure_value, plain_signs
from fern_match.core.measures.units import COUNTRIES, FILLINGS, Quantity, Unit, unit_of
from fern_match.core.measures.volumes import Measures

_TOKEN = re.compile(
    rf"\s*(?:(?P<figure>{FIGURE}|[.,]\d+)"
    r"|(?P<word>fl\.? ?oz\b|fluid ounces?\b|°? ?[CF]\b|[A-Za-zµ]+|[%\"'])(?P<stop>\.?)"
    r"|(?P<sign>[-+*/x()]))",
    re.IGNORECASE,
)
_RANGE = re.compile(r"\d\s*(?:[–—]|to\b|bis\b|\.\.+)\s*\d", re.IGNORECASE)
_HYPHENED = re.compile(r"(?<![\d.,/])(\d+)-(\d+)/(\d+)(?![\d.,/])")
_DEEPEST = 10
_JOINING = frozenset({"plus", "and", "less", "minus"})


@dataclass(frozen=True, slots=True)
class Amount:
    """A figure with its unit: in our unit once it has one, bare before that."""

    value: float
    quantity: Quantity | None = None
    units: tuple[Unit, ...] = ()  # those it was written in
    spread: float = 0.0  # in our unit


@dataclass(frozen=True, slots=True)
class Words:
    """What may stand in a field beside figures."""

    measures: Measures
    comma: Comma
    bare: str  # the name of the unit that a figure without one has
    own: Unit | None = None  # a piece of the ingredient: egg, stick, date
    own_words: frozenset[str] = frozenset()
    names: frozenset[str] = frozenset()  # of the ingredient, allowed after the unit
    grams_per_ml: float | None = None  # turns volumes into weights


def amount_of(text: str, words: Words) -> Amount:
    """A sum of amounts.

    Args:
        words: What may stand beside figures.

    Raises:
        Unread: with the sentence for the user.
    """
    if _RANGE.search(text):
        raise Unread(f"“{text}” is a range. Write one amount; the tool keeps the doubt itself.")
    plain = plain_signs(text, words.comma)
    if found := _HYPHENED.search(plain):
        whole, part = found[1], f"{found[2]}/{found[3]}"
        raise Unread(
            f"“{found[0]}” could be {whole} and {part}, or {whole} less {part}. Write {whole} {part}, or {whole} - {part}."
        )
    reader = _Reader(_tokens(plain), words)
    amount = reader.sum(0)
    if reader.at < len(reader.tokens):
        raise Unread(f"What stands from “{reader.tokens[reader.at][1]}” on was not understood.")
    return amount


def _tokens(text: str) -> list[tuple[str, str]]:
    tokens, at = [], 0
    while at < len(text):
        found = _TOKEN.match(text, at)
        if found is None:
            raise Unread(f"“{text[at:].strip()[:12]}” was not understood.")
        kind = str(found.lastgroup if found.lastgroup != "stop" else "word")
        token = found[kind]
        if kind == "word" and token == "x":
            kind, token = "sign", "x"
        tokens.append((kind, token.replace("° ", "°")))
        at = found.end()
    return tokens


class _Reader:
    """Walks the tokens of one amount."""

    def __init__(self, tokens: list[tuple[str, str]], words: Words) -> None:
        self.tokens, self.words, self.at = tokens, words, 0

    def _next(self, kind: str, among: str = "") -> str | None:
        """The token at hand, if it is of a kind and among signs; moves past it."""
        if self.at < len(self.tokens):
            its_kind, token = self.tokens[self.at]
            if its_kind == kind and (not among or token.lower() in among.split()):
                self.at += 1
                return token
        return None

    def sum(self, depth: int) -> Amount:
        """Products with plus and minus between them; a smaller unit right after a larger one adds up."""
        total = self._product(depth, below_zero=self._next("sign", "-") is not None)
        while True:
            if sign := self._next("sign", "+ -") or self._next("word", "plus and less minus"):
                term = self._product(depth)
                total = self._added(total, term, -1 if sign.lower() in {"-", "less", "minus"} else 1)
            elif total.units and self._figure_ahead():
                term = self._product(depth)
                if not term.units or term.quantity is not total.quantity or term.units[-1].size >= total.units[-1].size:
                    raise Unread("Two amounts stand side by side. Write + between them if they add up.")
                total = self._added(total, term, 1)
            else:
                return total

    def _added(self, one: Amount, other: Amount, sign: int) -> Amount:
        if Quantity.TEMPERATURE in {one.quantity, other.quantity}:
            raise Unread("Temperatures do not add up. Write one.")
        if one.quantity is not other.quantity:
            if one.quantity and other.quantity:
                raise Unread("The parts of the sum are of different kinds.")
            named = one if one.quantity is not None else other
            if [unit.name for unit in named.units] != [self.words.bare]:
                raise Unread("One part of the sum has a unit and another has none. Give each its unit.")
        quantity = one.quantity or other.quantity
        return Amount(one.value + sign * other.value, quantity, one.units + other.units, one.spread + other.spread)

    def _figure_ahead(self) -> bool:
        return self.at < len(self.tokens) and self.tokens[self.at][0] == "figure"

    def _product(self, depth: int, *, below_zero: bool = False) -> Amount:
        """Factors of which at most one has a unit, which is then the whole's: 42/3 oz is 14 oz."""
        result, unit = self._factor(depth)
        result = replace(result, value=-result.value) if below_zero else result
        while sign := self._next("sign", "* x /"):
            other, its_unit = self._factor(depth)
            if (unit or result.quantity) and (its_unit or other.quantity):
                raise Unread("Two amounts with units cannot be multiplied or divided. Give one of them its unit.")
            if sign == "/" and (other.value == 0 or other.quantity):
                raise Unread("A division by nothing, or by an amount with a unit, gives no amount here.")
            factor, named = (1 / other.value, result) if sign == "/" else (other.value, result)
            if other.quantity:
                factor, named = result.value, other
            result = replace(named, value=named.value * factor, spread=named.spread * abs(factor))
            unit = unit or its_unit
        if unit is None:
            return result
        value, quantity = result.value * unit.size + unit.zero, unit.quantity
        if quantity is Quantity.VOLUME and self.words.grams_per_ml is not None:
            value, quantity = value * self.words.grams_per_ml, Quantity.WEIGHT
        return Amount(value, quantity, (unit,), abs(value) * unit.spread)

    def _factor(self, depth: int) -> tuple[Amount, Unit | None]:
        """A figure or a bracket, with the unit that follows it."""
        if depth > _DEEPEST:
            raise Unread("There are too many brackets.")
        if self._next("sign", "("):
            inner = self.sum(depth + 1)
            if not self._next("sign", ")"):
                raise Unread("A bracket is not closed.")
            return inner, None if inner.quantity else self._unit()
        figure = self._next("figure")
        if figure is None:
            word = self.tokens[self.at][1] if self.at < len(self.tokens) else ""
            raise Unread(f"A figure is missing before “{word}”." if word else "A figure is missing at the end.")
        return Amount(self._mixed(figure_value(_led_by_zero(figure), self.words.comma))), self._unit()

    def _mixed(self, whole: float) -> float:
        """1 1/2: a whole number with a fraction after it."""
        ahead = self.tokens[self.at : self.at + 3]
        if [kind for kind, _ in ahead] != ["figure", "sign", "figure"] or ahead[1][1] != "/":
            if self._figure_ahead():
                raise Unread("Two figures stand side by side. Write one, or a sign between them.")
            return whole
        over, under = (figure_value(ahead[at][1], self.words.comma) for at in (0, 2))
        after_slash = self.at >= 2 and self.tokens[self.at - 2][1] == "/"
        if whole != int(whole) or not 0 < over < under or after_slash:
            raise Unread("Two figures stand side by side. Write one, or a sign between them.")
        self.at += 3
        return whole + over / under

    def _unit(self) -> Unit | None:
        self._next("word", "level flat of")
        kind, word = self.tokens[self.at] if self.at < len(self.tokens) else ("", "")
        if kind != "word" or word.lower() in _JOINING:
            return None
        if word.lower() in FILLINGS:
            raise Unread(f"How much “{word}” holds differs from hand to hand. Write level spoons or cups, or weigh it.")
        if word in {"T", "t"}:
            raise Unread(f"“{word}” can be read in two ways. Write tsp or tbsp.")
        unit = self._own_unit(word)
        if unit is None:
            country = self._country(word)
            word = self.tokens[self.at][1] if self.at < len(self.tokens) else ""
            unit = unit_of(_one_word(word), self.words.measures, country)
        if unit is None:
            raise Unread(f"“{word}” is not a unit known here.")
        self.at += 1
        self._skip_name()
        return unit

    def _own_unit(self, word: str) -> Unit | None:
        """A piece of the ingredient: egg, stick, date; "large eggs" and "egg whites" are read too."""
        after = self.tokens[self.at + 1][1].lower() if self.at + 1 < len(self.tokens) else ""
        if after in self.words.own_words and word.lower() in {"large", "medium", *self.words.names}:
            self.at += 1
            word = after
        return self.words.own if word.lower() in self.words.own_words else None

    def _country(self, word: str) -> str | None:
        if word.lower() not in COUNTRIES:
            return None
        self.at += 1
        return word

    def _skip_name(self) -> None:
        """The ingredient's own name, after "of" or alone."""
        begin = self.at
        self._next("word", "of")
        while self.at < len(self.tokens) and self.tokens[self.at][1].lower() in self.words.names:
            self.at += 1
        if self.at == begin + 1 and self.tokens[begin][1].lower() == "of":
            self.at = begin


def _one_word(word: str) -> str:
    lower = word.lower().replace(".", "").replace(" ", "")
    return "floz" if lower in {"floz", "fluidounce", "fluidounces"} else lower


def _led_by_zero(figure: str) -> str:
    return f"0{figure}" if figure[0] in ".," else figure

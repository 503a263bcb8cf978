"""The study as read: each figure with what it stands for, each name with its ingredient, and what does not fit together."""

import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from fern_match.core.families import Families, Family, standard_families
from fern_match.core.food import NameMatch, Pantry, unlisted
from fern_match.core.food.allergen_names import all_named, allergens_named
from fern_match.core.food.together import NUTS_TOGETHER, TREE_NUTS, unexplained
from fern_match.core.label.checks import Contradiction, contradictions
from fern_match.core.label.intervals import DeclaredFigure, Interval, declared_interval, read_declared
from fern_match.core.label.net_weight import MeanPiece, mean_piece_from_label
from fern_match.core.label.pack import read_pack_weight, read_servings
from fern_match.core.label.rows import Basis, Region, RowId, panel_rows
from fern_match.core.label.statement import Statement, StatementItem, read_statement
from fern_match.core.label.statement.tongues import in_words_of_ours
from fern_match.core.measures import Comma, Typed, read_count, read_grams, read_millimetres, read_money, read_percent
from fern_match.core.record import digest
from fern_match.core.study.meaning import BracketReading, bracket_readings
from fern_match.core.study.naming import named
from fern_match.core.study.record import LEAVE_OUT, PIECE, TOGETHER, Layer, Meaning, Place, Spot, Study, Whereabouts
from fern_match.core.study.whereabouts import PlacingTable, better_family, placed

_LEAST_G = 0.01  # of a piece, a layer, a serving: what a fine scale shows
_MOST_NET_WEIGHT_G = 10_000.0
_MOST_SERVING_G = 500.0
_LONGEST_MM = 500.0
_MOST_MARK = 10.0
_SPOTS = {Place.COAT: (Spot.TOP, Spot.SIDE, Spot.BOTTOM), Place.INCLUSION: ()}  # where a layer of a place is measured
_MOST_LOOSE = 300  # names looked for loosely; no label has a third as many


@dataclass(frozen=True, slots=True, kw_only=True)
class RowReading:
    """One row of the panel: as typed, what was read, what it stands for on the label's basis."""

    row: RowId
    typed: str
    figure: DeclaredFigure | None
    interval: Interval | None
    problem: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighingReading:
    """All readings of one subject."""

    subject: str
    readings: tuple[Typed, ...]
    ids: tuple[str, ...]  # of them

    @property
    def grams(self) -> tuple[float, ...]:
        """The readings that were understood [g]."""
        return tuple(reading.value for reading in self.readings if reading.value is not None)

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers that were on the scale; none for whole pieces."""
        return () if self.subject == PIECE else tuple(self.subject.split(TOGETHER))

    @property
    def mean_g(self) -> float | None:
        """Their mean [g]; None without any."""
        return statistics.fmean(self.grams) if self.grams else None

    @property
    def sd_g(self) -> float | None:
        """Their standard deviation [g]; None with fewer than two."""
        return statistics.stdev(self.grams) if len(self.grams) > 1 else None


@dataclass(frozen=True, slots=True)
class ThicknessReading:
    """All thicknesses of a layer at one spot."""

    layer: str
    spot: Spot
    readings: tuple[Typed, ...]
    ids: tuple[str, ...]  # of them

    @property
    def millimetres(self) -> tuple[float, ...]:
        """The readings that were understood [mm]."""
        return tuple(reading.value for reading in self.readings if reading.value is not None)

    @property
    def mean_mm(self) -> float | None:
        """Their mean [mm]; None without any."""
        return statistics.fmean(self.millimetres) if self.millimetres else None


@dataclass(frozen=True, slots=True)
class SizeReading:
    """Outside dimensions of a piece as read [mm]."""

    length: Typed
    width: Typed
    height: Typed

    @property
    def box_mm(self) -> tuple[float, float, float] | None:
        """Length, width, height; None until all three are known."""
        length, width, height = self.length.value, self.width.value, self.height.value
        return None if length is None or width is None or height is None else (length, width, height)


def _again(key: str, study: Study, pantry: Pantry, families: Families) -> "StudyReading":
    """A reading that was sent; the same one where it has been here before, with all that was worked out of it."""
    known = _SENT.get(key)
    if known is None:
        known = _SENT[key] = StudyReading(study, pantry, families)
        while len(_SENT) > _MOST_SENT:
            _SENT.pop(next(iter(_SENT)), None)
    return known


_SENT: dict[str, "StudyReading"] = {}
_MOST_SENT = 16


@dataclass(frozen=True)
class StudyReading:
    """A study with everything read that can be read. Nothing here changes what was typed."""

    study: Study
    pantry: Pantry
    families: Families = field(default_factory=standard_families)

    def __reduce__(self) -> tuple[Any, ...]:
        """Sent by what it is made of: what is worked out on demand may be growing in another thread just now."""
        return _again, (self.fingerprint + self.families.key, self.study, self.pantry, self.families)

    def with_study(self, study: Study) -> "StudyReading":
        """Another study read with the same pantry and families."""
        return StudyReading(study, self.pantry, self.families)

    @property
    def comma(self) -> Comma:
        """What a comma means where the label is from."""
        return self.study.region.comma

    @cached_property
    def declared_allergens(self) -> tuple[str, ...]:
        """Allergens that the statement declares, that a name or its own first words say, or that what it names holds for sure.

        A name counts for itself, whatever of the pantry stands in for it: "hazelnut oil" holds hazelnut.
        """
        said = {
            allergen
            for word in (one.lower().strip(" .") for one in self.statement.contains)
            for allergen in allergens_named(word) or {word}
        }
        names = [f"{item.name} {item.source or ''}" for item in self.printed.everything()]
        named_in_it = self._held_by_the_pantry | all_named([*names, in_words_of_ours(self.printed.says)])
        together = NUTS_TOGETHER if named_in_it & TREE_NUTS or said & TREE_NUTS else frozenset()
        return tuple(sorted((said | named_in_it) - together))

    @cached_property
    def unplaced_allergens(self) -> Mapping[str, frozenset[str]]:
        """Of those the label declares or names, what no ingredient of the pantry that a name was taken for holds.

        Each with the ingredients by whose names the label says it, such as gelatine of "gelatine (fish)"; with none where it is
        only declared, and nobody knows where it is.
        """
        named: dict[str, set[str]] = {}
        nowhere: set[str] = set()  # said of a name that stands for nothing here

        def walk(items: Sequence[StatementItem], above: str | None) -> None:
            for item in items:
                here = self.ingredient_of.get(item.key, above)
                for allergen in allergens_named(f"{item.name} {item.source or ''}"):
                    if here is None:
                        nowhere.add(allergen)
                    else:
                        named.setdefault(allergen, set()).add(here)
                walk(item.items, here)

        walk(self.printed.items, None)
        lost = unexplained(self.declared_allergens, self._held_by_the_pantry)
        return {one: frozenset() if one in nowhere else frozenset(named.get(one, ())) for one in lost}

    @cached_property
    def _held_by_the_pantry(self) -> frozenset[str]:
        foods = (self.pantry[key] for key in self.ingredient_of.values() if key in self.pantry)
        return frozenset(allergen for food in foods for allergen in food.allergens)

    @cached_property
    def net_weight(self) -> Typed:
        """Of the pack [g]."""
        return read_pack_weight(self.study.label.net_weight, least_g=_LEAST_G, most_g=_MOST_NET_WEIGHT_G, comma=self.comma)

    @property
    def net_weight_words(self) -> str:
        """It in short: as read, or as typed where it was not."""
        grams = self.net_weight.value
        return f"{grams:.4g} g" if grams is not None else self.study.label.net_weight

    @cached_property
    def pieces_per_pack(self) -> Typed:
        """Count; an empty field stands for one piece."""
        return read_count(self.study.label.pieces_per_pack, most=200, what="number of pieces", comma=self.comma)

    @cached_property
    def pieces(self) -> int:
        """Pieces in a pack, 1 when not said."""
        return int(self.pieces_per_pack.value or 1)

    @cached_property
    def serving(self) -> Typed:
        """Declared serving [g]."""
        return read_pack_weight(self.study.label.serving, least_g=_LEAST_G, most_g=_MOST_SERVING_G, comma=self.comma)

    @cached_property
    def servings(self) -> Typed:
        """Servings in the pack; may be a fraction."""
        return read_servings(self.study.label.servings, self.comma)

    @cached_property
    def price(self) -> Typed:
        """What the pack costs in the shop, in whatever money."""
        return read_money(self.study.label.price, comma=self.comma)

    @cached_property
    def rows(self) -> tuple[RowReading, ...]:
        """Every row of the region's panel, in its order."""
        return tuple(
            _row_reading(self.study.region, spec.id, self.study.label.rows.get(spec.id, ""))
            for spec in panel_rows(self.study.region)
        )

    @cached_property
    def other_rows(self) -> tuple[RowReading, ...]:
        """Rows of the panel's other column, in their order; only those that were typed."""
        typed = self.study.label.other_rows
        region = self.study.region
        return tuple(_row_reading(region, spec.id, typed[spec.id]) for spec in panel_rows(region) if spec.id in typed)

    @cached_property
    def intervals(self) -> Mapping[RowId, Interval]:
        """What each declared row stands for, on the label's basis; a row declared in both columns is where both hold."""
        found = {row.row: row.interval for row in self.rows if row.interval is not None}
        for row, other in self._other_intervals.items():
            here = found.get(row)
            both = here.overlap(other) if here is not None else other
            found[row] = both if both is not None else here if here is not None else other
        return found

    @cached_property
    def _other_intervals(self) -> Mapping[RowId, Interval]:
        """The other column on the label's basis."""
        other_g = self._serving_basis[0] if self.study.label.basis is Basis.PER_100_G else 100.0
        if self.basis_g is None or other_g is None:
            return {}
        scale = self.basis_g / other_g
        sd = 0.0 if self.study.label.basis is Basis.SERVING else self._serving_basis[1]
        return {
            row.row: Interval(row.interval.low * scale * (1 - 2 * sd), row.interval.high * scale * (1 + 2 * sd))
            for row in self.other_rows
            if row.interval is not None
        }

    @cached_property
    def columns_apart(self) -> tuple[RowId, ...]:
        """Rows whose two columns cannot both be true."""
        here = {row.row: row.interval for row in self.rows if row.interval is not None}
        return tuple(row for row, other in self._other_intervals.items() if row in here and here[row].overlap(other) is None)

    @cached_property
    def basis_g(self) -> float | None:
        """The grams the panel's figures are for; None when the serving is not known."""
        return 100.0 if self.study.label.basis is Basis.PER_100_G else self._serving_basis[0]

    @cached_property
    def basis_relative_sd(self) -> float:
        """How unsure those grams are."""
        return 0.0 if self.study.label.basis is Basis.PER_100_G else self._serving_basis[1]

    @cached_property
    def _serving_basis(self) -> tuple[float | None, float]:
        """The serving is rounded to 1 g; a whole number of pieces that rounds to it says what it really is."""
        serving, net = self.serving.value, self.net_weight.value
        servings = self.servings.value
        if serving is None and net is not None and servings is not None:
            return net / servings, 0.02
        if serving is None:
            return (net / self.pieces, 0.005) if net is not None else (None, 0.0)
        if net is not None:
            piece = net / self.pieces
            whole = max(1, round(serving / piece)) * piece
            if abs(whole - serving) <= 0.5:
                return whole, 0.003
        return serving, 0.5 / 3**0.5 / serving

    @cached_property
    def piece_prior(self) -> MeanPiece | None:
        """What the declared net weight says about the mean piece; None without a usable one."""
        if self.net_weight.value is None or self.net_weight.value < 1:
            return None
        return mean_piece_from_label(self.study.region, self.net_weight.value, self.pieces)

    @cached_property
    def printed(self) -> Statement:
        """The statement as it stands on the label."""
        return read_statement(self.study.statement)

    @cached_property
    def brackets(self) -> tuple[BracketReading, ...]:
        """What each bracket means, by the user or proposed."""
        return bracket_readings(self.families, self.printed, self.pantry, self.build, self.study.meanings)

    @cached_property
    def meanings(self) -> Mapping[str, Meaning]:
        """Item key -> how its bracket is read."""
        return {bracket.item: bracket.meaning for bracket in self.brackets}

    @cached_property
    def statement(self) -> Statement:
        """The statement's tree with the brackets of bought ingredients closed: flour with its vitamins is flour."""
        return replace(self.printed, items=tuple(self._closed(item) for item in self.printed.items))

    def _closed(self, item: StatementItem) -> StatementItem:
        if self.meanings.get(item.key) is Meaning.INGREDIENT:
            return replace(item, items=())
        return replace(item, items=tuple(self._closed(part) for part in item.items)) if item.items else item

    @cached_property
    def matches(self) -> Mapping[str, NameMatch]:
        """Each name of the statement, opened or not, by key, with the ingredient it was taken for; corrections win."""
        found: dict[str, NameMatch] = {}

        def walk(items: Sequence[StatementItem], above: tuple[StatementItem, ...]) -> None:
            for item in items:
                corrected = self.study.corrections.get(item.key)
                if corrected == LEAVE_OUT:
                    found[item.key] = NameMatch(ingredient_id=None, confidence=1.0)
                elif corrected is not None and corrected in self.pantry:
                    found[item.key] = NameMatch(ingredient_id=corrected, confidence=1.0)
                else:
                    found[item.key] = named(item, above, items, self.pantry, loosely=len(found) < _MOST_LOOSE)
                walk(item.items, (*above, item))

        walk(self.printed.items, ())
        return found

    @cached_property
    def ingredient_of(self) -> Mapping[str, str]:
        """Leaf key -> ingredient id, where known."""
        found = {leaf.key: self.matches[leaf.key].ingredient_id for leaf in self.statement.leaves()}
        return {key: ingredient_id for key, ingredient_id in found.items() if ingredient_id is not None}

    @cached_property
    def fingerprint(self) -> str:
        """The same for the same study, compositions and families: for results that rest on all of them."""
        return digest((self.study, self.pantry.key))

    @cached_property
    def all_known(self) -> bool:
        """Whether every name that may count by weight is known."""
        unknown = [leaf.name for leaf in self.statement.leaves() if leaf.key not in self.ingredient_of]
        return all((found := unlisted(name)) is not None and found.is_trace for name in unknown)

    @cached_property
    def build(self) -> tuple[tuple[Layer, Family], ...]:
        """The layers with their families; a layer of an unknown family is flagged and left out."""
        known = self.families
        return tuple((layer, known[layer.family]) for layer in self.study.layers if layer.family in known)

    @cached_property
    def placing(self) -> PlacingTable:
        """Which layers each named ingredient is in."""
        keys = {item.key for item in self.statement.everything()}
        ids = {layer.id for layer, _ in self.build}
        overrides = {
            (key, layer_id): where
            for key, given in self.study.placements.items()
            for layer_id, where in given.items()
            if key in keys and layer_id in ids
        }
        return placed(self.families, self.statement, self.ingredient_of, self.build, self.meanings, overrides)

    @cached_property
    def placeless(self) -> tuple[str, ...]:
        """Keys of names that are known, but in no layer of the build."""
        if not self.build:
            return ()
        somewhere = {one.item for one in self.placing.placings if one.where is not Whereabouts.NO}
        return tuple(key for key in self.ingredient_of if key not in somewhere)

    @cached_property
    def anywhere(self) -> Mapping[str, tuple[str, ...]]:
        """Keys of names that no role of any layer takes -> the names of the layers in which they are looked for."""
        names = {layer.id: layer.name or family.name for layer, family in self.build}
        found: dict[str, tuple[str, ...]] = {}
        for one in self.placing.placings if self.build else ():
            if one.is_anywhere:
                found[one.item] = (*found.get(one.item, ()), names[one.layer_id])
        return found

    @cached_property
    def better_families(self) -> Mapping[str, Family]:
        """Layer id -> a variant of its family that explains the statement clearly better."""
        better = {}
        for layer, family in self.build:
            names = self.names_for(layer.id)
            if not names or layer.id in self.placing.opened:
                continue
            complete = any(layer.id in given for given in self.placing.compounds.values())
            found = better_family(self.families, family, self.families.variants_of(family.id), names, complete=complete)
            if found is not None:
                better[layer.id] = found
        return better

    def names_for(self, layer_id: str) -> tuple[str, ...]:
        """The ingredients a layer may be made of: its own bracket's, or all that stand in no layer's."""
        given = {item.key: item for item in self.statement.everything() if item.key in self.placing.compounds}
        own = [key for key, layers in self.placing.compounds.items() if layer_id in layers]
        if own:
            return tuple(name for key in own for name in self._known_in(given[key]))
        inside = {leaf.key for item in given.values() for leaf in item.leaves()}
        return tuple(name for key, name in self.ingredient_of.items() if key not in inside)

    def _known_in(self, item: StatementItem) -> tuple[str, ...]:
        return tuple(self.ingredient_of[leaf.key] for leaf in item.leaves() if leaf.key in self.ingredient_of)

    @cached_property
    def weighings(self) -> tuple[WeighingReading, ...]:
        """Readings by subject, whole pieces first, then the layers in order."""
        typed: dict[str, list[Typed]] = {}
        keys: dict[str, list[str]] = {}
        for reading in self.study.readings:
            typed.setdefault(reading.what, []).append(read_grams(reading.typed, least_g=_LEAST_G, comma=self.comma))
            keys.setdefault(reading.what, []).append(reading.id)
        ids = {layer.id for layer in self.study.layers}
        pairs = [what for what in typed if TOGETHER in what and ids.issuperset(what.split(TOGETHER))]
        subjects = [PIECE, *(layer.id for layer in self.study.layers), *pairs]
        return tuple(
            WeighingReading(subject=subject, readings=tuple(typed.get(subject, ())), ids=tuple(keys.get(subject, ())))
            for subject in subjects
        )

    @cached_property
    def size(self) -> SizeReading:
        """Outside dimensions of a piece."""
        size = self.study.size
        return SizeReading(
            *(read_millimetres(typed, most_mm=_LONGEST_MM, comma=self.comma) for typed in (size.length, size.width, size.height))
        )

    @cached_property
    def sense_marks(self) -> Mapping[str, Typed]:
        """How the original tasted when it was studied: marks from 0 to 10 by sense."""
        found = {key: read_percent(typed, most=_MOST_MARK, comma=self.comma) for key, typed in self.study.senses.items()}
        wrong = f"Write a mark from 0 to {_MOST_MARK:.0f}."
        return {key: replace(one, unit="", problem=wrong if one.problem else None) for key, one in found.items()}

    @property
    def senses(self) -> Mapping[str, float]:
        """The marks that were read."""
        return {key: one.value for key, one in self.sense_marks.items() if one.value is not None}

    @cached_property
    def thicknesses(self) -> tuple[ThicknessReading, ...]:
        """Thicknesses by layer and spot, in the order of the layers: where one may be measured, and where one was.

        A coat differs between its sides; the others are even. What lies in another layer has no thickness of its own.
        """
        typed: dict[tuple[str, Spot], list[Typed]] = {}
        keys: dict[tuple[str, Spot], list[str]] = {}
        for one in self.study.thicknesses:
            typed.setdefault((one.layer, one.spot), []).append(read_millimetres(one.typed, most_mm=_LONGEST_MM, comma=self.comma))
            keys.setdefault((one.layer, one.spot), []).append(one.id)
        return tuple(
            ThicknessReading(layer.id, spot, tuple(typed.get((layer.id, spot), ())), tuple(keys.get((layer.id, spot), ())))
            for layer in self.study.layers
            for spot in Spot
            if (layer.id, spot) in typed or spot in _SPOTS.get(layer.place, (Spot.ANYWHERE,))
        )

    @cached_property
    def contradictions(self) -> tuple[Contradiction, ...]:
        """Panel rows that cannot be true together."""
        allulose = any(name.startswith("allulose") for name in self.ingredient_of.values())
        return contradictions(self.study.region, self.intervals, self.basis_g, allulose=allulose)


def _row_reading(region: Region, row: RowId, typed: str) -> RowReading:
    if not typed.strip():
        return RowReading(row=row, typed=typed, figure=None, interval=None, problem=None)
    unit = next(spec.unit for spec in panel_rows(region) if spec.id is row)
    figure = read_declared(typed, region.comma, unit)
    if isinstance(figure, str):
        return RowReading(row=row, typed=typed, figure=None, interval=None, problem=figure)
    return RowReading(row=row, typed=typed, figure=figure, interval=declared_interval(region, row, figure), problem=None)

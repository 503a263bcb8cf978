"""What a cook would send back: an independent reading of faithful versions and proposals, from the amounts alone.

Shares no code with the search: strengths, solubilities and windows stand here, written before the search knew any of them. It
asks whether a layer can gel, whip, set, be glass or stay liquid, whether something small that works was dropped, whether a
straight swap moves what no rule touches, and whether a word that must be said was lost.
"""

import random
import sys
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from adapting import faithful, under
from bars import pieces_of, study_of

from fern_match.core.adapt import Proposal
from fern_match.core.adapt.consequences import warnings
from fern_match.core.families import Family
from fern_match.core.food import Ingredient, standard_pantry
from fern_match.core.formulate import Formula, FormulaLayer, Overview
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study
from fern_match.demo import lime_quay, night_crossing, orchard_signal

RULES = ("vegan", "keto", "sugar-free")
# What a gram does beside a gram of gelatine of 200 bloom.
GELS = {"gelatine-powder": 1.0, "agar": 5.0, "carrageenan": 4.0, "pectin-hm": 3.5, "pectin-lm": 3.5, "corn-starch": 0.5}
# What a gram does beside a gram of fresh egg white.
FOAMS = {
    "egg-white-fresh": 1.0,
    "egg-white-powder": 7.5,
    "potato-protein": 8.0,
    "soy-whipping-protein": 9.0,
    "pea-whipping-protein": 8.0,
    "methylcellulose": 12.0,
    "aquafaba": 0.6,
    "gelatine-powder": 3.0,
}
GLASS = frozenset(
    [
        "white-sugar",
        "caster-sugar",
        "icing-sugar",
        "demerara-sugar",
        "light-brown-sugar",
        "dark-brown-sugar",
        "muscovado-sugar",
        "beet-sugar",
        "coconut-sugar",
        "glucose-syrup-42de",
        "glucose-syrup-60de",
        "light-corn-syrup",
        "corn-syrup-solids",
        "tapioca-syrup",
        "golden-syrup",
        "honey",
        "maltitol-syrup",
        "polydextrose",
        "isomalt",
    ]
)
NO_GLASS = {"erythritol", "allulose-crystalline", "allulose-syrup", "sorbitol", "xylitol", "mannitol", "maltitol-powder"}
ACIDS = {"citric-acid", "cream-of-tartar", "lemon-juice", "lime-juice", "malic-acid", "tartaric-acid", "lactic-acid"}
SMALL = {"emulsifier", "leavening", "acid", "salt", "colour", "gelling"}  # categories of small things that work
PLANT_PROTEINS = {"pea-protein-isolate", "soy-protein-isolate", "potato-protein", "rice-flour", "coconut-flour", "maltodextrin"}
_MOST_ALLOWED = 0.10  # how far an allowed line may move in a straight swap


@dataclass(frozen=True, slots=True)
class Fault:
    """Something that a cook would send back."""

    kind: str
    layer: str
    said: str


class Reader:
    """Reads formulas against what their kind needs."""

    def __init__(self, reading: StudyReading) -> None:
        """For one study."""
        self.reading, self.pantry = reading, reading.pantry

    def faults(self, formula: Formula) -> Iterator[Fault]:
        """What cannot work, layer by layer."""
        for layer in formula.layers:
            family = self.reading.families.by_id.get(layer.family)
            if family is None or layer.added_g <= 0:
                continue
            for kind, said in self._of_layer(layer, family):
                yield Fault(kind, layer.family, said)

    def _of_layer(self, layer: FormulaLayer, family: Family) -> Iterator[tuple[str, str]]:
        grams = _by_id(layer)
        root = family.variant_of or family.id
        ids = {root, family.id}
        if ids & {"fruit-jelly", "gelatine-jelly", "sugar-free-jelly", "marshmallow", "vegan-marshmallow"}:
            yield from self._gels(layer, grams, ids)
        if ids & {"nougat-egg-white", "nougat-honey", "nougat-chewy-milk", "vegan-nougat", "sugar-free-nougat", "marshmallow"}:
            yield from self._foams(layer, grams)
        if ids & {"brittle", "honeycomb", "toffee"} or "hard-candy" in family.id:
            yield from self._glass(layer, grams)
        if family.place == "coat":
            yield from self._coats(layer, grams)
        if ids & {"short-base", "baked-biscuit", "keto-short-base", "gluten-free-short-base"}:
            yield from self._doughs(layer, grams)
        yield from self._dissolves(layer, family, grams)

    def _gels(self, layer: FormulaLayer, grams: Mapping[str, float], ids: set[str]) -> Iterator[tuple[str, str]]:
        strength = 100 * sum(grams.get(key, 0.0) * power for key, power in GELS.items()) / layer.finished_g
        foams = "marshmallow" in " ".join(ids)
        if strength < (1.5 if foams else 2.0):
            yield "no gel", f"gel of {strength:.1f} % gelatine"
        if strength > 16.0:
            yield "brick", f"gel of {strength:.1f} % gelatine"
        if grams.get("pectin-hm", 0.0) > 0 and not ACIDS & grams.keys():
            yield "pectin without acid", "high methoxyl pectin and no acid"

    def _foams(self, layer: FormulaLayer, grams: Mapping[str, float]) -> Iterator[tuple[str, str]]:
        white = 100 * sum(grams.get(key, 0.0) * power for key, power in FOAMS.items()) / layer.added_g
        if white < 1.4:
            yield "no foam", f"{white:.2f} % as fresh white"
        dry = sum(grams.get(key, 0.0) for key in ("potato-protein", "egg-white-powder", "soy-whipping-protein"))
        water = sum(grams.get(key, 0.0) * self._per_g(key, "water_g") for key in grams)
        if dry > 0 and water < 4 * dry:
            yield "foam without water", f"{dry:.3f} g of dry foamer to {water:.3f} g of water"

    def _glass(self, layer: FormulaLayer, grams: Mapping[str, float]) -> Iterator[tuple[str, str]]:
        glass = sum(value for key, value in grams.items() if key in GLASS or "glucose" in key)
        none = sum(value for key, value in grams.items() if key in NO_GLASS)
        if none > 0.25 * (glass + none) or glass + none <= 0:
            yield "no glass", f"{none:.2f} g without a glass to {glass:.2f} g with one"

    def _coats(self, layer: FormulaLayer, grams: Mapping[str, float]) -> Iterator[tuple[str, str]]:
        total = layer.added_g
        fat = 100 * sum(value * self._per_g(key, "fat_g") for key, value in grams.items()) / total
        bought = max((value for key, value in grams.items() if self._category(key) in {"chocolate", "coating"}), default=0.0)
        if fat < 27.0:
            yield "too thick to coat", f"{fat:.0f} % fat"
        made = bought < 0.5 * total
        if made and not any(self._category(key) == "emulsifier" for key in grams):
            yield "coat without emulsifier", "made from its parts"
        if made:
            protein = 100 * sum(grams.get(key, 0.0) for key in PLANT_PROTEINS) / total
            if protein > 5.0:
                yield "pasty coat", f"{protein:.0f} % plant protein, flour or maltodextrin"
            shea = 100 * grams.get("shea-butter", 0.0) / total
            if shea > 6.0:
                yield "soft coat", f"{shea:.0f} % shea butter"
            palm = grams.get("palm-oil", 0.0) / max(1e-9, fat * total / 100)
            if palm > 0.4:
                yield "soft coat", f"palm oil is {100 * palm:.0f} % of its fat"

    def _doughs(self, layer: FormulaLayer, grams: Mapping[str, float]) -> Iterator[tuple[str, str]]:
        coconut = 100 * grams.get("coconut-flour", 0.0) / layer.added_g
        if coconut > 10.0:
            yield "dough of coconut flour", f"{coconut:.0f} %"
        wet = sum(value * self._per_g(key, "water_g") for key, value in grams.items() if self._category(key) != "flour")
        fat = sum(value * self._per_g(key, "fat_g") for key, value in grams.items())
        flour = sum(value for key, value in grams.items() if "flour" in key or self._category(key) == "flour")
        if flour > 0 and wet + fat < 0.2 * flour:
            yield "no dough", f"{wet + fat:.2f} g of water and fat to {flour:.2f} g of flour"

    def _dissolves(self, layer: FormulaLayer, family: Family, grams: Mapping[str, float]) -> Iterator[tuple[str, str]]:
        water = sum(value * self._per_g(key, "water_g") for key, value in grams.items()) - layer.water_lost_g
        share = water / layer.finished_g if layer.finished_g > 0 else 0.0
        erythritol = grams.get("erythritol", 0.0)
        wet = share > 0.06 and family.place != "coat" and "fondant" not in family.id and "fudge" not in family.id
        if wet and erythritol > 0.55 * water and erythritol > 0.08 * layer.finished_g:
            yield "erythritol block", f"{erythritol:.2f} g in {water:.2f} g of water"
        isomalt = grams.get("isomalt", 0.0)
        if wet and "ganache" in family.id and isomalt > 0.3 * water:
            yield "gritty ganache", f"isomalt {isomalt:.2f} g in {water:.2f} g of water"
        salt = 100 * sum(value for key, value in grams.items() if self._category(key) == "salt") / layer.added_g
        if salt > 2.1 and "salt" not in family.id:
            yield "too salty", f"{salt:.1f} % salt"
        mint = 100 * grams.get("peppermint-oil", 0.0) / layer.added_g
        if mint > 0.31:
            yield "burning mint", f"{mint:.2f} %"

    def _per_g(self, key: str, column: str) -> float:
        food = self.pantry.by_id.get(key)
        return _grams_in(food, column) if food is not None else 0.0

    def _category(self, key: str) -> str:
        food = self.pantry.by_id.get(key)
        return food.category if food is not None else ""


def _by_id(layer: FormulaLayer) -> dict[str, float]:
    found: dict[str, float] = {}
    for line in layer.ingredients:
        if line.grams > 0:
            found[line.ingredient_id] = found.get(line.ingredient_id, 0.0) + line.grams
    return found


def _grams_in(food: Ingredient, column: str) -> float:
    return (food.per_100_g.get(column) or 0.0) / 100  # type: ignore[call-overload]


def _allowed(rule: str, food: Ingredient) -> bool:
    """Whether a rule leaves an ingredient alone, judged roughly and from the table."""
    if rule == "vegan":
        return food.vegan == "yes"
    return _grams_in(food, "sugars_g") < 0.01 and _grams_in(food, "starch_g") < 0.05


def dropped(before: Formula, after: Formula, rule: str, reader: Reader) -> Iterator[Fault]:
    """Small things that work, are allowed, and are in a layer no more, though it is the same kind still."""
    for was, now in zip(before.layers, after.layers, strict=True):
        had, has = _by_id(was), {reader._category(key) for key in _by_id(now)}
        for key in had:
            food = reader.pantry.by_id.get(key)
            small = food is not None and (food.category in SMALL or key in ACIDS)
            if food is None or not small or had[key] < 2e-4 * was.added_g:
                continue
            kind = "acid" if key in ACIDS else food.category
            kinds = {"acid"} if ACIDS & _by_id(now).keys() else set()
            if (_allowed(rule, food) or kind == "acid") and kind not in has | kinds:
                bought = any(reader._category(other) in {"chocolate", "coating"} for other in _by_id(now))
                if not (kind == "emulsifier" and bought):
                    yield Fault("small thing dropped", now.family, f"{food.name}, {had[key]:.4f} g")


def moved(before: Formula, one: Proposal, rule: str, reader: Reader) -> Iterator[Fault]:
    """Allowed lines that a straight swap moves by more than a tenth."""
    if one.name != "Straight swap":
        return
    for was, now in zip(before.layers, one.formula.layers, strict=True):
        had, has = _by_id(was), _by_id(now)
        for key, grams in had.items():
            food = reader.pantry.by_id.get(key)
            if food is None or not _allowed(rule, food) or grams < 0.02 * was.added_g:
                continue
            if abs(has.get(key, 0.0) / grams - 1) > _MOST_ALLOWED:
                yield Fault("straight swap moves", now.family, f"{food.name} {grams:.2f} to {has.get(key, 0.0):.2f} g")


def unsaid(one: Proposal, seen: Overview, rule: str, reader: Reader) -> Iterator[Fault]:
    """Words that must be said and are not."""
    reading = reader.reading
    said = " ".join(warnings(one, seen.formula, (), reading, reading.serving.value or seen.formula.piece_g)).lower()
    totals: Counter[str] = Counter()
    for layer in one.formula.layers:
        totals.update(_by_id(layer))
    foods = {key: reader.pantry.by_id[key] for key in totals if key in reader.pantry}
    polyols = sum(totals[key] * _grams_in(food, "polyols_g") for key, food in foods.items())
    if reading.study.region in {Region.EU, Region.UK} and polyols > 0.10 * one.formula.piece_g and "laxative" not in said:
        yield Fault("words missing", "", "polyols over 10 %")
    if (
        sum(totals[key] * _grams_in(food, "alcohol_g") for key, food in foods.items()) > 0.005 * one.formula.piece_g
        and "alcohol" not in said
    ):
        yield Fault("words missing", "", "alcohol")
    glycerol = totals["vegetable-glycerol"] + totals["glycerol"]
    if glycerol > 0.01 * one.formula.piece_g and "glycerol" not in said and "glycerine" not in said:
        yield Fault("words missing", "", "glycerol")


def studies(more: int, seed: int) -> list[tuple[str, Study]]:
    """The demo's pieces, the made-up ones, and some of those by other hands."""
    pantry = standard_pantry()
    found = [("Night Crossing", night_crossing.study(pantry)), ("Lime Quay", lime_quay.study(pantry))]
    found.append(("Orchard Signal", orchard_signal.study_with_build(pantry)))
    found += [(piece["id"], study_of(piece, "all")) for piece in pieces_of("pieces")]
    others = [(piece["id"], study_of(piece, "all")) for piece in pieces_of("bars")] if more else []
    random.Random(seed).shuffle(others)
    return found + others[:more]


def main(argv: Sequence[str]) -> None:
    """Prints the counts, and each fault where it is asked for."""
    loud, more = "-v" in argv, next((int(one) for one in argv if one.isdigit()), 0)
    counts: Counter[tuple[str, str]] = Counter()
    proposals: Counter[str] = Counter()
    for name, study in studies(more, 7):
        ready = faithful(study)
        if ready is None:
            continue
        reading, seen = ready
        reader = Reader(reading)
        for fault in reader.faults(seen.formula):
            counts["faithful", fault.kind] += 1
            if loud:
                print(f"  {name} faithful {fault.layer}: {fault.kind}, {fault.said}")
        own = {(fault.kind, fault.layer) for fault in reader.faults(seen.formula)}
        for rule in RULES:
            found, _ = under([rule], reading, seen, explain=False)
            if not found.proposals and loud:
                print(f"  {name} {rule}: none. {found.unmet.because if found.unmet else ''}")
            for one in found.proposals:
                proposals[rule] += 1
                faults = [fault for fault in reader.faults(one.formula) if (fault.kind, fault.layer) not in own]
                faults += [*dropped(seen.formula, one.formula, rule, reader), *moved(seen.formula, one, rule, reader)]
                faults += unsaid(one, seen, rule, reader)
                for fault in faults:
                    counts[rule, fault.kind] += 1
                    if loud:
                        print(f"  {name} {rule} {one.name} {fault.layer}: {fault.kind}, {fault.said}")
    print(f"proposals: {dict(proposals)}")
    for (where, kind), count in sorted(counts.items()):
        print(f"{where:11} {kind:26} {count}")


if __name__ == "__main__":
    main(sys.argv[1:])

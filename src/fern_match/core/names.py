"""What a user calls the things that records name by an id: ingredients, layers, versions, rows, evidence."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from fern_match.core.families import Families
from fern_match.core.food import Pantry
from fern_match.core.food.nutrients import NUTRIENT_TITLES
from fern_match.core.house import House
from fern_match.core.label.rows import Region, panel_rows
from fern_match.core.match import Match
from fern_match.core.record.shape import fields_of
from fern_match.core.study.record import LEAVE_OUT, PIECE, TOGETHER
from fern_match.core.trials import clues, faults, senses

_NUTRIENTS = {nutrient.value: title for nutrient, title, _ in NUTRIENT_TITLES}


@dataclass(frozen=True, slots=True)
class Names:
    """What things are called: looked up by what a field says it names."""

    pantry: Pantry
    families: Families
    layers: Mapping[str, str] = field(default_factory=dict)
    parts: Mapping[tuple[str, str], str] = field(default_factory=dict)  # of the match, by what they are and their id
    rows: Mapping[str, str] = field(default_factory=dict)
    own: Mapping[str, str] = field(default_factory=dict)  # pinned ingredients

    @classmethod
    def of(cls, pantry: Pantry, families: Families, *wholes: Match | House) -> "Names":
        """The names of a match's own things, of all its states given; the later ones win.

        Args:
            wholes: States of one match, or of the house.
        """
        layers: dict[str, str] = {}
        parts: dict[tuple[str, str], str] = {}
        own: dict[str, str] = {}
        region = Region.EU
        for match in (whole for whole in wholes if isinstance(whole, Match)):
            parts |= {(noun, entry.id): _called(entry, noun) for noun, entries in _listed(match) for entry in entries}
            parts |= {("sense", sense.id): sense.name for trial in match.trials for sense in trial.senses}
            for version in match.versions:
                layers |= {layer.id: layer.name for layer in version.layers}
                parts |= {("line", f"{layer.id}--{line.id}"): line.name for layer in version.layers for line in layer.ingredients}
            layers |= {layer.id: layer.name for layer in match.study.layers}
            own |= {food.id: food.name for food in match.pinned}
            region = match.study.region
        for house in (whole for whole in wholes if isinstance(whole, House)):
            own |= {food.id: food.name for food in house.ingredients}
        titles = {spec.id.value: spec.title.removeprefix("of which ").capitalize() for spec in panel_rows(region)}
        named = {key: name or "Unnamed layer" for key, name in layers.items()}
        return cls(pantry, families, named, parts, titles, own)

    def name(self, kind: str, key: str) -> str:
        """What a user calls something.

        Args:
            kind: ingredient, family, layer, subject, row, item, evidence, nutrient, or the noun of a part: version.
        """
        match kind:
            case "ingredient" if key == LEAVE_OUT:
                return "left out"
            case "ingredient":
                return self.pantry[key].name if key in self.pantry else self.own.get(key, key)
            case "family":
                return self.families[key].name if key in self.families else key
            case "layer" | "subject":
                return "Whole piece" if key == PIECE else " with ".join(self.layers.get(one, one) for one in key.split(TOGETHER))
            case "row":
                return self.rows.get(key, key.replace("_", " ").capitalize())
            case "item":
                return key.rpartition(" > ")[2]
            case "evidence":
                return self._evidence(key)
            case "fault":
                return faults()[key].seen if key in faults() else key
            case "sense":
                return self.parts.get(("sense", key)) or next((one.title for one in senses() if one.id == key), key)
            case "reached" | "line":
                layer, _, what = key.partition("--")
                said = self.parts.get(("line", key)) or (clues()[what].words if what in clues() else what)
                return f"{self.layers[layer]}: {said}" if layer in self.layers else said[:1].upper() + said[1:]
            case "nutrient":
                return _NUTRIENTS.get(key, key)
        return self.parts.get((kind, key), key)

    def _evidence(self, key: str) -> str:
        kind, _, rest = key.partition(":")
        match kind:
            case "row":
                return self.name("row", rest)
            case "weighing":
                return f"{self.name('subject', rest)}, weighed"
            case "order":
                return " before ".join(self.name("item", item) for item in rest.split("|"))
            case "rule":
                layer, _, what = rest.partition(":")
                return f"{self.name('layer', layer)}: {what} by law"
            case "thickness":
                return f"{self.name('layer', rest.partition(':')[0])}, measured"
            case "minimum":
                layer, _, what = rest.partition(":")
                return f"{self.name('layer', layer)}: {what} as declared"
            case "percent":
                return f"{self.name('item', rest)}, declared"
            case "small":
                return f"{self.name('item', rest)}, in the small group"
        return key.replace("_", " ").capitalize()


def _listed(match: Match) -> list[tuple[str, tuple[Any, ...]]]:
    """The lists of a match that have a noun, as they are declared."""
    return [(spec.noun, getattr(match, spec.name)) for spec in fields_of(Match) if spec.noun]


def _called(entry: Any, noun: str) -> str:
    return str(getattr(entry, "name", "")) or f"unnamed {noun}"

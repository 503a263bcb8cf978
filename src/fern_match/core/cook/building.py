"""The layers of a piece on the bench, and the steps that bring them together, as they come.

Worked example: `set_down` of a caramel of 10 mm in a room of 20 °C is a step of 1 minute of work and 90 of waiting.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from fern_match.core.batch import BY_THE_PIECE, BatchLayer
from fern_match.core.cook.layer_steps import names_of, step_id
from fern_match.core.cook.minutes import setting_min
from fern_match.core.cook.step import Bench, Heat, Place, Step
from fern_match.core.cook.tables import Lay, by_family, lays, method_of, settings, windows
from fern_match.core.measures.shown import shown_range, shown_temperature
from fern_match.core.study.record import Layer
from fern_match.core.study.record import Place as LayerPlace

BUILD = "build"
_COLD_COAT_C = (33.0, 37.0)  # untempered chocolate for dipping (approximate)
_BY_ITSELF = 2
_BAKED = "baked-base"
_BAKES_ON = frozenset({"caramel-stirred", "brownie", "coconut-boiled"})  # ways of making of what stands an oven on top of a base
_IN_HOURS_FROM = 100.0
_NUTS, _WARM_NUTS_C = "nuts", (50.0, 60.0)
_COLD_FROM_C = 40.0  # what is warmer must not go into a full fridge
_ROLLED = "roll"  # how a layer is laid that comes on coat by coat


def lower(name: str) -> str:
    """A layer's name within a sentence.

    Args:
        name: As the user has it.
    """
    return name if name[1:2].isupper() else name[:1].lower() + name[1:]


def shown_minutes(minutes: float) -> str:
    """A time as a cook says it: "1.5 min", "35 min", "8 h".

    Args:
        minutes: 0 or more.
    """
    if minutes < _IN_HOURS_FROM:
        return (
            f"{minutes:.0f} min"
            if minutes >= 3
            else f"{max(0.1, round(2 * minutes) / 2 if minutes >= 0.75 else minutes):.2g} min"
        )
    hours = minutes / 60
    return f"{hours:.0f} h" if hours >= 10 else f"{hours:.1f} h".replace(".0", "")


@dataclass
class Building:
    """The steps that bring the layers together, as they come."""

    bench: Bench
    made: dict[str, str]  # layer -> the step that ends its making
    places: dict[str, Layer]
    thick: dict[str, float]
    in_place: frozenset[str]  # layers that are made where they lie
    ready: list[Step] = field(default_factory=list)  # those that make the layers
    steps: list[Step] = field(default_factory=list)
    sets_in: bool = False  # whether whole fruits and nuts are set into each piece, not folded in
    last: str = ""  # the step that whatever comes next stands on

    @property
    def pieces(self) -> int:
        """How many are made."""
        return self.bench.read.batch.pieces if self.bench.read.batch is not None else 0

    def layers(self) -> tuple[BatchLayer, ...]:
        """Those with something in them."""
        return tuple(one for one in self.bench.layers() if one.per_piece_g > 0)

    def coats(self) -> tuple[BatchLayer, ...]:
        """What pieces are dipped or cast into, from inside out."""
        return tuple(one for one in self._around() if self.lay(one).lay != _ROLLED)

    def shells(self) -> tuple[BatchLayer, ...]:
        """What is rolled onto finished pieces, from inside out."""
        return tuple(one for one in self._around() if self.lay(one).lay == _ROLLED)

    def _around(self) -> tuple[BatchLayer, ...]:
        return tuple(reversed([one for one in self.layers() if one.layer_id in self.bench.read.coats]))

    def placed(self, layer: BatchLayer) -> LayerPlace | None:
        """Where it sits; None where the study does not say."""
        found = self.places.get(layer.layer_id)
        return found.place if found is not None else None

    def stack(self) -> tuple[BatchLayer, ...]:
        """From below: all that is no coat, lies in no other and is not strewn on."""
        return tuple(
            one
            for one in self.layers()
            if one.layer_id not in self.bench.read.coats and self.placed(one) not in {LayerPlace.INCLUSION, LayerPlace.TOPPING}
        )

    def inclusions(self) -> tuple[BatchLayer, ...]:
        """All that lies in others."""
        return tuple(one for one in self.layers() if self.placed(one) is LayerPlace.INCLUSION)

    def whole(self, layer: BatchLayer) -> bool:
        """Whether a layer is one or two whole fruits or nuts to a piece, each set in by itself."""
        counts = [int(line.each.split()[0]) for line in layer.ingredients if line.each]
        if counts:
            return max(counts) <= _BY_ITSELF
        placed = self.places.get(layer.layer_id)
        host = next((one for one in self.stack() if placed is not None and one.layer_id == placed.host), None)
        return layer.family in BY_THE_PIECE and host is not None and self.lay(host).set_of == "none"

    def inside(self, host: BatchLayer | None) -> tuple[BatchLayer, ...]:
        """What lies in a layer; where None, what lies in none that is there."""
        stack = {one.layer_id for one in (*self.stack(), *self._around())}
        found = []
        for one in self.layers():
            if self.placed(one) is LayerPlace.INCLUSION:
                lies_in = self.places[one.layer_id].host
                if lies_in == (host.layer_id if host is not None else None) or (host is None and lies_in not in stack):
                    found.append(one)
        return tuple(found)

    def toppings(self) -> tuple[BatchLayer, ...]:
        """What is strewn on."""
        return tuple(one for one in self.layers() if self.placed(one) is LayerPlace.TOPPING)

    def lay(self, layer: BatchLayer) -> Lay:
        """How a layer is laid; spread where no table knows it."""
        found = by_family(lays(), layer.family, self.bench.families)
        return found or Lay(
            lay="spread", at_c=None, under_most_c=None, window_min=20, set_of="filling", cut_c=None, knife="a sharp knife"
        )

    def add(self, key: str, title: str, needs: Iterable[str], **more: Any) -> str:
        """One more step; its id."""
        ident = step_id(BUILD, key)
        there = tuple(dict.fromkeys(one for one in needs if one))
        self.steps.append(Step(id=ident, layer_id="", layer="", title=title, needs=there, **more))
        return ident

    def t(self, low_c: float, high_c: float | None = None) -> str:
        """Temperatures as the kitchen shows them: one [degC], or from one to another."""
        unit = self.bench.unit
        return shown_temperature(low_c, unit) if high_c is None else shown_range(low_c, high_c, unit)

    def set_down(
        self,
        key: str,
        what: str,
        set_of: str,
        needs: str,
        thickness: float | None = None,
        *,
        hot: bool = False,
        meanwhile: str = "",
        **more: Any,
    ) -> str:
        """A step in which something sets; the id of what it waits for where nothing has to."""
        setting = settings().get(set_of)
        if setting is None:
            return needs
        wanted = self.bench.school("set") or "usual"
        where = setting.usual if wanted == "usual" or setting.at(wanted) is None else wanted
        spread = setting_min(setting, where, thickness, self.bench.room_c)
        assert spread is not None
        cold = where != "room"
        said = {"room": "In the room", "fridge": "In the fridge, covered", "freezer": "In the freezer"}[where]
        gate = f"Below {self.t(_COLD_FROM_C)} before it goes in." if cold and hot else ""
        return self.add(
            key,
            f"Let {what} set",
            [needs],
            words=f"{said}, {shown_minutes(spread.low)} to {shown_minutes(spread.high)}, {setting.until}. {meanwhile}".strip(),
            hands_on_min=0.0,
            wait_min=spread.usual,
            place=Place(where),
            gate=gate,
            cautions=("cold",) if gate else (),
            **more,
        )


def per_piece(layer: BatchLayer) -> str:
    """How much of a layer a piece gets, in words: "1 each", "0.4 g a piece".

    Args:
        layer: Of the batch.
    """
    each = next((line.each for line in layer.ingredients if line.each), "")
    return each.replace("each", "to a piece") if each else f"{layer.per_piece_g:.3g} g a piece"


def with_its_inclusions(building: Building, host: BatchLayer) -> str:
    """Adds the steps that fold what lies in a layer into it; the step after which it is ready to be laid.

    Args:
        building: The steps so far.
        host: A layer that is made.
    """
    ready = building.made[host.layer_id]
    for one in building.inside(host):
        if building.sets_in and building.whole(one):
            continue
        nuts = host.boiled and method_of(one.family, building.bench.families) == _NUTS
        warm = f"warmed to {building.t(*_WARM_NUTS_C)}, for cold ones stiffen it" if nuts else "dry and at room heat"
        ready = building.add(
            f"fold-{one.layer_id}",
            f"Fold {lower(one.name)} into {lower(host.name)}",
            [building.made[one.layer_id], ready],
            words=f"{one.name} {warm}, {per_piece(one)}; a few strokes, until they are coated.",
            hands_on_min=1.0 + 2.0 * one.made_g / 1000,
            most_wait_min=building.lay(host).window_min,
            cautions=("hot-sugar",) if host.boiled else (),
            rescues=rescues_of(building, host),
        )
    return ready


def strewn(building: Building, topping: BatchLayer, on: str) -> str:
    """Adds the step that strews a topping on; its id.

    Args:
        building: The steps so far.
        topping: Of the batch.
        on: The step it stands on.
    """
    return building.add(
        f"strew-{topping.layer_id}",
        f"Strew {lower(topping.name)} on",
        [on, building.made[topping.layer_id]],
        words=f"{per_piece(topping)}, pressed on lightly while the face is tacky.",
        hands_on_min=2.0 + 0.05 * building.pieces,
    )


def working(building: Building, coat: BatchLayer) -> Heat | None:
    """The heat a coat is worked at; of one that is kept cold, as it cools.

    Args:
        building: With its schools.
        coat: Of the batch.
    """
    found = by_family(windows(), coat.family, building.bench.families)
    if found is None:
        return None
    low, high = _COLD_COAT_C if cold_coat(building, coat) else found.work_c
    return Heat(low_c=low, aim_c=(low + high) / 2, high_c=high, of="in the bowl")


def rescues_of(building: Building, layer: BatchLayer) -> tuple[str, ...]:
    """By which names the table of rescues knows a layer.

    Args:
        building: With its families.
        layer: Of the batch.
    """
    return names_of(layer.family, building.bench.families)


def cold_coat(building: Building, coat: BatchLayer) -> bool:
    """Whether a coat is not tempered and kept cold.

    Args:
        building: With its schools.
        coat: Of the batch.
    """
    return building.bench.school("coat", coat.layer_id) == "cold"


def baked_on(building: Building) -> BatchLayer | None:
    """The layer over a baked base that can be baked on with it; None where there is none.

    Args:
        building: With its layers.
    """
    stack = building.stack()
    if len(stack) < 2 or method_of(stack[0].family, building.bench.families) != _BAKED:
        return None
    return stack[1] if method_of(stack[1].family, building.bench.families) in _BAKES_ON else None

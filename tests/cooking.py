"""What tests of cooking share: a piece of given families, planned in a kitchen, without a wrapper."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fern_match.core.batch import BatchPlan, BatchReading, read_batch
from fern_match.core.cook import CookPlan, OwnStep, Plan, Step, StepChange, plan_of
from fern_match.core.families import standard_families
from fern_match.core.food import standard_pantry
from fern_match.core.formulate import Version, VersionIngredient, VersionLayer, layer_of_family, overview
from fern_match.core.kitchen import Kitchen, read_kitchen
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Layer, PieceSize, Place, Study

PANTRY, FAMILIES = standard_pantry(), standard_families()
COAT, STACK, CORE, INSIDE, ON_TOP = Place.COAT, Place.STACK, Place.CORE, Place.INCLUSION, Place.TOPPING


@dataclass(frozen=True)
class Part:
    """A layer of a test's piece."""

    family: str
    place: Place
    grams: float = 10.0
    host: str | None = None
    lines: Mapping[str, tuple[float, str]] | None = None  # ingredient -> grams and role; by working ratio where None
    lost: str = ""  # water driven off, as typed


@dataclass(frozen=True)
class Cooked:
    """A plan with all that it was made from."""

    plan: Plan
    read: BatchReading
    reading: StudyReading

    def titles(self) -> list[str]:
        """Of the steps in their order."""
        return [one.title for one in self.plan.steps]

    def step(self, title: str) -> Step:
        """The first step whose title begins so."""
        return next(one for one in self.plan.steps if one.title.startswith(title))

    def at(self, title: str) -> int:
        """Where it stands."""
        return self.plan.steps.index(self.step(title))


def cooked(
    parts: Mapping[str, Part],
    *,
    kitchen: Kitchen | None = None,
    schools: Mapping[str, str] | None = None,
    changes: Sequence[StepChange] = (),
    own: Sequence[OwnStep] = (),
    size: tuple[str, str, str] = ("60 mm", "25 mm", "20 mm"),
    **batch: object,
) -> Cooked:
    """A plan for 24 pieces, or as the batch says.

    Args:
        parts: By id: coats from outside in, then from bottom to top.
        batch: Further fields of the batch's plan.
    """
    study = Study(
        name="Bench",
        size=PieceSize(length=size[0], width=size[1], height=size[2]),
        layers=tuple(
            Layer(id=key, name=key.capitalize(), family=one.family, place=one.place, host=one.host) for key, one in parts.items()
        ),
    )
    reading = StudyReading(study, PANTRY, FAMILIES)
    version = Version(id="v", name="V", layers=tuple(layer_of(key, one) for key, one in parts.items()))
    plan = BatchPlan(id="b", version="v", **{"pieces": "24", **batch})  # type: ignore[arg-type]
    read_in = read_kitchen(kitchen or Kitchen())
    read = read_batch(plan, overview(version, reading), reading, read_in)
    cook = CookPlan(id="c", batch="b", schools=schools or {}, changes=tuple(changes), own=tuple(own))
    return Cooked(plan_of(cook, read, reading, read_in), read, reading)


def layer_of(key: str, part: Part) -> VersionLayer:
    """One layer of a test's piece."""
    if part.lines is None:
        return layer_of_family(FAMILIES[part.family], part.grams, key, key.capitalize(), PANTRY)
    lines = tuple(
        VersionIngredient(id=f"{key}-{number}", ingredient=food, name=PANTRY[food].name, role=role, amount=f"{grams} g")
        for number, (food, (grams, role)) in enumerate(part.lines.items())
    )
    return VersionLayer(id=key, name=key.capitalize(), family=part.family, water_lost=part.lost, ingredients=lines)

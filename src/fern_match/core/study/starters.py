"""What a new match begins with: usual builds for common shapes, and what is usual for a label of its region."""

from dataclasses import dataclass, replace

from fern_match.core.label.rows import Basis
from fern_match.core.study.record import LabelText, Layer, Place, Study


@dataclass(frozen=True, slots=True)
class StarterBuild:
    """A usual build: coats from outside in, then the stack from bottom to top."""

    id: str
    name: str
    layers: tuple[Layer, ...]


def _layer(layer_id: str, name: str, family: str, place: Place, host: str | None = None) -> Layer:
    return Layer(id=layer_id, name=name, family=family, place=place, host=host)


STARTER_BUILDS = (
    StarterBuild(
        "nougat-caramel",
        "Coated nougat and caramel with nuts",
        (
            _layer("coat", "Milk coat", "milk-coat", Place.COAT),
            _layer("nougat", "Nougat", "nougat-egg-white", Place.STACK),
            _layer("caramel", "Caramel", "soft-caramel", Place.STACK),
            _layer("nuts", "Nuts", "whole-nuts", Place.INCLUSION, "caramel"),
        ),
    ),
    StarterBuild(
        "biscuit-caramel",
        "Coated biscuit with caramel",
        (
            _layer("coat", "Milk coat", "milk-coat", Place.COAT),
            _layer("base", "Biscuit base", "short-base", Place.STACK),
            _layer("caramel", "Caramel", "soft-caramel", Place.STACK),
        ),
    ),
    StarterBuild(
        "wafer-cream",
        "Coated wafer with a nut cream",
        (
            _layer("coat", "Dark coat", "dark-coat", Place.COAT),
            _layer("wafer", "Wafer", "wafer-sheet", Place.STACK),
            _layer("cream", "Nut cream", "nut-paste-praline", Place.STACK),
        ),
    ),
    StarterBuild(
        "coated-core",
        "One coated filling",
        (
            _layer("coat", "Dark coat", "dark-coat", Place.COAT),
            _layer("core", "Coconut filling", "coconut-filling", Place.CORE),
        ),
    ),
    StarterBuild(
        "lined-cup",
        "Lined cup with a filling",
        (
            _layer("cup", "Cup", "milk-coat", Place.COAT),
            _layer("filling", "Peanut filling", "peanut-filling", Place.CORE),
        ),
    ),
    StarterBuild(
        "moulded-shell",
        "Moulded shell with a soft centre",
        (
            _layer("shell", "Dark shell", "dark-coat", Place.COAT),
            _layer("centre", "Caramel centre", "soft-caramel", Place.CORE),
        ),
    ),
    StarterBuild(
        "ball",
        "Ball: shell, cream and a whole nut",
        (
            _layer("shell", "Milk shell", "milk-coat", Place.COAT),
            _layer("cream", "Nut cream", "nut-paste-praline", Place.STACK),
            _layer("nut", "Whole nut", "whole-nuts", Place.INCLUSION, "cream"),
        ),
    ),
    StarterBuild(
        "joined-halves",
        "Two half shells joined, fruit inside",
        (
            _layer("shell", "Dark shell", "dark-coat", Place.COAT),
            _layer("liquid", "Liquid centre", "liquid-fruit-centre", Place.CORE),
            _layer("fruit", "Whole fruit", "whole-fruit", Place.INCLUSION, "liquid"),
        ),
    ),
    StarterBuild(
        "nut-bar",
        "Nut bar, bound with syrup, chocolate beneath",
        (
            _layer("chocolate", "Chocolate", "dark-coat", Place.STACK),
            _layer("nuts", "Nut bar", "nut-cluster", Place.STACK),
        ),
    ),
    StarterBuild(
        "cluster",
        "Cluster: nuts and fruit in chocolate",
        (
            _layer("chocolate", "Chocolate", "dark-coat", Place.STACK),
            _layer("nuts", "Nuts", "whole-nuts", Place.INCLUSION, "chocolate"),
            _layer("fruit", "Dried fruit", "whole-fruit", Place.INCLUSION, "chocolate"),
        ),
    ),
    StarterBuild(
        "slab",
        "Slab: crumb base, caramel, chocolate on top",
        (
            _layer("base", "Crumb base", "crumb-base", Place.STACK),
            _layer("caramel", "Caramel", "soft-caramel", Place.STACK),
            _layer("top", "Chocolate", "dark-coat", Place.STACK),
        ),
    ),
)
FURTHER_LAYER = _layer("further", "", "soft-caramel", Place.STACK)  # what "add a layer" begins with


def begun(study: Study) -> Study:
    """A study with what is usual in its region where its label says nothing yet: US and Canadian labels are per serving."""
    if study.label == LabelText() and study.region.usual_basis is Basis.SERVING:
        return replace(study, label=replace(study.label, basis=Basis.SERVING))
    return study

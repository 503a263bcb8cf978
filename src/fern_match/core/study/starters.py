"""Starter builds for common shapes, so that a new match need not begin with an empty table."""

from dataclasses import dataclass

from fern_match.core.study.record import Layer, Place


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
        "slab",
        "Slab: crumb base, caramel, chocolate on top",
        (
            _layer("base", "Crumb base", "crumb-base", Place.STACK),
            _layer("caramel", "Caramel", "soft-caramel", Place.STACK),
            _layer("top", "Chocolate", "dark-coat", Place.STACK),
        ),
    ),
)

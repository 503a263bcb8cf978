"""A match: one original with its study, its versions, its batches, its cooks and its trials, as the user has them."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, fields, replace
from itertools import count
from typing import Annotated, Any, ClassVar

from fern_match.core.batch.plan import BatchPlan
from fern_match.core.cook.record import CookPlan
from fern_match.core.errors import NotKnown
from fern_match.core.families import Families
from fern_match.core.food import Ingredient, Pantry
from fern_match.core.food.sound import NotSound, check_ingredient
from fern_match.core.formulate import Version, VersionLayer, is_coat_name
from fern_match.core.label.rows import Region
from fern_match.core.record import STRICT, Count, NotFitting, check_limits, told, without
from fern_match.core.record.shape import fields_of, plural
from fern_match.core.record.texts import LONGEST_NAME
from fern_match.core.study.own import OWN_PREFIX
from fern_match.core.study.record import Layer, Place, Study
from fern_match.core.trials.record import Photo, Trial


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """One project. Each field holds one kind of part that is kept by itself; a new step adds its own here."""

    __pydantic_config__: ClassVar = STRICT

    study: Study
    versions: Annotated[tuple[Version, ...], Count(200)] = told(
        "versions", label="{name} version", noun="version", provides="version", default=()
    )
    batches: Annotated[tuple[BatchPlan, ...], Count(200)] = told(
        "batches", label="Batch of {version}", noun="batch", provides="batch", default=()
    )
    cooks: Annotated[tuple[CookPlan, ...], Count(200)] = told("cooks", label="Cook {n}", noun="cook", provides="cook", default=())
    trials: Annotated[tuple[Trial, ...], Count(400)] = told("trials", label="{name}", noun="trial", provides="trial", default=())
    photos: Annotated[tuple[Photo, ...], Count(400)] = told("photos", label="Photo of the {of}", noun="photo", default=())
    # compositions as they were when a version first used them: a pantry that changes does not change a match
    pinned: Annotated[tuple[Ingredient, ...], Count(400)] = told("compositions", label="{name}", default=())

    def version(self, version_id: str) -> Version:
        """One version.

        Raises:
            NotKnown: the match has no such version.
        """
        for version in self.versions:
            if version.id == version_id:
                return version
        raise NotKnown("version", version_id)


def ingredients_of(version: Version) -> tuple[str, ...]:
    """The ids of a version's ingredients, each once."""
    return tuple(dict.fromkeys(line.ingredient for layer in version.layers for line in layer.ingredients))


def first_plan(version: Version, pieces: str = "") -> BatchPlan:
    """The batch that a new version begins with.

    Args:
        version: Of which it is to be a batch.
        pieces: As typed; empty where they are still to say.
    """
    return BatchPlan(id=f"{version.id}-batch", version=version.id, pieces=pieces)


def with_version(match: Match, version: Version, plans: Sequence[BatchPlan], pantry: Pantry) -> Match:
    """A match with a version, in place of one of the same id; with batches of it, and its compositions pinned.

    Args:
        plans: Its batches; those that are there already stay.
        pantry: Where compositions come from that are not pinned yet.
    """
    versions = tuple(version if one.id == version.id else one for one in match.versions)
    batches = {plan.id for plan in match.batches}
    pinned = {food.id for food in match.pinned}
    return replace(
        match,
        versions=versions if version in versions else (*versions, version),
        batches=(*match.batches, *(plan for plan in plans if plan.id not in batches)),
        pinned=(*match.pinned, *(pantry[key] for key in ingredients_of(version) if key not in pinned and key in pantry)),
    )


def lost_words(match: Match, version_id: str) -> str:
    """What loses its ground where a version is taken out, whatever kind of part it is: a sentence; empty where nothing does.

    Parts that are not begun yet are no loss.

    Args:
        match: With all of its parts.
        version_id: Of the version that is to go.

    Raises:
        NotKnown: the match has no such version.
    """
    version, after = match.version(version_id), without_version(match, version_id)
    said = []
    for spec in (one for one in fields_of(Match) if one.noun):
        left = {entry.id: entry for entry in getattr(after, spec.name)}
        others = [entry for entry in getattr(match, spec.name) if entry is not version]
        gone = sum(entry.id not in left and _is_begun(entry) for entry in others)
        if gone:
            said.append(f"{f'a {spec.noun}' if gone == 1 else f'{gone} {plural(spec.noun)}'} of it would go along")
        untied = [entry.name for entry in others if entry.id in left and left[entry.id] != entry]
        if untied:
            said.append(
                f"{', '.join(untied)} would no longer know what {'it was' if len(untied) == 1 else 'they were'} made after"
            )
    words = "; ".join(said)
    return f"Take out {version.name}? {words[0].upper()}{words[1:]}. Undo brings all of it back." if words else ""


def _is_begun(entry: Any) -> bool:
    """Whether a part says anything beyond what it is a part of."""
    kind: Any = type(entry)
    usual = {one.name: one.default for one in fields(kind)}
    own = (spec.name for spec in fields_of(kind) if spec.name != "id" and not spec.refers)
    return any(getattr(entry, name) not in ("", None, (), {}, usual[name]) for name in own)


def own_of(study: Study) -> tuple[str, ...]:
    """Ids of ingredients of the house's own that names of a study are taken for: of each once."""
    return tuple(dict.fromkeys(key for key in study.corrections.values() if key.startswith(OWN_PREFIX)))


def with_study(match: Match, study: Study, pantry: Pantry) -> Match:
    """A match with another study, and the compositions of one's own pinned that it rests on: so that it goes to another house.

    Args:
        match: As it was.
        study: As it is to be.
        pantry: Where compositions come from that are not pinned yet.
    """
    pinned = {food.id for food in match.pinned}
    further = (pantry[key] for key in own_of(study) if key not in pinned and key in pantry)
    return replace(match, study=study, pinned=(*match.pinned, *further))


def without_version(match: Match, version_id: str) -> Match:
    """A match without a version and what refers to it: its batches and cooks go, versions made after it forget their parent."""
    for plan in match.batches:
        if plan.version == version_id:
            match = without(match, "batch", plan.id)
    return without(match, "version", version_id)


def outdated_compositions(match: Match, pantry: Pantry, ids: Collection[str]) -> tuple[Ingredient, ...]:
    """What the match has pinned and the pantry has changed since; a price is no composition.

    Args:
        ids: The ingredients that matter.
    """
    return tuple(
        food
        for food in match.pinned
        if food.id in ids and food.id in pantry and replace(food, price_per_kg=pantry[food.id].price_per_kg) != pantry[food.id]
    )


def newest_compositions(match: Match, pantry: Pantry) -> Match:
    """A match with the pantry's newest compositions in place of what it has pinned; what the pantry lacks stays."""
    return replace(match, pinned=tuple(pantry.by_id.get(food.id, food) for food in match.pinned))


def with_plan(match: Match, plan: BatchPlan) -> Match:
    """A match with a batch planned anew; it stays a batch of the version it was made of.

    Raises:
        NotKnown: the match has no batch of this id.
    """
    if plan.id not in {one.id for one in match.batches}:
        raise NotKnown("batch", plan.id)
    return replace(
        match, batches=tuple(replace(plan, version=one.version) if one.id == plan.id else one for one in match.batches)
    )


def with_another_batch(match: Match, like: str) -> Match:
    """A match with one more batch, planned as another is.

    Args:
        match: With that batch.
        like: Its id.

    Raises:
        NotKnown: the match has no batch of this id.
    """
    plan = next((one for one in match.batches if one.id == like), None)
    if plan is None:
        raise NotKnown("batch", like)
    return replace(match, batches=(*match.batches, replace(plan, id=_fresh_batch(match, plan.version), made_on="")))


def without_batch(match: Match, batch_id: str) -> Match:
    """A match without one of its batches and what was cooked of it.

    Raises:
        NotKnown: the match has no batch of this id.
    """
    if batch_id not in {one.id for one in match.batches}:
        raise NotKnown("batch", batch_id)
    return without(match, "batch", batch_id)


def with_another_cook(match: Match, batch_id: str, cook_id: str) -> Match:
    """A match with one more cook, of a batch.

    Args:
        match: With that batch.
        batch_id: Its id.
        cook_id: Of the new one; one that no cook of the match ever had, for its log is found by it.

    Raises:
        NotKnown: the match has no batch of this id.
    """
    if batch_id not in {one.id for one in match.batches}:
        raise NotKnown("batch", batch_id)
    return replace(match, cooks=(*match.cooks, CookPlan(id=cook_id, batch=batch_id)))


def with_cook(match: Match, cook: CookPlan) -> Match:
    """A match with a cook planned anew; it stays a cook of the batch it was begun for, with its log.

    Raises:
        NotKnown: the match has no cook of this id.
    """
    if cook.id not in {one.id for one in match.cooks}:
        raise NotKnown("cook", cook.id)
    return replace(
        match, cooks=tuple(replace(cook, batch=one.batch, log=one.log) if one.id == cook.id else one for one in match.cooks)
    )


def without_cook(match: Match, cook_id: str) -> Match:
    """A match without one of its cooks; trials of it stay, and no longer have a log.

    Raises:
        NotKnown: the match has no cook of this id.
    """
    if cook_id not in {one.id for one in match.cooks}:
        raise NotKnown("cook", cook_id)
    return without(match, "cook", cook_id)


def with_another_trial(match: Match, batch_id: str, cook_id: str | None, trial_id: str) -> Match:
    """A match with one more trial, of a batch and, where it was cooked here, of its cook.

    Args:
        match: With that batch.
        batch_id: Its id.
        cook_id: Of its cook; None where there is no log of it.
        trial_id: Of the new one; one that no trial of the match ever had.

    Raises:
        NotKnown: the match has no such batch or cook.
    """
    if batch_id not in {one.id for one in match.batches}:
        raise NotKnown("batch", batch_id)
    if cook_id is not None and cook_id not in {one.id for one in match.cooks if one.batch == batch_id}:
        raise NotKnown("cook", cook_id)
    name = f"Trial {len(match.trials) + 1}"
    return replace(match, trials=(*match.trials, Trial(id=trial_id, batch=batch_id, cook=cook_id, name=name)))


def with_trial(match: Match, trial: Trial) -> Match:
    """A match with what was written down of a trial; it stays one of the batch and the cook it was begun for.

    Raises:
        NotKnown: the match has no trial of this id.
    """
    if trial.id not in {one.id for one in match.trials}:
        raise NotKnown("trial", trial.id)
    return replace(
        match, trials=tuple(replace(trial, batch=one.batch, cook=one.cook) if one.id == trial.id else one for one in match.trials)
    )


def without_trial(match: Match, trial_id: str) -> Match:
    """A match without one of its trials and the photos of its copy.

    Raises:
        NotKnown: the match has no trial of this id.
    """
    if trial_id not in {one.id for one in match.trials}:
        raise NotKnown("trial", trial_id)
    return without(match, "trial", trial_id)


def with_photo(match: Match, photo: Photo) -> Match:
    """A match with a photo, in place of one of the same id; the picture itself lies beside.

    Raises:
        NotKnown: it is of a trial that the match does not have.
    """
    if photo.trial is not None and photo.trial not in {one.id for one in match.trials}:
        raise NotKnown("trial", photo.trial)
    kept = replace(photo, data="")
    known = {one.id for one in match.photos}
    photos = tuple(kept if one.id == photo.id else one for one in match.photos)
    return replace(match, photos=photos if photo.id in known else (*photos, kept))


def without_photo(match: Match, photo_id: str) -> Match:
    """A match without one of its photos.

    Raises:
        NotKnown: the match has no photo of this id.
    """
    if photo_id not in {one.id for one in match.photos}:
        raise NotKnown("photo", photo_id)
    return replace(match, photos=tuple(one for one in match.photos if one.id != photo_id))


def _fresh_batch(match: Match, version_id: str) -> str:
    """An id that no batch has."""
    taken = {one.id for one in match.batches}
    return next(key for key in (f"{version_id[:60]}-batch-{number}" for number in count(2)) if key not in taken)


def check_match(match: Match) -> None:
    """Refuses a match that holds more than it may, whose batches are of no version or whose cooks are of no batch.

    Raises:
        NotFitting: at the first place that does not fit.
    """
    check_limits(match)
    for food in match.pinned:
        try:
            check_ingredient(food)
        except NotSound as error:
            raise NotFitting(f"pinned.{food.id}", f"{food.name[:40]}: {error}") from None
    versions = {version.id for version in match.versions}
    for plan in match.batches:
        if plan.version not in versions:
            raise NotFitting(f"batches.{plan.id}", f"Batch “{plan.id}” is of version “{plan.version}”, which is not there.")
    batches = {plan.id for plan in match.batches}
    for cook in match.cooks:
        if cook.batch not in batches:
            raise NotFitting(f"cooks.{cook.id}", f"Cook “{cook.id}” is of batch “{cook.batch}”, which is not there.")
    cooks = {cook.id: cook.batch for cook in match.cooks}
    for trial in match.trials:
        if trial.batch not in batches:
            raise NotFitting(f"trials.{trial.id}", f"Trial “{trial.id}” is of batch “{trial.batch}”, which is not there.")
        if trial.cook is not None and cooks.get(trial.cook) != trial.batch:
            raise NotFitting(
                f"trials.{trial.id}", f"Trial “{trial.id}” is of cook “{trial.cook}”, which its batch does not have."
            )
    trials = {trial.id for trial in match.trials}
    for photo in match.photos:
        if photo.trial is not None and photo.trial not in trials:
            raise NotFitting(f"photos.{photo.id}", f"Photo “{photo.id}” is of trial “{photo.trial}”, which is not there.")


def duplicated(match: Match) -> Match:
    """A copy under a name of its own."""
    copied = " (copy)"
    name = f"{match.study.name[: LONGEST_NAME - len(copied)]}{copied}"
    return replace(match, study=replace(match.study, name=name))


def match_of_recipe(name: str, region: Region, version: Version, pieces: int, families: Families, pantry: Pantry) -> Match:
    """A match with no wrapper at hand: the recipe stands in for the estimate, its sections are the layers.

    Args:
        name: What the match is called.
        region: Whose rules its label would follow.
        version: Of the recipe, its layers with the families they were taken for.
        pieces: How many the recipe makes, 1 or more.
        families: For where a layer sits.
        pantry: For the compositions to pin.
    """
    layers = tuple(
        Layer(id=layer.id, name=layer.name, family=layer.family, place=_place(layer, number, len(version.layers), families))
        for number, layer in enumerate(version.layers)
    )
    coats = [layer for layer in layers if layer.place is Place.COAT]
    others = [layer for layer in layers if layer.place is not Place.COAT]
    study = Study(name=name, region=region, layers=(*coats, *others))
    return with_version(Match(study=study), version, [first_plan(version, str(pieces))], pantry)


def _place(layer: VersionLayer, number: int, count: int, families: Families) -> Place:
    usual = families[layer.family].place if layer.family in families else "any"
    if usual == "coat" and "topping" in layer.name.lower():
        return Place.STACK
    if usual == "coat" and count > 1 and (number in {0, count - 1} or is_coat_name(layer.name)):
        return Place.COAT
    return {"inclusion": Place.STACK, "topping": Place.TOPPING}.get(usual, Place.STACK)

"""The log density: its gradient, its pieces, its numbers."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.special import log_ndtr
from scipy.stats import norm

from fern_match.core.estimate.evidence import evidence_terms
from fern_match.core.estimate.evidence.weighings import mean_reading_sd_g
from fern_match.core.estimate.log_density import LogDensity
from fern_match.core.estimate.normal import log_below, log_between, log_normal_cdf
from fern_match.core.estimate.problem import Problem, build_problem
from fern_match.core.estimate.recipe_tree import peak_logit
from fern_match.core.estimate.state import state_of
from fern_match.core.food import Pantry
from fern_match.core.label.rows import Region
from fern_match.core.study.reading import StudyReading
from fern_match.core.study.record import Study


def problem_of(study: Study, pantry: Pantry) -> Problem:
    """A problem about 42 g."""
    return build_problem(StudyReading(study, pantry), 42.0)


def particles(problem: Problem, count: int, seed: int = 5) -> tuple[np.ndarray, np.ndarray]:
    """Random unknowns, and most parts on."""
    rng = np.random.default_rng(seed)
    on = np.ones((len(problem.parts), count))
    for index, part in enumerate(problem.parts):
        if part.maybe:
            on[index] = rng.random(count) < 0.7
    return rng.standard_normal((problem.unknowns, count)), on


@pytest.fixture(params=["demo", "small", "small EU", "sugar-free"])
def problem(request: pytest.FixtureRequest, demo_study: Study, small_study: Study, pantry: Pantry) -> Problem:
    """Problems of different kinds: brackets, dispersed, other region, polyols with a small group."""
    statement = "Maltitol, cocoa mass, maltitol syrup, cream, cocoa butter; contains 2% or less of: soy lecithin, salt, butter."
    studies = {
        "demo": demo_study,
        "small": small_study,
        "small EU": replace(small_study, region=Region.EU),
        "sugar-free": replace(small_study, statement=statement),
    }
    return problem_of(studies[request.param], pantry)


def test_gradient_agrees_with_differences(problem: Problem) -> None:
    """Analytic slopes against central differences, for every unknown."""
    density = LogDensity(problem, evidence_terms(problem))
    z, on = particles(problem, 6)
    switches = problem.tree.switches(on)
    gradient = density(z, switches).by_evidence
    assert gradient is not None
    step = 1e-5
    for unknown in range(problem.unknowns):
        up, down = z.copy(), z.copy()
        up[unknown] += step
        down[unknown] -= step
        difference = (
            density(up, switches, with_gradient=False).log_evidence - density(down, switches, with_gradient=False).log_evidence
        )
        assert gradient[unknown] == pytest.approx(difference / (2 * step), rel=2e-4, abs=2e-3)


def test_every_particle_is_a_piece(problem: Problem) -> None:
    """Shares sum to 1 in every layer, layers to the piece, and finished = added - lost."""
    z, on = particles(problem, 40)
    state = state_of(problem, z, problem.tree.switches(on))
    assert state.layer_share.sum(axis=0) == pytest.approx(1.0)
    per_layer = problem.in_layer @ state.shares.of_layer
    assert per_layer == pytest.approx(np.ones_like(per_layer))
    assert (problem.in_layer @ state.amount - state.lost_g) == pytest.approx(100 * state.layer_share)
    assert (state.amount >= 0).all()
    assert (state.amount[on == 0] == 0).all()


def test_far_unknowns_stay_finite(problem: Problem) -> None:
    """No overflow, however far a proposal jumps."""
    z, on = particles(problem, 8)
    density = LogDensity(problem, evidence_terms(problem))
    evaluation = density(1e3 * z, problem.tree.switches(on))
    assert np.isfinite(evaluation.log_evidence).all()
    assert evaluation.by_evidence is not None
    assert np.isfinite(evaluation.by_evidence).all()


def test_normal_tails_agree_with_scipy() -> None:
    """Both tails, far out, to six digits of the probability."""
    x = np.linspace(-40, 8, 2000)
    assert log_normal_cdf(x) == pytest.approx(log_ndtr(x), abs=2e-7)
    value, slope = log_below(x)
    assert slope == pytest.approx(np.exp(norm.logpdf(x) - log_ndtr(x)), rel=1e-6)
    assert value == pytest.approx(log_ndtr(x), abs=2e-7)


@pytest.mark.parametrize(("low", "high"), [(-1.0, 1.0), (3.0, 4.0), (-9.0, -8.0), (7.5, 9.0), (-1e5, 0.3)])
def test_interval_probabilities(low: float, high: float) -> None:
    """Against differences of cumulative probabilities where those keep their digits."""
    value, by_low, by_high = log_between(np.array([low]), np.array([high]))
    mirrored = (-high, -low) if low > 0 else (low, high)
    expected = np.log(norm.cdf(mirrored[1]) - norm.cdf(mirrored[0]))
    assert value[0] == pytest.approx(expected, abs=1e-5)
    assert by_high[0] == pytest.approx(norm.pdf(high) / np.exp(expected), rel=1e-4, abs=1e-12)
    assert by_low[0] == pytest.approx(-norm.pdf(low) / np.exp(expected), rel=1e-4, abs=1e-12)


@pytest.mark.parametrize(
    ("low", "typical", "high", "logit"),
    [(0.2, 0.3, 0.4, 0.0), (0.0, 0.0, 0.1, 0.0), (0.1, 0.1, 0.1, 0.0), (0.0, 0.25, 1.0, np.log(1 / 3))],
)
def test_windows_peak_at_the_typical_share(low: float, typical: float, high: float, logit: float) -> None:
    """In the middle where the typical share is nothing."""
    assert peak_logit(low, typical, high) == pytest.approx(logit)


def test_one_reading_is_less_sure_than_three() -> None:
    """One: 3 % of 10 g and the scale. Three alike: the scatter shrinks."""
    assert mean_reading_sd_g([10.0]) == pytest.approx((0.3**2 + 0.06**2) ** 0.5)
    assert mean_reading_sd_g([10.0, 10.0, 10.0]) < 0.6 * mean_reading_sd_g([10.0])
    assert mean_reading_sd_g([9.0, 11.0]) > mean_reading_sd_g([10.0, 10.0])


def test_one_bracket_in_two_layers_has_one_recipe(pantry: Pantry, demo_study: Study) -> None:
    """The chocolate of the coat and of the crisp layer share their shares."""
    from fern_match.core.study.record import Layer, Place

    study = replace(
        demo_study,
        statement="Dark chocolate (cocoa mass, sugar, cocoa butter), puffed rice",
        layers=(
            Layer(id="coat", name="Coat", family="dark-coat", place=Place.COAT),
            Layer(id="crisp", name="Crisp", family="crisp-in-chocolate", place=Place.CORE),
        ),
        weighings={},
    )
    problem = problem_of(study, pantry)
    z, on = particles(problem, 10)
    shares = problem.tree.shares(z, problem.tree.switches(on)).of_layer
    cocoa, sugar = (
        [i for i, part in enumerate(problem.parts) if part.ingredient_id == name] for name in ("cocoa-mass", "white-sugar")
    )
    assert shares[cocoa[0]] / shares[sugar[0]] == pytest.approx(shares[cocoa[1]] / shares[sugar[1]])

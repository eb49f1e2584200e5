"""All checks, as their files declare them. A standard may only name checks of this registry."""

from __future__ import annotations

from functools import cache

from guide_arc.core.checks.spec import Check, CheckSpec
from guide_arc.core.model.declared import declared
from guide_arc.core.model.standard import Standard


@cache
def specs() -> dict[str, CheckSpec]:
    """Every check by its name, in the order in which they are listed."""
    found: list[CheckSpec] = list(declared("guide_arc.core.checks", "SPEC"))
    return {spec.name: spec for spec in sorted(found, key=lambda s: (s.order, s.name))}


def spec_of(name: str) -> CheckSpec:
    return specs()[name]


def check_of(name: str) -> Check:
    return specs()[name].check


@cache
def shows_also() -> dict[str, tuple[str, ...]]:
    """What each fault shows as besides its own check.

    A lift that is too fast is a burst; an arm that does less than the other stops short; a hand
    that is led off its arc ends elsewhere. Other faults leave all other checks alone.
    """
    every = specs().values()
    out = {s.name: tuple(o.name for o in every if s.name in o.shown_by) for s in every}
    return {name: also for name, also in out.items() if also}


def follows(name: str, other: str) -> bool:
    """Whether one check being off is what another's fault also shows as."""
    return other in specs()[name].shown_by if name in specs() else False


def must_hold(standard: Standard) -> frozenset[str]:
    """The checks that must be ok before the weight rises: checks of harm, checks that show that the
    weight is too heavy, and checks of what the exercise is for."""
    heavy = too_heavy()
    return frozenset(
        rule.name
        for rule in standard.checks
        if rule.harm != "effect" or rule.name in heavy or rule.name in standard.rises_on
    )


def too_heavy() -> frozenset[str]:
    """The checks that say that the weight rules the client rather than the other way round."""
    return frozenset(name for name, spec in specs().items() if spec.too_heavy)

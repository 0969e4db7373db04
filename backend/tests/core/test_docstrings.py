"""The example in every handbook docstring is run."""

import doctest
import importlib
import pkgutil

import pytest

import weary_cedar

MODULES = [
    m.name for m in pkgutil.walk_packages(weary_cedar.__path__, "weary_cedar.") if "migrations" not in m.name
]


@pytest.mark.parametrize("name", MODULES)
def test_examples(name: str) -> None:
    assert doctest.testmod(importlib.import_module(name)).failed == 0

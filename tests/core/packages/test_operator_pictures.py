"""The pictures of the operators' examples were made from the examples as they are."""

from tools.operator_pictures import PICTURES, outdated


def test_the_picture_of_every_example_is_current() -> None:
    assert outdated() == [], "run python -m tools.operator_pictures beside the running product"


def test_pictures_are_light() -> None:
    assert sum(path.stat().st_size for path in PICTURES.glob("*.webp")) < 2 * 1024**2

"""Questions are asked once where that gives the same, and again where what they depend on has changed."""

from tests.core.language.programs.checked import agreed, code_of


def asked(text: str) -> int:
    source = code_of("reef: geometry\n" + text).source
    return source[source.index("for at in range(lo") :].count("closest_one(")


def test_equal_questions_are_asked_once() -> None:
    assert asked("here.a = reef.closest(position).distance\nhere.b = reef.closest(position).normal") == 1
    assert asked("here.a = reef.closest(position).distance\nhere.b = reef.closest(position * 2).distance") == 2


def test_after_the_place_was_moved_it_is_asked_again() -> None:
    text = "here.a = reef.closest(position).distance\nhere.position = position * 2\nhere.b = "
    assert asked(text + "reef.closest(position).distance") == 2


def test_a_question_on_one_way_is_not_known_on_another() -> None:
    text = "if cover > 0.5:\n    here.a = reef.closest(position).distance\nhere.b = reef.closest(position).distance"
    assert asked(text) == 2
    made = agreed("reef: geometry\n" + text)
    high = made.attribute("point", "a") != 0
    assert (made.attribute("point", "a") == made.attribute("point", "b"))[high].all()


def test_counting_what_is_near_makes_no_list() -> None:
    source = code_of("reef: geometry\nhere.a = len(reef.near(position, 0.5))").source
    assert "np.empty" not in source[source.index("for at in range(lo") :]
    agreed("reef: geometry\nhere.a = len(reef.near(position, 0.5))\nhere.b = mean(reef.near(position, 0.5, 3).heat)")

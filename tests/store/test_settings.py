"""Settings of the whole workshop."""

from sqlalchemy.orm import Session

from reticula.store import settings


def test_some_are_set_and_the_others_stay(session: Session) -> None:
    settings.write(session, {"theme": "night", "grid": 1})
    assert settings.write(session, {"theme": "day"})["grid"] == 1
    assert settings.read(session)["theme"] == "day"

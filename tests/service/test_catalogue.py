"""The catalogue, settings and health."""

from flask.testing import FlaskClient

from reticula.core.formats import FORMATS
from reticula.core.language.functions import FUNCTIONS
from reticula.core.operators import OPERATORS


def test_everything_is_listed(client: FlaskClient) -> None:
    told = client.get("/api/operators").json
    assert set(OPERATORS) <= {entry["name"] for entry in told["operators"]}
    assert set(FUNCTIONS) | {"closest", "ray"} <= {entry["name"] for entry in told["functions"]}
    assert set(told["formats"]) == set(FORMATS)


def test_settings_are_kept_and_checked(client: FlaskClient) -> None:
    assert client.put("/api/settings", json={"theme": "night"}).json["theme"] == "night"
    assert client.put("/api/settings", json={"later": [1, 2]}).json == {"theme": "night", "later": [1, 2]}
    assert client.put("/api/settings", json={"theme": "pink"}).status_code == 422
    assert client.get("/api/settings").json["theme"] == "night"


def test_health_tells_of_all_parts(client: FlaskClient) -> None:
    told = client.get("/api/health").json
    assert (told["status"], told["database"], told["evaluators"]) == ("ok", True, 1)

"""The description of the service: one that a general validator accepts, and the one that the page was made from."""

import json
from pathlib import Path

from reticula.service.openapi import openapi_text

ROOT = Path(__file__).resolve().parents[2]


def test_it_describes_every_address_with_an_operation_of_its_own_name() -> None:
    document = json.loads(openapi_text())
    assert document["openapi"].startswith("3.")
    operations = [entry for path in document["paths"].values() for entry in path.values()]
    assert len(operations) > 30
    assert all(entry["summary"] for entry in operations)
    names = [entry["operationId"] for entry in operations]
    assert len(set(names)) == len(names)


def test_every_reference_leads_somewhere() -> None:
    text = openapi_text()
    document = json.loads(text)
    for part in text.split('"$ref": "#/')[1:]:
        found = document
        for word in part.partition('"')[0].split("/"):
            found = found[word]


def test_every_operation_may_answer_with_an_error_of_one_form() -> None:
    document = json.loads(openapi_text())
    assert None not in document["components"].values()
    form = {"schema": {"$ref": "#/components/schemas/ErrorState"}}
    for path in document["paths"].values():
        for entry in path.values():
            for answer in ("422", "default"):
                assert entry["responses"][answer]["content"]["application/json"] == form


def test_it_is_the_same_each_time() -> None:
    assert openapi_text() == openapi_text()

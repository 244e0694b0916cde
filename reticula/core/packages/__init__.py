"""Published operators: definitions with releases, what differs between them, examples, and packages to share them."""

from reticula.core.packages.definition import Definition, check_definition, definition_key, package_shapes
from reticula.core.packages.differences import Differences, differences
from reticula.core.packages.examples import Trial, run_examples
from reticula.core.packages.importing import merge_package
from reticula.core.packages.package import Package, load_package, read_package, sign_package, write_package
from reticula.core.packages.publishing import Publication, prepare
from reticula.core.packages.review import Review, review
from reticula.core.packages.signature import Signature, own_key
from reticula.core.packages.update import update_release

__all__ = [
    "Definition",
    "Differences",
    "Package",
    "Publication",
    "Review",
    "Signature",
    "Trial",
    "check_definition",
    "definition_key",
    "differences",
    "load_package",
    "merge_package",
    "own_key",
    "package_shapes",
    "prepare",
    "read_package",
    "review",
    "run_examples",
    "sign_package",
    "update_release",
    "write_package",
]

"""Files that live only while they are needed."""

from reticula.core.formats.usd.library import module, temporary


def test_a_temporary_file_is_gone_afterwards() -> None:
    with temporary("usda", b"#usda 1.0\n") as path:
        assert path.read_bytes() == b"#usda 1.0\n"
    assert not path.parent.exists()


def test_modules_are_found_by_name() -> None:
    assert module("UsdGeom").Tokens.y == "Y"

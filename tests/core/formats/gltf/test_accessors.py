"""Arrays of a glTF: every stored type, steps between rows, normalised and sparse values."""

import numpy as np
import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.gltf.accessors import Arrays, numbers_of, view_bytes
from reticula.core.formats.gltf.container import Document


def opened(arrays: Arrays, **changed: object) -> Document:
    return Document({**arrays.listed(), **changed}, (arrays.data,))


@pytest.mark.parametrize("dtype", ["i1", "u1", "i2", "u2", "u4", "f4"])
@pytest.mark.parametrize("shape", [(), (2,), (3,), (4,)])
def test_what_is_added_is_read_back(dtype: str, shape: tuple[int, ...], rng: np.random.Generator) -> None:
    arrays = Arrays()
    values = (rng.random((5, *shape)) * 100).astype(dtype)
    arrays.add(np.arange(3, dtype="u1"))
    index = arrays.add(values)
    assert np.array_equal(numbers_of(opened(arrays), index), values)


def test_matrices_are_stored_by_columns_and_read_by_rows(rng: np.random.Generator) -> None:
    arrays = Arrays()
    values = rng.random((2, 4, 4)).astype("f4")
    index = arrays.add(values)
    assert np.frombuffer(arrays.data, "<f4")[:4].tolist() == values[0, :, 0].tolist()
    assert np.array_equal(numbers_of(opened(arrays), index), values)


def test_rows_may_stand_apart() -> None:
    data = np.arange(12, dtype="<f4")
    told = {
        "buffers": [{}],
        "bufferViews": [{"buffer": 0, "byteLength": 48, "byteStride": 16}],
        "accessors": [{"bufferView": 0, "byteOffset": 4, "componentType": 5126, "count": 3, "type": "VEC2"}],
    }
    assert numbers_of(Document(told, (data.tobytes(),)), 0).tolist() == [[1, 2], [5, 6], [9, 10]]


def test_normalised_values_reach_from_minus_one_to_one() -> None:
    arrays = Arrays()
    index = arrays.add(np.array([-128, -127, 0, 127], "i1"))
    arrays.accessors[index]["normalized"] = True
    assert numbers_of(opened(arrays), index).tolist() == [-1, -1, 0, 1]


def test_sparse_values_replace_some() -> None:
    arrays = Arrays()
    index = arrays.add(np.zeros(4, "f4"))
    where, what = arrays.view(np.array([1, 3], "u1").tobytes()), arrays.view(np.array([5, 7], "<f4").tobytes())
    arrays.accessors[index]["sparse"] = {
        "count": 2,
        "indices": {"bufferView": where, "componentType": 5121},
        "values": {"bufferView": what},
    }
    assert numbers_of(opened(arrays), index).tolist() == [0, 5, 0, 7]
    arrays.accessors[index]["sparse"]["count"] = 9
    with pytest.raises(FormatError, match="sparse values"):
        numbers_of(opened(arrays), index)


def test_parts_are_aligned_and_end_with_their_own_bytes() -> None:
    arrays = Arrays()
    first, second = arrays.view(b"abc"), arrays.view(b"defgh")
    document = opened(arrays)
    assert (view_bytes(document, first)[0], view_bytes(document, second)[0]) == (b"abc", b"defgh")
    assert arrays.views[second]["byteOffset"] == 4

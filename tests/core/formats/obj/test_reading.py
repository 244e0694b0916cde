"""OBJ as other programs write it."""

from reticula.core.diagnostics import Note, collecting
from reticula.core.formats import read_bytes


def test_obj_as_others_write_it(notes: list[Note]) -> None:
    text = b"""# made elsewhere
mtllib a.mtl
o thing
v 0 0 0
v 1 0 0 1.0
v 1 1 0
 v 0 1 0
vt 0 0
vt 1 0 0
vn 0 0 2
usemtl clay
s off
g front left
f 1/1/1 2/2/1 3//1
g back
f -4 -3 \\
-2 -1
l 1 2 3 1
"""
    geo = read_bytes("a.OBJ", text)
    assert geo.counts["faces"] == 2
    assert geo.topology.corner_point.tolist() == [0, 1, 2, 0, 1, 2, 3]
    assert geo.group("face", "left").tolist() == [True, False]
    assert geo.group("face", "back").tolist() == [False, True]
    assert geo.attribute("corner", "normal")[0].tolist() == [0, 0, 1]
    assert geo.topology.curve_closed.tolist() == [True]
    assert geo.attribute("face", "material").tolist() == ["clay", "clay"]
    assert notes[0].text == "Materials have names and no colours: a.mtl did not come with the file."
    assert notes[1].text == "Passed over: smoothing groups."


def test_uv_that_is_not_there_is_left_out_and_said() -> None:
    text = b"v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nf 1/1/1 2/2/1 3/3/1\n"
    with collecting() as notes:
        made = read_bytes("a.obj", text)
    assert made.topology.face_count == 1
    assert not made.has("corner", "uv")
    assert made.has("corner", "normal")
    assert "'uv' is left out: line 6: 'vt' number 2 does not exist; there are 1" in notes[0].text

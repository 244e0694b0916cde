"""All operators, for editors and type checkers. Made from their declarations by ``make generate``."""

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from numpy.typing import ArrayLike

from reticula.core.geometry import Geo

def apply_place(
    geo: Geo,
) -> Geo:
    """Move points to where the shape stands, so that its own space is the world.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; takes the attribute 'place' of the whole away. Stored normals, rotations and velocities
    turn along.
    """

def arc(
    *,
    radius: float | str = 0.5,
    begin: float | str = 0.0,
    end: float | str = 180.0,
    segments: int | str = 24,
    to_middle: bool = False,
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Part of a circle around the origin, from one angle to another.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the points from the middle.
    begin : float | str, °, default: 0.0
        Angle of the first point.
    end : float | str, °, default: 180.0
        Angle of the last point.
    segments : int | str, default: 24
        Parts along it.
    to_middle : bool, default: False
        Close it through the middle, as a slice.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def at_frame(
    geo: Geo,
    *,
    which: Literal['shift', 'at', 'repeat', 'swing', 'every', 'speed'] = 'shift',
    by: float | str = -1.0,
    at: float | str = 0.0,
    first: float | str = 0.0,
    last: float | str = 23.0,
    every: float | str = 2.0,
    speed: float | str = 0.5,
) -> Geo:
    """The input as it is at another frame: earlier or later, held, repeated, or at another speed.

    All that feeds the input is evaluated at that frame; what is known there already is taken from the
    cache. Frames between two whole ones are looked at, too. Outside of a graph nothing moves, and the
    input is passed on.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    which : {'shift', 'at', 'repeat', 'swing', 'every', 'speed'}, default: 'shift'
        Which frame is looked at.
        ``'shift'``: so many frames later, or earlier.
        ``'at'``: one certain frame; with keys, any course of frames.
        ``'repeat'``: a part of the frames again and again.
        ``'swing'``: a part of the frames forwards and backwards.
        ``'every'``: every nth frame, held until the next one.
        ``'speed'``: faster, slower or backwards from a frame on.
    by : float | str, frames, default: -1.0
        How many frames later.
        Matters where ``which`` is 'shift'.
    at : float | str, default: 0.0
        The frame that is looked at.
        Matters where ``which`` is 'at'.
    first : float | str, default: 0.0
        Frame from which on this is so, or the first of the part.
        Matters where ``which`` is ['repeat', 'swing', 'every', 'speed'].
    last : float | str, default: 23.0
        Last frame of the part.
        Matters where ``which`` is ['repeat', 'swing'].
    every : float | str, frames, default: 2.0
        How many frames one is held.
        Matters where ``which`` is 'every'.
    speed : float | str, default: 0.5
        Frames of the input per frame; below 0 it goes backwards.
        Matters where ``which`` is 'speed'.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all, as it is at that frame.
    """

def attribute_value(
    *,
    name: str = 'position',
) -> Geo:
    """A value that each element has.

    Parameters
    ----------
    name : str, default: 'position'
        An attribute, a built-in value, or e.g. mean(here.points.cover).

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def between_frames(
    geo: Geo,
    other: Geo,
    *,
    amount: float | str = 0.5,
    match: Literal['name', 'order'] = 'name',
    where: str = '',
) -> Geo:
    """Blend two geometries: places and attributes of elements that belong together.

    The amount is given for points; faces, curves and other elements take the mean of theirs.

    Parameters
    ----------
    geo : Geo
        Geometry that is blended.
    other : Geo
        What it becomes.
    amount : float | str, default: 0.5
        0: the first input; 1: the other one.
    match : {'name', 'order'}, default: 'name'
        What belongs together.
        ``'name'``: elements of the same stable name; others stay as they are.
        ``'order'``: elements in order; both need as many of them.
    where : str, default: ''
        Points that are blended, with the attributes of points; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all of the first input; numbers and vectors of the same name are blended, others stay.
    """

def bevel(
    geo: Geo,
    *,
    what: Literal['edge', 'point'] = 'edge',
    where: str = '',
    width: float | str = '0.03 * extent',
    segments: int | str = 1,
    profile: float | str = 0.5,
    limit: Literal['each point', 'smallest', 'none'] = 'each point',
    bevel_group: str = 'bevel',
    corner_group: str = 'bevel_corner',
) -> Geo:
    """Replace edges by strips of faces, and points where several meet by polygons.

    The strips' borders lie in the old faces, parallel to the edge. Where two cut edges meet the strips
    turn the corner; where three and more meet, or an edge ends, the gap is closed, with several
    segments by a rounded patch on the ball that touches the faces. Profiles are superellipses. Open and
    non-manifold edges, and points whose faces form no single fan, are left as they are.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    what : {'edge', 'point'}, default: 'edge'
        What to cut off.
        ``'edge'``: each edge.
        ``'point'``: each point.
    where : str, default: ''
        Which; empty means all.
    width : float | str, m, default: '0.03 * extent'
        Distance of the new borders from the edge, or from the point.
    segments : int | str, default: 1
        Faces across; more than one rounds.
    profile : float | str, default: 0.5
        Shape across: 0.25 flat, 0.5 round, towards 1 sharp, below 0.25 hollow.
    limit : {'each point', 'smallest', 'none'}, default: 'each point'
        Stop before anything crosses.
        ``'each point'``: at every point by itself.
        ``'smallest'``: everywhere at the smallest limit.
        ``'none'``: do not stop.
    bevel_group : str, default: 'bevel'
        Face group that receives the strips.
    corner_group : str, default: 'bevel_corner'
        Face group that receives the polygons at points.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Points and corners that slide are interpolated along their edge or in their face;
    points of the rounding copy the point they replace. Strips copy a face beside them, corner polygons
    one around them; edges that are left keep their values, new ones get the default.
    """

def blur_values(
    geo: Geo,
    *,
    attributes: str = '*',
    kind: Literal['point', 'face'] = 'point',
    iterations: int | str = 10,
    step: float | str = 0.5,
    pinned: Literal['nothing', 'borders'] = 'nothing',
    where: str = '',
) -> Geo:
    """Blur attributes along the edges of the mesh and along curves: each element goes towards the mean of its.

    neighbours.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    attributes : str, default: '*'
        Names, with spaces between; * for all numbers, vectors and colours; a group becomes a number.
    kind : {'point', 'face'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'face'``: each face.
    iterations : int | str, default: 10
        How often.
    step : float | str, default: 0.5
        How far each goes towards the mean of its neighbours.
    pinned : {'nothing', 'borders'}, default: 'nothing'
        What keeps its value, and passes it on.
        ``'nothing'``: all change.
        ``'borders'``: elements on open borders, and ends of open curves.
    where : str, default: ''
        Which elements change; the others keep their value and pass it on.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; changes the attribute.
    """

def boolean(
    geo: Geo,
    *others: Geo | Sequence[Geo],
    operation: Literal['union', 'difference', 'intersection'] = 'difference',
    other_group: str = 'from_others',
    seam_group: str = 'seam',
) -> Geo:
    """Unite solids, take them away from each other, or keep what they share; or cut a sheet.

    Exact on which side is which: the Manifold library's symbolic perturbation; the result is always
    closed. Faces that nothing cuts stay the polygons they were; cut ones become triangles. Solids must
    be closed; faces that wind against each other are an error.

    If the first input is open, it is a sheet. Sheets in one plane are put together in it, a union also
    with themselves where their own faces overlap; where several lie, the first one counts. Else the
    sheet is cut where the others cross it: the difference keeps what lies outside of a solid (or before
    a sheet), the intersection what lies inside (or behind), the union both; the face group ``inside``
    and the seam say which is which.

    Parameters
    ----------
    geo : Geo
        The solid to work on.
    others : Geo | Sequence[Geo]
        Solids to add, take away or meet.
    operation : {'union', 'difference', 'intersection'}, default: 'difference'
        What to make.
        ``'union'``: everything that is in any of them.
        ``'difference'``: the first without the others.
        ``'intersection'``: what is in all of them.
    other_group : str, default: 'from_others'
        Face group that receives faces of the other solids.
    seam_group : str, default: 'seam'
        Edge group that receives the edges where solids meet.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all: every face knows the face it is part of, points and corners on new edges are
    interpolated on that face. Where only some inputs have an attribute, the others get its default; a
    point where solids meet has the value of the first that has the attribute. Curves and loose points
    of the first input stay. What nothing cuts keeps its positions and values to the bit. Edge values
    are kept on edges that stay whole.
    """

def box(
    *,
    size: ArrayLike | str = [1.0, 1.0, 1.0],
    cells: ArrayLike | str = [1, 1, 1],
) -> Geo:
    """Box around the origin, all sides joined.

    Parameters
    ----------
    size : ArrayLike | str, m, default: [1.0, 1.0, 1.0]
        Length along x, y and z.
    cells : ArrayLike | str, default: [1, 1, 1]
        Number of faces along x, y and z.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv, 0..1 on each side
    """

def break_into_cells(
    geo: Geo,
    centers: Geo,
    *,
    make: Literal['solids', 'sheets'] = 'solids',
    first_cells: int | str = 0,
    most_neighbours: int | str = 0,
    neighbour_reach: float | str = 0.0,
    cell_name: str = 'cell',
    merge_flat: bool = True,
    inner_group: str = 'inner',
) -> Geo:
    """Break a solid or sheet into the parts that lie nearest to each centre (Voronoi cells).

    Only neighbouring cells are compared. Faces that are not flat, or not convex, are cut into triangles
    first. Pieces share no points; solids are watertight to the last edge. Solids that overlap, or lie
    in each other and both look outwards, are broken each by itself; one that looks inwards is a hollow.
    Centres in the same place count once; all are moved by less than a millionth of the size so that no
    five cells meet in one place, and edges that short are drawn together. With fewer neighbours than
    touch a cell, every piece is cut by those alone, and pieces overlap: that is a look, and no way to
    save time, since all neighbours take no longer than a few, which leave more to be made.

    Parameters
    ----------
    geo : Geo
        Solid or sheet to break.
    centers : Geo
        Its points are the centres of the cells.
    make : {'solids', 'sheets'}, default: 'solids'
        What the pieces are.
        ``'solids'``: closed, with inner faces.
        ``'sheets'``: parts of the surface alone.
    first_cells : int | str, default: 0
        Only the pieces of so many centres, from the first one on; 0 gives all.
    most_neighbours : int | str, default: 0
        Cut each piece by so many of the nearest neighbours only, so that pieces may overlap; 0 takes
        all.
    neighbour_reach : float | str, m, default: 0.0
        Cut by neighbours whose centre is at most this far away only; 0 takes all.
    cell_name : str, default: 'cell'
        Point and face attribute that receives the number of the centre; with _name behind it, a stable
        number.
    merge_flat : bool, default: True
        Faces of a piece that lie in one plane and carry equal values become one face.
    inner_group : str, default: 'inner'
        Face group that receives the inner faces.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all of the first input: parts of a face copy it, values of points and corners are
    interpolated where it is cut. Inner faces get defaults, inner points the values of the nearest
    point. Curves and loose points are left out, which is said.
    """

def circle(
    *,
    radius: float | str = 0.5,
    segments: int | str = 48,
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Closed curve of equally spaced points on a circle around the origin.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the points from the middle.
    segments : int | str, default: 48
        Points along it.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def combine_groups(
    geo: Geo,
    *,
    name: str = 'combined',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    first: str = '',
    how: Literal['and', 'or', 'minus', 'either', 'not'] = 'minus',
    second: str = 'False',
) -> Geo:
    """Make a group of two others.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'combined'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    first : str, default: ''
        A group or a formula; empty means all.
    how : {'and', 'or', 'minus', 'either', 'not'}, default: 'minus'
        How they combine.
        ``'and'``: in both.
        ``'or'``: in one or both.
        ``'minus'``: in the first and not in the second.
        ``'either'``: in one and not in both.
        ``'not'``: not in the first.
    second : str, default: 'False'
        A group or a formula.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def compare_value(
    *,
    how: Literal['>', '>=', '<', '<=', '==', '!=', 'and', 'or', 'not'] = '>',
    a: ArrayLike | str = 0.0,
    b: ArrayLike | str = 0.0,
) -> Geo:
    """Yes or no, from two numbers, or from two answers.

    Parameters
    ----------
    how : {'>', '>=', '<', '<=', '==', '!=', 'and', 'or', 'not'}, default: '>'
        The comparison.
        ``'>'``: greater.
        ``'>='``: at least.
        ``'<'``: less.
        ``'<='``: at most.
        ``'=='``: equal.
        ``'!='``: different.
        ``'and'``: both.
        ``'or'``: one or both.
        ``'not'``: the other of yes and no.
    a : ArrayLike | str, default: 0.0
        First value.
    b : ArrayLike | str, default: 0.0
        Second value.
        Matters where ``how`` is ['>', '>=', '<', '<=', '==', '!=', 'and', 'or'].

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def component_value(
    *,
    v: ArrayLike | str = 'position',
    part: Literal['x', 'y', 'z', 'w', 'xy', 'xz', 'yz', 'xyz'] = 'x',
) -> Geo:
    """Some components of a vector.

    Parameters
    ----------
    v : ArrayLike | str, default: 'position'
        The vector.
    part : {'x', 'y', 'z', 'w', 'xy', 'xz', 'yz', 'xyz'}, default: 'x'
        Which component.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def cone(
    *,
    radius: float | str = 0.5,
    top_radius: float | str = 0.0,
    height: float | str = 1.0,
    segments: int | str = 32,
    rows: int | str = 1,
) -> Geo:
    """Closed cone around the y axis, its middle in the origin; blunt if it has a top radius.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Of the bottom.
    top_radius : float | str, m, default: 0.0
        Of the top; 0 makes a tip.
    height : float | str, m, default: 1.0
        Along y.
    segments : int | str, default: 32
        Faces around.
    rows : int | str, default: 1
        Faces from bottom to top.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def convert_attribute(
    geo: Geo,
    *,
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'point',
    name: str = '',
    type: Literal['number', 'integer', 'flag', 'vec2', 'vec3', 'vec4', 'text'] = 'number',
) -> Geo:
    """Give an attribute another type, its values turned over as well as they can be.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: the whole.
    name : str, default: ''
        Attribute to convert.
    type : {'number', 'integer', 'flag', 'vec2', 'vec3', 'vec4', 'text'}, default: 'number'
        Its new type.
        ``'number'``: a real number; of a vector the first component, of a text its number.
        ``'integer'``: a whole number, rounded.
        ``'flag'``: yes or no, a group: yes where it is not 0 or empty.
        ``'vec2'``: two numbers.
        ``'vec3'``: three numbers.
        ``'vec4'``: four numbers, or a colour; a fourth component is 1.
        ``'text'``: text.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; one attribute has another type.
    """

def convert_group(
    geo: Geo,
    *,
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    where: str = '',
    to: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'point',
    counts: Literal['any', 'all'] = 'any',
    name: str = 'converted',
) -> Geo:
    """Turn a group of one element kind into a group of another.

    Edges of a face group with 'any' include its border; with 'all' an edge counts if all of its faces
    are members.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the old group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    where : str, default: ''
        The group, or a formula.
    to : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'point'
        What the new group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    counts : {'any', 'all'}, default: 'any'
        When an element becomes a member.
        ``'any'``: one of what it is made of, or belongs to, is.
        ``'all'``: all of these are.
    name : str, default: 'converted'
        Name of the new group.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def curve_through(
    *,
    places: ArrayLike = [[-0.5, 0.0, 0.0], [0.0, 0.25, 0.0], [0.5, 0.0, 0.0]],
    between: Literal['straight', 'smooth'] = 'straight',
    segments: int | str = 8,
    closed: bool = False,
) -> Geo:
    """Curve through places that are set in the view or typed; one place alone is a point.

    The smooth one is a centripetal Catmull-Rom spline: Yuksel, Schaefer & Keyser, "Parameterization and
    applications of Catmull-Rom curves", Computer-Aided Design 43, 2011. It has no cusps and does not
    cross itself between two places.

    Parameters
    ----------
    places : ArrayLike, m, default: [[-0.5, 0.0, 0.0], [0.0, 0.25, 0.0], [0.5, 0.0, 0.0]]
        Where it passes; dragged in the view.
    between : {'straight', 'smooth'}, default: 'straight'
        How it goes from place to place.
        ``'straight'``: in straight lines.
        ``'smooth'``: round, through every place.
    segments : int | str, default: 8
        Parts from place to place.
        Matters where ``between`` is 'smooth'.
    closed : bool, default: False
        From the last place back to the first.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def cut_by_value(
    geo: Geo,
    *,
    value: float | str = 'position.y',
    at: float | str = 0.0,
    count: int | str = 1,
    spacing: float | str = 0.1,
    snap: float | str = 0.0,
    above_group: str = 'above',
    below_group: str = 'below',
    line_group: str = 'line',
    band_name: str = '',
) -> tuple[Geo, Geo]:
    """Cut faces where a formula crosses one or several values, so that regions have clean outlines.

    The formula is worked out on the points and taken as linear along edges. Every face of the result
    lies on one side of each value; faces stay polygons. The lines are edges of the mesh, and curves on
    the second output, with the value that each runs along as ``level``.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    value : float | str, default: 'position.y'
        What is looked at, on each point.
    at : float | str, default: 0.0
        The value along which faces are cut.
    count : int | str, default: 1
        How many values, one above the other.
    spacing : float | str, default: 0.1
        How far several values are apart.
    snap : float | str, default: 0.0
        Move points onto a line that passes them closer than this share of an edge, so that no slivers
        are made.
    above_group : str, default: 'above'
        Face group that receives what lies above the highest value.
    below_group : str, default: 'below'
        Face group that receives what lies below the lowest value.
    line_group : str, default: 'line'
        Edge group that receives the edges along the lines.
    band_name : str, default: ''
        Face attribute that receives how many of the values lie below a face; empty makes none.

    Returns
    -------
    geo : Geo
        The whole mesh, cut along the lines.
    lines : Geo
        The lines as curves.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; values of points and corners are interpolated along the lines, groups and labels
    copied. Curves and loose points stay on the mesh.
    """

def cut_curve(
    geo: Geo,
    *,
    where: str = 'index % 4 == 0',
    part: bool = False,
) -> Geo:
    """Cut curves at marked points. A closed curve opens at its first marked point; one without stays closed.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: 'index % 4 == 0'
        Points to cut at: a group or a formula.
    part : bool, default: False
        Give every part end points of its own.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; parts copy their curve, copies of points their point.
    """

def cylinder(
    *,
    radius: float | str = 0.5,
    height: float | str = 1.0,
    segments: int | str = 32,
    rings: int | str = 1,
    caps: bool = True,
) -> Geo:
    """Cylinder of quads around the y axis, its ends closed or open.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the side from the y axis.
    height : float | str, m, default: 1.0
        Length along y.
    segments : int | str, default: 32
        Faces around.
    rings : int | str, default: 1
        Faces along the height.
    caps : bool, default: True
        Close both ends with one polygon each.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv and the face groups side and cap
    """

def disc(
    *,
    radius: float | str = 0.5,
    segments: int | str = 32,
    rings: int | str = 4,
    middle: Literal['triangles', 'polygon'] = 'triangles',
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Round sheet around the origin: a polygon or triangles in the middle, quads around.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the border from the middle.
    segments : int | str, default: 32
        Faces around.
    rings : int | str, default: 4
        Faces from the middle to the border.
    middle : {'triangles', 'polygon'}, default: 'triangles'
        The innermost ring.
        ``'triangles'``: triangles around a point.
        ``'polygon'``: one face.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv
    """

def displace(
    geo: Geo,
    source: Geo | None = None,
    *,
    where: str = '',
    value: ArrayLike | str = 'noise(position * 7 / max(extent, 1e-9), 3)',
    amount: float | str = '0.03 * extent',
    middle: float | str = 0.0,
    along: Literal['normals', 'direction'] = 'normals',
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Move points by any value: a number along normals or a direction, or a vector.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    source : Geo | None
        Geometry that the formulas may ask.
    where : str, default: ''
        Points that move; empty means all.
    value : ArrayLike | str, default: 'noise(position * 7 / max(extent, 1e-9), 3)'
        Number, along the way below; or a vec3, as it is.
    amount : float | str, m, default: '0.03 * extent'
        How far a value of 1 moves.
    middle : float | str, default: 0.0
        Value that does not move.
    along : {'normals', 'direction'}, default: 'normals'
        Which way a number moves points.
        ``'normals'``: the points' normals.
        ``'direction'``: the direction below.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        Which way; the length does not matter.
        Matters where ``along`` is 'direction'.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Stored normals are left as they are.
    """

def drape(
    geo: Geo,
    ground: Geo,
    *,
    where: str = '',
    way: Literal['direction', 'normals', 'closest'] = 'direction',
    direction: ArrayLike | str = [0.0, -1.0, 0.0],
    both_ways: bool = True,
    limit_reach: bool = False,
    reach: float | str = '0.6 * extent',
    offset: float | str = 0.0,
    share: float | str = 1.0,
    draped: str = 'draped',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Lay points onto a mesh along a direction, along their normals or to the nearest place; the others stay.

    Parameters
    ----------
    geo : Geo
        Shape that is laid down.
    ground : Geo
        Mesh that it is laid onto.
    where : str, default: ''
        Points that are laid down; empty means all.
    way : {'direction', 'normals', 'closest'}, default: 'direction'
        Which way points go.
        ``'direction'``: along a fixed direction.
        ``'normals'``: against their own normals.
        ``'closest'``: to the nearest place.
    direction : ArrayLike | str, default: [0.0, -1.0, 0.0]
        Which way; the length does not matter.
        Matters where ``way`` is 'direction'.
    both_ways : bool, default: True
        Also look the other way, and take what is nearer.
        Matters where ``way`` is ['direction', 'normals'].
    limit_reach : bool, default: False
        Leave points that would go farther than the reach.
    reach : float | str, m, default: '0.6 * extent'
        Largest way.
        Matters where ``limit_reach`` is True.
    offset : float | str, default: 0.0
        Stay this far above the ground, measured along its normal.
    share : float | str, default: 1.0
        1 goes all the way, 0 stays.
    draped : str, default: 'draped'
        Group of the points that found the ground.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group of points that found the ground. Stored normals are left as
    they are.
    """

def dual(
    geo: Geo,
    *,
    border: Literal['close', 'leave'] = 'close',
) -> Geo:
    """Put a point in the middle of every face and a face around every point.

    Faces wind as before. Points whose faces do not form a single fan (non-manifold ones) become no
    face.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    border : {'close', 'leave'}, default: 'close'
        Points on an open border.
        ``'close'``: become faces too, closed along the border through its edges' middles.
        ``'leave'``: become no face, so that the mesh shrinks by half a face.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Face values become point values and point values become face values; corner values go along as
    means. Edge values are dropped, which is said. Curves and loose points stay.
    """

def edges_to_curves(
    geo: Geo,
    *,
    where: str = '',
    corner_angle: float | str = 180.0,
    keep_faces: bool = False,
    curve_group: str = 'from_edges',
) -> Geo:
    """Put edges end to end to curves, as long as they can be.

    Curves end where more or fewer than two of the edges meet; loops are closed. The points are those of
    the mesh.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Edges to follow; empty means all.
    corner_angle : float | str, °, default: 180.0
        End curves where they turn by more than this.
    keep_faces : bool, default: False
        Keep the faces.
    curve_group : str, default: 'from_edges'
        Curve group that receives the new curves.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; a curve receives the edge attributes of its first edge, and existing curves their
    defaults for them.
    """

def edit_values(
    geo: Geo,
    *,
    kind: Literal['point', 'edge', 'corner', 'face', 'curve'] = 'point',
    name: str = '',
    edits: Mapping[str, Any] = {},
) -> Geo:
    """Set values of single elements by hand: double-click a cell of the ledger.

    Elements are kept by their stable names, so the values stay with them when others are added or
    removed before this.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'point', 'edge', 'corner', 'face', 'curve'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
    name : str, default: ''
        Attribute whose values are edited; 'position' moves points.
    edits : Mapping[str, Any], default: {}
        Values by element, set in the ledger.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; changes the attribute at the edited elements.
    """

def evolve(
    *,
    reset: int | str = 0,
    substeps: int | str = 1,
) -> Geo:
    """Run the graph inside once for each frame, on its own result of the frame before.

    At the frame of the reset, and before it, an output that has the name of an input is what comes in
    there; from then on it is what the graph makes of its last result. Other inputs are as they are at
    each frame. Formulas inside read ``step`` (how often it ran, from 0), ``age`` (seconds since the
    reset, at the end of the step) and ``seconds_per_step``. The same graph gives the same states,
    whichever frame is looked at first; what is known stays known, also when it is stopped.

    Parameters
    ----------
    reset : int | str, default: 0
        Frame at which it begins with what comes in.
    substeps : int | str, default: 1
        How often the graph inside runs for each frame.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    As the operators inside say. What comes out under the name of an input goes in there again at the
    next frame.
    """

def extrude(
    geo: Geo,
    *,
    what: Literal['face', 'edge', 'point'] = 'face',
    where: str = '',
    together: bool = True,
    per: Literal['face', 'point', 'corner'] = 'face',
    distance: float | str = '0.06 * extent',
    inset: float | str = 0.0,
    limit: Literal['each region', 'smallest', 'none'] = 'each region',
    amount: float | str = 1.0,
    variation: float | str = 0.0,
    seed: int | str = 1,
    along: Literal['normal', 'direction'] = 'normal',
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
    walls: Literal['even', 'straight'] = 'even',
    divisions: int | str = 1,
    profile: Sequence[Sequence[Any]] = [[0.0, 1.0], [1.0, 1.0]],
    keep_base: bool = False,
    mark_walls: bool = False,
    top_group: str = 'top',
    side_group: str = 'side',
    base_group: str = 'base',
    rim_group: str = 'rim',
) -> Geo:
    """Raise faces and close the gap with walls; raise edges as strips and points as curves.

    Raised together, faces that share an edge stay joined. Even walls: a point moves to where the moved
    planes of its faces meet (least squares, shortest move), so that the walls between parallel faces
    are as thick as the distance says. Straight: it moves by the distance along the mean of its faces'
    normals, weighted by area. Where faces that meet have different distances, even walls keep each,
    straight ones take the mean. Faces keep their order, walls follow division by division, bases come
    last; elements that are not raised stay as they were. Faces that meet in a single point only are
    separate regions.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    what : {'face', 'edge', 'point'}, default: 'face'
        What to raise: faces with walls, edges as strips of faces, points as curves.
        ``'face'``: each face.
        ``'edge'``: each edge.
        ``'point'``: each point.
    where : str, default: ''
        Which elements to raise; empty means all.
    together : bool, default: True
        Raise faces that touch as one region; off: each face by itself.
        Matters where ``what`` is 'face'.
    per : {'face', 'point', 'corner'}, default: 'face'
        What distance and inset are worked out on (faces only).
        ``'face'``: each face.
        ``'point'``: each point.
        ``'corner'``: each corner.
    distance : float | str, m, default: '0.06 * extent'
        How far; negative goes inwards.
    inset : float | str, m, default: 0.0
        How far the raised border moves inwards in its own plane.
    limit : {'each region', 'smallest', 'none'}, default: 'each region'
        What happens where the inset would let a face cross itself.
        ``'each region'``: each region, or face, stops just before by itself.
        ``'smallest'``: all stop at the smallest such inset.
        ``'none'``: do not stop.
        Matters where ``what`` is 'face'.
    amount : float | str, default: 1.0
        Factor for both.
    variation : float | str, default: 0.0
        How much of the distance is left to chance, per face.
    seed : int | str, default: 1
        Another number gives other chances.
    along : {'normal', 'direction'}, default: 'normal'
        Which way.
        ``'normal'``: along the surface's normals.
        ``'direction'``: along one direction, by the distance.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        The direction; its length does not matter.
        Matters where ``along`` is 'direction'.
    walls : {'even', 'straight'}, default: 'even'
        How the distance is kept.
        ``'even'``: faces move by the distance, so that walls are equally thick.
        ``'straight'``: points move by the distance.
        Matters where ``along`` is 'normal'.
    divisions : int | str, default: 1
        How many rows of walls.
    profile : Sequence[Sequence[Any]], default: [[0.0, 1.0], [1.0, 1.0]]
        Size of the cross-section from bottom to top, about the region's middle.
    keep_base : bool, default: False
        Leave a face below, so that an open sheet becomes a closed solid.
        Matters where ``what`` is 'face'.
    mark_walls : bool, default: False
        Walls are in the groups of the face they rise from.
        Matters where ``what`` is 'face'.
    top_group : str, default: 'top'
        Group that receives the raised faces, edges or points.
    side_group : str, default: 'side'
        Face group that receives the walls.
    base_group : str, default: 'base'
        Face group that receives the faces left below.
    rim_group : str, default: 'rim'
        Edge group of the loops around each division, top included; empty makes none.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. New points copy their source point's values, walls those of the face they were raised
    from (its groups only if asked), wall corners those of the corners below; edges on and above old
    edges copy them, upright edges get the default.
    """

def fill(
    geo: Geo,
    *,
    what: Literal['edge', 'curve'] = 'edge',
    where: str = '',
    using: Literal['polygon', 'triangles', 'even'] = 'polygon',
    across: float | str = 12.0,
    rule: Literal['even-odd', 'non-zero'] = 'even-odd',
    use_points: bool = True,
    keep_curves: bool = False,
    fill_group: str = 'fill',
) -> Geo:
    """Close open borders, or fill closed curves, with faces.

    Borders are used as they are, so that the mesh is watertight there, and new faces run as those
    beside them. Even: points of a triangular lattice inside, denser where the border's edges are short,
    and constrained Delaunay triangulation; on a border that is not flat their height is that of a
    membrane (harmonic). Long edges of curves are divided then. What closed curves of one plane enclose
    goes by the rule, also where they touch or cross.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    what : {'edge', 'curve'}, default: 'edge'
        What to close: open borders, or closed curves with holes.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    where : str, default: ''
        Which: a border loop counts if one of its edges is marked; empty means all.
    using : {'polygon', 'triangles', 'even'}, default: 'polygon'
        What with.
        ``'polygon'``: one face per loop (curves with holes get triangles).
        ``'triangles'``: triangles between the border's points.
        ``'even'``: triangles with points inside, about equally spaced.
    across : float | str, default: 12.0
        About how many edges lie across the shape, whatever its size.
        Matters where ``using`` is 'even'.
    rule : {'even-odd', 'non-zero'}, default: 'even-odd'
        What lies inside where curves lie in each other or cross.
        ``'even-odd'``: what an odd number of curves surrounds: holes by turns.
        ``'non-zero'``: what curves wind around: one that runs backwards makes a hole.
        Matters where ``what`` is 'curve'.
    use_points : bool, default: True
        Loose points inside become points of the triangles.
        Matters where ``using`` is ['triangles', 'even'].
    keep_curves : bool, default: False
        Keep the curves that were filled.
        Matters where ``what`` is 'curve'.
    fill_group : str, default: 'fill'
        Face group that receives the new faces.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. New faces copy the face beside the first edge of their border, their corners and any
    new points blend the values of the border's points; faces over curves get defaults.
    """

def flatten_instances(
    geo: Geo,
    *,
    onto: Literal['point', 'face'] = 'point',
) -> Geo:
    """Turn instances into points, faces and curves, shape by shape. Mirrored ones have their faces turned over.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    onto : {'point', 'face'}, default: 'point'
        What receives the instances' attributes.
        ``'point'``: each point.
        ``'face'``: each face.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all of the geometry and of the shapes; normals turn with their shape. Instance attributes
    other than shape and transform pass to the new points or faces.
    """

def folded() -> Geo:
    """Several cards as one operator, with inputs, outputs and dials of its own.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    As the operators inside say.
    """

def for_each(
    *,
    over: Literal['piece', 'group', 'value', 'element'] = 'piece',
    kind: Literal['face', 'curve', 'point'] = 'face',
    groups: str = '*',
    attribute: str = '',
    spread: bool = False,
) -> Geo:
    """Run the graph inside on every part of the first input, and join what comes out.

    Formulas inside read ``part`` (its number from 0), ``parts`` (how many) and ``part_value`` (what its
    elements have in common). Other inputs are the same for every part.

    Parameters
    ----------
    over : {'piece', 'group', 'value', 'element'}, default: 'piece'
        What makes a part.
        ``'piece'``: each connected part.
        ``'group'``: each group whose name fits; what is in none passes by.
        ``'value'``: all elements with the same value of an attribute.
        ``'element'``: each single element.
    kind : {'face', 'curve', 'point'}, default: 'face'
        Kind of the elements.
        ``'face'``: faces.
        ``'curve'``: curves.
        ``'point'``: points; faces and curves are left behind.
        Matters where ``over`` is ['group', 'value', 'element'].
    groups : str, default: '*'
        Names of groups, separated by spaces; * stands for any letters.
        Matters where ``over`` is 'group'.
    attribute : str, default: ''
        An integer, flag, number or text attribute.
        Matters where ``over`` is 'value'.
    spread : bool, default: False
        Let the cluster make heavy parts: other processes, of this machine or of others, run the graph
        inside on some of them at the same time; the result is the same.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all into the parts and joins what comes out; where only some parts have an attribute, the
    others get its default.
    """

def formula_value(
    *,
    formula: ArrayLike | str = 'a * b',
    a: ArrayLike | str = 0.0,
    b: ArrayLike | str = 0.0,
    c: ArrayLike | str = 0.0,
) -> Geo:
    """A formula of up to three wired values.

    Parameters
    ----------
    formula : ArrayLike | str, default: 'a * b'
        A formula in which a, b and c are the values below.
    a : ArrayLike | str, default: 0.0
        Value of a.
    b : ArrayLike | str, default: 0.0
        Value of b.
    c : ArrayLike | str, default: 0.0
        Value of c.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def frames(
    geo: Geo,
    *,
    up: ArrayLike | str = [0.0, 1.0, 0.0],
    twist: float | str = 0.0,
    prefix: str = '',
) -> Geo:
    """Give the points of curves a tangent, a normal and a binormal that do not twist along the way.

    Double reflection (Wang, Jüttler, Zheng & Liu, ACM TOG 27(1), 2008). ``rotation`` is the quaternion
    (x, y, z, w) that turns x to the normal, y to the binormal and z to the tangent. Points on no curve
    get zeros and no rotation.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    up : ArrayLike | str, default: [0.0, 1.0, 0.0]
        Where the first normal points, as far as it can.
    twist : float | str, °, default: 0.0
        Turns the frame about the tangent.
    prefix : str, default: ''
        Put in front of the names tangent, normal, binormal and rotation.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the point attributes tangent, normal, binormal and rotation.
    """

def geodesic_sphere(
    *,
    radius: float | str = 0.5,
    frequency: int | str = 6,
) -> Geo:
    """Sphere of nearly equal triangles: an icosahedron, its faces cut and pushed out.

    It has 20 frequency² faces and 10 frequency² + 2 points (class I breakdown: Kenner, "Geodesic Math",
    1976).

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the points from the origin.
    frequency : int | str, default: 6
        Parts that each edge of the icosahedron is cut into.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def grid(
    *,
    size: ArrayLike | str = [1.0, 1.0],
    cells: ArrayLike | str = [10, 10],
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Flat sheet of quads around the origin.

    Parameters
    ----------
    size : ArrayLike | str, m, default: [1.0, 1.0]
        Length of both sides.
    cells : ArrayLike | str, default: [10, 10]
        Number of faces along both sides.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the faces look.
        ``'up'``: along y, sides along x and z.
        ``'forward'``: along z, sides along x and y.
        ``'side'``: along x, sides along z and y.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv
    """

def group(
    geo: Geo,
    source: Geo | None = None,
    *,
    name: str = 'marked',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    where: str = '',
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Name the elements for which a formula holds.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    source : Geo | None
        Geometry that the formula may ask, e.g. source.closest(position).distance.
    name : str, default: 'marked'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    where : str, default: ''
        Which elements: a formula or a group; empty means all.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_at_random(
    geo: Geo,
    *,
    name: str = 'some',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    by: Literal['share', 'count'] = 'share',
    share: float | str = 0.5,
    count: int | str = 10,
    seed: int | str = 0,
    where: str = '',
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name some elements at random.

    Each element keeps its lot when others are added or removed; with an exact number, those with the
    lowest lots win.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'some'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    by : {'share', 'count'}, default: 'share'
        How many.
        ``'share'``: each element with a chance.
        ``'count'``: an exact number.
    share : float | str, default: 0.5
        Chance of each element, 0 to 1.
        Matters where ``by`` is 'share'.
    count : int | str, default: 10
        Exactly this many.
        Matters where ``by`` is 'count'.
    seed : int | str, default: 0
        Another number gives another choice.
    where : str, default: ''
        Which elements may be members; empty means all.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_border(
    geo: Geo,
    *,
    name: str = 'border',
    kind: Literal['edge', 'point', 'face', 'corner'] = 'edge',
    of: Literal['open', 'faces', 'non-manifold'] = 'open',
    where: str = '',
    with_open: bool = True,
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name what lies on a border: its edges, their points, or the faces and corners that touch it with an edge.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'border'
        Name of the group.
    kind : {'edge', 'point', 'face', 'corner'}, default: 'edge'
        What the group holds.
        ``'edge'``: each edge.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'corner'``: each corner.
    of : {'open', 'faces', 'non-manifold'}, default: 'open'
        Which border.
        ``'open'``: edges with one face only.
        ``'faces'``: edges between the faces below and others.
        ``'non-manifold'``: edges with more than two faces.
    where : str, default: ''
        The faces whose border is meant.
        Matters where ``of`` is 'faces'.
    with_open : bool, default: True
        Count the open edges of these faces as border too.
        Matters where ``of`` is 'faces'.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_by_direction(
    geo: Geo,
    target: Geo | None = None,
    *,
    name: str = 'facing',
    kind: Literal['face', 'point', 'corner'] = 'face',
    facing: Literal['direction', 'point'] = 'direction',
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
    point: ArrayLike | str = [0.0, 1.0, 0.0],
    given_in: Literal['this', 'world'] = 'this',
    angle: float | str = 45.0,
    where: str = '',
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name elements whose normal lies within an angle of a direction, or looks at a point.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    target : Geo | None
        Its middle is the point that is faced, if it is connected.
    name : str, default: 'facing'
        Name of the group.
    kind : {'face', 'point', 'corner'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'corner'``: each corner.
    facing : {'direction', 'point'}, default: 'direction'
        What the normal is held against.
        ``'direction'``: a fixed direction.
        ``'point'``: the way to a point.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        Which way; the length does not matter.
        Matters where ``facing`` is 'direction'.
    point : ArrayLike | str, m, default: [0.0, 1.0, 0.0]
        The point that is faced.
        Matters where ``facing`` is 'point'.
    given_in : {'this', 'world'}, default: 'this'
        Space of the direction or point.
        ``'this'``: in this mesh's own space.
        ``'world'``: in the world, where the mesh stands.
    angle : float | str, °, default: 45.0
        Largest angle between the normal and that way.
    where : str, default: ''
        Which elements may be members; empty means all.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_by_label(
    geo: Geo,
    *,
    name: str = 'chosen',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    label: str = 'piece',
    choose: Literal['largest', 'smallest', 'values', 'each'] = 'largest',
    number: int | str = 1,
    values: str = '0',
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name the elements of some connected pieces, or with some values of any label.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'chosen'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    label : str, default: 'piece'
        Whole number, text or flag to go by; 'piece' numbers the connected parts.
    choose : {'largest', 'smallest', 'values', 'each'}, default: 'largest'
        Which labels.
        ``'largest'``: those with the most elements.
        ``'smallest'``: those with the fewest.
        ``'values'``: those in a list.
        ``'each'``: a group for each value.
    number : int | str, default: 1
        How many labels.
    values : str, default: '0'
        Values, with spaces between; 3-7 is a range.
        Matters where ``choose`` is 'values'.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group. With a group for each value, their names are the name, an
    underline and the value.
    """

def group_by_nearness(
    geo: Geo,
    source: Geo,
    *,
    name: str = 'near',
    kind: Literal['point', 'face', 'edge', 'corner', 'curve'] = 'point',
    which: Literal['within reach', 'nearest'] = 'within reach',
    to: Literal['surface', 'points'] = 'surface',
    limit_reach: bool = True,
    reach: float | str = '0.25 * extent',
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Name the elements near another geometry, or look up which elements its points are nearest to.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    source : Geo
        Geometry to be near to.
    name : str, default: 'near'
        Name of the group.
    kind : {'point', 'face', 'edge', 'corner', 'curve'}, default: 'point'
        What the group holds.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    which : {'within reach', 'nearest'}, default: 'within reach'
        Which elements.
        ``'within reach'``: all that are near enough.
        ``'nearest'``: those that are the nearest element of some point of the source.
    to : {'surface', 'points'}, default: 'surface'
        Measured to.
        ``'surface'``: faces and curves of the source.
        ``'points'``: its points.
        Matters where ``which`` is 'within reach'.
    limit_reach : bool, default: True
        Ignore what is farther away than the reach.
        Matters where ``which`` is 'nearest'.
    reach : float | str, m, default: '0.25 * extent'
        Largest distance.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_by_pattern(
    geo: Geo,
    *,
    name: str = 'pattern',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    first: int | str = 0,
    last: int | str = -1,
    every: int | str = 2,
    take: int | str = 1,
    shift: int | str = 0,
    from_end: bool = False,
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name elements by their number: from, to, every nth.

    A number can follow another node's parameter: write that node's name and the parameter's, e.g.
    ``rings.count / 2``.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'pattern'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    first : int | str, default: 0
        Number of the first element; below 0 counts from the end.
    last : int | str, default: -1
        Number of the last element; below 0 counts from the end.
    every : int | str, default: 2
        Length of the pattern: 2 is every other element.
    take : int | str, default: 1
        How many at the start of each pattern are members.
    shift : int | str, default: 0
        Where in the pattern to begin.
    from_end : bool, default: False
        Count backwards from the last element.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_inside(
    geo: Geo,
    volume: Geo | None = None,
    *,
    name: str = 'inside',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    shape: Literal['box', 'sphere', 'mesh'] = 'box',
    center: ArrayLike | str = [0.0, 0.5, 0.0],
    size: ArrayLike | str = [1.0, 1.0, 1.0],
    radius: float | str = 0.5,
    counts: Literal['middle', 'any', 'all'] = 'middle',
    outside: bool = False,
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Name elements inside of a box, a sphere or a mesh.

    A mesh may have holes and open borders: a place is inside if the mesh covers more than half of the
    view from there (generalised winding number). The faces must look outwards.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    volume : Geo | None
        Mesh to be inside of; may have holes.
    name : str, default: 'inside'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    shape : {'box', 'sphere', 'mesh'}, default: 'box'
        Inside of what.
        ``'box'``: a box along the axes.
        ``'sphere'``: a sphere.
        ``'mesh'``: the mesh connected to 'volume'.
    center : ArrayLike | str, m, default: [0.0, 0.5, 0.0]
        Middle of the box or sphere.
    size : ArrayLike | str, m, default: [1.0, 1.0, 1.0]
        Sides of the box.
        Matters where ``shape`` is 'box'.
    radius : float | str, m, default: 0.5
        Radius of the sphere.
        Matters where ``shape`` is 'sphere'.
    counts : {'middle', 'any', 'all'}, default: 'middle'
        When an element is inside.
        ``'middle'``: its middle is.
        ``'any'``: any of its points is.
        ``'all'``: all of its points are.
    outside : bool, default: False
        Name those outside instead.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def group_picked(
    geo: Geo,
    *,
    name: str = 'picked',
    kind: Literal['face', 'point', 'edge', 'corner', 'curve'] = 'face',
    elements: Sequence[str] = [],
    follow: bool = True,
    combine: Literal['replace', 'add', 'keep both', 'take away'] = 'replace',
) -> Geo:
    """Name elements that were picked by hand.

    They are kept by their stable names, so they stay the same elements when others are added or removed
    before this. A face or curve that is split later is followed into all its parts, a point into its
    copies in the same place, an edge into the edges that lie on it.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'picked'
        Name of the group.
    kind : {'face', 'point', 'edge', 'corner', 'curve'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
    elements : Sequence[str], default: []
        What was picked in the view or the ledger.
    follow : bool, default: True
        Take also what a picked element was split into since it was picked.
    combine : {'replace', 'add', 'keep both', 'take away'}, default: 'replace'
        What to do if the group exists already.
        ``'replace'``: the new members alone.
        ``'add'``: old members stay.
        ``'keep both'``: only old members that fit.
        ``'take away'``: old members that fit leave.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def grow_group(
    geo: Geo,
    *,
    kind: Literal['face', 'point', 'edge'] = 'face',
    where: str = '',
    how: Literal['grow', 'shrink', 'outline', 'ring'] = 'grow',
    steps: int | str = 1,
    across: Literal['edges', 'points'] = 'edges',
    name: str = 'grown',
) -> Geo:
    """Make a group larger or smaller by its neighbours, or take its outline.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'face', 'point', 'edge'}, default: 'face'
        What the group holds.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
    where : str, default: ''
        The group to begin with, or a formula.
    how : {'grow', 'shrink', 'outline', 'ring'}, default: 'grow'
        What to do.
        ``'grow'``: add the neighbours.
        ``'shrink'``: take away what touches others.
        ``'outline'``: keep only what touches others.
        ``'ring'``: only the neighbours, without the group.
    steps : int | str, default: 1
        How often.
    across : {'edges', 'points'}, default: 'edges'
        What counts as touching.
        ``'edges'``: sharing an edge (faces) or being its two ends (points).
        ``'points'``: sharing a point, or a face (points).
    name : str, default: 'grown'
        Name of the new group.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the group.
    """

def index_value(
    *,
    what: Literal['index', 'fraction', 'count'] = 'index',
) -> Geo:
    """The number of the element, as it is or as a fraction, or how many there are.

    Parameters
    ----------
    what : {'index', 'fraction', 'count'}, default: 'index'
        What is counted.
        ``'index'``: number of the element, from 0.
        ``'fraction'``: index as 0..1.
        ``'count'``: how many elements there are.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def input(
    *,
    name: str = 'geo',
) -> Geo:
    """What comes into this graph from outside, where it is used as an operator.

    Parameters
    ----------
    name : str, default: 'geo'
        Which input of this graph.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all.
    """

def inset(
    geo: Geo,
    *,
    where: str = '',
    together: bool = False,
    by: Literal['distance', 'fraction'] = 'distance',
    distance: float | str = '0.02 * extent',
    fraction: float | str = 0.25,
    limit: Literal['each face', 'smallest', 'divide', 'none'] = 'each face',
    inner_group: str = 'inner',
    ring_group: str = 'ring',
) -> Geo:
    """Shrink faces inside themselves and close the gap with a ring of faces.

    By distance, every edge at the border moves inwards by as much, in the plane of its face. A face
    stops just before an edge of it would shrink to nothing or a corner would meet another edge; where
    it divides, it goes on past that (straight skeleton, Aichholzer & Aurenhammer 1996), until just
    before nothing is left of it. Shrunk faces keep their place in the order, rings follow, then the
    other parts of divided faces. Points, and faces that are not marked, stay as they were; so do the
    points inside a region that shrinks by distance. Outwards, faces lie over their neighbours.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to shrink; empty means all.
    together : bool, default: False
        Shrink faces that touch as one region; off: each face by itself.
    by : {'distance', 'fraction'}, default: 'distance'
        How far.
        ``'distance'``: all edges at the border move inwards by as much.
        ``'fraction'``: corners move towards the middle by a share of the way.
    distance : float | str, m, default: '0.02 * extent'
        Width of the ring; negative goes outwards.
        Matters where ``by`` is 'distance'.
    fraction : float | str, default: 0.25
        Share of the way to the middle.
        Matters where ``by`` is 'fraction'.
    limit : {'each face', 'smallest', 'divide', 'none'}, default: 'each face'
        What happens where a face would cross itself.
        ``'each face'``: each face, or region, stops just before by itself.
        ``'smallest'``: all stop at the smallest such distance.
        ``'divide'``: edges that are used up vanish and narrow faces come apart; faces one by one, by
        distance.
        ``'none'``: do not stop.
    inner_group : str, default: 'inner'
        Face group that receives the shrunk faces.
    ring_group : str, default: 'ring'
        Face group that receives the faces around them.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Ring faces copy the face they surround; the inner corners keep the outer ones' values,
    uv too. Old edges keep theirs, new ones get the default.
    """

def join(
    *geometries: Geo | Sequence[Geo],
) -> Geo:
    """Put geometries together without welding anything; elements follow each other in input order.

    Parameters
    ----------
    geometries : Geo | Sequence[Geo]
        Geometries to put together, in order.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Where only some inputs have an attribute, the elements of the others get its default,
    and that is said.
    """

def lettering(
    *,
    text: str = 'Reef 12',
    size: float | str = 0.2,
    weight: int | str = 400,
    spacing: float | str = 0.0,
    align: Literal['left', 'middle', 'right'] = 'middle',
    steps: int | str = 6,
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Write words as closed curves; fill makes faces of them, extrude makes them solid.

    The font is Atkinson Hyperlegible Next (SIL Open Font License), which ships with the program; its
    outlines are quadratic Bézier curves. Letters it lacks become a box, and are named.

    Parameters
    ----------
    text : str, default: 'Reef 12'
        What to write; lines are kept.
    size : float | str, m, default: 0.2
        Height of a line.
    weight : int | str, default: 400
        How bold.
    spacing : float | str, default: 0.0
        Room between letters, in line heights.
    align : {'left', 'middle', 'right'}, default: 'middle'
        Where lines begin.
        ``'left'``: at the origin.
        ``'middle'``: their middle is at the origin.
        ``'right'``: they end at the origin.
    steps : int | str, default: 6
        Points along each bend.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the curve attribute letter: the number of the letter, counted from 0 without spaces
    """

def line(
    *,
    begin: ArrayLike | str = [0.0, 0.0, 0.0],
    end: ArrayLike | str = [0.0, 1.0, 0.0],
    segments: int | str = 1,
) -> Geo:
    """Open curve from one place to another.

    Parameters
    ----------
    begin : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        First point.
    end : ArrayLike | str, m, default: [0.0, 1.0, 0.0]
        Last point.
    segments : int | str, default: 1
        Parts along it.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def maths_value(
    *,
    how: Literal['+', '-', '*', '/', '//', '%', '**', 'sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'sinh', 'cosh', 'tanh', 'asinh', 'acosh', 'atanh', 'atan2', 'radians', 'degrees', 'sqrt', 'cbrt', 'inversesqrt', 'exp', 'expm1', 'exp2', 'log', 'log1p', 'log2', 'log10', 'floor', 'ceil', 'trunc', 'round', 'fract', 'abs', 'sign', 'min', 'max', 'pow', 'mod', 'hypot', 'copysign', 'clamp', 'step', 'smoothstep', 'hsv', 'luminance', 'integer', 'mat3', 'transpose', 'inverse', 'determinant', 'turn', 'transform_point', 'transform_direction', 'dot', 'cross', 'length', 'distance', 'normalize', 'reflect', 'refract', 'faceforward', 'rotate'] = '+',
    a: ArrayLike | str = 0.0,
    b: ArrayLike | str = 0.0,
    c: ArrayLike | str = 0.0,
) -> Geo:
    """Arithmetic or any function of the language.

    Parameters
    ----------
    how : str, default: '+'
        What is worked out.
        ``'+'``: sum.
        ``'-'``: difference.
        ``'*'``: product.
        ``'/'``: quotient.
        ``'//'``: quotient rounded down.
        ``'%'``: remainder, with the sign of the divisor.
        ``'**'``: power.
        ``'sin'``: sin(x): sine of an angle in radians.
        ``'cos'``: cos(x): cosine of an angle in radians.
        ``'tan'``: tan(x): tangent of an angle in radians.
        ``'asin'``: asin(x): angle in radians whose sine is x.
        ``'acos'``: acos(x): angle in radians whose cosine is x.
        ``'atan'``: atan(x): angle in radians whose tangent is x.
        ``'sinh'``: sinh(x): hyperbolic sine.
        ``'cosh'``: cosh(x): hyperbolic cosine.
        ``'tanh'``: tanh(x): hyperbolic tangent.
        ``'asinh'``: asinh(x): inverse hyperbolic sine.
        ``'acosh'``: acosh(x): inverse hyperbolic cosine.
        ``'atanh'``: atanh(x): inverse hyperbolic tangent.
        ``'atan2'``: atan2(y, x): angle in radians of the direction (x, y).
        ``'radians'``: radians(x): degrees to radians.
        ``'degrees'``: degrees(x): radians to degrees.
        ``'sqrt'``: sqrt(x): square root.
        ``'cbrt'``: cbrt(x): cube root.
        ``'inversesqrt'``: inversesqrt(x): 1 / sqrt(x).
        ``'exp'``: exp(x): e to the power x.
        ``'expm1'``: expm1(x): exp(x) - 1, exact for small x.
        ``'exp2'``: exp2(x): 2 to the power x.
        ``'log'``: log(x): natural logarithm.
        ``'log1p'``: log1p(x): log(1 + x), exact for small x.
        ``'log2'``: log2(x): logarithm to base 2.
        ``'log10'``: log10(x): logarithm to base 10.
        ``'floor'``: floor(x): largest whole number not above x.
        ``'ceil'``: ceil(x): smallest whole number not below x.
        ``'trunc'``: trunc(x): x without its fraction.
        ``'round'``: round(x): nearest whole number, halves to the even one.
        ``'fract'``: fract(x): x - floor(x).
        ``'abs'``: abs(x): size without sign.
        ``'sign'``: sign(x): -1, 0 or 1.
        ``'min'``: min(a, b): the smaller, component by component.
        ``'max'``: max(a, b): the larger, component by component.
        ``'pow'``: pow(a, b): a to the power b.
        ``'mod'``: mod(a, b): remainder, with the sign of b.
        ``'hypot'``: hypot(a, b): sqrt(a * a + b * b).
        ``'copysign'``: copysign(a, b): the size of a with the sign of b.
        ``'clamp'``: clamp(x, low, high): x kept within low and high.
        ``'step'``: step(edge, x): 0 below the edge, else 1.
        ``'smoothstep'``: smoothstep(low, high, x): 0 to 1 without corners.
        ``'hsv'``: hsv(hue, saturation, value): the colour of a hue in 0..1, a saturation and a value,
        as red, green, blue.
        ``'luminance'``: luminance(color): how bright a linear colour is seen.
        ``'integer'``: integer(x): x without its fraction; yes as 1, no as 0.
        ``'mat3'``: mat3(a, b, c): a matrix of three rows.
        ``'transpose'``: transpose(m): rows and columns exchanged.
        ``'inverse'``: inverse(m): the matrix that undoes m; 0 where there is none.
        ``'determinant'``: determinant(m): by how much m scales a volume.
        ``'turn'``: turn(axis, angle): the matrix that turns about an axis through 0, by an angle in
        radians.
        ``'transform_point'``: transform_point(m, p): a place moved by a mat4.
        ``'transform_direction'``: transform_direction(m, v): a direction turned and scaled by a mat4,
        not moved.
        ``'dot'``: dot(a, b): dot product.
        ``'cross'``: cross(a, b): cross product.
        ``'length'``: length(v): length of a vector.
        ``'distance'``: distance(a, b): distance of two places.
        ``'normalize'``: normalize(v): v at length 1; 0 stays 0.
        ``'reflect'``: reflect(v, n): v mirrored at the plane with unit normal n.
        ``'refract'``: refract(v, n, ratio): unit vector v bent at a surface with unit normal n; 0 where
        nothing passes.
        ``'faceforward'``: faceforward(n, v, seen): n, or -n where dot(seen, v) is not below 0.
        ``'rotate'``: rotate(v, axis, angle): v turned about an axis through 0, by an angle in radians.
    a : ArrayLike | str, default: 0.0
        First value.
    b : ArrayLike | str, default: 0.0
        Second value.
        Matters where ``how`` is ['+', '-', '*', '/', '//', '%', '**', 'atan2', 'min', 'max', 'pow',
        'mod', 'hypot', 'copysign', 'clamp', 'step', 'smoothstep', 'hsv', 'mat3', 'turn',
        'transform_point', 'transform_direction', 'dot', 'cross', 'distance', 'reflect', 'refract',
        'faceforward', 'rotate'].
    c : ArrayLike | str, default: 0.0
        Third value.
        Matters where ``how`` is ['clamp', 'smoothstep', 'hsv', 'mat3', 'refract', 'faceforward',
        'rotate'].

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def measure(
    geo: Geo,
    *,
    what: Literal['area', 'perimeter', 'length', 'angle', 'face_count', 'sides', 'valence', 'mean_curvature', 'gauss_curvature', 'turn', 'bend', 'planarity', 'thickness', 'piece', 'piece_size', 'walk'] = 'area',
    name: str = '',
    begin: str = 'index == 0',
    reach: float | str = 0.0,
) -> Geo:
    """Measure elements and keep the numbers as an attribute.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    what : str, default: 'area'
        What to measure.
        ``'area'``: area of faces.
        ``'perimeter'``: length of the outline of faces.
        ``'length'``: length of edges and curves.
        ``'angle'``: angle by which the surface bends at edges: 0 flat, above 0 a ridge.
        ``'face_count'``: number of faces at edges.
        ``'sides'``: number of corners of faces.
        ``'valence'``: number of edges and curve segments at points.
        ``'mean_curvature'``: mean curvature at points, above 0 where the surface bulges.
        ``'gauss_curvature'``: Gaussian curvature at points.
        ``'turn'``: angle by which curves turn at points.
        ``'bend'``: curvature of curves at points, 1 by the radius.
        ``'planarity'``: how bent faces are, 0 is flat.
        ``'thickness'``: way through the material at points, -1 where there is no other side.
        ``'piece'``: number of the connected part, of points and faces.
        ``'piece_size'``: number of points or faces in the connected part.
        ``'walk'``: distance along the surface from some points, -1 where no way leads.
    name : str, default: ''
        Attribute to make; empty means as the measure is called.
    begin : str, default: 'index == 0'
        The points where the distance is 0.
        Matters where ``what`` is 'walk'.
    reach : float | str, m, default: 0.0
        Distances above this become this; 0 means no limit.
        Matters where ``what`` is 'walk'.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attribute.
    """

def merge_faces(
    geo: Geo,
    *,
    where: str = '',
    by: Literal['plane', 'label', 'marked'] = 'plane',
    angle: float | str = 0.1,
    label: str = '',
    equal_values: bool = True,
    drop_straight: bool = True,
) -> Geo:
    """Put faces that share an edge together: those in one plane, those with one label, or all marked ones.

    Faces that would have a hole, or touch themselves in a point, stay as they are, which is said. A
    merged face stands where the first of them stood.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces that may be merged; empty means all.
    by : {'plane', 'label', 'marked'}, default: 'plane'
        Which neighbours become one.
        ``'plane'``: faces that lie in one plane.
        ``'label'``: faces with the same value of an attribute.
        ``'marked'``: all marked faces that hang together.
    angle : float | str, °, default: 0.1
        By how much two faces may differ and still lie in one plane.
        Matters where ``by`` is 'plane'.
    label : str, default: ''
        A whole number, text or flag of the faces.
        Matters where ``by`` is 'label'.
    equal_values : bool, default: True
        Only where all values of faces and corners are the same on both sides.
        Matters where ``by`` is 'plane'.
    drop_straight : bool, default: True
        Take out points that then only stand in the middle of a straight edge.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all: a merged face has the values of its first one, and its corners keep theirs.
    """

def mirror(
    geo: Geo,
    *,
    direction: ArrayLike | str = [1.0, 0.0, 0.0],
    through: ArrayLike | str = [0.0, 0.0, 0.0],
    keep_original: bool = True,
    weld: float | str = '0.00005 * extent',
    copy_group: str = 'mirrored',
) -> Geo:
    """Add a mirrored copy, its faces turned over so that they look outwards, and weld it along the mirror.

    Points near the mirror are laid onto it before they are welded, so that the seam is closed and flat.
    What lies beyond the mirror is not cut off.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    direction : ArrayLike | str, default: [1.0, 0.0, 0.0]
        Normal of the mirror.
    through : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        A place on the mirror.
    keep_original : bool, default: True
        Off: only the mirrored copy is left.
    weld : float | str, m, default: '0.00005 * extent'
        Points at most this far from the mirror are joined with their copies; 0 joins those on it.
    copy_group : str, default: 'mirrored'
        Face group that receives the copy.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all onto the copy; stored normals, velocities and instances are mirrored with it. Welded
    points keep the original's values.
    """

def mix_value(
    *,
    a: ArrayLike | str = 0.0,
    b: ArrayLike | str = 1.0,
    t: ArrayLike | str = 0.5,
) -> Geo:
    """A value between two others.

    Parameters
    ----------
    a : ArrayLike | str, default: 0.0
        Value where t is 0.
    b : ArrayLike | str, default: 1.0
        Value where t is 1.
    t : ArrayLike | str, default: 0.5
        From 0 to 1.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def motion(
    geo: Geo,
    *,
    of: Literal['point', 'instance'] = 'point',
    scheme: Literal['central', 'backward'] = 'central',
    apart: float | str = 1.0,
    velocity: str = 'velocity',
    speed: str = 'speed',
    acceleration: str = '',
    path_length: str = '',
    since: float | str = 0.0,
    missing: ArrayLike | str = (0.0, 0.0, 0.0),
) -> Geo:
    """Velocity, speed, acceleration and way of points or placed shapes, from the frames before and after.

    Elements are found again by their stable names, so it does no harm if others come or go. An element
    that is there at one of two frames only gets the difference to this frame. Places are those in the
    space of this frame's input.

    Differences as in R. L. Burden and J. D. Faires, Numerical Analysis, section 4.1.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    of : {'point', 'instance'}, default: 'point'
        What moves: points, or placed shapes.
        ``'point'``: each point.
        ``'instance'``: each instance.
    scheme : {'central', 'backward'}, default: 'central'
        From which frames.
        ``'central'``: the frame before and the one after; exact to the second order.
        ``'backward'``: only from frames before; exact to the first order.
    apart : float | str, frames, default: 1.0
        How far these frames are away.
    velocity : str, default: 'velocity'
        Vector of the velocity in m/s; empty: none.
    speed : str, default: 'speed'
        Its length in m/s; empty: none.
    acceleration : str, default: ''
        Vector of the acceleration in m/s²; empty: none.
    path_length : str, default: ''
        Metres travelled since a frame; empty: none.
    since : float | str, default: 0.0
        Frame from which on metres are counted.
    missing : ArrayLike | str, m/s, default: (0.0, 0.0, 0.0)
        Velocity of elements that are at none of these frames.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attributes that have a name here.
    """

def move_attribute(
    geo: Geo,
    *,
    attributes: str = '*',
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'face',
    to: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'point',
    how: Literal['mean', 'sum', 'min', 'max', 'first', 'mode', 'any', 'all', 'list'] = 'mean',
    name: str = '',
    keep: bool = False,
) -> Geo:
    """Move values between element kinds: from faces to points, from corners to edges, to the whole.

    With 'mean', flags and texts, which have none, take their most frequent value, and lists the first
    one.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    attributes : str, default: '*'
        Names, with spaces between; * stands for any letters.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'face'
        Where they are.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: the whole.
    to : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'point'
        Where they shall be.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: the whole.
    how : {'mean', 'sum', 'min', 'max', 'first', 'mode', 'any', 'all', 'list'}, default: 'mean'
        Which value, where several belong to an element.
        ``'mean'``: their mean.
        ``'sum'``: their sum.
        ``'min'``: the smallest.
        ``'max'``: the largest.
        ``'first'``: the first one.
        ``'mode'``: the most frequent one.
        ``'any'``: yes if any is.
        ``'all'``: yes if all are.
        ``'list'``: all of them, as a list.
    name : str, default: ''
        New name, for one attribute; empty keeps it.
    keep : bool, default: False
        Leave the old attribute where it was.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds the attribute to the new kind, and takes it from the old one if that is asked for.
    """

def nearest_value(
    *,
    of: str = 'source',
    p: ArrayLike | str = 'position',
    reach: ArrayLike | str = 1000000.0,
    on: Literal['closest', 'nearest'] = 'closest',
    field: str = 'distance',
) -> Geo:
    """Something about the nearest place of another geometry.

    Parameters
    ----------
    of : str, default: 'source'
        The name of an input of the node that the wire ends at.
    p : ArrayLike | str, default: 'position'
        From where.
    reach : ArrayLike | str, default: 1000000.0
        How far it looks, in m.
    on : {'closest', 'nearest'}, default: 'closest'
        What is looked for.
        ``'closest'``: the closest place on the surface.
        ``'nearest'``: the nearest point.
    field : str, default: 'distance'
        Distance, position, normal, found, or an attribute there.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def noise_value(
    *,
    how: Literal['noise', 'noise3', 'cells', 'cell_number'] = 'noise',
    p: ArrayLike | str = 'position',
    scale: ArrayLike | str = 3.0,
    octaves: int | str = 1,
) -> Geo:
    """Noise at a place.

    Parameters
    ----------
    how : {'noise', 'noise3', 'cells', 'cell_number'}, default: 'noise'
        Which noise.
        ``'noise'``: smooth, -1 to 1.
        ``'noise3'``: a vector of three noises.
        ``'cells'``: distance to cell centres.
        ``'cell_number'``: a random number per cell.
    p : ArrayLike | str, default: 'position'
        Where it is taken.
    scale : ArrayLike | str, default: 3.0
        How fine it is.
    octaves : int | str, default: 1
        Layers of finer detail.
        Matters where ``how`` is ['noise', 'noise3'].

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def noise_values(
    geo: Geo,
    *,
    name: str = 'rough',
    kind: Literal['point', 'face', 'corner', 'edge', 'curve'] = 'point',
    noise: Literal['gradient', 'vector', 'cell distance', 'cell label'] = 'gradient',
    frequency: float | str = 4.0,
    octaves: int | str = 3,
    offset: ArrayLike | str = [0.0, 0.0, 0.0],
    seed: int | str = 0,
    rescale: bool = False,
    low: float | str = -1.0,
    high: float | str = 1.0,
    place: ArrayLike | str = 'position',
    where: str = '',
) -> Geo:
    """Give every element the value of a noise at its place.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'rough'
        Attribute to make or change.
    kind : {'point', 'face', 'corner', 'edge', 'curve'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'corner'``: each corner.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    noise : {'gradient', 'vector', 'cell distance', 'cell label'}, default: 'gradient'
        Which noise, and its full range.
        ``'gradient'``: smooth hills and hollows, -1 to 1.
        ``'vector'``: three independent ones, each -1 to 1.
        ``'cell distance'``: distance to scattered centres in cells, 0 to 1.73, mostly below 0.8.
        ``'cell label'``: a random number per cell, 0 to 1.
    frequency : float | str, 1/m, default: 4.0
        How many waves or cells in a metre.
    octaves : int | str, default: 3
        Layers, each twice as fine and half as strong.
        Matters where ``noise`` is ['gradient', 'vector'].
    offset : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        Moves the noise.
    seed : int | str, default: 0
        Another number gives another noise.
    rescale : bool, default: False
        Map the full range to another one.
    low : float | str, default: -1.0
        What the lower end of the full range becomes.
        Matters where ``rescale`` is True.
    high : float | str, default: 1.0
        What the upper end becomes.
        Matters where ``rescale`` is True.
    place : ArrayLike | str, default: 'position'
        Where each element looks at the noise.
    where : str, default: ''
        Which elements receive a value; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attribute.
    """

def number_value(
    *,
    value: ArrayLike | str = 1.0,
) -> Geo:
    """One value, to be used in several places.

    Parameters
    ----------
    value : ArrayLike | str, default: 1.0
        The number, or a formula.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def offset_curve(
    geo: Geo,
    *,
    where: str = '',
    distance: float | str = '0.05 * extent',
    corners: Literal['sharp', 'round', 'cut'] = 'sharp',
    steps: int | str = 8,
    keep_curves: bool = True,
    offset_group: str = 'offset',
) -> Geo:
    """Make curves at a distance from curves, in their plane.

    Where a curve would cross itself the loops are taken out (GEOS buffers), so that one curve may
    become several or none. Closed curves grow outwards whichever way they run.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Curves to follow; empty means all.
    distance : float | str, m, default: '0.05 * extent'
        How far; outwards or to the left, negative goes the other way.
    corners : {'sharp', 'round', 'cut'}, default: 'sharp'
        How outer corners are made.
        ``'sharp'``: sharp, up to four times the distance.
        ``'round'``: round.
        ``'cut'``: cut off.
    steps : int | str, default: 8
        Points along a round corner, per quarter.
        Matters where ``corners`` is 'round'.
    keep_curves : bool, default: True
        Keep the curves that are followed.
    offset_group : str, default: 'offset'
        Curve group that receives the new curves.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; new points copy the nearest point of their curve, new curves copy theirs.
    """

def orient_faces(
    geo: Geo,
    *,
    where: str = '',
    closed: Literal['outwards', 'outermost outwards', 'hollows inwards', 'most'] = 'outwards',
    open: Literal['most', 'direction'] = 'most',
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
) -> Geo:
    """Turn faces over so that all that touch along an edge look the same way.

    Regions end at open borders, at edges of more than two faces and at faces that are not marked. A
    region that closes looks outwards (its volume is positive); others look as most of their area does,
    or along a direction. Where a band has one side only, the edges across which its faces cannot agree
    are told.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces that may be turned; empty means all.
    closed : {'outwards', 'outermost outwards', 'hollows inwards', 'most'}, default: 'outwards'
        Which way closed parts look.
        ``'outwards'``: outwards, each by itself.
        ``'outermost outwards'``: outwards where nothing lies around it, others as most of their area
        does now.
        ``'hollows inwards'``: outwards, inwards where one lies inside another, and so on by turns.
        ``'most'``: as most of their area does now.
    open : {'most', 'direction'}, default: 'most'
        Which way open parts look.
        ``'most'``: as most of their area does now.
        ``'direction'``: along a direction, as far as most of their area can.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        The direction.
        Matters where ``open`` is 'direction'.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; corner values go with their corners, and stored normals of what is turned point the
    other way.
    """

def paint(
    geo: Geo,
    *,
    name: str = 'painted',
    kind: Literal['point', 'face'] = 'point',
    holds: Literal['number', 'flag', 'color'] = 'number',
    start: float | str = 0.0,
    mode: Literal['replace', 'add', 'erase', 'smooth'] = 'replace',
    radius: float | str = '0.03 * extent',
    strength: float | str = 1.0,
    value: float | str = 1.0,
    color: ArrayLike | str = [0.8, 0.2, 0.1, 1.0],
    hard: bool = False,
    mirror: bool = False,
    strokes: Sequence[Mapping[str, Any]] = [],
) -> Geo:
    """Paint an attribute by hand: choose the card, take the tool paint in the view, and drag over the surface.

    Strokes are held by faces and the place in them, so they follow when the surface moves, bends or is
    scaled, and stay where they are when other faces come and go; where a face is gone, they stay in
    space.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'painted'
        Attribute that is painted; what it holds already is painted over.
    kind : {'point', 'face'}, default: 'point'
        What has the attribute.
        ``'point'``: points.
        ``'face'``: faces.
    holds : {'number', 'flag', 'color'}, default: 'number'
        What is painted.
        ``'number'``: a number.
        ``'flag'``: a group.
        ``'color'``: a colour with alpha.
    start : float | str, default: 0.0
        Value where nothing is painted, if the attribute is new.
        Matters where ``holds`` is 'number'.
    mode : {'replace', 'add', 'erase', 'smooth'}, default: 'replace'
        What the next stroke does.
        ``'replace'``: towards the value.
        ``'add'``: the value on top.
        ``'erase'``: back to what was there.
        ``'smooth'``: towards the mean of the neighbours.
    radius : float | str, m, default: '0.03 * extent'
        Size of the brush for the next stroke.
    strength : float | str, default: 1.0
        How much one stroke lays on.
    value : float | str, default: 1.0
        Number that is laid on.
        Matters where ``holds`` is 'number'.
    color : ArrayLike | str, default: [0.8, 0.2, 0.1, 1.0]
        Colour that is laid on, linear light.
        Matters where ``holds`` is 'color'.
    hard : bool, default: False
        The brush has a hard edge instead of a soft one.
    mirror : bool, default: False
        The next stroke is laid on the other side of x = 0, too.
    strokes : Sequence[Mapping[str, Any]], default: []
        What was painted; each stroke is one step back.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or changes the painted attribute.
    """

def panels(
    geo: Geo,
    *,
    where: str = '',
    using: Literal['surface', 'sheet'] = 'surface',
    over: Literal['uv', 'flat'] = 'uv',
    columns: int | str = 4,
    rows: int | str = 4,
    gap_in: Literal['share', 'metres'] = 'share',
    gap: float | str = 0.1,
    gap_width: float | str = 0.01,
    divisions: int | str = 1,
    panel: str = 'panel',
) -> Geo:
    """Divide a surface into columns and rows of panels that share no points, with gaps between them.

    Coordinates run from the least to the largest of the marked faces. Panels end half a gap before the
    lines between them; at an outer border they go on to it, where the surface closes there is a gap as
    elsewhere. Cut from the surface, they are bounded by lines of the coordinates, which are taken as
    linear in each face. A panel laid on the surface needs places for all its points: others are left
    out, which is said; where the uv lies on itself, it takes the first face there. Faces not marked get
    the number -1.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to divide; empty means all. The others stay as they are.
    using : {'surface', 'sheet'}, default: 'surface'
        What panels are made of.
        ``'surface'``: of the faces of the surface, cut where panels end.
        ``'sheet'``: of new even quads, laid on the surface by its coordinates.
    over : {'uv', 'flat'}, default: 'uv'
        Which coordinates rows and columns follow.
        ``'uv'``: the uv of the surface.
        ``'flat'``: the surface laid flat along its mean normal.
    columns : int | str, default: 4
        How many panels along the first coordinate.
    rows : int | str, default: 4
        How many panels along the second.
    gap_in : {'share', 'metres'}, default: 'share'
        How the gap is given.
        ``'share'``: as a share of a panel.
        ``'metres'``: in metres on the surface, as a mean over it.
    gap : float | str, default: 0.1
        Width of the gaps, as a share of a panel's.
        Matters where ``gap_in`` is 'share'.
    gap_width : float | str, m, default: 0.01
        Width of the gaps.
        Matters where ``gap_in`` is 'metres'.
    divisions : int | str, default: 1
        Quads along each side of a panel.
        Matters where ``using`` is 'sheet'.
    panel : str, default: 'panel'
        Face attribute that receives the number of the panel, row by row.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Cut faces interpolate; panels laid on the surface have the values of the places they
    lie at.
    """

def paths_over_time(
    geo: Geo,
    *,
    where: str = '',
    whole_way: bool = False,
    back: int | str = 12,
    since: float | str = 0.0,
    every: float | str = 1.0,
    age: str = 'age',
) -> Geo:
    """Curves through the places where points were, from then until now.

    Points are found again by their stable names. A path begins where its point has been there ever
    since; a point that is new has none yet. Places are those in the space of this frame's input.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Points whose paths are drawn, as they are now; empty means all.
    whole_way : bool, default: False
        Go back to a certain frame, instead of so many frames.
    back : int | str, default: 12
        How many steps they go back.
        Matters where ``whole_way`` is False.
    since : float | str, default: 0.0
        Frame where they begin.
        Matters where ``whole_way`` is True.
    every : float | str, frames, default: 1.0
        How far the steps are apart.
    age : str, default: 'age'
        Point attribute: seconds since then; empty: none.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Points and curves carry the attributes of the points whose paths they are, as they are now.
    """

def picture_value(
    *,
    of: str = 'source',
    uv: ArrayLike | str = 'vec2(0.5 + position.x, 0.5 - position.z)',
    part: Literal['x', 'y', 'z', 'w', 'all'] = 'x',
) -> Geo:
    """What a picture of another geometry is at a place of it.

    Parameters
    ----------
    of : str, default: 'source'
        The name of an input of the node that the wire ends at.
    uv : ArrayLike | str, default: 'vec2(0.5 + position.x, 0.5 - position.z)'
        Where, from 0 to 1 across and up the picture.
    part : {'x', 'y', 'z', 'w', 'all'}, default: 'x'
        What is taken.
        ``'x'``: grey, or red.
        ``'y'``: green.
        ``'z'``: blue.
        ``'w'``: opacity.
        ``'all'``: all four, as a colour.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def place_instances(
    geo: Geo,
    *shapes: Geo | Sequence[Geo],
    where: str = '',
    choose: Literal['by number', 'at random'] = 'by number',
    number: float | str = 'index',
    seed: int | str = 1,
    scale: float | str = 1.0,
    turn: Literal['normal', 'rotation', 'not'] = 'normal',
    normal: ArrayLike | str = 'normal',
    up: ArrayLike | str = [0.0, 0.0, 1.0],
    spin: float | str = 0.0,
    keep_geo: bool = False,
) -> Geo:
    """Place a shape on every point, as an instance: it is stored once and drawn many times.

    Points without a normal use y. Instances stay instances through transform, join and groups; flatten
    instances turns them into mesh.

    Parameters
    ----------
    geo : Geo
        Geometry with the points.
    shapes : Geo | Sequence[Geo]
        Shapes to place, numbered from 0 in order.
    where : str, default: ''
        Points to place on; empty means all.
    choose : {'by number', 'at random'}, default: 'by number'
        Which of several shapes.
        ``'by number'``: the number below, counted round.
        ``'at random'``: any of them, stable under changes.
    number : float | str, default: 'index'
        Number of the shape.
        Matters where ``choose`` is 'by number'.
    seed : int | str, default: 1
        Another number gives another choice.
        Matters where ``choose`` is 'at random'.
    scale : float | str, default: 1.0
        Size; multiplied with the point attribute scale, if there is one.
    turn : {'normal', 'rotation', 'not'}, default: 'normal'
        How shapes are turned.
        ``'normal'``: their y axis along the normal, their z axis as near to up as can be.
        ``'rotation'``: by the point attribute rotation, a quaternion.
        ``'not'``: as they are.
    normal : ArrayLike | str, default: 'normal'
        Where the shape's y axis points.
        Matters where ``turn`` is 'normal'.
    up : ArrayLike | str, default: [0.0, 0.0, 1.0]
        Where the shape's z axis points, as far as it can.
        Matters where ``turn`` is 'normal'.
    spin : float | str, °, default: 0.0
        Turns the shape about its y axis.
    keep_geo : bool, default: False
        Keep the geometry with the points.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Instances receive all attributes of their point, their own number as instance_index and their
    point's as point_index. The shapes keep theirs. Kept points keep everything.
    """

def project_shape(
    *,
    shape: str = '',
    stands_at: ArrayLike | str = [0.0, 0.0, 0.0],
    turned: ArrayLike | str = [0.0, 0.0, 0.0],
    scaled: float | str = 1.0,
    error: float | str = 0.0,
) -> Geo:
    """Shape that is stored with the project, as it is, standing at a place of its own.

    Other shapes see it at its place: in nearness, rays, transfers and joins. Apply place makes the
    place part of its points.

    Parameters
    ----------
    shape : str, default: ''
        Shape of this project, or a name given with --in.
    stands_at : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        Where its origin stands in the world; its points keep their numbers.
    turned : ArrayLike | str, °, default: [0.0, 0.0, 0.0]
        Angles about x, then y, then z.
    scaled : float | str, default: 1.0
        Size in the world.
    error : float | str, m, default: 0.0
        How far lines may be from the bows of a drawing; 0 is a thousandth of its size.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes whatever attributes the shape holds, and with a place the attribute 'place' of the whole
    """

def proximity_deform(
    geo: Geo,
    source: Geo,
    *,
    where: str = '',
    effect: Literal['pull', 'push', 'bulge'] = 'bulge',
    feel: Literal['surface', 'points', 'count'] = 'surface',
    radius: float | str = '0.3 * extent',
    most: int | str = 10,
    falloff: Sequence[Sequence[Any]] = [[0.0, 1.0], [0.5, 0.5], [1.0, 0.0]],
    strength: float | str = 1.0,
    amount: float | str = '0.06 * extent',
    move: Literal['points', 'faces', 'pieces'] = 'points',
    name: str = 'near',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Move points by how near they are to points, curves or a mesh.

    Parameters
    ----------
    geo : Geo
        Geometry whose points move.
    source : Geo
        Points, curves or mesh that they feel.
    where : str, default: ''
        Points that may move; empty means all.
    effect : {'pull', 'push', 'bulge'}, default: 'bulge'
        What the points do.
        ``'pull'``: go towards the nearest place.
        ``'push'``: go away from it, as far as the radius.
        ``'bulge'``: go along their normals by the amount.
    feel : {'surface', 'points', 'count'}, default: 'surface'
        What is felt.
        ``'surface'``: the nearest place on faces or curves.
        ``'points'``: the nearest point.
        ``'count'``: how many points are within the radius.
    radius : float | str, m, default: '0.3 * extent'
        How far it is felt.
    most : int | str, default: 10
        Number of points that counts as full strength.
        Matters where ``feel`` is 'count'.
    falloff : Sequence[Sequence[Any]], default: [[0.0, 1.0], [0.5, 0.5], [1.0, 0.0]]
        Strength (up) by distance as a share of the radius (along).
    strength : float | str, default: 1.0
        Factor of each point.
    amount : float | str, m, default: '0.06 * extent'
        How far a bulge goes at full strength.
        Matters where ``effect`` is 'bulge'.
    move : {'points', 'faces', 'pieces'}, default: 'points'
        What moves as one.
        ``'points'``: each point by itself.
        ``'faces'``: whole faces.
        ``'pieces'``: whole connected parts.
    name : str, default: 'near'
        Attribute of each point that keeps its strength.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the number attribute of strength. Stored normals are left as they are.
    """

def pull_apart(
    geo: Geo,
    *,
    where: str = '',
    part: str = '',
    around: Literal['middle', 'place'] = 'middle',
    center: ArrayLike | str = [0.0, 0.0, 0.0],
    amount: float | str = 0.5,
    along: ArrayLike | str = [1.0, 1.0, 1.0],
    keep_rest: bool = True,
) -> Geo:
    """Move each part away from a centre, along the line from the centre to the middle of the part, without turning it.

    A formula for the amount may differ from part to part, e.g. by ``cell`` or ``piece``. Where parts
    share points, pull their faces apart first (unshare, or break into cells).

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Points whose parts move; empty means all. A part moves if any of its points is marked.
    part : str, default: ''
        Point or face attribute that tells parts apart, e.g. cell; empty takes connected pieces.
    around : {'middle', 'place'}, default: 'middle'
        The centre.
        ``'middle'``: middle of everything.
        ``'place'``: a given place.
    center : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        The place.
        Matters where ``around`` is 'place'.
    amount : float | str, default: 0.5
        How far, as a share of the part's distance from the centre; the mean over a part's points
        counts.
    along : ArrayLike | str, default: [1.0, 1.0, 1.0]
        Factors along x, y and z; 0 keeps parts in place along that axis.
    keep_rest : bool, default: True
        Remember where points were in the attribute rest.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; only positions change. Adds the point attribute rest with the places before.
    """

def push(
    geo: Geo,
    stop: Geo | None = None,
    *,
    where: str = '',
    amount: float | str = '0.03 * extent',
    along: Literal['normals', 'direction'] = 'normals',
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
    gap: float | str = '0.0005 * extent',
    stopped: str = 'stopped',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Push points along their normals; with a mesh connected to 'stop', only as far as it lets them.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    stop : Geo | None
        Mesh that stops the points.
    where : str, default: ''
        Points that are pushed; empty means all.
    amount : float | str, m, default: '0.03 * extent'
        How far; below 0 goes inwards.
    along : {'normals', 'direction'}, default: 'normals'
        Which way.
        ``'normals'``: the points' normals.
        ``'direction'``: the direction below.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        Which way; the length does not matter.
        Matters where ``along`` is 'direction'.
    gap : float | str, m, default: '0.0005 * extent'
        How far from the stopping mesh points come to rest.
    stopped : str, default: 'stopped'
        Group of the points that were stopped.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; with a mesh that stops, adds the group of points that were stopped. Stored normals are
    left as they are.
    """

def random_value(
    *,
    seed: int | str = 0,
    key: str = '',
) -> Geo:
    """A number in 0..1 for each element, whatever is added around it.

    Parameters
    ----------
    seed : int | str, default: 0
        Another seed gives other numbers.
    key : str, default: ''
        Elements with the same key, e.g. piece, get the same number; empty means each its own.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def random_values(
    geo: Geo,
    *,
    name: str = 'variation',
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance'] = 'point',
    values: Literal['uniform', 'normal', 'integer', 'choice', 'unit vector', 'color'] = 'uniform',
    low: float | str = 0.0,
    high: float | str = 1.0,
    mean: float | str = 0.0,
    deviation: float | str = 1.0,
    choices: str = 'small medium large',
    weights: str = '',
    per: str = '',
    seed: int | str = 0,
    where: str = '',
) -> Geo:
    """Give every element a random value that stays when other elements are added or removed.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'variation'
        Attribute to make or change.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
    values : {'uniform', 'normal', 'integer', 'choice', 'unit vector', 'color'}, default: 'uniform'
        What kind of values.
        ``'uniform'``: numbers, all equally likely between low and high.
        ``'normal'``: numbers around a mean (bell curve).
        ``'integer'``: whole numbers from low to high, both included.
        ``'choice'``: one of some values, with weights.
        ``'unit vector'``: directions, all equally likely.
        ``'color'``: bright colours of any hue.
    low : float | str, default: 0.0
        Lowest number.
        Matters where ``values`` is ['uniform', 'integer'].
    high : float | str, default: 1.0
        Highest number.
        Matters where ``values`` is ['uniform', 'integer'].
    mean : float | str, default: 0.0
        Middle of the bell curve.
        Matters where ``values`` is 'normal'.
    deviation : float | str, default: 1.0
        Standard deviation: two thirds lie closer to the mean.
        Matters where ``values`` is 'normal'.
    choices : str, default: 'small medium large'
        Values to choose from, with spaces between.
        Matters where ``values`` is 'choice'.
    weights : str, default: ''
        How likely each is, e.g. 5 3 1; empty means all alike.
        Matters where ``values`` is 'choice'.
    per : str, default: ''
        Label whose elements share one value, e.g. piece, also when pieces are counted anew; empty: each
        its own.
    seed : int | str, default: 0
        Another number gives other values.
    where : str, default: ''
        Which elements receive a value; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attribute.
    """

def ray_hits(
    geo: Geo,
    target: Geo,
    *,
    kind: Literal['point', 'face', 'corner', 'edge', 'curve'] = 'point',
    where: str = '',
    origin: ArrayLike | str = 'position',
    direction: ArrayLike | str = [0.0, -1.0, 0.0],
    ways: Literal['forwards', 'both'] = 'forwards',
    limit_reach: bool = False,
    reach: float | str = '0.6 * extent',
    offset: float | str = '0.00005 * extent',
    read: str = '',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Send a ray from each element and make a point at every place that it hits, nearest first.

    ``sender`` is the number of the element that sent the ray, ``number`` counts its hits from 0,
    ``distance`` is in m, ``normal`` and ``face`` are those of the target.

    Parameters
    ----------
    geo : Geo
        Geometry whose elements send the rays.
    target : Geo
        Mesh that the rays may hit.
    kind : {'point', 'face', 'corner', 'edge', 'curve'}, default: 'point'
        What sends the rays.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'corner'``: each corner.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    where : str, default: ''
        Which elements send one; empty means all.
    origin : ArrayLike | str, default: 'position'
        Where each ray begins.
    direction : ArrayLike | str, default: [0.0, -1.0, 0.0]
        Which way; the length does not matter.
    ways : {'forwards', 'both'}, default: 'forwards'
        Along the direction only, or against it too.
        ``'forwards'``: along the direction.
        ``'both'``: both ways.
    limit_reach : bool, default: False
        Ignore what is farther away than the reach.
    reach : float | str, m, default: '0.6 * extent'
        Largest distance.
        Matters where ``limit_reach`` is True.
    offset : float | str, m, default: '0.00005 * extent'
        Start this far along the ray, so that a surface does not hit itself.
    read : str, default: ''
        Attributes of what was hit, with spaces between; * for all.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes points with sender, number, distance, normal, face and the attributes that are read; carries
    only the values of the whole of the first input.
    """

def ray_value(
    *,
    of: str = 'source',
    p: ArrayLike | str = 'position',
    direction: ArrayLike | str = [0.0, -1.0, 0.0],
    reach: ArrayLike | str = 1000000.0,
    field: str = 'distance',
) -> Geo:
    """Something about the first place that a ray hits.

    Parameters
    ----------
    of : str, default: 'source'
        The name of an input of the node that the wire ends at.
    p : ArrayLike | str, default: 'position'
        Where it begins.
    direction : ArrayLike | str, default: [0.0, -1.0, 0.0]
        Where it goes.
    reach : ArrayLike | str, default: 1000000.0
        How far it goes, in m.
    field : str, default: 'distance'
        Distance, position, normal, found, or an attribute there.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def raycast(
    geo: Geo,
    target: Geo,
    *,
    kind: Literal['point', 'face', 'corner', 'edge', 'curve'] = 'point',
    where: str = '',
    origin: ArrayLike | str = 'position',
    direction: ArrayLike | str = [0.0, -1.0, 0.0],
    ways: Literal['forwards', 'both'] = 'forwards',
    hits: Literal['first', 'all'] = 'first',
    limit_reach: bool = False,
    reach: float | str = '0.6 * extent',
    offset: float | str = '0.00005 * extent',
    name: str = 'hit',
    read: str = '',
    values: Literal['interpolated', 'nearest'] = 'interpolated',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Send a ray from each element and tell what it hits.

    Makes the groups ``hit`` and ``hit_missed`` and the attributes ``hit_position`` (m), ``hit_normal``
    (unit, of the face that was hit), ``hit_distance`` (m) and ``hit_face`` (its number). Where nothing
    is hit, the position is where the ray begins, the normal is 0, and distance and face are -1, which
    no hit has. Elements that send no ray are in neither group.

    Parameters
    ----------
    geo : Geo
        Geometry whose elements send the rays.
    target : Geo
        Mesh that the rays may hit.
    kind : {'point', 'face', 'corner', 'edge', 'curve'}, default: 'point'
        What sends the rays.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'corner'``: each corner.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    where : str, default: ''
        Which elements send one; empty means all.
    origin : ArrayLike | str, default: 'position'
        Where each ray begins.
    direction : ArrayLike | str, default: [0.0, -1.0, 0.0]
        Which way; the length does not matter.
    ways : {'forwards', 'both'}, default: 'forwards'
        Along the direction only, or against it too.
        ``'forwards'``: along the direction.
        ``'both'``: both ways, the nearer hit counts.
    hits : {'first', 'all'}, default: 'first'
        Which hits.
        ``'first'``: the first one.
        ``'all'``: all along the ray.
    limit_reach : bool, default: False
        Ignore what is farther away than the reach.
    reach : float | str, m, default: '0.6 * extent'
        Largest distance.
        Matters where ``limit_reach`` is True.
    offset : float | str, m, default: '0.00005 * extent'
        Start this far along the ray, so that a surface does not hit itself.
    name : str, default: 'hit'
        Group of the elements that hit; the other attributes begin with it.
    read : str, default: ''
        Attributes of what was hit to bring along, with spaces between; * for all.
    values : {'interpolated', 'nearest'}, default: 'interpolated'
        How they are read.
        ``'interpolated'``: blended at the place.
        ``'nearest'``: of the nearest corner.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the groups hit and hit_missed and the attributes hit_position,
    hit_normal, hit_distance and hit_face, the read attributes with hit_ before their names, and with
    all hits hit_count and hit_distances.
    """

def read_file(
    *,
    file: str = '',
    up: Literal['y', 'z'] = 'y',
    scale: float | str = 1.0,
    error: float | str = 0.0,
) -> Geo:
    """Mesh from a file, turned and scaled to metres with y up.

    Parameters
    ----------
    file : str, default: ''
        Mesh, scan, drawing or table; see the reference of formats.
    up : {'y', 'z'}, default: 'y'
        Axis that points up in the file.
        ``'y'``: as here.
        ``'z'``: turned to y.
    scale : float | str, default: 1.0
        Metres per unit of the file, e.g. 0.001 for millimetres.
    error : float | str, m, default: 0.0
        How far lines may be from the bows of a drawing; 0 is a thousandth of its size.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes whatever attributes the file holds; see the reference of formats
    """

def read_picture(
    *,
    picture: str = '',
    size: float | str = 1.0,
    points: int | str = 256,
    holds: Literal['automatic', 'data', 'colours'] = 'automatic',
    between: Literal['linear', 'nearest'] = 'linear',
    beyond: Literal['clamp', 'repeat', 'mirror', 'nothing'] = 'clamp',
) -> Geo:
    """Sheet from a picture, flat on the ground: its points have the colour and the value that the picture has there.

    Other operators ask the picture through an input: ``source.at(uv).x`` in *set attribute* or *group*,
    or ``sand.at(position.xz / 2 + 0.5)`` in a script with the input ``sand: geometry``. Places of a
    picture go from 0 to 1, from left to right and from its foot to its top.

    Parameters
    ----------
    picture : str, default: ''
        PNG, JPEG or TIFF of this project, or a name given with --in.
    size : float | str, m, default: 1.0
        Length of the longer side of the sheet.
    points : int | str, default: 256
        Points along the longer side, at most one for each pixel; 0 is all.
    holds : {'automatic', 'data', 'colours'}, default: 'automatic'
        What its numbers are.
        ``'automatic'``: colours if there are red, green and blue of 8 bits, else data.
        ``'data'``: heights or masks: numbers as they are.
        ``'colours'``: colours for a screen, which become linear.
    between : {'linear', 'nearest'}, default: 'linear'
        What is between pixels.
        ``'linear'``: blended from the four around.
        ``'nearest'``: that of the pixel.
    beyond : {'clamp', 'repeat', 'mirror', 'nothing'}, default: 'clamp'
        What is outside of the picture.
        ``'clamp'``: as at the edge.
        ``'repeat'``: the picture again.
        ``'mirror'``: the picture again, each time mirrored.
        ``'nothing'``: zero.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv, the point attributes color and value (its first channel), and the
    picture
    """

def rectangle(
    *,
    size: ArrayLike | str = [1.0, 1.0],
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Closed curve of four points around the origin.

    Parameters
    ----------
    size : ArrayLike | str, m, default: [1.0, 1.0]
        Length of both sides.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def region_borders(
    geo: Geo,
    *,
    label: str = '',
    open_borders: bool = False,
    split: bool = False,
    border_group: str = 'region_border',
) -> Geo:
    """Find the edges between faces that hold different labels, and part the faces there on demand.

    Without a label, faces are told apart by the direction they look in most: along +x, -x, +y, -y, +z
    or -z.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    label : str, default: ''
        Face attribute whose change marks a border: text, integer, number or group; empty tells faces
        apart by the way they look.
    open_borders : bool, default: False
        Count open borders too.
    split : bool, default: False
        Part the faces along the borders.
    border_group : str, default: 'region_border'
        Edge group that receives the borders.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all and adds the edge group; copies of points have the values of their source.
    """

def regular_polygon(
    *,
    sides: int | str = 6,
    radius: float | str = 0.5,
    star: float | str = 1.0,
    facing: Literal['up', 'forward', 'side'] = 'up',
) -> Geo:
    """Closed curve with equal sides, or a star with as many tips.

    Parameters
    ----------
    sides : int | str, default: 6
        Number of sides.
    radius : float | str, m, default: 0.5
        Distance of the points from the middle.
    star : float | str, default: 1.0
        Distance of points between the corners, as a share of the radius; 1 makes none.
    facing : {'up', 'forward', 'side'}, default: 'up'
        Which way the plane looks.
        ``'up'``: along y.
        ``'forward'``: along z.
        ``'side'``: along x.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes no attributes
    """

def relax(
    geo: Geo,
    surface: Geo | None = None,
    *,
    where: str = '',
    passes: int | str = 20,
    step: float | str = 0.5,
    radius: float | str = 0.0,
    borders: Literal['hold', 'free'] = 'hold',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Even out points: each is pushed away by those around it, and comes back to the surface after every pass.

    Without a surface, a mesh stays on itself as it was, points of curves stay on their curves, and
    loose points move in space.

    Parameters
    ----------
    geo : Geo
        Points to even out.
    surface : Geo | None
        Mesh or curves on which they stay; without any they move freely.
    where : str, default: ''
        Points that move; empty means all. The others stay and push.
    passes : int | str, default: 20
        How often.
    step : float | str, default: 0.5
        How far each goes.
    radius : float | str, m, default: 0.0
        How far points push each other; 0 means by their number.
    borders : {'hold', 'free'}, default: 'hold'
        Points on open borders of a mesh and at ends of open curves.
        ``'hold'``: stay.
        ``'free'``: move too.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; a stored normal of points becomes that of the surface where they come to rest.
    """

def remap(
    geo: Geo,
    *,
    kind: Literal['point', 'face', 'edge', 'corner', 'curve', 'instance'] = 'point',
    value: ArrayLike | str = 'position.y',
    name: str = 'remapped',
    from_range: Literal['real', 'given', 'signed'] = 'real',
    low: float | str = 0.0,
    high: float | str = 1.0,
    through: Literal['line', 'response curve', 'gradient'] = 'line',
    curve: Sequence[Sequence[Any]] = [[0.0, 0.0], [1.0, 1.0]],
    gradient: Sequence[Sequence[Any]] = [[0.0, 0.01, 0.05, 0.14, 1.0], [0.35, 0.02, 0.25, 0.33, 1.0], [0.7, 0.62, 0.72, 0.42, 1.0], [1.0, 0.9, 0.3, 0.12, 1.0]],
    to_low: float | str = 0.0,
    to_high: float | str = 1.0,
    clamp: bool = True,
    where: str = '',
) -> Geo:
    """Map values from a range to another one, or to colours. Vectors are mapped component by component.

    ``from_range`` 'signed' with a line from 0 to 1 turns normals into colours in which no direction is
    black.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'point', 'face', 'edge', 'corner', 'curve', 'instance'}, default: 'point'
        What has the values.
        ``'point'``: each point.
        ``'face'``: each face.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
    value : ArrayLike | str, default: 'position.y'
        Attribute or formula to remap.
    name : str, default: 'remapped'
        Attribute to make; 'color' is shown as it is.
    from_range : {'real', 'given', 'signed'}, default: 'real'
        Which range is mapped.
        ``'real'``: the lowest and highest value there are.
        ``'given'``: from low to high, below.
        ``'signed'``: -1 to 1, e.g. normals.
    low : float | str, default: 0.0
        Value that becomes the first end.
        Matters where ``from_range`` is 'given'.
    high : float | str, default: 1.0
        Value that becomes the other end.
        Matters where ``from_range`` is 'given'.
    through : {'line', 'response curve', 'gradient'}, default: 'line'
        How.
        ``'line'``: straight.
        ``'response curve'``: by a curve.
        ``'gradient'``: to colours.
    curve : Sequence[Sequence[Any]], default: [[0.0, 0.0], [1.0, 1.0]]
        Share of the way (up) for each share of the range (along).
        Matters where ``through`` is 'response curve'.
    gradient : Sequence[Sequence[Any]], optional
        Colours along the range.
        Matters where ``through`` is 'gradient'.
    to_low : float | str, default: 0.0
        What the first end becomes.
        Matters where ``through`` is ['line', 'response curve'].
    to_high : float | str, default: 1.0
        What the other end becomes.
        Matters where ``through`` is ['line', 'response curve'].
    clamp : bool, default: True
        Keep values beyond the range at its ends.
    where : str, default: ''
        Which elements are remapped, and counted for the real range; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attribute.
    """

def remap_value(
    *,
    x: ArrayLike | str = 'position.y',
    low: ArrayLike | str = 0.0,
    high: ArrayLike | str = 1.0,
    to_low: ArrayLike | str = 0.0,
    to_high: ArrayLike | str = 1.0,
    inside: bool = True,
) -> Geo:
    """A value moved from one range to another, kept inside it or not.

    Parameters
    ----------
    x : ArrayLike | str, default: 'position.y'
        The value.
    low : ArrayLike | str, default: 0.0
        Its lowest.
    high : ArrayLike | str, default: 1.0
        Its highest.
    to_low : ArrayLike | str, default: 0.0
        What the lowest becomes.
    to_high : ArrayLike | str, default: 1.0
        What the highest becomes.
    inside : bool, default: True
        Values beyond the range stay at its ends; off: they go on beyond it.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def remove(
    geo: Geo,
    *,
    kind: Literal['face', 'point', 'edge', 'curve'] = 'face',
    where: str = 'index % 2 == 0',
    leftovers: Literal['remove', 'keep'] = 'remove',
) -> Geo:
    """Remove elements, and what cannot exist without them.

    Removing points or edges removes the faces that use them, and removing points the curves through
    them. Points that were loose before stay, unless they are what is removed.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'face', 'point', 'edge', 'curve'}, default: 'face'
        What to remove.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    where : str, default: 'index % 2 == 0'
        Which elements to remove: a formula or a group; empty removes none.
    leftovers : {'remove', 'keep'}, default: 'remove'
        Points that no face or curve uses any more.
        ``'remove'``: go too.
        ``'keep'``: stay as loose points.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; the elements that stay keep their values, order and identity.
    """

def remove_attributes(
    geo: Geo,
    *,
    names: str = '',
    kind: Literal['all', 'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'all',
    which: Literal['named', 'others'] = 'named',
) -> Geo:
    """Remove attributes and groups by name; points keep their position.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    names : str, default: ''
        Attributes and groups to remove, separated by spaces; * stands for any letters.
    kind : {'all', 'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'all'
        What has them.
        ``'all'``: every kind.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: each whole.
    which : {'named', 'others'}, default: 'named'
        Which of them go.
        ``'named'``: those named.
        ``'others'``: all but those named.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all but those named, which is said.
    """

def rename_attribute(
    geo: Geo,
    *,
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'point',
    name: str = '',
    to: str = '',
) -> Geo:
    """Give an attribute or group another name.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: the whole.
    name : str, default: ''
        Attribute or group to rename.
    to : str, default: ''
        Its new name.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; one attribute has another name.
    """

def repair(
    geo: Geo,
    *,
    doubles: bool = True,
    slivers: bool = True,
    tolerance: float | str = '0.000001 * extent',
    orient: bool = True,
    crossings: bool = True,
    crowded: Literal['part', 'drop', 'leave'] = 'part',
    holes: bool = True,
    hole_size: float | str = '0.5 * extent',
    fill_group: str = 'filled',
) -> Geo:
    """Mend a mesh in steps, from top to bottom; each says what it found, and can be left out.

    What is in order stays as it is, to the bit. Crossings are resolved where parts are closed; of open
    parts, crossing faces are cut so that they share their points along the crossing. Outer borders of
    flat sheets are no holes.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    doubles : bool, default: True
        Weld points in one place, and drop faces that lie on the points of another.
    slivers : bool, default: True
        Take triangles without breadth out, so that nothing opens.
    tolerance : float | str, m, default: '0.000001 * extent'
        What is nearer than this is in one place; what is thinner has no breadth.
    orient : bool, default: True
        Turn faces so that neighbours look alike and closed parts outwards.
    crossings : bool, default: True
        Cut faces where they cross each other; of closed parts, keep the outer surface.
    crowded : {'part', 'drop', 'leave'}, default: 'part'
        Edges with more than two faces, and points where faces meet that share no edge there.
        ``'part'``: part them: what bounds one solid stays together.
        ``'drop'``: part them, and drop what hangs on there without closing anything, as fins.
        ``'leave'``: leave them.
    holes : bool, default: True
        Close small holes.
    hole_size : float | str, m, default: '0.5 * extent'
        Borders up to this long around are holes to close.
        Matters where ``holes`` is True.
    fill_group : str, default: 'filled'
        Face group that receives the faces over holes.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Points welded keep the first one's values, cut faces interpolate, faces over holes copy
    the face beside them.
    """

def repeat(
    *,
    rounds: int | str = 3,
    until: str = '',
) -> Geo:
    """Run the graph inside several times: what comes out goes in again.

    Formulas inside read ``iteration`` (from 0) and ``iterations``. An output that has the name of an
    input is carried to the next round; other inputs stay as they are. Values are carried as attributes
    of the whole.

    Parameters
    ----------
    rounds : int | str, default: 3
        How often the graph inside runs.
    until : str, default: ''
        End early when this holds after a round: a formula on the whole, e.g. high.y > 2.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    As the operators inside say. What comes out under the name of an input goes in there again in the
    next round.
    """

def resample(
    geo: Geo,
    *,
    where: str = '',
    by: Literal['count', 'length'] = 'count',
    count: int | str = 20,
    length: float | str = '0.1 * extent',
    keep_corners: float | str = 180.0,
    side_name: str = 'side',
) -> Geo:
    """Space points evenly along curves.

    With kept corners the curve is resampled from corner to corner, each part with its share of the
    points. Without, ``side`` counts the parts of the old curve. Curves without length stay as they are.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Curves to resample; empty means all.
    by : {'count', 'length'}, default: 'count'
        How many points.
        ``'count'``: the same number on every curve.
        ``'length'``: parts of at most this length.
    count : int | str, default: 20
        Parts of each curve.
        Matters where ``by`` is 'count'.
    length : float | str, m, default: '0.1 * extent'
        Longest part.
        Matters where ``by`` is 'length'.
    keep_corners : float | str, °, default: 180.0
        Keep points where the curve turns by more than this; 180 keeps none.
    side_name : str, default: 'side'
        Point attribute that receives which part between two kept corners the point lies on, from 0.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; new points blend the two they lie between. Resampled curves get points of their own;
    the old points stay where faces or other curves use them.
    """

def reverse(
    geo: Geo,
    *,
    kind: Literal['face', 'curve'] = 'face',
    where: str = '',
) -> Geo:
    """Turn faces over, so that they look the other way, or run curves from their end to their beginning.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'face', 'curve'}, default: 'face'
        What to turn round.
        ``'face'``: each face.
        ``'curve'``: each curve.
    where : str, default: ''
        Which elements; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; corner values go with their corners, and stored normals of what is turned point the
    other way.
    """

def round_borders(
    geo: Geo,
    *,
    where: str = '',
    size: Literal['own', 'given'] = 'own',
    radius: float | str = '0.1 * extent',
    apart: bool = True,
    flat: bool = True,
    amount: float | str = 1.0,
    round_group: str = 'round',
) -> Geo:
    """Move the points of each border loop onto a circle in its best plane, equally spaced, turned as little as can be.

    The plane is that of least squares through the loop's points (principal axes). Where loops share
    points, the later one decides.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces whose border becomes round; empty takes the open borders of everything.
    size : {'own', 'given'}, default: 'own'
        Radius of the circles.
        ``'own'``: mean distance of the loop's points from its middle.
        ``'given'``: the radius below.
    radius : float | str, m, default: '0.1 * extent'
        For all circles.
        Matters where ``size`` is 'given'.
    apart : bool, default: True
        Make circles smaller where they would overlap.
    flat : bool, default: True
        Lay the loop into its plane; off: points keep their height above it.
    amount : float | str, default: 1.0
        Share of the way.
    round_group : str, default: 'round'
        Point group that receives the points of the circles.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all and adds the point group; only positions change.
    """

def scatter(
    geo: Geo,
    *,
    where: str = '',
    amount: Literal['total', 'per area', 'relative', 'spacing'] = 'total',
    total: float | str = 500,
    per_area: float | str = 500.0,
    relative: float | str = 500.0,
    spacing: float | str = '0.05 * extent',
    arrangement: Literal['random', 'even'] = 'random',
    density: float | str = 1.0,
    seed: int | str = 0,
) -> Geo:
    """Scatter random points on a surface, with all that the surface knows at each place.

    A place hangs on its number and the seed: with 'random', asking for more points keeps those that
    were there.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces that receive points; empty means all.
    amount : {'total', 'per area', 'relative', 'spacing'}, default: 'total'
        How many points.
        ``'total'``: a number in all.
        ``'per area'``: a number per square metre.
        ``'relative'``: a number for an area as large as the shape's box diagonal squared; scaling keeps
        the count.
        ``'spacing'``: as many as fit with a distance between them.
    total : float | str, default: 500
        Points in all.
        Matters where ``amount`` is 'total'.
    per_area : float | str, 1/m², default: 500.0
        Points per square metre.
        Matters where ``amount`` is 'per area'.
    relative : float | str, default: 500.0
        Points for the diagonal squared.
        Matters where ``amount`` is 'relative'.
    spacing : float | str, m, default: '0.05 * extent'
        Least distance between points.
        Matters where ``amount`` is 'spacing'.
    arrangement : {'random', 'even'}, default: 'random'
        How they lie.
        ``'random'``: each by itself.
        ``'even'``: evenly spaced, without clumps and gaps.
        Matters where ``amount`` is ['total', 'per area', 'relative'].
    density : float | str, default: 1.0
        How likely places are, relative to each other; 0 keeps them free.
    seed : int | str, default: 0
        Another number gives other places.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes points that carry every attribute of the surface: those of points and corners interpolated,
    those of faces taken; adds normal (if there is none), source_face, source_corners and
    source_weights.
    """

def scatter_in_region(
    geo: Geo,
    *,
    amount: Literal['total', 'per area', 'spacing'] = 'total',
    total: float | str = 200,
    per_area: float | str = 500.0,
    spacing: float | str = 0.05,
    arrangement: Literal['random', 'even'] = 'even',
    seed: int | str = 0,
) -> Geo:
    """Scatter random points inside of flat closed curves; a curve inside of another one is a hole. Faces count too.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    amount : {'total', 'per area', 'spacing'}, default: 'total'
        How many points.
        ``'total'``: a number in all.
        ``'per area'``: a number per square metre.
        ``'spacing'``: as many as fit with a distance between them.
    total : float | str, default: 200
        Points in all.
        Matters where ``amount`` is 'total'.
    per_area : float | str, 1/m², default: 500.0
        Points per square metre.
        Matters where ``amount`` is 'per area'.
    spacing : float | str, m, default: 0.05
        Least distance between points.
        Matters where ``amount`` is 'spacing'.
    arrangement : {'random', 'even'}, default: 'even'
        How they lie.
        ``'random'``: each by itself.
        ``'even'``: evenly spaced, without clumps and gaps.
        Matters where ``amount`` is ['total', 'per area'].
    seed : int | str, default: 0
        Another number gives other places.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes points that carry every attribute of the surface: those of points and corners interpolated,
    those of faces taken; adds normal (if there is none), source_face, source_corners and
    source_weights. A closed curve is filled first.
    """

def scatter_in_volume(
    geo: Geo,
    *,
    amount: Literal['total', 'per volume', 'spacing'] = 'total',
    total: float | str = 200,
    per_volume: float | str = 500.0,
    spacing: float | str = 0.1,
    arrangement: Literal['random', 'even'] = 'random',
    seed: int | str = 0,
) -> Geo:
    """Scatter random points inside of a mesh; it may have holes (generalised winding number).

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    amount : {'total', 'per volume', 'spacing'}, default: 'total'
        How many points.
        ``'total'``: a number in all.
        ``'per volume'``: a number per cubic metre.
        ``'spacing'``: as many as fit with a distance between them.
    total : float | str, default: 200
        Points in all.
        Matters where ``amount`` is 'total'.
    per_volume : float | str, 1/m³, default: 500.0
        Points per cubic metre.
        Matters where ``amount`` is 'per volume'.
    spacing : float | str, m, default: 0.1
        Least distance between points.
        Matters where ``amount`` is 'spacing'.
    arrangement : {'random', 'even'}, default: 'random'
        How they lie.
        ``'random'``: each by itself.
        ``'even'``: evenly spaced, without clumps and gaps.
        Matters where ``amount`` is ['total', 'per volume'].
    seed : int | str, default: 0
        Another number gives other places.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes points; carries only the values of the whole, since a mesh has none inside. Transfer attribute
    brings the nearest ones.
    """

def script(
    geo: Geo | None = None,
    *,
    each: Literal['point', 'edge', 'corner', 'face', 'curve', 'piece', 'once'] = 'point',
    source: str = 'lift: number(0, 1) = 0.1\nhere.position = position + normal * lift * noise(position * 3)\n',
    controls: Mapping[str, Any] = {},
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Run a text on every element of a kind, or once: it reads, writes, makes and removes.

    The language is described in language.md. Controls and inputs are declared in the text: ``reach:
    number(0, 2) = 0.4`` and ``reef: geometry``. ``here.before('position')`` is what an attribute was
    one frame ago.

    Parameters
    ----------
    geo : Geo | None
        Geometry to run on; none is needed for a script that runs once.
    each : {'point', 'edge', 'corner', 'face', 'curve', 'piece', 'once'}, default: 'point'
        What the text runs on.
        ``'point'``: every point.
        ``'edge'``: every edge.
        ``'corner'``: every corner.
        ``'face'``: every face.
        ``'curve'``: every curve.
        ``'piece'``: the first point of every connected part.
        ``'once'``: once, for the whole.
    source : str, optional
        The text of the script.
    controls : Mapping[str, Any], default: {}
        Values of the controls that the text declares.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. New points copy the point they are made like, or the point that made them; the text
    writes the rest.
    """

def set_attribute(
    geo: Geo,
    source: Geo | None = None,
    *,
    name: str = 'value',
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] = 'point',
    where: str = '',
    type: Literal['automatic', 'number', 'integer', 'flag', 'vec2', 'vec3', 'vec4', 'text'] = 'automatic',
    value: ArrayLike | str = 'fraction',
    default: str = '',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Give every element a value worked out by a formula.

    Elements outside of ``where`` keep the value they had, or get the default if the attribute is new.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    source : Geo | None
        Geometry that the formulas may ask, e.g. source.closest(position).distance.
    name : str, default: 'value'
        Attribute to make or change; 'position' moves the points.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}, default: 'point'
        What has the attribute.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
        ``'whole'``: the whole.
    where : str, default: ''
        Which elements receive the value; empty means all.
    type : str, default: 'automatic'
        Type of the attribute.
        ``'automatic'``: what the formula gives.
        ``'number'``: a real number.
        ``'integer'``: a whole number.
        ``'flag'``: yes or no, a group.
        ``'vec2'``: two numbers.
        ``'vec3'``: three numbers.
        ``'vec4'``: four numbers, or a colour.
        ``'text'``: text.
    value : ArrayLike | str, default: 'fraction'
        What each element gets.
    default : str, default: ''
        Value of elements outside of 'where' and of elements made later; empty means the type's zero.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds or replaces the attribute.
    """

def set_place(
    geo: Geo,
    *,
    move: ArrayLike | str = [0.0, 0.0, 0.0],
    turn: ArrayLike | str = [0.0, 0.0, 0.0],
    scale: ArrayLike | str = [1.0, 1.0, 1.0],
    combine: Literal['replace', 'add'] = 'replace',
) -> Geo:
    """Say where a shape stands in the world without changing its points.

    Whatever looks at it from another shape's space (nearness, rays, transfer, joining) sees it there.
    Distances and reaches are in metres of the world, also where the place scales; positions and
    directions in the shape's own space.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    move : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        Where its origin stands.
    turn : ArrayLike | str, °, default: [0.0, 0.0, 0.0]
        Angles about x, then y, then z.
    scale : ArrayLike | str, default: [1.0, 1.0, 1.0]
        Factors along x, y and z, applied first.
    combine : {'replace', 'add'}, default: 'replace'
        What becomes of the place it had.
        ``'replace'``: it is forgotten.
        ``'add'``: the new one comes on top of it.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; sets the attribute 'place' of the whole. Positions and normals stay as they are, in the
    shape's own space.
    """

def simplify(
    geo: Geo,
    *,
    method: Literal['collapse', 'weld'] = 'collapse',
    to: Literal['share', 'count', 'error'] = 'share',
    share: float | str = 0.5,
    count: int | str = 1000,
    error: float | str = '0.001 * extent',
    radius: float | str = '0.05 * extent',
    begin: float | str = 0.25,
    rounds: int | str = 4,
    smoothing: float | str = 0.3,
    keep_borders: bool = True,
    keep: str = 'False',
) -> Geo:
    """Make a mesh of fewer faces that stays close to the shape.

    Collapse: quadric error metrics (Garland & Heckbert, SIGGRAPH 1997); polygons become triangles
    first. The shape's topology stays: no collapse closes a hole or pinches the surface, so that a
    closed mesh stays closed. Seams of corner values (uv) stay seams: they are kept like borders, and
    values are read from the side of the seam on which a triangle lies. An error is a bound on the
    distance between both surfaces, decided both ways and everywhere.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    method : {'collapse', 'weld'}, default: 'collapse'
        How.
        ``'collapse'``: edges are collapsed in order of the error this makes.
        ``'weld'``: near points are welded again and again, with smoothing between.
    to : {'share', 'count', 'error'}, default: 'share'
        How far.
        ``'share'``: a share of the triangles.
        ``'count'``: a number of triangles.
        ``'error'``: an error of the shape.
        Matters where ``method`` is 'collapse'.
    share : float | str, default: 0.5
        Triangles left, as a share.
        Matters where ``to`` is 'share'.
    count : int | str, default: 1000
        Triangles left.
        Matters where ``to`` is 'count'.
    error : float | str, m, default: '0.001 * extent'
        How far the surface may move away.
        Matters where ``to`` is 'error'.
    radius : float | str, m, default: '0.05 * extent'
        Final distance within which points are welded.
        Matters where ``method`` is 'weld'.
    begin : float | str, default: 0.25
        First distance, as a multiple of the final one.
        Matters where ``method`` is 'weld'.
    rounds : int | str, default: 4
        How often to weld.
        Matters where ``method`` is 'weld'.
    smoothing : float | str, default: 0.3
        Share of the way to the neighbours' middle between rounds.
        Matters where ``method`` is 'weld'.
    keep_borders : bool, default: True
        Open borders keep their points.
    keep : str, default: 'False'
        Points that stay where they are.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Points and corners take the values of the nearest place on the surface before, seams of
    uv respected; faces copy the face they are left of; edges that stay keep theirs. Welded: as weld
    does.
    """

def slice(
    geo: Geo,
    *,
    through: ArrayLike | str = [0.0, 0.0, 0.0],
    direction: ArrayLike | str = [0.0, 1.0, 0.0],
    keep: Literal['above and below', 'above', 'below', 'joined'] = 'above and below',
    cap: bool = True,
    border_group: str = 'cut',
    cap_group: str = 'cap',
) -> tuple[Geo, Geo]:
    """Cut faces along a plane and give both sides.

    Faces stay polygons; only those that the plane crosses more than twice are cut into triangles. Faces
    that lie in the plane go to the side that they are the surface of. Caps are one polygon where the
    outline has no holes. Shells in shells and solids that overlap or touch are closed each for itself;
    where the mesh is open, only what it encloses all but completely is.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    through : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        A place on the plane.
    direction : ArrayLike | str, default: [0.0, 1.0, 0.0]
        The plane's normal, pointing above.
    keep : {'above and below', 'above', 'below', 'joined'}, default: 'above and below'
        What comes out.
        ``'above and below'``: each side on its own output.
        ``'above'``: only what lies above.
        ``'below'``: only what lies below.
        ``'joined'``: the whole mesh, cut along the plane but not parted, on both outputs.
    cap : bool, default: True
        Close the cut of solids with faces.
    border_group : str, default: 'cut'
        Edge group that receives the edges along the cut.
    cap_group : str, default: 'cap'
        Face group that receives the caps.

    Returns
    -------
    above : Geo
        The side the direction points to.
    below : Geo
        The other side.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; values of points and corners are interpolated at the cut. Caps copy a face beside them,
    their corners a corner beside them. Loose points go to their side; curves through the plane go above
    whole.
    """

def smooth(
    geo: Geo,
    *,
    where: str = '',
    iterations: int | str = 5,
    strength: float | str = 0.5,
    keep: Literal['volume', 'length', 'area', 'nothing'] = 'volume',
    pin_borders: bool = True,
) -> Geo:
    """Move points towards the mean of their neighbours, again and again.

    Neighbours are joined by an edge of a face, or by a curve. Keeping volume uses Taubin's two-step
    filter (SIGGRAPH 1995). Points outside of the group stay to the bit; a curve of which some points
    stay is stretched only if these are the ends that are pinned.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Points to move; empty means all.
    iterations : int | str, default: 5
        How often.
    strength : float | str, default: 0.5
        Share of the way to the mean of the neighbours, each time.
    keep : {'volume', 'length', 'area', 'nothing'}, default: 'volume'
        What is kept.
        ``'volume'``: every step is followed by one outwards, so that the shape does not shrink.
        ``'length'``: curves keep their length: they are stretched about their middle, or away from
        their chord.
        ``'area'``: closed curves keep the area that they enclose.
        ``'nothing'``: plain Laplacian: shrinks.
    pin_borders : bool, default: True
        Points on open borders and ends of open curves stay where they are.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; only positions change.
    """

def smooth_subdivide(
    geo: Geo,
    *,
    where: str = '',
    levels: int | str = 1,
    scheme: Literal['catmull-clark', 'loop'] = 'catmull-clark',
    corners: Literal['round', 'keep'] = 'round',
    crease: str = 'crease',
    corner_crease: str = 'corner_crease',
    weight: float | str = 1.0,
) -> Geo:
    """Cut every face into smaller ones and smooth the shape towards a continuous surface.

    Catmull & Clark, "Recursively generated B-spline surfaces on arbitrary topological meshes",
    Computer-Aided Design 10(6), 1978; Loop, "Smooth subdivision surfaces based on triangles", 1987,
    with Warren's weights. Open borders become cubic B-splines of their own (weights 1/8, 3/4, 1/8).
    Semi-sharp creases and corners after DeRose, Kass & Truong, SIGGRAPH 1998: sharpness wears off by 1
    per level, and what is left of it is on the result. Edges with more than two faces are treated as
    borders. Loose points and curves are left as they are. On a part of a mesh, faces beside it receive
    the new points of the border as corners, so that it stays watertight; neither they nor the border
    move.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to subdivide; empty means all. The border to the others stays where it is.
    levels : int | str, default: 1
        How often to subdivide; each level makes about four times the faces.
    scheme : {'catmull-clark', 'loop'}, default: 'catmull-clark'
        The rules.
        ``'catmull-clark'``: for any faces; makes quads.
        ``'loop'``: for triangles; other faces are cut first.
    corners : {'round', 'keep'}, default: 'round'
        Points with a single face at an open border.
        ``'round'``: follow the smooth border curve.
        ``'keep'``: stay where they are, so that a sheet keeps its corners.
    crease : str, default: 'crease'
        Edge attribute: how many levels an edge stays sharp; parts of a level count.
    corner_crease : str, default: 'corner_crease'
        Point attribute: how many levels a point stays where it is.
    weight : float | str, default: 1.0
        How far points follow the smooth shape; 0 keeps the flat one.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Point values are blended by the same rule as positions, corner values (uv) inside their
    own face; faces copy their source face, half edges their whole edge. Flags, integers and text are
    copied. Sharpness of edges and points goes down by 1 per level.
    """

def sphere(
    *,
    radius: float | str = 0.5,
    rings: int | str = 16,
    segments: int | str = 32,
) -> Geo:
    """Sphere of quads, with triangles at both poles on the y axis.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the points from the origin.
    rings : int | str, default: 16
        Faces from pole to pole.
    segments : int | str, default: 32
        Faces around.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv
    """

def split_by_group(
    geo: Geo,
    *,
    kind: Literal['face', 'point', 'curve'] = 'face',
    where: str = 'index % 2 == 0',
) -> tuple[Geo, Geo]:
    """Give two geometries: what is in a group, and what is not.

    Told apart by points, a face or curve goes inside if all its points do. Curves go outside when faces
    are told apart, and faces when curves are. Loose points go inside when told apart themselves, else
    outside.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    kind : {'face', 'point', 'curve'}, default: 'face'
        What is told apart.
        ``'face'``: each face.
        ``'point'``: each point.
        ``'curve'``: each curve.
    where : str, default: 'index % 2 == 0'
        Which elements go inside: a group or a formula.

    Returns
    -------
    inside : Geo
        What is marked.
    outside : Geo
        Everything else.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; elements keep their values, order and identity on the side they go to.
    """

def split_faces(
    geo: Geo,
    *,
    where: str = '',
    levels: int | str = 1,
    into: Literal['quads', 'triangles', 'fan'] = 'quads',
    seam: Literal['corners', 'triangles', 'open'] = 'corners',
    split_group: str = 'split',
    seam_group: str = 'seam',
) -> Geo:
    """Cut faces into smaller ones without changing the shape.

    Parts stand where their face stood in the order; old points come first. Concave faces whose middle
    does not see all of them are cut into triangles first, so that parts never overlap. Splitting chosen
    parts again and again stays watertight with the seams 'corners' and 'triangles'.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to split; empty means all.
    levels : int | str, default: 1
        How often; the parts of a split face are split again.
    into : {'quads', 'triangles', 'fan'}, default: 'quads'
        What a face becomes.
        ``'quads'``: one quad per corner around its middle.
        ``'triangles'``: four triangles; other faces are cut into triangles first.
        ``'fan'``: one triangle per edge around its middle.
    seam : {'corners', 'triangles', 'open'}, default: 'corners'
        Neighbours that are not split.
        ``'corners'``: receive the extra corners: watertight.
        ``'triangles'``: are cut into triangles along the seam: watertight.
        ``'open'``: stay as they are: points of the split side lie on their edges.
    split_group : str, default: 'split'
        Face group that receives the parts.
    seam_group : str, default: 'seam'
        Face group that receives changed neighbours.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. New points and corners are interpolated between the ends of their edge or over their
    face; new faces copy the face they are part of, half edges their whole edge; edges across faces get
    the default.
    """

def statistics(
    geo: Geo,
    *,
    name: str = 'height',
    kind: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance'] = 'point',
    value: ArrayLike | str = 'position.y',
    where: str = '',
) -> Geo:
    """Work out bounds, mean and more of a value, and keep them where any formula further down can read them by name.

    After this, ``remap(position.y, height_low, height_high, 0, 1)`` follows the real range. Vectors are
    taken component by component; with ``position`` as value, low and high are the corners of the
    bounding box.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    name : str, default: 'height'
        What the attributes of the whole begin with.
    kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance'}, default: 'point'
        What is counted.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
    value : ArrayLike | str, default: 'position.y'
        Number or vector of each element.
    where : str, default: ''
        Which elements count; empty means all.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; adds attributes to the whole: the name with _low, _high, _mean, _median, _deviation,
    _sum and _count.
    """

def struts(
    geo: Geo,
    *,
    along: Literal['edge', 'curve'] = 'edge',
    where: str = '',
    radius: float | str = '0.02 * extent',
    sides: int | str = 8,
    keep_source: bool = False,
    side_group: str = 'side',
    joint_group: str = 'joint',
    cap_group: str = 'cap',
) -> Geo:
    """Put tubes around edges or curves and close them where they meet: the result is watertight.

    Where two meet they bend into each other; where three and more meet, the joint is the convex hull of
    their last rings, which lie on one ball. At sharp angles and on short edges tubes get thinner
    towards the joint, so that they do not run into each other there.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    along : {'edge', 'curve'}, default: 'edge'
        What becomes tubes: edges of faces, or curves.
        ``'edge'``: each edge.
        ``'curve'``: each curve.
    where : str, default: ''
        Which of them; empty means all.
    radius : float | str, m, default: '0.02 * extent'
        Of the tubes, at each point.
    sides : int | str, default: 8
        Faces around.
    keep_source : bool, default: False
        Keep the faces or curves.
    side_group : str, default: 'side'
        Face group that receives the tubes.
    joint_group : str, default: 'joint'
        Face group that receives the joints.
    cap_group : str, default: 'cap'
        Face group that receives the ends.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Points of tubes copy the point that they stand around, faces over curves the values of
    their first curve; joints get defaults. Makes the corner attribute uv.
    """

def sweep(
    geo: Geo,
    *profile: Geo | Sequence[Geo],
    where: str = '',
    radius: float | str = '0.03 * extent',
    taper: Sequence[Sequence[Any]] = [[0.0, 1.0], [1.0, 1.0]],
    sides: int | str = 12,
    twist: float | str = 0.0,
    up: ArrayLike | str = [0.0, 1.0, 0.0],
    caps: bool = True,
    keep_curves: bool = False,
    side_group: str = 'side',
    cap_group: str = 'cap',
) -> Geo:
    """Move a circle or a profile along curves.

    Frames do not twist (Wang et al. 2008). At bends the profile is stretched across the bend so that
    the tube keeps its thickness, up to four times. A profile lies flat in its own plane; its middle
    follows the curve.

    Parameters
    ----------
    geo : Geo
        Curves to follow.
    profile : Geo | Sequence[Geo]
        A curve to move along; nothing makes a circle.
    where : str, default: ''
        Curves to follow; empty means all.
    radius : float | str, m, default: '0.03 * extent'
        Of a circle, or factor for a profile, at each point.
    taper : Sequence[Sequence[Any]], default: [[0.0, 1.0], [1.0, 1.0]]
        Factor for the radius from the beginning to the end of each curve.
    sides : int | str, default: 12
        Faces around a circle.
    twist : float | str, °, default: 0.0
        Turns the profile about the curve.
    up : ArrayLike | str, default: [0.0, 1.0, 0.0]
        Where the profile's x axis points at first, as far as it can.
    caps : bool, default: True
        Close the ends of open curves with a face.
    keep_curves : bool, default: False
        Keep the curves.
    side_group : str, default: 'side'
        Face group that receives the sides.
    cap_group : str, default: 'cap'
        Face group that receives the ends.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Points of tubes copy the curve point they stand around; faces receive the attributes of
    their curve. Makes the corner attribute uv: once around, and metres along.
    """

def switch(
    *choices: Geo | Sequence[Geo],
    chosen: int | str = 0,
    around: bool = False,
) -> Geo:
    """Pass one of several geometries on, by its number.

    It is passed on as it is, with its own place. In a graph, what leads only to the others is not
    evaluated.

    Parameters
    ----------
    choices : Geo | Sequence[Geo]
        Geometries to choose from, in order.
    chosen : int | str, default: 0
        Number of the geometry that is passed on, from 0.
    around : bool, default: False
        Begin again with the first one where the number is too large.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all of the chosen one.
    """

def switch_value(
    *,
    condition: ArrayLike | str = True,
    yes: ArrayLike | str = 1.0,
    no: ArrayLike | str = 0.0,
) -> Geo:
    """One of two values.

    Parameters
    ----------
    condition : ArrayLike | str, default: True
        Yes or no.
    yes : ArrayLike | str, default: 1.0
        The value if yes.
    no : ArrayLike | str, default: 0.0
        The value if no.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def torus(
    *,
    radius: float | str = 0.5,
    thickness: float | str = 0.15,
    segments: int | str = 48,
    sides: int | str = 16,
) -> Geo:
    """Ring of quads around the y axis.

    Parameters
    ----------
    radius : float | str, m, default: 0.5
        Distance of the tube's middle from the origin.
    thickness : float | str, m, default: 0.15
        Radius of the tube itself.
    segments : int | str, default: 48
        Faces along the tube.
    sides : int | str, default: 16
        Faces around the tube.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    makes the corner attribute uv
    """

def transfer_attribute(
    geo: Geo,
    source: Geo,
    *,
    attributes: str = '*',
    source_kind: Literal['automatic', 'point', 'corner', 'face', 'edge', 'curve', 'instance', 'whole'] = 'automatic',
    onto: Literal['point', 'edge', 'corner', 'face', 'curve', 'instance'] = 'point',
    where: str = '',
    by: Literal['surface', 'corner', 'point', 'uv', 'index'] = 'surface',
    limit_reach: bool = False,
    reach: float | str = '0.06 * extent',
    feather: float | str = 0.0,
    falloff: Sequence[Sequence[Any]] = [[0.0, 1.0], [1.0, 0.0]],
    elsewhere: Literal['keep', 'default'] = 'keep',
    rename: str = '*',
    space: Literal['this', 'own'] = 'this',
) -> Geo:
    """Give each element the values found at its counterpart on another geometry.

    Elements that find nothing within the reach, or are not marked, keep the value they had; where the
    attribute is new they get its default, and that is said. The receiver need not have the attribute.

    Parameters
    ----------
    geo : Geo
        Geometry that receives the values.
    source : Geo
        Geometry that has the values.
    attributes : str, default: '*'
        Names of the source's attributes, with spaces between; * stands for any letters.
    source_kind : str, default: 'automatic'
        Kind that has them on the source.
        ``'automatic'``: the first of points, corners, faces, edges, curves and instances that has the
        name.
        ``'point'``: only points.
        ``'corner'``: only corners.
        ``'face'``: only faces.
        ``'edge'``: only edges.
        ``'curve'``: only curves.
        ``'instance'``: only instances.
        ``'whole'``: the whole, to every element.
    onto : {'point', 'edge', 'corner', 'face', 'curve', 'instance'}, default: 'point'
        What receives the values.
        ``'point'``: each point.
        ``'edge'``: each edge.
        ``'corner'``: each corner.
        ``'face'``: each face.
        ``'curve'``: each curve.
        ``'instance'``: each instance.
    where : str, default: ''
        Which elements receive values; empty means all.
    by : {'surface', 'corner', 'point', 'uv', 'index'}, default: 'surface'
        How a source is found for each element.
        ``'surface'``: closest place on the surface, values interpolated.
        ``'corner'``: closest place, the value of its nearest corner.
        ``'point'``: nearest point or element.
        ``'uv'``: same place in uv.
        ``'index'``: same number.
    limit_reach : bool, default: False
        Ignore what is farther away than the reach.
    reach : float | str, m, default: '0.06 * extent'
        Full strength up to this distance.
        Matters where ``limit_reach`` is True.
    feather : float | str, m, default: 0.0
        Beyond the reach, the way along which the strength falls to nothing.
        Matters where ``limit_reach`` is True.
    falloff : Sequence[Sequence[Any]], default: [[0.0, 1.0], [1.0, 0.0]]
        Strength (up) along the feather.
        Matters where ``limit_reach`` is True.
    elsewhere : {'keep', 'default'}, default: 'keep'
        What stays where nothing is near.
        ``'keep'``: the old value; the default, if there is none.
        ``'default'``: the source's default.
    rename : str, default: '*'
        Name on the receiver; * stands for the old name, e.g. scan_*.
    space : {'this', 'own'}, default: 'this'
        Where the other geometry is seen from, if shapes have places of their own.
        ``'this'``: as they stand: in this mesh's space.
        ``'own'``: each in its own space, places left out.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all of the first input; adds or replaces the named attributes. Numbers, vectors and colours
    are interpolated over the triangle; flags, integers and text come from its nearest corner.
    """

def transform(
    geo: Geo,
    *,
    where: str = '',
    move: ArrayLike | str = [0.0, 0.0, 0.0],
    turn: ArrayLike | str = [0.0, 0.0, 0.0],
    scale: ArrayLike | str = [1.0, 1.0, 1.0],
    around: ArrayLike | str = [0.0, 0.0, 0.0],
) -> Geo:
    """Scale, turn and move points, in this order.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Points to move; empty means all.
    move : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        Added last.
    turn : ArrayLike | str, °, default: [0.0, 0.0, 0.0]
        Angles about x, then y, then z.
    scale : ArrayLike | str, default: [1.0, 1.0, 1.0]
        Factors along x, y and z, applied first.
    around : ArrayLike | str, m, default: [0.0, 0.0, 0.0]
        Place that stays while turning and scaling.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Stored normals turn with the surface, rotations and velocities with the points; a
    mirrored mesh has its faces turned over so that they still face outwards.
    """

def triangulate(
    geo: Geo,
    *,
    where: str = '',
    diagonal: Literal['short', 'first'] = 'short',
    which: Literal['all', 'bent'] = 'all',
    flatness: float | str = 0.0001,
    cut_group: str = 'cut_face',
) -> Geo:
    """Cut faces into triangles that stay inside them, convex or not.

    Cuts off ears, one after the other (Meisters, "Polygons have ears", 1975). The order of faces is
    kept: the triangles of a face stand where it stood. Points and unmarked faces stay as they are.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to cut; empty means all.
    diagonal : {'short', 'first'}, default: 'short'
        Which way a face is cut.
        ``'short'``: the shorter diagonal; ears with the shortest cut first.
        ``'first'``: from the first corner on, where that lies inside.
    which : {'all', 'bent'}, default: 'all'
        Faces that need it.
        ``'all'``: every face with more than three corners.
        ``'bent'``: only those that are not flat.
    flatness : float | str, default: 0.0001
        How far a corner may lie from its face's plane, as a share of the face's size.
        Matters where ``which`` is 'bent'.
    cut_group : str, default: 'cut_face'
        Face group that receives the triangles of faces that were cut.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. Triangles copy their face, their corners the face's corners; edges across faces get the
    default.
    """

def unshare(
    geo: Geo,
    *,
    where: str = '',
    apart_from: Literal['each other', 'the rest'] = 'each other',
) -> Geo:
    """Give faces points of their own, one per corner, so that nothing is shared with their neighbours.

    Nothing moves. The faces' order and the old points stay; copies of points follow at the end.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Faces to part; empty means all.
    apart_from : {'each other', 'the rest'}, default: 'each other'
        What the faces are parted from.
        ``'each other'``: every face gets its own points.
        ``'the rest'``: the marked faces stay joined among themselves.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all; copies of a point have its values, and edges on either side of a cut both have those of
    the old edge.
    """

def vector_value(
    *,
    x: ArrayLike | str = 0.0,
    y: ArrayLike | str = 0.0,
    z: ArrayLike | str = 0.0,
) -> Geo:
    """A vector from three numbers.

    Parameters
    ----------
    x : ArrayLike | str, default: 0.0
        The x component.
    y : ArrayLike | str, default: 0.0
        The y component.
    z : ArrayLike | str, default: 0.0
        The z component.

    Returns
    -------
    value : Geo
        The value, for a parameter of another node.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Makes no geometry.
    """

def weld(
    geo: Geo,
    *,
    where: str = '',
    radius: float | str = '0.0005 * extent',
    values: Literal['mean', 'first'] = 'mean',
    welded_group: str = 'welded',
) -> Geo:
    """Make one point of points that lie near each other.

    Points are taken in order: each one that is still free takes all free points within the radius, so a
    chain of near points does not collapse into one. A face that loses corners stays while it has three;
    one that touches itself is cut there.

    Parameters
    ----------
    geo : Geo
        Geometry to work on.
    where : str, default: ''
        Points that may be welded; empty means all.
    radius : float | str, m, default: '0.0005 * extent'
        Points at most this far from the first one become one with it.
    values : {'mean', 'first'}, default: 'mean'
        Place and other values of a welded point.
        ``'mean'``: mean of its points.
        ``'first'``: those of its point with the lowest number.
    welded_group : str, default: 'welded'
        Point group that receives the points that others became one with.

    Returns
    -------
    geo : Geo
        The result.

    Raises
    ------
    ParameterError, FormulaError, GeometryError
        What cannot be done, where, and what to do about it.

    Notes
    -----
    Carries all. A welded point has the mean of its points' numbers and vectors, or the first one's; its
    flags, integers and text are the first one's. Faces and curves that stay keep their values;
    collapsed ones go, which is said.
    """


"""Pictures that a geometry carries: heights, masks and colours in rows of pixels, asked at places of the picture."""

from reticula.core.geometry.pictures.picture import Picture, has_picture, picture_of, with_picture
from reticula.core.geometry.pictures.sampling import BETWEEN, BEYOND, sample_picture

__all__ = ["BETWEEN", "BEYOND", "Picture", "has_picture", "picture_of", "sample_picture", "with_picture"]

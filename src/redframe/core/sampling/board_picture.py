"""Finding what may be mites on the picture of a board: candidates for a person to accept or to strike, never a count.

A mite is a reddish-brown oval, wider than long, about 1.7 by 1.15 mm. The picture is set to one scale, its light is
evened out, dark spots are cut out (touching ones apart), and each spot is scored by size, shape and colour. The
weights were fitted on pictures of the demo's generator; how well they do on another's is measured and told in
docs/methods/board-pictures.md.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import numpy.typing as npt
from scipy import ndimage, special
from skimage import color, feature, measure, segmentation, transform

from redframe.core.errors import InvalidInput
from redframe.core.sampling.board_marks import Candidate

Pixels = npt.NDArray[np.uint8]
Plane = npt.NDArray[np.float64]

WORKING_PX_PER_MM = 6.0
LEAST_PX_PER_MM = 2.5
MITE_AREA_MM2 = 1.53
AREA_MM2 = (0.35, 3.2)
CROWDED_MM2 = 2.3
"""Dark spots larger than this are cut apart where they are narrow."""
LEAST_DARKER = 9.0
SHOWN_FROM = 0.12
MOST_CANDIDATES = 3000


def find_candidates(picture: Pixels, width_mm: float) -> list[Candidate]:
    """Candidates on a picture, shape (height, width, 3), of a board that is `width_mm` wide from edge to edge of it,
    the likeliest first; at most 3000.

    Raises InvalidInput("width_mm") where a mite would be smaller than a few pixels.
    """
    px_per_mm = picture.shape[1] / width_mm
    if px_per_mm < LEAST_PX_PER_MM:
        raise InvalidInput(
            "width_mm", "the picture is too coarse for mites: come closer, or photograph it in parts", code="refused"
        )
    scale = WORKING_PX_PER_MM / px_per_mm
    shape = (round(picture.shape[0] * scale), round(picture.shape[1] * scale))
    even = transform.resize(picture, shape, anti_aliasing=scale < 1, preserve_range=True) / 255
    lab = color.rgb2lab(even)
    light, red, yellow = (ndimage.gaussian_filter(lab[..., part], 0.12 * WORKING_PX_PER_MM) for part in range(3))
    around = [_ground(plane) for plane in (light, red, yellow)]
    darker = around[0] - light
    noise = 1.4826 * float(np.median(np.abs(darker - np.median(darker))))
    mask = darker > max(LEAST_DARKER, 3.5 * noise)
    labels = _apart(ndimage.binary_opening(mask, iterations=1))
    planes = np.dstack([darker, red - around[1], yellow - around[2]])
    found = [
        candidate
        for spot in measure.regionprops(labels, intensity_image=planes)
        if (candidate := _scored(spot, shape)) is not None
    ]
    return sorted(found, key=lambda one: -one.score)[:MOST_CANDIDATES]


def _ground(plane: Plane) -> Plane:
    """The board without what lies on it: a coarse median over about 10 mm, set back to size."""
    step = max(1, round(WORKING_PX_PER_MM * 0.7))
    coarse = ndimage.median_filter(plane[::step, ::step], size=15, mode="nearest")
    return np.asarray(transform.resize(coarse, plane.shape, order=1, preserve_range=True))


def _apart(mask: npt.NDArray[np.bool_]) -> npt.NDArray[np.int_]:
    labels = measure.label(mask)
    sizes = np.bincount(labels.ravel())
    crowded = np.isin(labels, np.flatnonzero(sizes > CROWDED_MM2 * WORKING_PX_PER_MM**2)[1:])
    if not crowded.any():
        return np.asarray(labels)
    depth = ndimage.gaussian_filter(ndimage.distance_transform_edt(crowded), 1.0)
    peaks = feature.peak_local_max(
        depth, min_distance=round(0.55 * WORKING_PX_PER_MM), labels=measure.label(crowded), exclude_border=False
    )
    seeds = np.zeros(mask.shape, dtype=np.int_)
    seeds[tuple(peaks.T)] = np.arange(1, len(peaks) + 1)
    cut = segmentation.watershed(-depth, seeds, mask=crowded)
    return np.asarray(np.where(crowded, cut + labels.max(), labels))


def _scored(spot: measure._regionprops.RegionProperties, shape: Sequence[int]) -> Candidate | None:
    area = spot.area / WORKING_PX_PER_MM**2
    if not AREA_MM2[0] <= area <= AREA_MM2[1] or spot.axis_minor_length <= 0:
        return None
    score = float(special.expit(WEIGHTS @ features(spot) + BIAS))
    if score < SHOWN_FROM:
        return None
    y, x = spot.centroid
    return Candidate(
        (x + 0.5) / shape[1], (y + 0.5) / shape[0], spot.axis_major_length / WORKING_PX_PER_MM, round(score, 4)
    )


def features(spot: measure._regionprops.RegionProperties) -> npt.NDArray[np.float64]:
    """What a spot is scored by, shape (12,): size and its square, aspect and its square, fullness, and how much darker,
    redder and yellower than the board it is, with squares and how even it is."""
    size = math.log(spot.area / WORKING_PX_PER_MM**2 / MITE_AREA_MM2)
    aspect = spot.axis_major_length / spot.axis_minor_length - 1.45
    darker, redder, yellower = spot.intensity_mean
    spread = float(np.std(spot.image_intensity[..., 0][spot.image]))
    return np.array([
        size, size**2, aspect, aspect**2, spot.solidity, darker / 10, (darker / 10 - 4) ** 2, redder / 10,
        (redder / 10 - 2) ** 2, yellower / 10, (yellower / 10 - 2) ** 2, spread / 10,
    ])  # fmt: skip


WEIGHTS = np.array(
    [1.666, -0.097, 0.541, -0.414, 8.366, 1.158, 0.69, -0.569, -2.224, -2.049, -0.251, 1.46]
)  # fmt: skip
BIAS = -8.954
"""Of the score: logistic regression (ridge 0.001) on 40 pictures of the demo's generator, 9986 spots."""

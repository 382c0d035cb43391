"""The drawn map of the demo: coasts, woods, water, roads and place names of the Isle of Corrane and Port Ellery.

Made by this code from a fixed random state and shipped as GeoJSON (`python -m redframe.demo.island FILE` writes it).
"""

from __future__ import annotations

import json
import sys
from itertools import pairwise
from math import cos, pi, radians, sin
from pathlib import Path
from typing import Any

import numpy as np

from redframe.demo.scenario import CORRANE, ELLERY

Point = tuple[float, float]
RANDOM_STATE = 44031


def _ring(
    centre: Point, reach_lon: float, reach_lat: float, rough: float, points: int, draw: np.random.Generator
) -> list[Point]:
    """A closed outline: an ellipse made uneven by a few waves."""
    waves = [(n, float(draw.uniform(0, 2 * pi)), rough / n**0.85 * float(draw.uniform(0.5, 1.3))) for n in range(2, 34)]
    ring = []
    for step in range(points):
        angle = 2 * pi * step / points
        reach = 1 + sum(size * sin(n * angle + phase) for n, phase, size in waves)
        point = (centre[0] + reach_lon * reach * cos(angle), centre[1] + reach_lat * reach * sin(angle))
        ring.append((round(point[0], 5), round(point[1], 5)))
    # GeoJSON outlines run clockwise for the spherical geometry of the front end.
    ring.reverse()
    return [*ring, ring[0]]


def _feature(kind: str, geometry: dict[str, Any], name: str | None = None) -> dict[str, Any]:
    properties = {"kind": kind} | ({"name": name} if name else {})
    return {"type": "Feature", "properties": properties, "geometry": geometry}


def _outline(kind: str, ring: list[Point], name: str | None = None) -> dict[str, Any]:
    return _feature(kind, {"type": "Polygon", "coordinates": [ring]}, name)


def _road(points: list[Point], draw: np.random.Generator) -> dict[str, Any]:
    """A road through the points, bending between them."""
    line: list[Point] = []
    for (lon1, lat1), (lon2, lat2) in pairwise(points):
        for step in range(6):
            share = step / 6
            bend = 0.0016 * sin(pi * share) * float(draw.normal())
            line.append((round(lon1 + share * (lon2 - lon1) + bend, 5), round(lat1 + share * (lat2 - lat1) - bend, 5)))
    return _feature("road", {"type": "LineString", "coordinates": [*line, points[-1]]})


def _place(name: str, lon: float, lat: float) -> dict[str, Any]:
    return _feature("place", {"type": "Point", "coordinates": [lon, lat]}, name)


def draw_islands() -> dict[str, Any]:
    """The map as a GeoJSON FeatureCollection."""
    draw = np.random.default_rng(RANDOM_STATE)
    by_name = {one.name: (one.longitude, one.latitude) for one in (*CORRANE.apiaries, *ELLERY.apiaries)}
    narrow = 1 / cos(radians(44.2))
    features = [
        _outline("coast", _ring((-31.413, 44.209), 0.078 * narrow, 0.086, 0.085, 220, draw), "Isle of Corrane"),
        _outline("coast", _ring((-31.531, 44.251), 0.009, 0.006, 0.12, 40, draw), "The Skerry"),
        _outline("wood", _ring((-31.412, 44.222), 0.014, 0.008, 0.12, 50, draw)),
        _outline("wood", _ring((-31.340, 44.214), 0.010, 0.006, 0.14, 40, draw)),
        _outline("wood", _ring((-31.384, 44.180), 0.009, 0.005, 0.14, 40, draw)),
        _outline("water", _ring((-31.383, 44.237), 0.0045, 0.0032, 0.16, 40, draw), "Tarn"),
        _outline("water", _ring((-31.413, 44.158), 0.006, 0.0022, 0.16, 40, draw), "Fenn Water"),
    ]
    for names in (
        ["Orrin Quay", "Saltby Rise", "Quarrel Lane", "Kettle Wood", "Brae Garth", "St Ossory"],
        ["Orrin Quay", "Lower Fenn", "Upper Fenn", "Plover Hay"],
        ["Kettle Wood", "Dunnock Mill", "Mell Fold", "Hollin Croft", "Tarn Head", "St Ossory"],
        ["Saltby Rise", "Whin Moor", "Cairn Yard", "Thrift Point", "Skerrow Bank", "Brae Garth"],
        ["Dunnock Mill", "Upper Fenn"],
    ):
        features.append(_road([by_name[name] for name in names], draw))
    features += [
        _place("Orrin", -31.497, 44.160),
        _place("The Fenns", -31.428, 44.146),
        _place("North Sound", -31.318, 44.287),
        _place("Corrane", -31.352, 44.170),
        _outline("coast", _ring((-28.43, -39.915), 0.062, 0.047, 0.10, 160, draw), "Port Ellery"),
        _outline("wood", _ring((-28.455, -39.917), 0.012, 0.008, 0.13, 40, draw)),
        _road([by_name["Old Jetty"], by_name["Shearwater Hill"], by_name["Banksia Flat"], by_name["Old Jetty"]], draw),
        _place("Port Ellery", -28.443, -39.937),
    ]
    return {"type": "FeatureCollection", "features": features}


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(json.dumps(draw_islands(), separators=(",", ":")) + "\n", encoding="utf-8")

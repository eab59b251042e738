#!/usr/bin/python3
"""Parts that fill whole sheets to the last: sheets cut up by straight or curved cuts, each part turned by quarters.

  bench/cut_from_sheets.py PARTS SHEETS straight|curved SEED > parts.json

The least number of sheets is known, so a layout can be judged against it.
"""
import json
import math
import random
import sys

from shapely import affinity
from shapely.geometry import LineString, Polygon
from shapely.ops import split

WIDTH, HEIGHT = 2440.0, 1220.0


def cut_line(part, curved, rng):
    """A cut through the part, near its middle and mostly across its length."""
    box = part.minimum_rotated_rectangle.exterior.coords
    sides = sorted(((box[i], box[i + 1]) for i in range(2)), key=lambda s: math.dist(*s))
    (ax, ay), (bx, by) = sides[0]
    angle = math.atan2(by - ay, bx - ax) + rng.uniform(-0.6, 0.6)
    middle = part.centroid
    reach = 3000
    bow, wave = rng.uniform(-60, 60), rng.uniform(250, 700)
    along = [-reach + 25 * i for i in range(2 * reach // 25 + 1)] if curved else [-reach, reach]
    off = rng.uniform(-40, 40)
    points = []
    for t in along:
        side = off + (bow * math.sin(t / wave * math.pi) if curved else 0)
        points.append((middle.x + t * math.cos(angle) - side * math.sin(angle),
                       middle.y + t * math.sin(angle) + side * math.cos(angle)))
    return LineString(points)


def main():
    count, sheets, kind, seed = int(sys.argv[1]), int(sys.argv[2]), sys.argv[3], int(sys.argv[4])
    rng = random.Random(seed)
    parts = [Polygon([(0, 0), (WIDTH, 0), (WIDTH, HEIGHT), (0, HEIGHT)]) for _ in range(sheets)]
    while len(parts) < count:
        parts.sort(key=lambda p: -p.area)
        halves = list(split(parts[0], cut_line(parts[0], kind == "curved", rng)).geoms)
        if len(halves) == 2 and all(isinstance(h, Polygon) and not h.interiors for h in halves):
            parts[0:1] = halves
    out = []
    for i, part in enumerate(parts):
        turned = affinity.rotate(part, rng.choice([0, 90, 180, 270]), origin=(0, 0))
        left, low, _, _ = turned.bounds
        ring = [[round(x - left, 3), round(y - low, 3)] for x, y in turned.exterior.coords[:-1]]
        out.append({"id": f"p{i:02}", "qty": 1, "rotations": [0, 90, 180, 270], "outer": ring, "holes": []})
    json.dump({"name": f"cut{count}_{kind}", "seed": seed, "optimum_sheets": sheets, "spacing": 0, "edge_margin": 0,
               "sheets": [{"w": WIDTH, "h": HEIGHT, "count": -1}], "parts": out}, sys.stdout)


if __name__ == "__main__":
    main()

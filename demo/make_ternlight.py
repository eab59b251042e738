#!/usr/bin/env python3
"""Writes ternlight.job.json: the fit-out of Ternlight, an invented 10.8 m pilot launch. All data invented.

A true inside is made up (fair, lopsided by a few millimetres, slightly lumpy), and read at stations with the
errors a careful hand makes; two readings carry a slip. Standard library only; the same file every time.
"""
import json
import math
import os
import random

SHEER = 1150.0   # mm above the datum waterline
random.seed(1080)


def half_beam(x, port):
    full = 1245.0 - 1.02e-5 * (x - 300.0) ** 2 - 3.4e-6 * max(0.0, x - 1500.0) ** 2 * 6
    return full - (0.0 if port else 9.0)


def depth(x):
    return SHEER + 520.0 - 1.1e-5 * (x + 500.0) ** 2


def inside(x, angle):
    """A point of the hull's inside: angle 0 is the sheer to port, -90 degrees the keel, -180 to starboard."""
    c, s = math.cos(angle), -math.sin(angle)
    power = 2 / 2.5
    port = c >= 0
    y = math.copysign(abs(c) ** power, c) * half_beam(x, port)
    z = SHEER - s ** power * depth(x) if s > 0 else SHEER
    lump = 1.6 * math.sin(x / 310.0 + 3 * angle) * math.sin(2.3 * angle + x / 900.0)
    return x, y + lump * c, z + lump * math.sin(angle)


def at_height(x, z, port):
    """The half breadth at height z, by bisection over the angle."""
    low, high = (0.0, -math.pi / 2) if port else (-math.pi, -math.pi / 2)
    for _ in range(80):
        mid = (low + high) / 2
        if inside(x, mid)[2] > z:
            low = mid
        else:
            high = mid
    return inside(x, low)[1]


def at_breadth(x, y):
    low, high = 0.0, -math.pi
    for _ in range(80):
        mid = (low + high) / 2
        if inside(x, mid)[1] > y:
            low = mid
        else:
            high = mid
    return inside(x, low)[2]


def noisy(value, sigma):
    return round(value + random.gauss(0, sigma))


def strip(ident, name, x):
    """A strip pattern stood across the boat: points right round the section, [across to port, up]."""
    values = []
    for k in range(33):
        angle = -math.radians(1 + 178 * k / 32)
        _, y, z = inside(x, angle)
        values.append([noisy(y, 0.7), noisy(z, 0.7)])
    return {"id": ident, "name": name, "school": "strip", "surface": "hull", "sigma_mm": 1.0,
            "origin": [x, 0, 0], "along": [0, 1, 0], "toward": [0, 0, 1], "values": values}


def ordinates(ident, name, x, port):
    """Square distances from an upright line on the centre line of the boat to one side."""
    values = []
    for k in range(13):
        z = -180 + k * 105
        values.append([round(z), noisy(abs(at_height(x, z, port)), 1.2)])
    return {"id": ident, "name": name, "school": "ordinates", "surface": "hull", "sigma_mm": 1.5,
            "origin": [x, 0, 0], "along": [0, 0, 1], "toward": [0, 1 if port else -1, 0], "values": values}


def keel_line(ident, name, z_line, y_line):
    """Depths below a string stretched fore and aft."""
    values = []
    for k in range(9):
        x = 1650 + k * 275
        values.append([k * 275, noisy(z_line - at_breadth(x, y_line), 1.2)])
    return {"id": ident, "name": name, "school": "ordinates", "surface": "hull", "sigma_mm": 1.5,
            "origin": [1650, y_line, z_line], "along": [1, 0, 0], "toward": [0, 0, -1], "values": values}


def direct(ident, name, x):
    values = []
    for k in range(17):
        angle = -math.radians(2 + 176 * k / 16)
        values.append([noisy(v, 1.2) for v in inside(x, angle)])
    return {"id": ident, "name": name, "school": "direct", "surface": "hull", "sigma_mm": 1.5, "values": values}


readings = [
    strip("R1", "Strip pattern at the main bulkhead", 3200.0),
    strip("R2", "Strip pattern, aft station", 1750.0),
    ordinates("R3", "Ordinates to port at 2400", 2400.0, True),
    ordinates("R4", "Ordinates to starboard at 2400", 2400.0, False),
    direct("R5", "Points near the mast step", 2800.0),
    direct("R6", "Points forward", 3800.0),
    keel_line("R7", "Depths under the centre string", 400.0, 0.0),
    keel_line("R8", "Depths under the port string", 400.0, 450.0),
    keel_line("R9", "Depths under the starboard string", 400.0, -450.0),
]
readings[0]["values"][10][1] += 50          # a slip: the rule was read 50 mm off
readings[2]["values"][6] = {"at": [readings[2]["values"][6][0], readings[2]["values"][6][1] - 100],
                            "note": "torch went out here"}

hull_edge = lambda gap: {"meets": "surface", "name": "hull", "surface": "hull", "gap_mm": gap, "coating_mm": 0.25}
top = lambda at: {"meets": "line", "name": "top", "side": [0, 1], "at_mm": at, "gap_mm": 0, "coating_mm": 0.25}

pieces = [
    {"id": "B1", "name": "Main bulkhead", "kind": "bulkhead", "place": "Forecabin",
     "plane": {"normal": [1, 0, 0], "d_mm": 3200}, "material": "ply18",
     "edges": [hull_edge(4), top(1040)],
     "openings": [{"name": "door", "left_mm": -290, "bottom_mm": -250, "width_mm": 580, "height_mm": 1180, "radius_mm": 90}],
     "limbers": [{"at_mm": 130, "width_mm": 50, "height_mm": 32}],
     "joints": [{"kind": "scarf", "upright": True, "at_mm": 0, "slope": 8}],
     "grain_deg": 90, "good_face": "a", "structural": True, "removable": False, "wanted_fit_mm": 4, "stage": "measured"},
    {"id": "B2", "name": "Galley half-bulkhead", "kind": "half-bulkhead", "place": "Saloon",
     "plane": {"normal": [1, 0, 0], "d_mm": 2050}, "material": "ply12",
     "edges": [hull_edge(3), top(760),
               {"meets": "line", "name": "inboard", "side": [1, 0], "at_mm": -420, "gap_mm": 0, "coating_mm": 0.25}],
     "openings": [], "limbers": [{"width_mm": 40, "height_mm": 25}],
     "joints": [], "grain_deg": 90, "good_face": "b", "structural": False, "removable": True,
     "wanted_fit_mm": 4, "stage": "measured"},
    {"id": "S1", "name": "Locker shelf, port", "kind": "shelf", "place": "Saloon",
     "plane": {"normal": [0, 0, -1], "d_mm": -420}, "material": "ply12",
     "edges": [hull_edge(3),
               {"meets": "line", "name": "fwd end", "side": [0, 1], "at_mm": 3185, "gap_mm": 2, "coating_mm": 0.25},
               {"meets": "line", "name": "aft end", "side": [0, -1], "at_mm": -2075, "gap_mm": 2, "coating_mm": 0.25},
               {"meets": "line", "name": "front", "side": [1, 0], "at_mm": -700, "gap_mm": 0, "coating_mm": 0.25}],
     "openings": [], "limbers": [], "joints": [], "grain_deg": 90, "good_face": "a",
     "structural": False, "removable": True, "wanted_fit_mm": 4, "stage": "planned"},
]

job = {
    "bevelsmith": 1, "name": "Fit-out of Ternlight", "unit": "mm",
    "boat": {"name": "Ternlight", "length_mm": 10800, "construction": "laminate", "laminate_mm": 9,
             "passage": {"width_mm": 620, "height_mm": 1150},
             "displacement_kg": 6200, "gm_m": 0.92, "mctc_tm": 0.071, "flotation_x_mm": -350},
    "surfaces": [{"id": "hull", "name": "Hull side", "chart": "auto"}],
    "readings": readings,
    "materials": [
        {"id": "ply18", "name": "Marine ply 18 mm", "thickness_mm": 17.6, "density_kg_m3": 610,
         "sheet_width_mm": 2440, "sheet_height_mm": 1220, "sheets_in_stock": 4, "has_grain": True},
        {"id": "ply12", "name": "Marine ply 12 mm", "thickness_mm": 12.2, "density_kg_m3": 600,
         "sheet_width_mm": 2440, "sheet_height_mm": 1220, "sheets_in_stock": 3, "has_grain": True}],
    "pieces": pieces,
    "coating": {"mass_kg_m2": 0.28, "film_mm": 0.25},
}


def text_of(value, indent=0):
    """JSON with short lists on one line, so that a reading is a line."""
    pad = "  " * (indent + 1)
    flat = json.dumps(value, ensure_ascii=False)
    if len(flat) <= 100 or not isinstance(value, (dict, list)):
        return flat
    if isinstance(value, list):
        return "[\n" + ",\n".join(pad + text_of(v, indent + 1) for v in value) + "\n" + pad[2:] + "]"
    rows = (f"{pad}{json.dumps(k)}: {text_of(v, indent + 1)}" for k, v in value.items())
    return "{\n" + ",\n".join(rows) + "\n" + pad[2:] + "}"


with open(os.path.join(os.path.dirname(__file__), "ternlight.job.json"), "w", encoding="utf-8") as out:
    out.write(text_of(job) + "\n")
print(sum(len(r["values"]) for r in readings), "readings")

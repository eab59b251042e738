#!/usr/bin/env python3
"""Writes ternlight.job.json: the fit-out of Ternlight, an invented 10.8 m pilot launch. All data invented.

A true inside is made up (fair, lopsided by a few millimetres, slightly lumpy), and read at stations with the
errors a careful hand makes; two readings carry a slip. Standard library only; the same file every time.
"""
import json
import math
import os
import random

from boats import direct, line, noisy, piece, plane, ply, scribed, stops, strip, unit, write

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


def section(x, first=1, last=179, count=33):
    """(across, up) right round the section at x, from the sheer to port to the sheer to starboard."""
    out = []
    for k in range(count):
        _, y, z = inside(x, -math.radians(first + (last - first) * k / (count - 1)))
        out.append((y, z))
    return out


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


def around(x, count=17, first=2, last=178):
    return [inside(x, -math.radians(first + (last - first) * k / (count - 1))) for k in range(count)]


def deckhead(x, y):
    """Under the cabin top, crowned, lower forward."""
    return 1785.0 - 2.6e-5 * max(0.0, x - 1200.0) ** 2 - 70.0 * (y / 900.0) ** 2


def transom(y, z):
    """Raked: its top stands farther aft."""
    return -2600.0 - 0.14 * (z - 300.0) - 14.0 * (y / 900.0) ** 2


def on_hull(x, z, port, off):
    """A place `off` inboard of the hull at a height: where a stringer runs."""
    y = at_height(x, z, port)
    return [round(x), round(y - off if port else y + off), round(z)]


readings = [
    strip("R1", "Strip pattern at the main bulkhead", 3200.0, section(3200.0)),
    strip("R2", "Strip pattern, aft station", 1750.0, section(1750.0)),
    ordinates("R3", "Ordinates to port at 2400", 2400.0, True),
    ordinates("R4", "Ordinates to starboard at 2400", 2400.0, False),
    direct("R5", "Points near the mast step", "hull", around(2800.0)),
    direct("R6", "Points forward", "hull", around(3800.0)),
    keel_line("R7", "Depths under the centre string", 400.0, 0.0),
    keel_line("R8", "Depths under the port string", 400.0, 450.0),
    keel_line("R9", "Depths under the starboard string", 400.0, -450.0),
]
readings[0]["values"][10][1] += 50          # a slip: the rule was read 50 mm off
readings[2]["values"][6] = {"at": [readings[2]["values"][6][0], readings[2]["values"][6][1] - 100],
                            "note": "torch went out here"}

# Read later, when the fit-out grew fore and aft of the saloon.
readings += [
    strip(f"R{10 + k}", f"Strip pattern at {x:.0f}", x, section(x, count=25))
    for k, x in enumerate([-2606.0, -1500.0, -500.0, 700.0, 4600.0, 5900.0])]
readings.append(direct("R16", "Points under the deckhead", "deckhead",
                       [(x, y, deckhead(x, y)) for x in (-700, 200, 1100, 2000, 2900, 3700)
                        for y in (-1080, -700, -350, 0, 350, 700, 1080)]))
readings.append(direct("R17", "Points on the transom", "transom",
                       [(transom(y, z), y, z) for z in (-250, 0, 250, 500, 750, 1000)
                        for y in (f * at_height(-2600, z, True) for f in (-1, -0.7, -0.35, 0, 0.35, 0.7, 1))]))

SOLE = -150.0

# What a trial pattern of B2 told when it was offered up once: its gaps, the outline as it was cut, and where the hull
# truly runs by them (written by `bevelsmith-cli dry-fit --pattern` from gaps of this inside).
with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), "pattern_b2.json"), encoding="utf-8") as file:
    PATTERN_B2 = json.load(file)
readings += PATTERN_B2["sets"]

def door(low, high, half=290):
    return {"name": "door", "left_mm": -half, "bottom_mm": low, "width_mm": 2 * half, "height_mm": high - low,
            "radius_mm": 90}


def rounded(points, radius):
    return {"meets": "nothing", "name": "outline", "side": [0, 1], "at_mm": 0, "closed": True,
            "line": [{"at": p, "radius_mm": radius} for p in points]}


pieces = [
    piece("B1", "Main bulkhead", "bulkhead", "Forecabin", [1, 0, 0], 3200, "ply18",
          [scribed(gap=4), line("top", [0, 1], 1040)], openings=[door(SOLE + 20, 930)],
          limbers=[{"at_mm": 130, "width_mm": 50, "height_mm": 32}],
          joints=[{"kind": "scarf", "upright": True, "at_mm": 0, "slope": 8}],
          structural=True, removable=False, stage="measured"),
    piece("B2", "Galley half-bulkhead", "half-bulkhead", "Saloon", [1, 0, 0], 2050, "ply12",
          [scribed(), line("top", [0, 1], 760), line("inboard", [1, 0], -420)],
          limbers=[{"width_mm": 40, "height_mm": 25}], good_face="b", stage="pattern",
          fittings=[PATTERN_B2["fitting"]]),
    piece("B3", "After bulkhead", "bulkhead", "Aft", [1, 0, 0], -300, "ply18",
          [scribed(gap=4), line("top", [0, 1], 890)], openings=[
              door(SOLE + 20, 790),
              {"name": "cables", "left_mm": 520, "bottom_mm": 640, "width_mm": 60, "height_mm": 60,
               "radius_mm": 30, "use": "wire way", "guard_mm": 3}],
          limbers=[{"at_mm": 140, "width_mm": 50, "height_mm": 32}],
          joints=[{"kind": "scarf", "upright": True, "at_mm": at, "slope": 8} for at in (-440, 440)],
          structural=True, removable=False),
    piece("B4", "Galley screen", "half-bulkhead", "Saloon", [1, 0, 0], 1450, "ply12",
          [scribed(), scribed("deckhead", 2), line("inboard", [-1, 0], -430)],
          notches=[{"name": "cabin side", "left_mm": 960, "bottom_mm": 1060, "width_mm": 600, "height_mm": 1200,
                    "radius_mm": 0}], limbers=[{"width_mm": 40, "height_mm": 25}], good_face="b"),
    piece("B5", "Forepeak bulkhead", "bulkhead", "Forecabin", [1, 0, 0], 5780, "ply18",
          [scribed(gap=4), line("top", [0, 1], 1020)],
          openings=[{"name": "hatch", "left_mm": -250, "bottom_mm": 480, "width_mm": 500, "height_mm": 400,
                     "radius_mm": 70, "use": "hatch", "rail_mm": 45}],
          limbers=[{"width_mm": 50, "height_mm": 32}],
          joints=[{"kind": "scarf", "upright": True, "at_mm": 0, "slope": 8}], structural=True, removable=False),
    piece("S1", "Bookshelf, port", "shelf", "Saloon", [0, 0, -1], -700, "ply12",
          [scribed(), stops("aft end", "B2", 2), stops("fwd end", "B1", 2), line("front", [1, 0], -960)],
          at=[2600, 1050, 700]),
    piece("S2", "Lazarette shelf", "shelf", "Aft", [0, 0, -1], -320, "ply18",
          [scribed(), scribed("transom"), line("front", [0, 1], -1750)], at=[-2200, 0, 320],
          joints=[{"kind": "on a divider", "at_mm": 0, "piece": "D2", "clearance_mm": 3}],
          openings=[{"name": "hatch, port", "left_mm": -640, "bottom_mm": -2080, "width_mm": 380, "height_mm": 260,
                     "radius_mm": 60, "use": "hatch", "rail_mm": 45}]),
    piece("D1", "Rope divider, across", "divider", "Aft", [1, 0, 0], -2120, "ply12",
          [scribed(), stops("top", "S2")], at=[-2114, 0, 0], grain_deg=0, limbers=[{"at_mm": 120, "width_mm": 40, "height_mm": 25}],
          crossings=[{"piece": "D2", "how": "halved above", "clearance_mm": 0.5}]),
    piece("D2", "Rope divider, along", "divider", "Aft", [0, 1, 0], -6, "ply12",
          [scribed(), stops("top", "S2"), plane("fwd", [1, 0, 0], -1760), plane("aft", [-1, 0, 0], 2440)],
          at=[-2100, 0, 0], grain_deg=0, limbers=[{"at_mm": 2000, "width_mm": 40, "height_mm": 25}], crossings=[{"piece": "D1", "how": "halved below", "clearance_mm": 0.5}]),
    piece("P1", "Galley post", "corner post", "Saloon", [1, 0, 0], 1420, "ply18",
          [line("left", [-1, 0], -404), line("right", [1, 0], 449), line("bottom", [0, -1], -SOLE),
           line("top", [0, 1], 1500)], removable=False),
    piece("K1", "Shelf brackets", "bracket", "Saloon", [1, 0, 0], 2400, "ply12",
          [rounded([[-1060, 578], [-970, 668], [-970, 687], [-1060, 687]], 0)], copies=4, grain_deg=45),
    # What stands there already: it stays, or goes back by its old holes.
    piece("X1", "Old stern bulkhead", "bulkhead", "Aft", [1, 0, 0], -1660, "ply18",
          [scribed(gap=0), line("top", [0, 1], 700)], role="stays", measured_mm=21.5, grain_deg=0,
          openings=[{"name": "crawl hole", "left_mm": -260, "bottom_mm": 100, "width_mm": 520, "height_mm": 480,
                     "radius_mm": 60}]),
    piece("X2", "Old chart light board", "board", "Aft", [1, 0, 0], -282.4, "ply12",
          [rounded([[-560, 450], [-340, 450], [-340, 700], [-560, 700]], 20)], role="goes back", grain_deg=0,
          finishing="varnish its edges, two coats", patterns=[{"pattern": "H1", "at": [-450, 470]}]),
    piece("W1", "Wash board, lower", "wash board", "Aft", [1, 0, 0], -340, "ply18",
          [rounded([[-295, 900], [295, 900], [310, 1200], [-310, 1200]], 4)], grain_deg=0),
]

units = [
    unit("U1", "Saloon sole", "sole", "port", SOLE, 0, 500, from_piece="B3", to_piece="B1", material="ply18",
         top_material="ply18", dividers_mm=[150, 600, 1050, 1500, 1950, 2400, 2850], lid_depth_mm=420, lids=True),
    unit("U2", "Settee, port", "settee", "port", SOLE, 430, 430, from_piece="B2", to_piece="B1",
         dividers_mm=[2600], lids=True, lid_depth_mm=260),
    unit("U3", "Galley", "counter", "starboard", SOLE, 900, 540, from_piece="B4", to_piece="B1", dividers_mm=[2000, 2600],
         overhang_mm=20, top_material="ply18"),
    unit("U4", "Quarter berth", "berth", "port", SOLE, 480, 420, from_piece="B3", to_piece="B2",
         dividers_mm=[280, 860, 1450], lids=True, lid_depth_mm=320),
    unit("U5", "Hanging locker", "locker", "starboard", SOLE, 1000, 590, from_piece="B3", to_mm=380, toe_high_mm=0,
         toe_deep_mm=0, shelves=0, top_material="ply18"),
    unit("U6", "Chart table", "counter", "starboard", SOLE, 720, 560, from_mm=390, to_piece="B4", dividers_mm=[900],
         overhang_mm=20, shelves=1),
    unit("U7", "V-berth", "v-berth", "port", SOLE, 560, 260, from_mm=3860, to_piece="B5", dividers_mm=[5150],
         infill_mm=620, top_material="ply18"),
    unit("U8", "Forecabin shelves", "shelves", "port", SOLE, 900, 800, from_piece="B1", to_mm=4400, shelves=2,
         shelf_step_mm=240),
    unit("U9", "Engine box", "engine box", "port", SOLE, 620, 340, from_mm=-1500, to_mm=-560, material="ply18",
         top_material="ply18"),
]
units[0]["adjusted"] = {"sole": [{"op": "add", "path": "/crossings", "value": [
    {"piece": "B2", "how": "slot", "clearance_mm": 2}, {"piece": "B4", "how": "slot", "clearance_mm": 2}]}]}
# A counter of sheet with cloth on both faces.
cloth = [{"kind": "woven", "mass_g_m2": 300, "count": 2}]
units[2]["adjusted"] = {"top": [{"op": "add", "path": "/layup", "value": {
    "face_a": cloth, "face_b": cloth, "edges": "filled"}}]}
units[4]["adjusted"] = {"front": [{"op": "add", "path": "/rows", "value": [
    {"name": "vents", "left_mm": -330, "bottom_mm": 740, "width_mm": 380, "height_mm": 40, "diameter_mm": 30,
     "wanted_cm2": 40}]}]}

obstacles = [
    {"id": "O1", "name": "Port stringer", "section": "square", "width_mm": 44, "height_mm": 60, "clearance_mm": 3,
     "path": [on_hull(x, 180 + 0.02 * (x - 1500), True, 14) for x in range(-2400, 5701, 540)], "notches": True},
    {"id": "O2", "name": "Starboard stringer", "section": "square", "width_mm": 44, "height_mm": 60,
     "clearance_mm": 3, "path": [on_hull(x, 180 + 0.02 * (x - 1500), False, 14) for x in range(-2400, 5701, 540)],
     "notches": True},
    {"id": "O3", "name": "Exhaust hose", "section": "round", "width_mm": 75, "clearance_mm": 6,
     "path": [[-600, -420, 120], [-1600, -520, 160], [-2560, -560, 200]], "notches": True},
]

# Old ledges that carry her sole between the after bulkhead and its first beam.
UNDER_SOLE = SOLE - 17.6
for side in (True, False):
    obstacles.append({"id": f"O{len(obstacles) + 1}", "name": f"Old ledge, {'port' if side else 'starboard'}",
                      "section": "square", "width_mm": 45, "height_mm": 30, "clearance_mm": 2, "notches": True,
                      "carries": True, "role": "stays",
                      "path": [on_hull(x, UNDER_SOLE - 15, side, 24) for x in (-270, -70, 130)]})
    obstacles[-1]["path"] = [[x, y, UNDER_SOLE - 15] for x, y, _ in obstacles[-1]["path"]]

marks = [{"id": "M1", "name": "punch mark, port stringer", "measured_from": "after bulkhead", "position": [-120, 1005, 190]},
         {"id": "M2", "name": "punch mark, starboard stringer", "measured_from": "after bulkhead",
          "position": [-120, -998, 190]},
         {"id": "M3", "name": "head of the keel bolt", "measured_from": "", "position": [-140, 0, -455]}]
patterns = [{"id": "H1", "name": "old screws of the chart light board", "from": "the old part",
             "holes": [{"at": [x, y], "diameter_mm": 4.5, "kind": "countersunk"}
                       for x in (-80, 80) for y in (0, 200)]}]

job = {
    "bevelsmith": 2, "name": "Fit-out of Ternlight", "unit": "mm",
    "boat": {"name": "Ternlight", "length_mm": 10800, "construction": "laminate", "laminate_mm": 9,
             "passage": {"width_mm": 620, "height_mm": 1200},
             "displacement_kg": 6200, "gm_m": 0.92, "mctc_tm": 0.071, "flotation_x_mm": -350},
    "surfaces": [{"id": "hull", "name": "Hull side", "chart": "auto"},
                 {"id": "deckhead", "name": "Deckhead", "part": "deckhead"},
                 {"id": "transom", "name": "Transom", "part": "transom"}],
    "readings": readings,
    "materials": [dict(ply("ply18", 18, 17.6), density_kg_m3=610, price=172, nominal_mm=18),
                  dict(ply("ply12", 12, 12.2), price=118, nominal_mm=12)],
    "marks": marks, "patterns": patterns,
    "pieces": pieces, "units": units, "obstacles": obstacles,
    # Stock and costs: all invented.
    "offcuts": [{"id": "O1", "name": "behind the door", "material": "ply12",
                 "shape": {"outer": [[0, 0], [1180, 0], [1180, 420], [610, 420], [610, 900], [0, 900]]}}],
    "bars": [{"id": "b1", "name": "ash", "width_mm": 40, "depth_mm": 20, "length_mm": 2400, "price": 9.5, "count": 6},
             {"id": "b2", "name": "ash", "width_mm": 40, "depth_mm": 20, "length_mm": 3600, "price": 14.8, "count": -1},
             {"id": "b3", "name": "softwood, clear", "width_mm": 45, "depth_mm": 45, "length_mm": 3600, "price": 8.2,
              "count": -1}],
    "lengths": [{"id": "L1", "name": "cleats under seats", "bar": "b1", "length_mm": 540, "quantity": 10},
                {"id": "L2", "name": "cleats along fronts", "bar": "b1", "length_mm": 1460, "quantity": 6},
                {"id": "L3", "name": "fiddles", "bar": "b1", "length_mm": 880, "quantity": 7, "left_deg": 45,
                 "right_deg": 45},
                {"id": "L4", "name": "sole bearers", "bar": "b3", "length_mm": 930, "quantity": 9}],
    "costs": {"currency": "EUR", "hour_rate": 45},
    "choices": [
        {"id": "M1", "name": "varnished, 12 mm ply", "material": "ply12", "laminated_faces": 0, "laminate_price_m2": 0,
         "laminate_kg_m2": 0, "coats": 6, "coat_price_l": 32, "coat_m2_l": 12, "coat_kg_m2": 0.06,
         "lipping_price_m": 3.5, "lipping_kg_m": 0.12, "hours_m2": 0.9, "hours_m": 0.15},
        {"id": "M2", "name": "painted, 12 mm ply", "material": "ply12", "laminated_faces": 0, "laminate_price_m2": 0,
         "laminate_kg_m2": 0, "coats": 4, "coat_price_l": 26, "coat_m2_l": 9, "coat_kg_m2": 0.1,
         "lipping_price_m": 2, "lipping_kg_m": 0.1, "hours_m2": 0.6, "hours_m": 0.1},
        {"id": "M3", "name": "laminated one face, 18 mm ply", "material": "ply18", "laminated_faces": 1,
         "laminate_price_m2": 22, "laminate_kg_m2": 1.2, "coats": 2, "coat_price_l": 20, "coat_m2_l": 10,
         "coat_kg_m2": 0.1, "lipping_price_m": 3.5, "lipping_kg_m": 0.12, "hours_m2": 0.5, "hours_m": 0.2}],
    "coating": {"mass_kg_m2": 0.28, "film_mm": 0.25},
}

write(job, "ternlight.job.json")
print(sum(len(r["values"]) for r in readings), "readings")

#!/usr/bin/env python3
"""Writes ketch.job.json, the forecabin of a decked timber ketch, and workboat.job.json, the wheelhouse of an aluminium
harbour workboat. All data invented; the same files every time."""
import math
import random

from boats import direct, line, piece, plane, ply, scribed, stops, strip, unit, write

INCH = 25.4


# ---- the ketch: full topsides, straight garboards to a keel, in inches

def ketch_half(x, z):
    """Half breadth of the inside at x (0 at the mast, 2700 at the stem's foot) and a height above the waterline."""
    keel = -520.0 + 0.16 * x
    up = max(0.0, (z - keel) / (980.0 - keel))
    full = 1330.0 * (1 - (max(0.0, x) / 3900.0) ** 2.1)
    return full * math.sin(min(1.0, up ** 1.06) * math.pi / 2)


def ketch_section(x, count=29):
    keel = -520.0 + 0.16 * x
    heights = [keel + 8 + (980.0 - keel - 8) * (k / (count // 2)) ** 1.3 for k in range(count // 2 + 1)]
    port = [(ketch_half(x, z), z) for z in reversed(heights)]
    return port + [(-y, z) for y, z in reversed(port)]


def ketch():
    random.seed(411)
    stations = [-150, 350, 850, 1350, 1850, 2350, 2750]
    readings = [strip(f"R{k + 1}", f"Strip pattern at {x / INCH:.0f} in", x, ketch_section(x))
                for k, x in enumerate(stations)]
    keel = direct("R9", "The keel's inner edge", "hull", [(x, 0, -520.0 + 0.16 * x) for x in range(-150, 2751, 290)],
                  0.8)
    keel["hard_line"] = True
    readings.append(keel)
    readings.append(direct("R10", "Points under the deck", "deckhead",
                           [(x, y, 1330.0 - 0.012 * x - 90.0 * (y / 1000.0) ** 2)
                            for x in (-100, 500, 1100, 1700, 2300, 2700) for y in (-800, -400, 0, 400, 800)]))
    sole = -230.0
    pieces = [
        piece("B1", "Mast bulkhead", "bulkhead", "Forecabin", [1, 0, 0], 0, "ply18",
              [scribed(gap=4), line("top", [0, 1], 900)],
              openings=[{"name": "door", "left_mm": -240, "bottom_mm": sole + 30, "width_mm": 480, "height_mm": 960,
                         "radius_mm": 120}],
              limbers=[{"at_mm": 120, "width_mm": 40, "height_mm": 25}],
              joints=[{"kind": "scarf", "upright": True, "at_mm": at, "slope": 8} for at in (-420, 420)],
              structural=True, removable=False, stage="measured"),
        piece("B2", "Chain locker bulkhead", "bulkhead", "Forecabin", [1, 0, 0], 2600, "ply12",
              [scribed(), line("top", [0, 1], 860)], grain_deg=0,
              openings=[{"name": "hatch", "left_mm": -170, "bottom_mm": 430, "width_mm": 340, "height_mm": 300,
                         "radius_mm": 60, "use": "hatch", "rail_mm": 45}],
              limbers=[{"width_mm": 40, "height_mm": 25}]),
        piece("K1", "Beam brackets", "bracket", "Forecabin", [1, 0, 0], 1200, "ply18",
              [{"meets": "nothing", "name": "outline", "side": [0, 1], "at_mm": 0, "closed": True,
                "line": [{"at": [-700, 1000]}, {"at": [-560, 1140], "radius_mm": 12}, {"at": [-560, 1160]},
                         {"at": [-700, 1160]}]}], copies=6, grain_deg=45),
    ]
    units = [
        unit("U1", "Forecabin sole", "sole", "port", sole, 0, 300, from_piece="B1", to_mm=640,
             dividers_mm=[200, 440], lids=True, lid_depth_mm=300, material="ply18", top_material="ply18",
             beam_depth_mm=60, saddles=True, saddle_aft_mm=150, saddle_fwd_mm=40, saddle_clearance_mm=1.5),
        unit("U2", "V-berth", "v-berth", "port", sole, 560, 220, from_mm=660, to_piece="B2", dividers_mm=[1500, 2100],
             infill_mm=480, top_material="ply18"),
        unit("U3", "Shelf, port", "shelves", "port", sole, 880, 930, from_piece="B1", to_mm=1300, shelves=1),
        unit("U4", "Shelf, starboard", "shelves", "starboard", sole, 880, 930, from_mm=650, to_mm=1300,
             shelves=1),
        unit("U5", "Oilskin locker", "locker", "starboard", 60, 640, 640, from_piece="B1", to_mm=620,
             toe_high_mm=0, toe_deep_mm=0, shelves=0, top_material="ply18"),
    ]
    frames = [{"id": f"O{k + 1}", "name": f"Frame {k + 1}, {'port' if side > 0 else 'starboard'}",
               "section": "square", "width_mm": 50, "height_mm": 45, "clearance_mm": 3, "notches": True,
               "role": "stays", "path": [[x, round(side * (ketch_half(x, z) - 20)), z] for z in range(-150, 901, 150)]}
              for k, (x, side) in enumerate((x, side) for x in (1000, 1900) for side in (1, -1))]
    # Ribs under the sole: each saddle's forward cheek is fastened to the rib that it stands beside.
    ribs = [{"id": f"O{k + 5}", "name": f"Rib {k + 1}, {'port' if side > 0 else 'starboard'}, under the sole",
             "section": "square", "width_mm": 40, "height_mm": 45, "clearance_mm": 1, "notches": True,
             "role": "stays", "path": [[x, round(side * (ketch_half(x, z) - 20)), z] for z in range(-400, -274, 25)]}
            for k, (x, side) in enumerate((x, side) for x in (258, 498) for side in (1, -1))]
    return {
        "bevelsmith": 2, "name": "Forecabin of a timber ketch", "unit": "in 1/16",
        "boat": {"name": "Sandpiper's Rest", "length_mm": 11900, "construction": "timber", "laminate_mm": 32,
                 "passage": {"width_mm": 600, "height_mm": 1300}},
        "surfaces": [{"id": "hull", "name": "Ceiling", "chart": "auto"},
                     {"id": "deckhead", "name": "Deck", "part": "deckhead"}],
        "readings": readings, "materials": [ply("ply18", 18, 18.1), ply("ply12", 12, 12.0)],
        "pieces": pieces, "units": units, "obstacles": frames + ribs,
        "comfort": {"standing_headroom_mm": 1520},
        "coating": {"mass_kg_m2": 0.25, "film_mm": 0.25},
    }


# ---- the workboat: plates, a chine, frames

def plate_half(x, z):
    """Sides lean out above the chine at z = 150; below it the bottom runs in to the keel."""
    chine = 1180.0 - 3.2e-5 * max(0.0, x - 400.0) ** 2
    if z >= 150:
        return chine + 0.16 * (z - 150)
    return max(0.0, chine * (1 - (150 - z) / 430.0))


def plate_section(x):
    up = [150 + 850 * k / 8 for k in range(1, 9)]
    down = [150 - 420 * k / 7 for k in range(8)]
    port = [(plate_half(x, z), z) for z in reversed(up)] + [(plate_half(x, z), z) for z in down]
    return port + [(-y, z) for y, z in reversed(port)]


def workboat():
    random.seed(733)
    readings = [strip(f"R{k + 1}", f"Strip pattern at frame {k + 1}", x, plate_section(x))
                for k, x in enumerate([-250, 450, 1150, 1850, 2550, 3150])]
    for k, side in enumerate((1, -1)):
        chine = direct(f"R{7 + k}", f"The chine, {'port' if side > 0 else 'starboard'}", "hull",
                       [(x, side * plate_half(x, 150), 150) for x in range(-250, 3200, 300)], 0.8)
        chine["hard_line"] = True
        readings.append(chine)
    keel = direct("R9", "The keel plate's inner edge", "hull", [(x, 0, -280) for x in range(-250, 3200, 300)], 0.8)
    keel["hard_line"] = True
    readings.append(keel)
    sole = 60.0
    pieces = [
        piece("B1", "Wheelhouse after bulkhead", "bulkhead", "Wheelhouse", [1, 0, 0], 0, "ply18",
              [scribed(gap=5), line("top", [0, 1], 950)],
              openings=[{"name": "door", "left_mm": -320, "bottom_mm": sole + 20, "width_mm": 640,
                         "height_mm": 800, "radius_mm": 90}],
              limbers=[{"width_mm": 60, "height_mm": 40}],
              joints=[{"kind": "butt strap", "upright": True, "at_mm": at, "slope": 8} for at in (-480, 480)]),
        piece("B2", "Console bulkhead", "bulkhead", "Wheelhouse", [1, 0, 0], 2900, "ply18",
              [scribed(gap=5), line("top", [0, 1], 940)],
              openings=[{"name": "looms", "left_mm": 780, "bottom_mm": 300, "width_mm": 120, "height_mm": 60,
                         "radius_mm": 30, "use": "wire way", "guard_mm": 4}],
              limbers=[{"width_mm": 60, "height_mm": 40}],
              joints=[{"kind": "butt strap", "upright": True, "at_mm": at, "slope": 8} for at in (-480, 480)]),
        piece("F1", "Helm screen", "face", "Wheelhouse", [1, 0, 0], 1500, "ply12",
              [scribed(), line("top", [0, 1], 900), line("inboard", [-1, 0], -520)], removable=True,
              limbers=[{"width_mm": 40, "height_mm": 25}]),
    ]
    units = [
        unit("U1", "Wheelhouse sole", "sole", "port", sole, 0, 400, from_piece="B1", to_piece="B2",
             dividers_mm=[400, 800, 1200, 1600, 2000, 2400], lids=True, lid_depth_mm=500, material="ply18",
             top_material="ply18"),
        unit("U2", "Crew bench", "settee", "port", sole, 430, 620, from_piece="B1", to_mm=1900, dividers_mm=[950],
             lids=True, lid_depth_mm=280, clearance_mm=3),
        unit("U3", "Chart counter", "counter", "starboard", sole, 820, 600, from_piece="F1", to_piece="B2",
             dividers_mm=[1960, 2430], overhang_mm=15, top_material="ply18"),
        unit("U4", "Life-jacket locker", "locker", "starboard", sole, 800, 640, from_piece="B1", to_piece="F1",
             dividers_mm=[750], toe_high_mm=0, toe_deep_mm=0, shelves=0, top_material="ply18"),
    ]
    units[0]["adjusted"] = {"sole": [{"op": "add", "path": "/crossings", "value": [
        {"piece": "F1", "how": "slot", "clearance_mm": 2}]}]}
    frames = []
    for x in (600, 1200, 2400):
        for side in (1, -1):
            frames.append({
                "id": f"O{len(frames) + 1}", "name": f"Frame at {x}, {'port' if side > 0 else 'starboard'}",
                "section": "square", "width_mm": 60, "height_mm": 80, "clearance_mm": 4, "notches": True,
                "path": [[x, round(side * (plate_half(x, z) - 36)), z] for z in (200, 450, 700, 940)]})
    # Ledges that the builder welded on, under the lining: what the lining takes of them the sole does not lie on.
    under = sole - 17.8
    for side in (1, -1):
        frames.append({
            "id": f"O{len(frames) + 1}", "name": f"Welded ledge, {'port' if side > 0 else 'starboard'}",
            "section": "square", "width_mm": 70, "height_mm": 8, "clearance_mm": 2, "notches": True, "carries": True,
            "role": "stays",
            "path": [[x, round(side * (plate_half(x, under - 4) - 35)), under - 4] for x in (420, 780)]})
    return {
        "bevelsmith": 2, "name": "Wheelhouse of an aluminium workboat", "unit": "mm",
        "boat": {"name": "Marram", "length_mm": 9200, "construction": "metal", "laminate_mm": 5,
                 "passage": {"width_mm": 700, "height_mm": 1250}},
        "surfaces": [{"id": "hull", "name": "Plating", "chart": "auto",
                      "layers": [{"name": "insulation and lining", "thickness_mm": 32}]}],
        "readings": readings, "materials": [ply("ply18", 18, 17.8), ply("ply12", 12, 12.1)],
        "pieces": pieces, "units": units, "obstacles": frames, "coating": {"mass_kg_m2": 0.3, "film_mm": 0.3},
    }


write(ketch(), "ketch.job.json")
write(workboat(), "workboat.job.json")

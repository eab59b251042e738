"""What the example boats share: hands that read, instruments, the way a job is written. Standard library only."""
import json
import math
import os
import random


def noisy(value, sigma):
    return round(value + random.gauss(0, sigma))


def strip(ident, name, x, section):
    """A strip pattern stood across the boat: points of the section, [across to port, up]."""
    values = [[noisy(y, 0.7), noisy(z, 0.7)] for y, z in section]
    return {"id": ident, "name": name, "school": "strip", "surface": "hull", "sigma_mm": 1.0,
            "origin": [x, 0, 0], "along": [0, 1, 0], "toward": [0, 0, 1], "values": values}


def direct(ident, name, surface, points, sigma=1.2):
    values = [[noisy(v, sigma) for v in p] for p in points]
    return {"id": ident, "name": name, "school": "direct", "surface": surface, "sigma_mm": 1.5, "values": values}


def scribed(surface="hull", gap=3, **more):
    return {"meets": "surface", "name": more.pop("name", surface), "surface": surface, "gap_mm": gap,
            "coating_mm": 0.25, **more}


def line(name, side, at, gap=0):
    return {"meets": "line", "name": name, "side": side, "at_mm": at, "gap_mm": gap, "coating_mm": 0.25}


def stops(name, piece, gap=0.5):
    return {"meets": "piece", "name": name, "piece": piece, "gap_mm": gap, "coating_mm": 0.25}


def plane(name, normal, d, gap=0):
    return {"meets": "plane", "name": name, "plane": {"normal": normal, "d_mm": d}, "gap_mm": gap,
            "coating_mm": 0.25}


def piece(ident, name, kind, place, normal, d, material, edges, **more):
    out = {"id": ident, "name": name, "kind": kind, "place": place, "plane": {"normal": normal, "d_mm": d},
           "material": material, "edges": edges, "openings": [], "limbers": [], "joints": [], "grain_deg": 90,
           "good_face": "a", "structural": False, "removable": True, "wanted_fit_mm": 4, "stage": "planned"}
    out.update(more)
    return out


def unit(ident, name, kind, side, foot, height, front, **more):
    out = {"id": ident, "name": name, "kind": kind, "side": side, "surface": "hull", "from_mm": 0, "to_mm": 0,
           "front_mm": front, "foot_mm": foot, "height_mm": height, "toe_high_mm": 75, "toe_deep_mm": 75,
           "dividers_mm": [], "shelves": 1, "shelf_step_mm": 280, "fiddle_mm": 40, "lids": False,
           "lid_depth_mm": 300, "rail_mm": 60, "clearance_mm": 2.5, "overhang_mm": 0, "hull_gap_mm": 3,
           "joint_gap_mm": 0.5, "material": "ply12", "top_material": "ply12"}
    out.update(more)
    return out


def ply(ident, nominal, thickness, stock=-1):
    return {"id": ident, "name": f"Marine ply {nominal} mm", "thickness_mm": thickness, "density_kg_m3": 600,
            "sheet_width_mm": 2440, "sheet_height_mm": 1220, "sheets_in_stock": stock, "has_grain": True}


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


def write(job, name):
    with open(os.path.join(os.path.dirname(os.path.abspath(__file__)), name), "w", encoding="utf-8") as out:
        out.write(text_of(job) + "\n")

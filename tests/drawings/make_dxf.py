"""Drawings as other programs write them, with what ezdxf itself measures in them.

Run with Debian's python3-ezdxf; writes *.dxf and dxf.json beside this file. What is off, frozen, invisible or on paper
is not measured.
"""
import json
import math
from pathlib import Path

import ezdxf
from ezdxf import disassemble, path
from ezdxf.math import BSpline, ConstructionEllipse

here = Path(__file__).parent
measured = {}


def plate(msp, width=120, height=80, layer="plate"):
    msp.add_lwpolyline([(0, 0), (width, 0), (width, height), (0, height)], close=True, dxfattribs={"layer": layer})


def begin(name="", units=4):
    doc = ezdxf.new("R2010", setup=name == "words")
    doc.units = units
    doc.layers.add("plate")
    return doc, doc.modelspace()


def is_seen(doc, entity):
    layer = doc.layers.get(entity.dxf.layer) if entity.dxf.layer in doc.layers else None
    if layer is not None and (layer.is_off() or layer.is_frozen() or layer.dxf.get("plot", 1) == 0):
        return False
    return not entity.dxf.get("invisible", 0)


def measure(doc, msp):
    found = []

    def walk(entities, layer):
        for e in entities:
            own = layer if layer is not None and e.dxf.layer == "0" else e.dxf.layer
            if e.dxftype() == "INSERT":
                if e.dxf.get("invisible", 0):
                    continue
                parts = e.multi_insert() if e.mcount > 1 else [e]
                for part in parts:
                    walk(part.virtual_entities(), own)
                continue
            if not is_seen(doc, e) or e.dxftype() in ("TEXT", "MTEXT", "HATCH", "DIMENSION", "POINT", "SOLID", "ATTRIB"):
                continue
            made = path.make_path(e)
            points = [(p.x, p.y) for p in made.flattening(0.0005, segments=64)]
            xs, ys = [p[0] for p in points], [p[1] for p in points]
            length = sum(math.dist(a, b) for a, b in zip(points, points[1:]))
            area = abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, points[1:] + points[:1]))) / 2
            found.append(
                {
                    "layer": own,
                    "box": [round(v, 3) + 0.0 for v in (min(xs), -max(ys), max(xs), -min(ys))],
                    "length": round(length, 2),
                    "area": round(area, 2),
                }
            )

    walk(msp, None)
    return found


def save(name, doc, msp):
    doc.saveas(here / f"{name}.dxf")
    measured[name] = measure(doc, msp)


# A sheet of paper with its own frame and a window onto the model.
doc, msp = begin()
plate(msp)
msp.add_circle((20, 20), 5, dxfattribs={"layer": "plate"})
psp = doc.layout("Layout1")
psp.add_lwpolyline([(0, 0), (420, 0), (420, 297), (0, 297)], close=True)
psp.add_viewport(center=(200, 150), size=(300, 200), view_center_point=(60, 40), view_height=100)
save("paper", doc, msp)

# Layers that are off, frozen or not plotted, and single things that are invisible.
doc, msp = begin()
plate(msp)
doc.layers.add("off").off()
doc.layers.add("cold").freeze()
doc.layers.add("construction").dxf.plot = 0
for i, name in enumerate(["off", "cold", "construction", "plate"]):
    msp.add_circle((20 + 25 * i, 40), 5, dxfattribs={"layer": name})
hidden = msp.add_circle((60, 15), 5, dxfattribs={"layer": "plate"})
hidden.dxf.invisible = 1
save("layers", doc, msp)
# This version of ezdxf reads the mark but does not write it.
file = here / "layers.dxf"
text = file.read_text()
assert "\nplate\n100\nAcDbCircle\n 10\n60.0\n 20\n15.0" in text
file.write_text(text.replace("\nplate\n100\nAcDbCircle\n 10\n60.0\n 20\n15.0", "\nplate\n 60\n1\n100\nAcDbCircle\n 10\n60.0\n 20\n15.0"))

# Rational curves: a circle, part of one, and an ellipse, as many programs write every arc.
doc, msp = begin()
plate(msp)


def rational(curve):
    msp.add_spline(dxfattribs={"layer": "plate"}).apply_construction_tool(curve)


from ezdxf.math import rational_bspline_from_arc, rational_bspline_from_ellipse

rational(rational_bspline_from_arc(center=(30, 30), radius=10, start_angle=0, end_angle=360))
rational(rational_bspline_from_arc(center=(60, 30), radius=8, start_angle=20, end_angle=250))
rational(rational_bspline_from_ellipse(ConstructionEllipse((90, 50), (14, 6), ratio=0.4)))
open_curve = BSpline([(10, 60), (20, 75), (40, 75), (50, 55), (60, 70)], order=4, weights=[1, 3, 0.5, 2, 1])
rational(open_curve)
save("rational", doc, msp)

# Blocks: nested, scaled, turned, mirrored, in rows, with a base point of their own; things of layer 0 follow.
doc, msp = begin()
plate(msp, 200, 120)
doc.layers.add("parts")
switch = doc.blocks.new("SWITCH", base_point=(5, 5))
switch.add_circle((5, 5), 3)
switch.add_lwpolyline([(0, 0), (10, 0), (10, 10, 0, 0, 0.4), (0, 10)], close=True, dxfattribs={"layer": "parts"})
pair = doc.blocks.new("PAIR")
pair.add_blockref("SWITCH", (0, 0))
pair.add_blockref("SWITCH", (20, 0), dxfattribs={"rotation": 45})
pair.add_arc((10, 8), 4, 0, 120)
msp.add_blockref("PAIR", (20, 20), dxfattribs={"layer": "plate"})
msp.add_blockref("PAIR", (80, 30), dxfattribs={"rotation": 30, "xscale": 1.5, "yscale": 1.5, "layer": "parts"})
msp.add_blockref("SWITCH", (150, 30), dxfattribs={"xscale": 2, "yscale": 1, "layer": "plate"})
msp.add_blockref("SWITCH", (150, 60), dxfattribs={"xscale": -1, "yscale": 1, "rotation": 10, "layer": "plate"})
msp.add_blockref(
    "SWITCH",
    (20, 80),
    dxfattribs={"column_count": 4, "row_count": 2, "column_spacing": 22, "row_spacing": 18, "rotation": 5},
)
save("blocks", doc, msp)

# Things that look down from above: their planes are mirrored.
doc, msp = begin()
plate(msp)
down = {"layer": "plate", "extrusion": (0, 0, -1)}
msp.add_circle((-30, 20), 6, dxfattribs=down)
msp.add_arc((-60, 20), 8, 10, 100, dxfattribs=down)
msp.add_lwpolyline([(-80, 10), (-100, 10, 0, 0, 0.5), (-100, 30), (-80, 30)], close=True, dxfattribs=down)
msp.add_ellipse((90, 60), (10, 4), ratio=0.5, start_param=0.3, end_param=2.5, dxfattribs=down)
small = doc.blocks.new("TAB")
small.add_lwpolyline([(0, 0), (12, 0), (12, 4), (4, 8)], close=True)
msp.add_blockref("TAB", (-20, 60), dxfattribs={**down, "rotation": 20})
save("mirrored", doc, msp)

# What no tool can follow.
doc, msp = begin("words")
plate(msp)
hatch = msp.add_hatch(dxfattribs={"layer": "plate"})
hatch.paths.add_polyline_path([(10, 10), (30, 10), (30, 30), (10, 30)], is_closed=True)
msp.add_text("GEAR", dxfattribs={"layer": "words", "height": 4, "rotation": 90}).set_pos((50, 20), align="MIDDLE_CENTER")
msp.add_text("UP %%c 5 %%d", dxfattribs={"layer": "words", "height": 3}).set_pos((70, 60))
msp.add_mtext("{\\fArial|b1;FUEL}\\PLEFT\\~1", dxfattribs={"layer": "words", "char_height": 5, "attachment_point": 1, "insert": (80, 50)})
msp.add_linear_dim(base=(0, -10), p1=(0, 0), p2=(120, 0)).render()
msp.add_point((1, 1))
save("words", doc, msp)

# The same in inches, in an old version, with lines and arcs one by one.
doc = ezdxf.new("R12")
msp = doc.modelspace()
doc.header["$INSUNITS"] = 1
corners = [((0.25, 0), (3.75, 0)), ((4, 0.25), (4, 1.75)), ((3.75, 2), (0.25, 2)), ((0, 1.75), (0, 0.25))]
for a, b in corners:
    msp.add_line(a, b)
for centre, a, b in [((3.75, 0.25), 270, 360), ((3.75, 1.75), 0, 90), ((0.25, 1.75), 90, 180), ((0.25, 0.25), 180, 270)]:
    msp.add_arc(centre, 0.25, a, b)
msp.add_polyline2d([(1, 0.5), (2, 0.5), (2, 1.5), (1, 1.5)], dxfattribs={"flags": 1})
save("old-inches", doc, msp)

(here / "dxf.json").write_text(json.dumps(measured, indent=1) + "\n")

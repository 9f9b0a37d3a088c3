"""Reads a DXF file with ezdxf and prints JSON: the auditor's errors and fixes, layers, counts, extents, $INSUNITS."""
import json
import sys

import ezdxf
from ezdxf import bbox
from ezdxf.math import BoundingBox

document = ezdxf.readfile(sys.argv[1])
audit = document.audit()
space = document.modelspace()
box = bbox.extents(space, fast=True)
by_layer = {}
for entity in space:
    # Kinds kept as they came have no layer of their own there.
    layer = entity.dxf.layer if entity.is_supported_dxf_attrib("layer") else ""
    by_layer[layer] = by_layer.get(layer, 0) + 1
def along(entity):
    """Points on a curve itself: ezdxf's own boxes go by Bezier curves, which leave a circle by 0.03 % of its radius."""
    if entity.dxftype() in ("LWPOLYLINE", "POLYLINE") and not getattr(entity, "is_poly_face_mesh", False):
        return [p for e in entity.virtual_entities() for p in along(e)]
    if entity.dxftype() == "LINE":
        return [entity.dxf.start, entity.dxf.end]
    return list(entity.flattening(1e-7)) if hasattr(entity, "flattening") else []


def reach(entity):
    """The box of one entity; nothing where there is none."""
    try:
        points = along(entity)
        one = BoundingBox(points) if points else bbox.extents([entity])
    except Exception:
        return None
    return [*one.extmin, *one.extmax] if one.has_data else None


def area(path):
    """The area of a polyline path of a hatch."""
    v = path.vertices
    return abs(sum(v[i - 1][0] * v[i][1] - v[i][0] * v[i - 1][1] for i in range(len(v)))) / 2


print(json.dumps({
    "layouts": [{"name": l.name, "paper": [l.dxf.paper_width, l.dxf.paper_height], "texts": [t.dxf.text for t in l.query("TEXT")],
                 "scales": [v.dxf.height / v.dxf.view_height for v in l.query("VIEWPORT") if v.dxf.id != 1],
                 "frozen": [len(v.frozen_layers) for v in l.query("VIEWPORT") if v.dxf.id != 1]}
                for l in document.layouts if l.name != "Model"],
    "references": sorted(b.block.dxf.xref_path for b in document.blocks if b.block.is_xref),
    "hatches": [[h.dxf.pattern_name, len(h.pattern.lines) if h.pattern else 0, sum(area(p) for p in h.paths if hasattr(p, "vertices"))] for h in space.query("HATCH")],
    "attributes": {i.get_attrib_text("GLOBALID"): {a.dxf.tag: a.dxf.text for a in i.attribs} for i in space.query("INSERT") if i.has_attrib("GLOBALID")},
    "boxes": {e.dxf.handle: [e.dxftype(), reach(e)] for e in space} if len(sys.argv) > 2 else {},
    "version": document.dxfversion,
    "errors": [e.message for e in audit.errors],
    "fixes": [e.message for e in audit.fixes],
    "units": document.header["$INSUNITS"],
    "layers": sorted(layer.dxf.name for layer in document.layers),
    "byLayer": by_layer,
    "looks": {l.dxf.name: [l.dxf.color, l.dxf.true_color if l.dxf.hasattr("true_color") else None, l.dxf.linetype, l.dxf.lineweight] for l in document.layers},
    "properties": {e.get_xdata("STEADY_LINTEL")[1].value: [[t.code, t.value] for t in e.get_xdata("LINTEL_PROPERTIES")] for e in space
                   if e.has_xdata("STEADY_LINTEL") and e.has_xdata("LINTEL_PROPERTIES")},
    "min": list(box.extmin) if box.has_data else None,
    "max": list(box.extmax) if box.has_data else None,
    "ids": sorted({"/".join(tag.value for tag in e.get_xdata("STEADY_LINTEL")) for e in space if e.has_xdata("STEADY_LINTEL")}),
}))

"""Reads a DXF file with ezdxf and prints JSON: the auditor's errors and fixes, layers, counts, extents, $INSUNITS."""
import json
import sys

import ezdxf
from ezdxf import bbox

document = ezdxf.readfile(sys.argv[1])
audit = document.audit()
space = document.modelspace()
box = bbox.extents(space, fast=True)
by_layer = {}
for entity in space:
    # Kinds kept as they came have no layer of their own there.
    layer = entity.dxf.layer if entity.is_supported_dxf_attrib("layer") else ""
    by_layer[layer] = by_layer.get(layer, 0) + 1
print(json.dumps({
    "version": document.dxfversion,
    "errors": [e.message for e in audit.errors],
    "fixes": [e.message for e in audit.fixes],
    "units": document.header["$INSUNITS"],
    "layers": sorted(layer.dxf.name for layer in document.layers),
    "byLayer": by_layer,
    "min": list(box.extmin),
    "max": list(box.extmax),
    "ids": sorted({"/".join(tag.value for tag in e.get_xdata("STEADY_LINTEL")) for e in space if e.has_xdata("STEADY_LINTEL")}),
}))

"""Takes the inserts of a DXF apart with ezdxf and prints the kinds and the box of each entity."""
import json
import sys

import ezdxf
from ezdxf import bbox, disassemble

document = ezdxf.readfile(sys.argv[1])
rows = []
for entity in disassemble.recursive_decompose(document.modelspace()):
    box = bbox.extents([entity])
    rows.append([entity.dxftype(), entity.dxf.layer if entity.is_supported_dxf_attrib("layer") else "", [*box.extmin, *box.extmax] if box.has_data else None])
print(json.dumps(rows))

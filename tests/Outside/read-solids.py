"""Reads the 3DSOLIDs of a DXF with ezdxf and prints, for each: vertices, faces, volume of faces without holes, box."""
import json
import sys

import ezdxf
from ezdxf.acis import api

document = ezdxf.readfile(sys.argv[1])
rows = []
for solid in document.modelspace().query("3DSOLID"):
    meshes = [m for body in api.load_dxf(solid) for m in api.mesh_from_body(body)]
    points = [p for m in meshes for p in m.vertices]
    volume = sum(
        m.vertices[f[0]].dot(m.vertices[f[i]].cross(m.vertices[f[i + 1]])) / 6 for m in meshes for f in m.faces for i in range(1, len(f) - 1)
    )
    lumps = sum(len(body.lumps()) for body in api.load_dxf(solid))
    faces = sum(len(shell.faces()) for body in api.load_dxf(solid) for lump in body.lumps() for shell in lump.shells())
    rows.append({
        "points": len({(round(p.x, 6), round(p.y, 6), round(p.z, 6)) for p in points}),
        "faces": faces, "lumps": lumps, "volume": volume,
        "min": [min(p[i] for p in points) for i in range(3)], "max": [max(p[i] for p in points) for i in range(3)],
    })
print(json.dumps({"errors": [e.message for e in document.audit().errors], "solids": rows}))

"""Writes a drawing with ezdxf that has what offices use: blocks with attributes, dimensions, hatches, leaders, splines, styles, layouts,
extended data and dictionaries. First argument the version (R2000 to R2018), second the file."""
import sys

import ezdxf
from ezdxf.enums import TextEntityAlignment
from ezdxf.math import Vec2

document = ezdxf.new(sys.argv[1], setup=True)
document.header["$INSUNITS"] = 4
document.appids.add("OFFICE")
for name, colour in (("A-WALL", 1), ("A-DOOR", 3), ("A-ANNO", 7)):
    document.layers.add(name, color=colour, linetype="DASHED" if name == "A-ANNO" else "CONTINUOUS", lineweight=35)
door = document.blocks.new("DOOR")
door.add_lwpolyline([(0, 0), (900, 0)], dxfattribs={"layer": "A-DOOR"})
door.add_arc((0, 0), 900, 0, 90)
door.add_attdef("NUMBER", (100, 100), dxfattribs={"height": 80})
space = document.modelspace()
space.add_lwpolyline([(0, 0, 0, 0, 0.3), (5000, 0, 20, 40), (5000, 3000), (0, 3000)], close=True, dxfattribs={"layer": "A-WALL"})
space.add_polyline3d([(0, 0, 0), (100, 100, 50), (300, 0, 100)])
space.add_spline([(0, 0), (1000, 900), (2000, -300), (3000, 500)])
space.add_open_spline([(0, 0), (1000, 900), (2000, -300), (3000, 500), (4000, 0)])
space.add_ellipse((1000, 1000), (700, 0), 0.4, 0.2, 4)
space.add_circle((200, 200, 30), 50)
space.add_point((1, 2, 3))
space.add_ray((0, 0), (1, 1))
space.add_xline((0, 0), (1, 2))
space.add_solid([(0, 0), (100, 0), (0, 100), (100, 100)])
space.add_3dface([(0, 0, 0), (100, 0, 10), (100, 100, 20), (0, 100, 30)])
space.add_text("Größe ±0,00", height=120, dxfattribs={"style": "OpenSans", "layer": "A-ANNO"}).set_placement((500, 500), align=TextEntityAlignment.MIDDLE_CENTER)
space.add_mtext("{\\fArial|b1;bold} and\\Pa second line", dxfattribs={"char_height": 90, "insert": (500, 800), "width": 700})
insert = space.add_blockref("DOOR", (2500, 0), dxfattribs={"layer": "A-DOOR", "rotation": 30, "xscale": 1, "yscale": -1})
insert.add_auto_attribs({"NUMBER": "D-014"})
insert.set_xdata("OFFICE", [(1000, "fire rating"), (1070, 30), (1040, 1.5)])
hatch = space.add_hatch(color=8, dxfattribs={"layer": "A-WALL"})
hatch.set_pattern_fill("ANSI31", scale=20)
hatch.paths.add_polyline_path([(0, 0), (400, 0), (400, 400), (0, 400)], is_closed=True)
edges = hatch.paths.add_edge_path(flags=16)
edges.add_arc((200, 200), 80, 0, 360)
space.add_linear_dim(base=(0, -500), p1=(0, 0), p2=(5000, 0), dimstyle="EZDXF").render()
space.add_aligned_dim(p1=(0, 0), p2=(3000, 1000), distance=200).render()
space.add_radius_dim(center=(200, 200), radius=50, angle=30).render()
space.add_leader([(0, 0), (300, 300), (600, 300)])
if sys.argv[1] >= "R2000":
    builder = space.add_multileader_mtext("Standard")
    builder.set_content("see schedule")
    builder.add_leader_line(ezdxf.render.ConnectionSide.left, [Vec2(100, 100)])
    builder.build(insert=Vec2(900, 900))
    space.add_wipeout([(0, 0), (100, 0), (100, 100)])
sheet = document.layouts.new("A1 sheet")
sheet.page_setup(size=(841, 594), margins=(10, 10, 10, 20))
sheet.add_viewport(center=(400, 300), size=(600, 400), view_center_point=(2500, 1500), view_height=4000)
sheet.add_text("Drawing title", height=5).set_placement((700, 20))
document.groups.new("PAIR").extend([insert, hatch])
document.saveas(sys.argv[2])

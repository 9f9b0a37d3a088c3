using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>A drawing with every kind of entity and table, text beyond Latin, nested blocks, turned object coordinates, a layout with a
/// viewport of 1:100.</summary>
internal static class KitchenSink
{
    private static readonly Vec3 Tilted = new Vec3(1, 2, 3).Unit();

    public static Drawing Create(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        drawing.Units = 4;
        drawing.Header.Set("$LTSCALE", 40, 10.0);
        Tables(drawing);
        var wall = drawing.Layers["A-WALL"]!.Handle;
        foreach (var entity in Entities(drawing))
        {
            entity.Layer = wall;
            drawing.Add(entity);
        }

        Looks(drawing);
        Blocks(drawing);
        Paper(drawing);
        Objects(drawing);
        return drawing;
    }

    private static void Tables(Drawing drawing)
    {
        var dashed = new LineType
        {
            Name = "DASHED",
            Description = "Dashed __ __",
            Handle = drawing.NextHandle(),
            Owner = drawing.LineTypes.Handle,
            Length = 0.75,
        };
        dashed.Dashes.AddRange([new Dash(0.5), new Dash(-0.25)]);
        drawing.LineTypes.Add(dashed);
        drawing.AddLayer("A-WALL", 0x123456);
        var layer = drawing.AddLayer("Überbau_梁");
        (layer.Colour, layer.Frozen, layer.Locked, layer.LineWeight, layer.LineType) = (
            new CadColour(3),
            true,
            true,
            35,
            dashed.Handle
        );
        drawing.AddLayer("OFF").On = false;
        drawing.AddLayer("NOPLOT").Plot = false;
        drawing.Styles.Add(
            new TextStyle
            {
                Name = "Narrow",
                Handle = drawing.NextHandle(),
                Owner = drawing.Styles.Handle,
                Width = 0.7,
                Slant = 0.1,
                Font = "arial.ttf",
                Height = 3.5,
            }
        );
        drawing.Views.Add(
            new View
            {
                Name = "South",
                Handle = drawing.NextHandle(),
                Owner = drawing.Views.Handle,
                Height = 30,
                Width = 40,
                Direction = new(0, -1, 0),
                Centre = new(5, 6),
            }
        );
        drawing.CoordinateSystems.Add(
            new UserCoordinateSystem
            {
                Name = "Grid",
                Handle = drawing.NextHandle(),
                Owner = drawing.CoordinateSystems.Handle,
                Origin = new(100, 200, 0),
                AxisX = new(0.6, 0.8, 0),
                AxisY = new(-0.8, 0.6, 0),
            }
        );
        var seen = new ViewportRecord
        {
            Name = "*Active",
            Handle = drawing.NextHandle(),
            Owner = drawing.Viewports.Handle,
            Screen = (new(0.5, 0), new(1, 1)),
            Mode = 9,
            Clip = (5, 7),
            Zoom = (500, false),
            Icon = 2,
        };
        (seen.Snap, seen.GridLines, seen.RenderMode, seen.OwnSystem) = ((true, 1, 2, 0.25), (true, 3, 10), 4, true);
        drawing.Viewports.Add(seen);
        var style = new DimensionStyle
        {
            Name = "ISO-25",
            Handle = drawing.NextHandle(),
            Owner = drawing.DimensionStyles.Handle,
        };
        (style["DIMTXT"], style["DIMDEC"], style["DIMTXSTY"]) = (2.5, 2L, drawing.Styles["Narrow"]!.Handle);
        drawing.DimensionStyles.Add(style);
    }

    private static IEnumerable<Entity> Entities(Drawing drawing)
    {
        yield return new Line { Start = new(1.0 / 3, 1e-7, 123456789.123456789), End = new(-5, 5_500_000.125, 0) };
        yield return new Line
        {
            End = new(10, 0, 0),
            Thickness = 2,
            Normal = Tilted,
        };
        yield return new Point { Location = new(1, 2, 3), Angle = 0.5 };
        yield return new Circle
        {
            Centre = new(10, 20, 1),
            Radius = 5,
            Normal = Tilted,
        };
        yield return new ArcEntity
        {
            Centre = new(30, 20, 0),
            Radius = 7.5,
            Start = Math.PI / 4,
            End = 3,
            Normal = new(0, 0, -1),
        };
        yield return new Ellipse
        {
            Centre = new(50, 20, 0),
            Axis = new(6, 2, 0),
            Ratio = 0.4,
            Start = 0.5,
            End = 4,
        };
        yield return new Ray(false) { Start = new(1, 1, 0), Direction = new(0.6, 0.8, 0) };
        yield return new Ray(true) { Start = new(2, 1, 0), Direction = new(0, 1, 0) };
        var solid = new Solid { Thickness = 1 };
        new Vec3[] { new(0, 0, 2), new(1, 0, 2), new(0, 1, 2), new(1, 1, 2) }.CopyTo(solid.Corners, 0);
        yield return solid;
        var trace = new Solid(true);
        new Vec3[] { new(5, 0, 0), new(6, 0, 0), new(5, 1, 0), new(6, 1, 0) }.CopyTo(trace.Corners, 0);
        yield return trace;
        var face = new Face3D { Hidden = 5 };
        new Vec3[] { new(0, 0, 0), new(1, 0, 1), new(1, 1, 2), new(0, 1, 1) }.CopyTo(face.Corners, 0);
        yield return face;
        var light = new LightPolyline
        {
            Closed = true,
            Elevation = 2.5,
            Width = 0,
        };
        light.Vertices.AddRange([new(new(0, 0), 1), new(new(10, 0), 0, 0.5, 1.5), new(new(10, 10), -0.5)]);
        yield return light;
        foreach (var line in Polylines())
            yield return line;
        foreach (var spline in Splines())
            yield return spline;
        foreach (var text in Texts(drawing))
            yield return text;
        foreach (var hatch in Hatches())
            yield return hatch;
        foreach (var dimension in Dimensions(drawing))
            yield return dimension;
        var leader = new Leader { Style = drawing.DimensionStyles["ISO-25"]!.Handle };
        leader.Points.AddRange([new(0, 0, 0), new(5, 5, 0), new(10, 5, 0)]);
        yield return leader;
        yield return new GeometricTolerance
        {
            Insertion = new(3, 4, 0),
            Value = "{\\Fgdt;j}%%v0.1",
            Style = drawing.DimensionStyles["ISO-25"]!.Handle,
        };
        var mesh = new MeshEntity();
        mesh.Points.AddRange([new(0, 0, 0), new(4, 0, 0), new(4, 3, 0), new(0, 3, 0), new(2, 1.5, 5)]);
        mesh.Faces.AddRange([4, 0, 3, 2, 1, 3, 0, 1, 4, 3, 1, 2, 4, 3, 2, 3, 4, 3, 3, 0, 4]);
        yield return mesh;
        yield return Multi(drawing);
    }

    private static MultiLine Multi(Drawing drawing)
    {
        var multi = new MultiLine
        {
            Style = drawing.Objects.OfType<MultiLineStyle>().First().Handle,
            StyleName = "Standard",
            Lines = 2,
            Scale = 20,
            Start = new(0, 0, 0),
        };
        foreach (var point in (Vec3[])[new(0, 0, 0), new(100, 0, 0)])
            multi.Vertices.Add(new MultiLineVertex(point, Vec3.AxisX, Vec3.AxisY, [([0.5, 0], []), ([-0.5, 0], [])]));
        return multi;
    }

    private static IEnumerable<Entity> Polylines()
    {
        var flat = new Polyline(PolylineKind.Flat)
        {
            Flags = 1,
            Elevation = 1.5,
            Widths = (0.5, 0.5),
        };
        flat.Vertices.AddRange([
            new(PolylineKind.Flat) { Location = new(0, 0, 1.5), Bulge = 0.25 },
            new(PolylineKind.Flat) { Location = new(8, 0, 1.5), Widths = (1, 2) },
        ]);
        yield return flat;
        var space = new Polyline(PolylineKind.Space);
        space.Vertices.AddRange([
            new(PolylineKind.Space) { Location = new(0, 0, 0) },
            new(PolylineKind.Space) { Location = new(1, 2, 3) },
            new(PolylineKind.Space) { Location = new(4, 4, 9) },
        ]);
        yield return space;
        var net = new Polyline(PolylineKind.Mesh) { Counts = (2, 3), Flags = 1 };
        for (int i = 0; i < 6; i++)
            net.Vertices.Add(new Vertex(PolylineKind.Mesh) { Location = new(i % 3, i / 3, i) });
        yield return net;
        var faces = new Polyline(PolylineKind.Polyface) { Counts = (4, 2) };
        for (int i = 0; i < 4; i++)
            faces.Vertices.Add(new Vertex(PolylineKind.Polyface) { Location = new(i & 1, i >> 1, i) });
        foreach (
            int[] corners in (int[][])
                [
                    [1, 2, 3, 0],
                    [2, 4, -3, 0],
                ]
        )
        {
            var face = new Vertex(PolylineKind.Polyface, true);
            corners.CopyTo(face.Corners, 0);
            faces.Vertices.Add(face);
        }

        yield return faces;
    }

    private static IEnumerable<Entity> Splines()
    {
        var spline = new Spline { Flags = 12 };
        spline.Knots.AddRange([0, 0, 0, 0, 1, 1, 1, 1]);
        spline.Controls.AddRange([new(0, 0, 0), new(1, 3, 0), new(4, 3, 0), new(5, 0, 0)]);
        spline.Weights.AddRange([1, 0.5, 0.5, 1]);
        yield return spline;
        var fit = new Spline { Flags = 8, Tangents = (Vec3.AxisX, Vec3.AxisY) };
        fit.Fits.AddRange([new(0, 0, 0), new(2, 3, 0), new(6, 1, 0)]);
        yield return fit;
    }

    private static IEnumerable<Entity> Texts(Drawing drawing)
    {
        var narrow = drawing.Styles["Narrow"]!.Handle;
        yield return new Text
        {
            Value = "Door 12 %%c25 – 梁 Ω",
            Insertion = new(1, 2, 0),
            Height = 3.5,
            Style = narrow,
            Rotation = 0.25,
            Width = 0.7,
        };
        yield return new Text
        {
            Value = "centred",
            Insertion = new(8, 9, 4),
            Alignment = new(10, 10, 4),
            Horizontal = 1,
            Vertical = 2,
            Style = narrow,
            Slant = 0.2,
            Normal = Tilted,
        };
        yield return new MText
        {
            Value = "{\\fArial|b1;Room}\\PConcourse " + new string('x', 300),
            Insertion = new(1, 5, 0),
            Width = 50,
            Attachment = 5,
            Style = narrow,
            Direction = new(0.6, 0.8, 0),
            Spacing = (2, 1.25),
        };
    }

    private static IEnumerable<Entity> Hatches()
    {
        var hatch = new Hatch
        {
            Filled = false,
            Pattern = "ANSI31",
            Angle = 0.5,
            Scale = 2,
            Elevation = 1,
        };
        hatch.Lines.Add(new HatchLine(0.785, new(1, 2), new(-2.2, 2.2), [1, -0.5]));
        hatch.Lines.Add(new HatchLine(0.3, new(0, 0), new(0, 1), []));
        var outer = new HatchPath { Flags = 3 };
        outer.Vertices.AddRange([(new(0, 0), 0), (new(10, 0), 0.5), (new(10, 10), 0), (new(0, 10), 0)]);
        var hole = new HatchPath { Flags = 16 };
        hole.Edges.AddRange([
            new HatchEdge { First = new(2, 2), Second = new(4, 2) },
            new HatchEdge
            {
                Kind = HatchEdgeKind.Arc,
                First = new(3, 2),
                Radius = 1,
                Angles = (0, Math.PI),
            },
        ]);
        var oval = new HatchPath { Flags = 16 };
        oval.Edges.Add(
            new HatchEdge
            {
                Kind = HatchEdgeKind.Ellipse,
                First = new(7, 7),
                Second = new(2, 0),
                Radius = 0.5,
                Angles = (0, 2 * Math.PI),
            }
        );
        hatch.Paths.AddRange([outer, hole, oval, Curved()]);
        hatch.Seeds.Add(new(1, 1));
        yield return hatch;
        var solid = new Hatch();
        var square = new HatchPath { Flags = 3 };
        square.Vertices.AddRange([(new(20, 0), 0), (new(30, 0), 0), (new(30, 10), 0)]);
        solid.Paths.Add(square);
        yield return solid;
        var shaded = new Hatch
        {
            Gradient = new HatchGradient
            {
                Name = "CYLINDER",
                Angle = 0.5,
                Shift = 0.25,
                Tint = 1,
            },
        };
        shaded.Gradient.Stops.AddRange([(0, CadColour.True(0x336699)), (1, CadColour.True(0xFFEECC))]);
        var corner = new HatchPath { Flags = 3 };
        corner.Vertices.AddRange([(new(40, 0), 0), (new(50, 0), 0), (new(50, 10), 0)]);
        shaded.Paths.Add(corner);
        yield return shaded;
    }

    private static HatchPath Curved()
    {
        var edge = new HatchEdge { Kind = HatchEdgeKind.Spline, Degree = 2 };
        edge.Knots.AddRange([0, 0, 0, 1, 1, 1]);
        edge.Controls.AddRange([(new(1, 8), 1), (new(2, 9), 1), (new(3, 8), 1)]);
        var path = new HatchPath { Flags = 16 };
        path.Edges.AddRange([edge, new HatchEdge { First = new(3, 8), Second = new(1, 8) }]);
        return path;
    }

    private static IEnumerable<Entity> Dimensions(Drawing drawing)
    {
        var style = drawing.DimensionStyles["ISO-25"]!.Handle;
        foreach (var kind in Enum.GetValues<DimensionKind>())
        {
            var block = drawing.AddBlock("*D" + (int)kind);
            drawing.Add(new Line { End = new(1, (int)kind, 0) }, block);
            var dimension = new Dimension(kind)
            {
                Style = style,
                Block = block.Handle,
                Definition = new(10, 5, 0),
                TextMiddle = new(5, 6, 0),
                Value = kind == DimensionKind.Linear ? "<> mm" : "",
                Measurement = 12.5,
            };
            if (kind is not (DimensionKind.Radius or DimensionKind.Diameter))
                dimension.Points = (new(1, 1, 0), new(9, 1, 0));
            if (
                kind
                is DimensionKind.Radius
                    or DimensionKind.Diameter
                    or DimensionKind.Angular
                    or DimensionKind.Angular3Point
            )
                dimension.Third = new(4, 4, 0);
            if (kind == DimensionKind.Angular)
                dimension.ArcPoint = new(6, 7);
            if (kind == DimensionKind.Linear)
                dimension.Angle = 0.25;
            if (kind == DimensionKind.Ordinate)
                dimension.OfX = true;
            yield return dimension;
        }
    }

    private static void Looks(Drawing drawing)
    {
        var line = new Line
        {
            End = new(3, 3, 3),
            Colour = CadColour.True(0x336699),
            LineType = drawing.LineTypes["DASHED"]!.Handle,
            LineTypeScale = 2,
            LineWeight = 50,
            Invisible = true,
        };
        drawing.Add(line);
        var application = drawing.AddApplication("STEADY_TEST");
        line.Extras.Data.Add(
            new ExtendedData(
                application.Handle,
                [
                    new(1000, "wall 梁"),
                    new(1002, "{"),
                    new(1040, 2.5),
                    new(1070, 7L),
                    new(1071, 70000L),
                    new(1010, 1.0),
                    new(1020, 2.0),
                    new(1030, 3.0),
                    new(1002, "}"),
                    new(1005, line.Handle),
                    new(1004, new byte[] { 1, 2, 255 }),
                ]
            )
        );
        drawing.Add(
            new Circle
            {
                Radius = 1,
                Colour = CadColour.ByBlock,
                LineType = drawing.ByBlock,
            }
        );
    }

    private static void Blocks(Drawing drawing)
    {
        var inner = drawing.AddBlock("Hinge");
        drawing.Add(new Circle { Radius = 0.1 }, inner);
        var door = drawing.AddBlock("Door");
        door.Base = new(0.5, 0, 0);
        drawing.Add(new Line { End = new(1, 0, 0) }, door);
        drawing.Add(
            new Insert
            {
                Block = inner.Handle,
                Location = new(1, 0, 0),
                Scale = new(2, 2, 2),
            },
            door
        );
        var style = drawing.Styles["Standard"]!.Handle;
        drawing.Add(
            new AttributeDefinition
            {
                Tag = "NUMBER",
                Prompt = "Door number",
                Value = "0",
                Style = style,
                Height = 2,
            },
            door
        );
        var insert = new Insert
        {
            Block = door.Handle,
            Location = new(20, 30, 0),
            Scale = new(1, -1, 2),
            Rotation = 0.5,
            Normal = Tilted,
        };
        insert.Attributes.Add(
            new AttributeEntity
            {
                Tag = "NUMBER",
                Value = "D-12",
                Style = style,
                Insertion = new(21, 31, 0),
                Height = 2,
            }
        );
        drawing.Add(insert);
        drawing.Add(
            new Insert
            {
                Block = inner.Handle,
                Location = new(0, 50, 0),
                Array = (3, 2),
                Spacing = (4, 5),
            }
        );
        var xref = drawing.AddBlock("STR-grid");
        (xref.IsXref, xref.Path, xref.IsLoaded) = (true, "..\\STR\\grid.dwg", false);
        drawing.Add(new Insert { Block = xref.Handle });
    }

    private static void Paper(Drawing drawing)
    {
        var paper = drawing.Blocks[BlockRecord.PaperSpace]!;
        var sheet = drawing.Layouts.Single(l => l.Block == paper.Handle);
        (sheet.PlotOffset, sheet.PlotWindow, sheet.UsualScale, sheet.ImageOrigin, sheet.Plane) = (
            new(11, 12),
            (new(1, 2), new(300, 200)),
            (22, 0.02),
            new(3, 4),
            (1.5, 2)
        );
        drawing.Add(
            new Viewport
            {
                Id = 1,
                Order = 1,
                Centre = new(210, 148.5, 0),
                Size = (420, 297),
                ViewCentre = new(210, 148.5),
                ViewHeight = 297,
            },
            paper
        );
        var window = new Viewport
        {
            Centre = new(200, 150, 0),
            Size = (200, 100),
            ViewCentre = new(5000, 4000),
            ViewHeight = 10_000,
        };
        window.Frozen.Add(drawing.Layers["OFF"]!.Handle);
        drawing.Add(window, paper);
        drawing.Add(
            new Text
            {
                Value = "Plan 1:100",
                Insertion = new(10, 10, 0),
                Style = drawing.Styles["Standard"]!.Handle,
            },
            paper
        );
    }

    private static void Objects(Drawing drawing)
    {
        var root = (CadDictionary)drawing.Objects[0];
        var own = new CadDictionary { Handle = drawing.NextHandle(), Owner = root.Handle };
        root.Entries.Add(("STEADY", own.Handle));
        drawing.Objects.Add(own);
        var record = new CadRecord { Handle = drawing.NextHandle(), Owner = own.Handle };
        record.Groups.AddRange([
            new(1, "Concourse 梁"),
            new(40, 4.8),
            new(70, 3L),
            new(90, 100000L),
            new(10, 1.0),
            new(20, 2.0),
            new(30, 3.0),
            new(290, true),
            new(330, root.Handle),
        ]);
        own.Entries.Add(("LEVEL", record.Handle));
        drawing.Objects.Add(record);
        var variable = new DictionaryVariable
        {
            Handle = drawing.NextHandle(),
            Owner = own.Handle,
            Value = "1:100",
        };
        own.Entries.Add(("SCALE", variable.Handle));
        drawing.Objects.Add(variable);
        var groups = drawing.Objects.OfType<CadDictionary>().First(d => d.Handle == root["ACAD_GROUP"]);
        var group = new EntityGroup
        {
            Handle = drawing.NextHandle(),
            Owner = groups.Handle,
            Description = "two",
        };
        group.Members.AddRange(drawing.Model.Entities.Take(2).Select(e => e.Handle));
        groups.Entries.Add(("PAIR", group.Handle));
        drawing.Objects.Add(group);
        var image = new ImageDefinition
        {
            Handle = drawing.NextHandle(),
            Owner = own.Handle,
            Path = "site.png",
            Size = new(640, 480),
        };
        own.Entries.Add(("IMAGE", image.Handle));
        drawing.Objects.Add(image);
        var picture = new Image
        {
            Definition = image.Handle,
            Corner = new(1, 1, 0),
            Size = new(640, 480),
            Layer = drawing.Layers["A-WALL"]!.Handle,
        };
        picture.Boundary.AddRange([new(-0.5, -0.5), new(639.5, 479.5)]);
        drawing.Add(picture);
        Pages(drawing, own);
    }

    private static void Pages(Drawing drawing, CadDictionary own)
    {
        var file = new UnderlayDefinition("PDFDEFINITION")
        {
            Handle = drawing.NextHandle(),
            Owner = own.Handle,
            Path = "..\\ARC\\plan 梁.pdf",
            Page = "2",
        };
        own.Entries.Add(("PLAN", file.Handle));
        drawing.Objects.Add(file);
        var page = new Underlay("PDFUNDERLAY")
        {
            Definition = file.Handle,
            Location = new(5, 6, 0),
            Scale = new(2, 2, 2),
            Rotation = 0.5,
            Flags = 11,
            Tone = (80, 20),
            Layer = drawing.Layers["A-WALL"]!.Handle,
        };
        page.Boundary.AddRange([new(0, 0), new(420, 0), new(420, 297), new(0, 297)]);
        drawing.Add(page);
        drawing.Add(Leads(drawing));
        if (drawing.Version < CadVersion.AC1024)
            return;
        var place = new GeoData
        {
            Handle = drawing.NextHandle(),
            Owner = own.Handle,
            Block = drawing.Model.Handle,
            Coordinates = 2,
            Design = new(10, 20, 0),
            Reference = new(385_000.25, 5_820_000.5, 31),
            Metres = (0.001, 0.001),
            Units = (4, 4),
            North = new(0.6, 0.8),
            ScaleMethod = 2,
            Scale = 0.9996,
            System = "<Dictionary>\n" + new string('x', 100) + "</Dictionary>",
            Tags = ("", "a", "b", ""),
        };
        place.Mesh.AddRange([(new(0, 0), new(1, 1)), (new(10, 0), new(11, 1)), (new(0, 10), new(1, 11))]);
        place.Faces.Add((0, 1, 2));
        own.Entries.Add(("ACAD_GEOGRAPHICDATA", place.Handle));
        drawing.Objects.Add(place);
    }

    private static MultiLeader Leads(Drawing drawing)
    {
        var narrow = drawing.Styles["Narrow"]!.Handle;
        var leader = new MultiLeader
        {
            Layer = drawing.Layers["A-WALL"]!.Handle,
            Landing = (true, true, 3),
            Arrow = (default, 2.5),
            Lines = (1, new CadColour(3), drawing.LineTypes["DASHED"]!.Handle, 35),
        };
        leader.Text = (narrow, 1, 2, 1, 0, new CadColour(4), true);
        leader.Context.Text = new MultiLeaderText
        {
            Value = "Steel 梁 HEB 200",
            Style = narrow,
            Position = (Vec3.AxisZ, new(20, 21, 0), Vec3.AxisX, 0.25),
            Size = (30, 2.5),
            Colour = new CadColour(5),
        };
        leader.Context.Base = new(19, 20, 0);
        leader.Context.Sizes = (2.5, 2.5, 1);
        var branch = new MultiLeaderBranch { End = new(15, 20, 0), HookLength = 3 };
        branch.Lines.Add(new MultiLeaderLine { Points = { new(0, 0, 0), new(5, 10, 0) } });
        leader.Context.Branches.Add(branch);
        return leader;
    }
}

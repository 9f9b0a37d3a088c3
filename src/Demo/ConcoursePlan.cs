using System.Globalization;
using System.IO.Compression;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Demo;

/// <summary>The plan of the concourse as three people draw it: the architect in paper scale with a title block and a detail beside it, the
/// services engineer in inches round a far corner with a scale bar, a surveyor traced from a scan with one length printed on it.</summary>
internal sealed class ConcoursePlan
{
    private readonly Drawing _drawing;
    private readonly double _unit;
    private readonly Vec2 _corner;
    private int _dimensions;

    // Drawn with so many units to the metre, from a corner.
    private ConcoursePlan(int declared, double unitsPerMetre, Vec2 corner)
    {
        (_unit, _corner) = (unitsPerMetre, corner);
        _drawing = Drawing.Create(CadVersion.AC1024);
        _drawing.Units = declared;
        foreach (
            var (name, rgb) in new[]
            {
                ("A-WALL", 0x1E2226),
                ("A-DOOR", 0x96361F),
                ("A-GRID", 0x8A8478),
                ("A-DIMS", 0x2B5C6B),
                ("A-NOTE", 0x1E2226),
                ("A-TTLB", 0x5C5348),
                ("M-DUCT", 0x00764F),
            }
        )
            _drawing.AddLayer(name, rgb);
    }

    /// <summary>ARC: printed 1:100, so that a unit is a millimetre of paper, though it says millimetres.</summary>
    /// <param name="target">Where to.</param>
    /// <param name="wall">Where the wall between hall and kiosks is, metres: the second revision moves it.</param>
    public static void Printed(Stream target, double wall)
    {
        var plan = new ConcoursePlan(4, 10, new Vec2(60, 80));
        plan.Walls(wall);
        plan.Grid();
        for (int i = 0; i < 6; i++)
            plan.Measured(new(i * 8, -3), new((i + 1) * 8, -3), "8.00");
        plan.Measured(new(0, -5), new(48, -5), "48.00");
        plan.Text("A-NOTE", new(16, -9), 0.5, "Concourse 1:100");
        plan.Box("A-TTLB", 52, -9, 12, 5);
        plan.Text("A-TTLB", new(52.5, -5.5), 0.4, "Heron Wharf, ferry terminal");
        // A detail that is none of the plan.
        plan.Box("A-NOTE", 54, 10, 6, 4);
        plan.Text("A-NOTE", new(54.5, 13), 0.4, "Sill");
        plan.Write(target);
    }

    /// <summary>ARC: a sheet of the concourse, 1:100 in millimetres of paper, with its walls and its grid attached as drawings of their
    /// own; all three in one archive.</summary>
    public static void Package(Stream target)
    {
        using var zip = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true);
        Enter("HW-ARC-A201-concourse.dwg", p => p.Sheet("HW-ARC-X-walls.dwg", "HW-ARC-X-grid.dwg"));
        Enter("HW-ARC-X-walls.dwg", p => p.Walls(16));
        Enter("HW-ARC-X-grid.dwg", p => p.Grid());

        void Enter(string name, Action<ConcoursePlan> draw)
        {
            var plan = new ConcoursePlan(4, 10, default);
            draw(plan);
            using var bytes = new MemoryStream();
            plan.Write(bytes);
            var entry = zip.CreateEntry(name);
            // The same archive whenever it is written.
            entry.LastWriteTime = new DateTimeOffset(2026, 11, 20, 9, 0, 0, TimeSpan.Zero);
            using var stream = entry.Open();
            stream.Write(bytes.ToArray());
        }
    }

    /// <summary>ARC: a section along the hall in metres, with a mark at each level.</summary>
    public static void Section(Stream target)
    {
        var plan = new ConcoursePlan(6, 1, default);
        foreach (var (name, z) in new[] { ("Quay", 0.0), ("Concourse", 4.8), ("Gallery", 8.6), ("Roof", 12.4) })
        {
            plan.Line("A-NOTE", new(-4, z), new(50, z));
            string sign = z == 0 ? "±" : "+";
            plan.Text("A-NOTE", new(-4, z + 0.1), 0.4, string.Create(CultureInfo.InvariantCulture, $"{sign}{z:0.000}"));
            plan.Text("A-NOTE", new(50.5, z), 0.4, name);
        }

        plan.Box("A-WALL", 0, 0, 48, 12.4);
        plan.Text("A-NOTE", new(18, -2), 0.6, "Section A-A");
        plan.Write(target);
    }

    /// <summary>SRV: ducts in inches, a million inches away, with a scale bar and no dimension.</summary>
    public static void Ducts(Stream target)
    {
        var plan = new ConcoursePlan(0, 1 / 0.0254, new Vec2(1_000_000, 500_000));
        plan.Walls(16);
        foreach (double y in (double[])[6, 18])
        foreach (double side in (double[])[-0.3, 0.3])
            plan.Line("M-DUCT", new(2, y + side), new(46, y + side));
        plan.Box("M-DUCT", 0, -6, 20, 0.4);
        foreach (var (at, text) in new[] { (0, "0"), (5, "5"), (10, "10"), (20, "20 m") })
            plan.Text("A-NOTE", new(at, -7), 0.5, text);
        plan.Write(target);
    }

    /// <summary>CIV: traced from a scan; nothing says its unit but one length.</summary>
    public static void Traced(Stream target)
    {
        var plan = new ConcoursePlan(0, 7.3, new Vec2(12, 34));
        plan.Walls(16);
        plan.Text("A-NOTE", new(20, -2), 0.6, "48.00");
        plan.Line("A-NOTE", new(0, -1), new(48, -1));
        plan.Write(target);
    }

    private void Write(Stream target) => DwgWriter.Write(_drawing, target);

    private Vec3 At(Vec2 p) => new(_corner.X + (p.X * _unit), _corner.Y + (p.Y * _unit), 0);

    private void Add(string layer, Entity entity, BlockRecord? block = null)
    {
        entity.Layer = _drawing.Layers[layer]!.Handle;
        _drawing.Add(entity, block);
    }

    private void Line(string layer, Vec2 a, Vec2 b) => Add(layer, new Line { Start = At(a), End = At(b) });

    private void Box(string layer, double x, double y, double width, double height)
    {
        var line = new LightPolyline { Closed = true };
        line.Vertices.AddRange(
            new Vec2[] { new(x, y), new(x + width, y), new(x + width, y + height), new(x, y + height) }.Select(
                p => new LightVertex(At(p).XY)
            )
        );
        Add(layer, line);
    }

    private void Text(string layer, Vec2 at, double height, string text) =>
        Add(
            layer,
            new Text
            {
                Value = text,
                Insertion = At(at),
                Height = height * _unit,
            }
        );

    private void Sheet(params string[] attached)
    {
        const double width = 841,
            height = 594;
        foreach (string file in attached)
        {
            var block = _drawing.AddBlock(Path.GetFileNameWithoutExtension(file));
            (block.IsXref, block.Path, block.IsLoaded) = (true, file, true);
            Add("A-WALL", new Insert { Block = block.Handle });
        }

        for (int i = 0; i < 6; i++)
            Measured(new(i * 8, -3), new((i + 1) * 8, -3), "8.00");
        Text("A-NOTE", new(16, -9), 0.5, "Concourse");
        var paper = _drawing.Blocks[BlockRecord.PaperSpace]!;
        var layout = _drawing.Layouts.Single(l => l.Block == paper.Handle);
        _drawing.Rename(layout, "A-201 Concourse");
        (layout.Paper, layout.Limits) = ((width, height), (default, new Vec2(width, height)));
        Add(
            "A-TTLB",
            new Viewport
            {
                Id = 1,
                Order = 1,
                Centre = new(width / 2, height / 2, 0),
                Size = (width, height),
                ViewCentre = new(width / 2, height / 2),
                ViewHeight = height,
            },
            paper
        );
        Add(
            "A-TTLB",
            new Viewport
            {
                Centre = new(330, 320, 0),
                Size = (600, 400),
                ViewCentre = new(240, 120),
                ViewHeight = 400,
            },
            paper
        );
        Add(
            "A-NOTE",
            new Text
            {
                Value = "Heron Wharf  A-201 Concourse  1:100",
                Height = 7,
                Insertion = new(560, 30, 0),
            },
            paper
        );
    }

    private void Walls(double wall)
    {
        Box("A-WALL", 0, 0, 48, 24);
        Box("A-WALL", 0.3, 0.3, 47.4, 23.4);
        foreach (double y in (double[])[wall, wall + 0.2])
            Line("A-WALL", new(0.3, y), new(47.7, y));
        for (int i = 0; i < 6; i++)
        {
            var hinge = new Vec2((i * 8) + 3.5, wall);
            Line("A-DOOR", hinge, hinge + new Vec2(0, -0.9));
            Add(
                "A-DOOR",
                new ArcEntity
                {
                    Centre = At(hinge),
                    Radius = 0.9 * _unit,
                    Start = -Math.PI / 2,
                    End = 0,
                }
            );
        }
    }

    private void Grid()
    {
        for (int i = 0; i <= Site.BaysX; i++)
            Axis(((char)('A' + i)).ToString(), new(i * 8, -2), new(i * 8, 26));
        for (int i = 0; i <= Site.BaysY; i++)
            Axis((i + 1).ToString(CultureInfo.InvariantCulture), new(50, i * 8), new(-2, i * 8));
    }

    private void Axis(string tag, Vec2 from, Vec2 to)
    {
        Line("A-GRID", from, to);
        var centre = to + ((to - from).Unit() * 0.8);
        Add("A-GRID", new Circle { Centre = At(centre), Radius = 0.8 * _unit });
        Add(
            "A-GRID",
            new Text
            {
                Value = tag,
                Insertion = At(centre),
                Alignment = At(centre),
                Height = 0.6 * _unit,
                Horizontal = 1,
                Vertical = 2,
            }
        );
    }

    private void Measured(Vec2 a, Vec2 b, string text)
    {
        var picture = _drawing.AddBlock($"*D{++_dimensions}");
        Add("A-DIMS", new Line { Start = At(a), End = At(b) }, picture);
        Add(
            "A-DIMS",
            new MText
            {
                Value = text,
                Insertion = At((a + b) * 0.5),
                Height = 0.4 * _unit,
                Attachment = 8,
            },
            picture
        );
        Add(
            "A-DIMS",
            new Dimension(DimensionKind.Linear)
            {
                Block = picture.Handle,
                Points = (At(a), At(b)),
                Definition = At(b),
                TextMiddle = At((a + b) * 0.5),
                Measurement = (b - a).Length * _unit,
                Style = _drawing.DimensionStyles.First().Handle,
            }
        );
    }
}

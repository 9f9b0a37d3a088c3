using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Demo;

/// <summary>STR: the plan of the foundations as a drawing in millimetres: grid, pads, ground beams, quay edge, dimensions, and a sheet that
/// shows it at 1:100 and a detail at 1:20. The drawing of the quay it refers to was not sent.</summary>
internal sealed class FoundationPlan
{
    private const double Bay = Site.Bay * 1000,
        Pad = 1800,
        Beam = 400,
        Bubble = 800,
        Reach = 6000,
        Text = 250;
    private const double Width = Site.BaysX * Bay,
        Depth = Site.BaysY * Bay;
    private readonly Drawing _drawing;
    private readonly TextStyle _lettering;
    private int _dimensions;

    private FoundationPlan(double julianDay)
    {
        _drawing = Drawing.Create(CadVersion.AC1024);
        _drawing.Units = 4;
        _drawing.Header.Set("$MEASUREMENT", 70, 1);
        _drawing.Header.Set("$LTSCALE", 40, 100.0);
        _drawing.Header.Set("$PSLTSCALE", 70, 0);
        _drawing.Header.Set("$TDCREATE", 40, julianDay);
        _drawing.Header.Set("$TDUPDATE", 40, julianDay);
        _lettering = new TextStyle
        {
            Name = "Lettering",
            Handle = _drawing.NextHandle(),
            Owner = _drawing.Styles.Handle,
            Width = 0.9,
            Font = "arial.ttf",
        };
        _drawing.Styles.Add(_lettering);
        var centre = LineType("CENTRE", "Centre ____ _ ____", 20, -3, 4, -3);
        var hidden = LineType("HIDDEN", "Hidden __ __ __", 6, -3);
        Layer("S-GRID", 0x8A8478, 18, centre);
        Layer("S-FNDN-PADS", 0xB84A00, 50);
        Layer("S-FNDN-BEAM", 0x5C5348, 35, hidden);
        Layer("S-FNDN-HATCH", 0xC9A27E, 13);
        Layer("S-DIMS", 0x2B5C6B, 18);
        Layer("S-NOTE", 0x1E2226, 25);
        Layer("S-SHEET", 0x1E2226, 35);
        Layer("S-VIEW", 0xB8B0A2, 13).Plot = false;
        Layer("V-QUAY", 0x2F6B8F, 70);
        Layer("V-WATER", 0x9CC3D6, 13);
    }

    /// <summary>Writes the drawing.</summary>
    /// <param name="target">Where to.</param>
    /// <param name="julianDay">When it was saved.</param>
    public static void Write(Stream target, double julianDay)
    {
        var plan = new FoundationPlan(julianDay);
        plan.All();
        DwgWriter.Write(plan._drawing, target);
    }

    private void All()
    {
        Grid();
        Pads();
        Beams();
        Quay();
        Dimensions();
        Notes();
        Sheet();
    }

    private LineType LineType(string name, string description, params double[] dashes)
    {
        var type = new LineType
        {
            Name = name,
            Description = description,
            Handle = _drawing.NextHandle(),
            Owner = _drawing.LineTypes.Handle,
            Length = dashes.Sum(Math.Abs),
        };
        type.Dashes.AddRange(dashes.Select(d => new Dash(d)));
        _drawing.LineTypes.Add(type);
        return type;
    }

    private Layer Layer(string name, int rgb, short weight, LineType? lineType = null)
    {
        var layer = _drawing.AddLayer(name, rgb, lineType);
        layer.LineWeight = weight;
        return layer;
    }

    private void Add(string layer, Entity entity, BlockRecord? block = null)
    {
        entity.Layer = _drawing.Layers[layer]!.Handle;
        foreach (var part in entity.Parts)
            part.Layer = entity.Layer;
        _drawing.Add(entity, block);
    }

    private void Line(string layer, Vec2 from, Vec2 to, BlockRecord? block = null) =>
        Add(layer, new Line { Start = At(from), End = At(to) }, block);

    private static Vec3 At(Vec2 p) => new(p.X, p.Y, 0);

    private static LightPolyline Closed(params Vec2[] points)
    {
        var line = new LightPolyline { Closed = true };
        line.Vertices.AddRange(points.Select(p => new LightVertex(p)));
        return line;
    }

    private static LightPolyline Rectangle(double x, double y, double width, double height) =>
        Closed(new(x, y), new(x + width, y), new(x + width, y + height), new(x, y + height));

    private void Grid()
    {
        var bubble = _drawing.AddBlock("GRID-BUBBLE");
        Add("0", new Circle { Radius = Bubble }, bubble);
        Add(
            "0",
            new AttributeDefinition
            {
                Tag = "AXIS",
                Prompt = "Axis",
                Value = "A",
                Style = _lettering.Handle,
                Height = 2 * Text,
                Horizontal = 1,
                Vertical = 2,
            },
            bubble
        );
        for (int i = 0; i <= Site.BaysX; i++)
            Axis(bubble, ((char)('A' + i)).ToString(), new(i * Bay, -Reach), new(i * Bay, Depth + Reach));
        for (int i = 0; i <= Site.BaysY; i++)
            Axis(
                bubble,
                (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture),
                new(-Reach, i * Bay),
                new(Width + Reach, i * Bay)
            );
    }

    private void Axis(BlockRecord bubble, string tag, Vec2 from, Vec2 to)
    {
        Line("S-GRID", from, to);
        var along = (to - from).Unit();
        foreach (var end in new[] { from - (along * Bubble), to + (along * Bubble) })
        {
            var insert = new Insert { Block = bubble.Handle, Location = At(end) };
            insert.Attributes.Add(
                new AttributeEntity
                {
                    Tag = "AXIS",
                    Value = tag,
                    Style = _lettering.Handle,
                    Height = 2 * Text,
                    Insertion = At(end),
                    Alignment = At(end),
                    Horizontal = 1,
                    Vertical = 2,
                }
            );
            Add("S-GRID", insert);
        }
    }

    private void Pads()
    {
        var pad = _drawing.AddBlock("PAD-1800");
        Add("0", Rectangle(-Pad / 2, -Pad / 2, Pad, Pad), pad);
        Add("0", Rectangle(-200, -200, 400, 400), pad);
        for (int i = 0; i <= Site.BaysX; i++)
        {
            for (int j = 0; j <= Site.BaysY; j++)
            {
                Vec2 at = new(i * Bay, j * Bay);
                Add("S-FNDN-PADS", new Insert { Block = pad.Handle, Location = At(at) });
                Hatched(at);
                Add(
                    "S-NOTE",
                    new Text
                    {
                        Value = $"{(char)('A' + i)}{j + 1}",
                        Insertion = new(at.X + (Pad / 2) + 120, at.Y + (Pad / 2) - Text, 0),
                        Height = Text,
                        Style = _lettering.Handle,
                    }
                );
            }
        }
    }

    private void Hatched(Vec2 at)
    {
        const double apart = 225;
        var hatch = new Hatch
        {
            Filled = false,
            Pattern = "ANSI31",
            Scale = 70,
        };
        hatch.Lines.Add(new HatchLine(Math.PI / 4, default, new Vec2(-apart / Math.Sqrt(2), apart / Math.Sqrt(2)), []));
        hatch.Paths.AddRange([Boundary(at, Pad / 2, 3), Boundary(at, 200, 18)]);
        Add("S-FNDN-HATCH", hatch);
    }

    private static HatchPath Boundary(Vec2 at, double half, int flags)
    {
        var path = new HatchPath { Flags = flags };
        path.Vertices.AddRange(
            new Vec2[] { new(-half, -half), new(half, -half), new(half, half), new(-half, half) }.Select(p =>
                (at + p, 0.0)
            )
        );
        return path;
    }

    private void Beams()
    {
        for (int i = 0; i <= Site.BaysX; i++)
        for (int j = 0; j < Site.BaysY; j++)
            foreach (int side in (int[])[-1, 1])
                Line(
                    "S-FNDN-BEAM",
                    new((i * Bay) + (side * Beam / 2), (j * Bay) + (Pad / 2)),
                    new((i * Bay) + (side * Beam / 2), ((j + 1) * Bay) - (Pad / 2))
                );
        for (int j = 0; j <= Site.BaysY; j++)
        for (int i = 0; i < Site.BaysX; i++)
            foreach (int side in (int[])[-1, 1])
                Line(
                    "S-FNDN-BEAM",
                    new((i * Bay) + (Pad / 2), (j * Bay) + (side * Beam / 2)),
                    new(((i + 1) * Bay) - (Pad / 2), (j * Bay) + (side * Beam / 2))
                );
        // The ring beam under the curved wall.
        foreach (int side in (int[])[-1, 1])
            Add(
                "S-FNDN-BEAM",
                new ArcEntity
                {
                    Centre = new(Width, Depth / 2, 0),
                    Radius = (Depth / 2) + (side * Beam / 2),
                    Start = -Math.PI / 2,
                    End = Math.PI / 2,
                }
            );
    }

    private void Quay()
    {
        const double edge = -9500,
            water = -13_000;
        var line = new LightPolyline { Width = 120 };
        line.Vertices.AddRange(
            new Vec2[] { new(-12_000, edge), new(Width + 14_000, edge) }.Select(p => new LightVertex(p))
        );
        Add("V-QUAY", line);
        var hatch = new Hatch
        {
            Filled = false,
            Pattern = "DASH",
            Scale = 100,
        };
        hatch.Lines.Add(new HatchLine(0, default, new Vec2(600, 500), [1200, -600]));
        var path = new HatchPath { Flags = 3 };
        path.Vertices.AddRange(
            new Vec2[]
            {
                new(-12_000, water),
                new(Width + 14_000, water),
                new(Width + 14_000, edge),
                new(-12_000, edge),
            }.Select(p => (p, 0.0))
        );
        hatch.Paths.Add(path);
        Add("V-WATER", hatch);
        Add(
            "S-NOTE",
            new Text
            {
                Value = "QUAY EDGE, TOP +0.000",
                Insertion = new(-11_500, edge + 250, 0),
                Height = Text,
                Style = _lettering.Handle,
            }
        );
        var survey = _drawing.AddBlock("HW-QUAY-survey");
        (survey.IsXref, survey.Path, survey.IsLoaded) = (true, @"..\SURVEY\HW-QUAY-survey.dwg", false);
        Add("V-QUAY", new Insert { Block = survey.Handle });
    }

    private void Dimensions()
    {
        var style = new DimensionStyle
        {
            Name = "HW-100",
            Handle = _drawing.NextHandle(),
            Owner = _drawing.DimensionStyles.Handle,
        };
        (style["DIMTXT"], style["DIMDEC"], style["DIMTXSTY"]) = (Text, 0L, _lettering.Handle);
        _drawing.DimensionStyles.Add(style);
        for (int i = 0; i < Site.BaysX; i++)
            Dimension(style, new(i * Bay, Depth), new((i + 1) * Bay, Depth), new(0, 3600), 0);
        Dimension(style, new(0, Depth), new(Width, Depth), new(0, 4600), 0);
        for (int j = 0; j < Site.BaysY; j++)
            Dimension(style, new(0, j * Bay), new(0, (j + 1) * Bay), new(-3600, 0), Math.PI / 2);
        Dimension(style, new(0, 0), new(0, Depth), new(-4600, 0), Math.PI / 2);
    }

    // The picture of a dimension is a block of its own: two lines of extension, the dimension line with strokes across its ends, the
    // number.
    private void Dimension(DimensionStyle style, Vec2 from, Vec2 to, Vec2 away, double angle)
    {
        var block = _drawing.AddBlock($"*D{++_dimensions}");
        Vec2 a = from + away,
            b = to + away,
            along = (b - a).Unit(),
            outward = away.Unit(),
            tick = (along + outward) * 110,
            middle = ((a + b) * 0.5) + (new Vec2(-along.Y, along.X) * (Text * 0.75));
        double length = (b - a).Length;
        Line("S-DIMS", from + (outward * 1200), a + (outward * 150), block);
        Line("S-DIMS", to + (outward * 1200), b + (outward * 150), block);
        Line("S-DIMS", a, b, block);
        foreach (var end in new[] { a, b })
            Line("S-DIMS", end - tick, end + tick, block);
        string number = length.ToString("0", System.Globalization.CultureInfo.InvariantCulture);
        Add(
            "S-DIMS",
            new Text
            {
                Value = number,
                Insertion = At(middle),
                Alignment = At(middle),
                Horizontal = 1,
                Vertical = 2,
                Height = Text,
                Rotation = angle,
                Style = _lettering.Handle,
            },
            block
        );
        Add(
            "S-DIMS",
            new Dimension(DimensionKind.Linear)
            {
                Style = style.Handle,
                Block = block.Handle,
                Definition = At(b),
                TextMiddle = At(middle),
                Points = (At(from), At(to)),
                Angle = angle,
                Measurement = length,
            }
        );
    }

    private void Notes() =>
        Add(
            "S-NOTE",
            new MText
            {
                Value =
                    @"FOUNDATIONS\P1. Pads 1800 × 1800 × 600, top at −1.200.\P2. Ground beams 400 × 600.\P3. Levels in metres above quay.\P4. Water side after the survey of the quay.",
                Insertion = new(Width + 1500, -1200, 0),
                Height = Text,
                Width = 11_000,
                Style = _lettering.Handle,
            }
        );

    private void Sheet()
    {
        const double width = 841,
            height = 594,
            margin = 10;
        var paper = _drawing.Blocks[BlockRecord.PaperSpace]!;
        var layout = _drawing.Layouts.Single(l => l.Block == paper.Handle);
        _drawing.Rename(layout, "S-100 Foundations");
        (layout.Paper, layout.Limits) = ((width, height), (default, new Vec2(width, height)));
        layout.Plot = ("", "none_device", "ISO_A1_(841.00_x_594.00_MM)");
        Add(
            "S-VIEW",
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
        Window(paper, 30, 108, 780, 468, new Vec2((Width + 2000) / 2, 9200), 100);
        Window(paper, 30, 24, 150, 76, new Vec2(400, 0), 20);
        Add("S-SHEET", Rectangle(margin, margin, width - (2 * margin), height - (2 * margin)), paper);
        Add("S-SHEET", Rectangle(width - margin - 190, margin, 190, 90), paper);
        foreach (double y in (double[])[30, 50, 75])
            Line("S-SHEET", new(width - margin - 190, margin + y), new(width - margin, margin + y), paper);
        foreach (
            var (text, x, y, size) in new[]
            {
                ("HERON WHARF  Ferry terminal", 8.0, 80.0, 5.0),
                ("Plan of foundations", 8, 58, 7),
                ("S-100", 8, 36, 7),
                ("1:100 / 1:20", 110, 36, 5),
                ("STR   14 Nov 2026   for exchange", 8, 18, 4),
                ("PAD A1   1:20", -611, 6, 4),
            }
        )
            Add(
                "S-NOTE",
                new Text
                {
                    Value = text,
                    Insertion = new(width - margin - 190 + x, margin + y, 0),
                    Height = size,
                    Style = _lettering.Handle,
                },
                paper
            );
    }

    private void Window(
        BlockRecord paper,
        double x,
        double y,
        double width,
        double height,
        Vec2 centre,
        double scale
    ) =>
        Add(
            "S-VIEW",
            new Viewport
            {
                Centre = new(x + (width / 2), y + (height / 2), 0),
                Size = (width, height),
                ViewCentre = centre,
                ViewHeight = height * scale,
            },
            paper
        );
}

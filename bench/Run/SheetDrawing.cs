using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Bench;

/// <summary>A drawing as an office makes it: floors of rooms with walls, fills, doors with attributes, dimensions with their pictures,
/// texts, leaders, extended data.</summary>
internal sealed class SheetDrawing
{
    private const double Room = 4000,
        Wall = 120;
    private readonly Drawing _drawing = Drawing.Create(CadVersion.AC1024);
    private readonly Random _random = new(11);
    private readonly Handle[] _layers;
    private readonly Handle _style,
        _dimensionStyle;
    private readonly BlockRecord _door,
        _chair;
    private readonly Cad.ApplicationId _application;
    private int _dimensions;

    private SheetDrawing()
    {
        _drawing.Units = 4;
        string[] names =
        [
            "A-WALL",
            "A-WALL-PATT",
            "A-DOOR",
            "A-GLAZ",
            "A-FURN",
            "A-ANNO-TEXT",
            "A-ANNO-DIMS",
            "S-COLS",
            "S-GRID",
            "M-DUCT",
        ];
        _layers = [.. names.Select((n, i) => _drawing.AddLayer(n, i % 3 == 0 ? 0x336699 : null).Handle)];
        (_style, _dimensionStyle) = (_drawing.Styles["Standard"]!.Handle, _drawing.DimensionStyles["Standard"]!.Handle);
        _application = _drawing.AddApplication("STEADY_BENCH");
        _door = _drawing.AddBlock("Door 0900");
        _drawing.Add(new Line { Layer = _layers[2], End = new(900, 0, 0) }, _door);
        _drawing.Add(
            new ArcEntity
            {
                Layer = _layers[2],
                Radius = 900,
                End = Math.PI / 2,
            },
            _door
        );
        _drawing.Add(
            new AttributeDefinition
            {
                Tag = "NO",
                Style = _style,
                Layer = _layers[2],
            },
            _door
        );
        _chair = _drawing.AddBlock("Chair");
        _drawing.Add(new Circle { Layer = _layers[4], Radius = 225 }, _chair);
        for (int i = 0; i < 6; i++)
            _drawing.Add(
                new Line
                {
                    Layer = _layers[4],
                    Start = new(225 * i, 0, 0),
                    End = new(0, 225 * i, 0),
                },
                _chair
            );
    }

    /// <summary>A drawing of so many rooms.</summary>
    public static Drawing Create(int rooms)
    {
        var sheet = new SheetDrawing();
        int across = (int)Math.Ceiling(Math.Sqrt(rooms));
        for (int i = 0; i < rooms; i++)
            sheet.Add(new Vec3(i % across * Room, i / across * Room, 0), i + 1);
        return sheet._drawing;
    }

    private void Add(Vec3 at, int number)
    {
        double w = Room - Wall + Math.Round(_random.NextDouble() * 50, 3),
            h = Room - Wall;
        Vec3 P(double x, double y) => at + new Vec3(x, y, 0);
        Walls(at, w, h);
        var door = new Insert
        {
            Layer = _layers[2],
            Block = _door.Handle,
            Location = P(w / 3, 0),
            Rotation = _random.Next(4) * Math.PI / 2,
        };
        door.Attributes.Add(
            new AttributeEntity
            {
                Tag = "NO",
                Value = $"D-{number:0000}",
                Style = _style,
                Layer = _layers[2],
                Insertion = P(w / 3, 100),
                Height = 125,
            }
        );
        _drawing.Add(door);
        for (int i = 0; i < 4; i++)
            _drawing.Add(
                new Insert
                {
                    Layer = _layers[4],
                    Block = _chair.Handle,
                    Location = P(_random.NextDouble() * w, _random.NextDouble() * h),
                    Rotation = _random.NextDouble() * 6,
                }
            );
        _drawing.Add(
            new Text
            {
                Layer = _layers[5],
                Style = _style,
                Value = $"Room {number}",
                Insertion = P(w / 2, h / 2),
                Height = 250,
            }
        );
        _drawing.Add(
            new MText
            {
                Layer = _layers[5],
                Style = _style,
                Value = $"{{\\fArial|b0;Floor: terrazzo}}\\PArea {w * h / 1e6:0.00} m²",
                Insertion = P(w / 2, h / 3),
                Height = 125,
                Width = 2000,
            }
        );
        var column = new Circle
        {
            Layer = _layers[7],
            Centre = P(0, 0),
            Radius = 200,
        };
        column.Extras.Data.Add(
            new ExtendedData(_application.Handle, [new(1000, $"C-{number}"), new(1040, 4.8), new(1070, 3L)])
        );
        _drawing.Add(column);
        _drawing.Add(
            new Line
            {
                Layer = _layers[8],
                Start = P(-500, 0),
                End = P(Room, 0),
            }
        );
        Dimension(P(0, -300), P(w, -300));
        Dimension(P(-300, 0), P(-300, h));
        var duct = new Spline { Layer = _layers[9], Flags = 8 };
        duct.Knots.AddRange([0, 0, 0, 0, 1, 1, 1, 1]);
        duct.Controls.AddRange([P(0, 500), P(w / 3, 900), P(2 * w / 3, 300), P(w, 700)]);
        _drawing.Add(duct);
        var leader = new Leader { Layer = _layers[5], Style = _dimensionStyle };
        leader.Points.AddRange([P(0, 0), P(600, 800), P(900, 800)]);
        _drawing.Add(leader);
    }

    private void Walls(Vec3 at, double w, double h)
    {
        foreach (double inset in (double[])[0, Wall])
        {
            var line = new LightPolyline { Layer = _layers[0], Closed = true };
            foreach (var (x, y) in Corners(w, h, inset))
                line.Vertices.Add(new LightVertex(new Vec2(at.X + x, at.Y + y)));
            _drawing.Add(line);
        }

        var fill = new Hatch
        {
            Layer = _layers[1],
            Pattern = "ANSI31",
            Filled = false,
            Scale = 20,
        };
        fill.Lines.Add(new HatchLine(Math.PI / 4, default, new(-45, 45), []));
        foreach (double inset in (double[])[0, Wall])
        {
            var path = new HatchPath { Flags = inset == 0 ? 3 : 18 };
            foreach (var (x, y) in Corners(w, h, inset))
                path.Vertices.Add((new Vec2(at.X + x, at.Y + y), 0));
            fill.Paths.Add(path);
        }

        _drawing.Add(fill);
    }

    private static (double X, double Y)[] Corners(double w, double h, double inset) =>
        [(inset, inset), (w - inset, inset), (w - inset, h - inset), (inset, h - inset)];

    private void Dimension(Vec3 from, Vec3 to)
    {
        var picture = _drawing.AddBlock($"*D{++_dimensions}");
        _drawing.Add(
            new Line
            {
                Layer = _layers[6],
                Start = from,
                End = to,
            },
            picture
        );
        foreach (var end in (Vec3[])[from, to])
            _drawing.Add(
                new Line
                {
                    Layer = _layers[6],
                    Start = end - new Vec3(60, 60, 0),
                    End = end + new Vec3(60, 60, 0),
                },
                picture
            );
        _drawing.Add(
            new MText
            {
                Layer = _layers[6],
                Style = _style,
                Value = $"{(to - from).Length:0}",
                Insertion = (from + to) * 0.5,
                Height = 125,
            },
            picture
        );
        _drawing.Add(
            new Dimension(DimensionKind.Linear)
            {
                Layer = _layers[6],
                Style = _dimensionStyle,
                Block = picture.Handle,
                Points = (from, to),
                Definition = to,
                TextMiddle = (from + to) * 0.5,
                Measurement = (to - from).Length,
            }
        );
    }
}

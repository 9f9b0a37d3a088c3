using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A sheet: a layout with one viewport, a frame and a title block.</summary>
/// <param name="Name">The name on its tab.</param>
/// <param name="Order">Paper and scale.</param>
/// <param name="Title">What the title block says: labels and values.</param>
/// <param name="Seen">What the viewport shows, drawing units.</param>
/// <param name="File">The file attached as a reference that it shows; empty where it shows the drawing's own model space.</param>
internal sealed record DrawnSheet(
    string Name,
    SheetOrder Order,
    IReadOnlyList<(string Label, string Value)> Title,
    Box Seen,
    string File
)
{
    // Millimetres: margins and the block's width after ISO 5457 and ISO 7200.
    private const double Left = 20,
        Margin = 10,
        BlockWidth = 180,
        RowHeight = 9;
    private const int Columns = 3;
    private const string Layer = "SHEET",
        Windows = "VIEWPORTS";

    private double BlockHeight => RowHeight * ((Title.Count + Columns - 1) / Columns);

    // What is left above the title block.
    private (double Width, double Height) Room =>
        (Order.Paper.Width - Left - Margin, Order.Paper.Height - (2 * Margin) - BlockHeight);

    /// <summary>Refuses what does not fit on the paper.</summary>
    /// <param name="metres">Metres in a drawing unit.</param>
    /// <exception cref="OrderException">It does not; says at which scale it would.</exception>
    public void Check(double metres)
    {
        double width = Seen.Size.X * metres * 1000,
            height = Seen.Size.Y * metres * 1000;
        if (width <= Room.Width * Order.Scale && height <= Room.Height * Order.Scale)
            return;
        var fits = SheetOrder.UsualScales.FirstOrDefault(s => width <= Room.Width * s && height <= Room.Height * s);
        throw new OrderException(
            FormattableString.Invariant(
                $"{Name} is {width / 1000:0.0} m by {height / 1000:0.0} m, which {Order.Paper.Name} does not hold at 1:{Order.Scale}"
            ) + (fits > 0 ? FormattableString.Invariant($"; take 1:{fits} or larger paper.") : "; take larger paper.")
        );
    }

    /// <summary>Puts the sheet into a drawing.</summary>
    /// <param name="drawing">The drawing.</param>
    /// <param name="metres">Metres in a drawing unit.</param>
    /// <param name="frozen">Layers that its viewport does not show.</param>
    public void Put(Drawing drawing, double metres, IEnumerable<Handle> frozen)
    {
        var block = Space(drawing);
        var layout = drawing.Layouts.First(l => l.Block == block.Handle);
        drawing.Rename(layout, Name);
        layout.Paper = (Order.Paper.Width, Order.Paper.Height);
        layout.Plot = (
            "",
            "none_device",
            FormattableString.Invariant(
                $"{Order.Paper.Name.Replace(' ', '_')}_({Order.Paper.Width:0.00}_x_{Order.Paper.Height:0.00}_MM)"
            )
        );
        layout.Limits = (default, new Vec2(Order.Paper.Width, Order.Paper.Height));
        layout.Extents = (Vec3.Zero, new Vec3(Order.Paper.Width, Order.Paper.Height, 0));
        var lines = drawing.AddLayer(Layer);
        var windows = drawing.AddLayer(Windows);
        windows.Plot = false;
        var paper = new Viewport
        {
            Id = 1,
            Order = 1,
            Centre = new Vec3(Order.Paper.Width / 2, Order.Paper.Height / 2, 0),
            Size = (Order.Paper.Width, Order.Paper.Height),
            ViewCentre = new Vec2(Order.Paper.Width / 2, Order.Paper.Height / 2),
            ViewHeight = Order.Paper.Height,
            Layer = windows.Handle,
        };
        drawing.Add(paper, block);
        drawing.Add(Window(metres, windows.Handle, frozen), block);
        layout.ActiveViewport = paper.Handle;
        Draw(drawing, block, lines.Handle);
    }

    /// <summary>What is wrong with the sheet in a drawing that was read; null when it is as it was to be.</summary>
    public string? Problem(Drawing drawing, double metres)
    {
        if (
            drawing.Layouts.FirstOrDefault(l => l.Name == Name) is not { } layout
            || drawing.Blocks[layout.Block] is not { } block
        )
            return $"has no layout {Name}";
        if (
            Math.Abs(layout.Paper.Width - Order.Paper.Width) > 0.01
            || Math.Abs(layout.Paper.Height - Order.Paper.Height) > 0.01
        )
            return $"has another paper on the layout {Name}";
        if (block.Entities.OfType<Viewport>().Skip(1).FirstOrDefault() is not { } window)
            return $"has no viewport on the layout {Name}";
        double scale = window.ViewHeight * metres * 1000 / window.Size.Height;
        if (Math.Abs(scale - Order.Scale) > 1e-6 * Order.Scale)
            return FormattableString.Invariant($"shows {Name} at 1:{scale:0.##}");
        if ((window.ViewCentre - Middle).Length > 1e-6 * (1 + Middle.Length))
            return $"shows another place on the layout {Name}";
        var texts = block.Entities.OfType<Text>().Select(t => t.Value).ToHashSet();
        if (Title.FirstOrDefault(t => t.Value.Length > 0 && !texts.Contains(t.Value)) is { Value: not null } lost)
            return $"has lost {lost.Label} '{lost.Value}' of the title block of {Name}";
        if (File.Length == 0)
            return null;
        var inserts = drawing.Model.Entities.OfType<Insert>().ToList();
        var own = inserts.Find(i => drawing.Blocks[i.Block] is { IsXref: true } reference && reference.Path == File);
        if (own is null)
            return $"does not refer to {File}";
        if (own.Location.Length > 1e-9)
            return $"has {File} elsewhere than at zero";
        // Its viewport shows this reference and no other.
        return window.Frozen.ToHashSet().SetEquals(inserts.Where(i => i != own).Select(i => i.Layer))
            ? null
            : $"shows other references than {File} on the layout {Name}";
    }

    private Vec2 Middle => new((Seen.Min.X + Seen.Max.X) / 2, (Seen.Min.Y + Seen.Max.Y) / 2);

    // The first sheet takes the layout that every drawing has.
    private static BlockRecord Space(Drawing drawing)
    {
        var first = drawing.Blocks[BlockRecord.PaperSpace]!;
        if (first.Entities.Count == 0)
            return first;
        int number = drawing.Blocks.Count(b => b.IsPaper);
        var block = drawing.AddBlock(FormattableString.Invariant($"{BlockRecord.PaperSpace}{number - 1}"));
        drawing.Complete();
        return block;
    }

    private Viewport Window(double metres, Handle layer, IEnumerable<Handle> frozen)
    {
        var window = new Viewport
        {
            Id = 2,
            Order = 2,
            Centre = new Vec3(Left + (Room.Width / 2), Order.Paper.Height - Margin - (Room.Height / 2), 0),
            Size = Room,
            ViewCentre = Middle,
            ViewHeight = Room.Height * Order.Scale / 1000 / metres,
            Layer = layer,
        };
        window.Frozen.AddRange(frozen);
        return window;
    }

    private void Draw(Drawing drawing, BlockRecord block, Handle layer)
    {
        double right = Order.Paper.Width - Margin,
            low = Margin,
            wide = Math.Min(BlockWidth, right - Left);
        Rectangle(Left, low, right, Order.Paper.Height - Margin);
        Rectangle(right - wide, low, right, low + BlockHeight);
        for (int n = 0; n < Title.Count; n++)
        {
            double x = right - wide + (n % Columns * wide / Columns),
                y = low + BlockHeight - (RowHeight * (1 + (n / Columns)));
            Rectangle(x, y, x + (wide / Columns), y + RowHeight);
            Write(Title[n].Label, x + 1.5, y + 5.8, 1.8);
            // Long values are drawn narrower, so that they stay within their field.
            Write(
                Title[n].Value,
                x + 1.5,
                y + 1.8,
                2.5,
                Math.Min(1, (wide / Columns - 3) / (2.5 * 0.9 * Math.Max(1, Title[n].Value.Length)))
            );
        }

        void Rectangle(double x, double y, double u, double v)
        {
            var line = new LightPolyline { Closed = true, Layer = layer };
            line.Vertices.AddRange([
                new(new Vec2(x, y)),
                new(new Vec2(u, y)),
                new(new Vec2(u, v)),
                new(new Vec2(x, v)),
            ]);
            drawing.Add(line, block);
        }

        void Write(string text, double x, double y, double height, double width = 1)
        {
            if (text.Length > 0)
                drawing.Add(
                    new Text
                    {
                        Value = text,
                        Insertion = new Vec3(x, y, 0),
                        Height = height,
                        Width = width,
                        Layer = layer,
                    },
                    block
                );
        }
    }
}

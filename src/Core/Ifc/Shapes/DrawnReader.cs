using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>A text that a product draws.</summary>
/// <param name="Content">The text.</param>
/// <param name="Place">Where its first line begins and which way it runs, in the world frame.</param>
/// <param name="Height">The height of its letters, metres.</param>
public readonly record struct DrawnText(string Content, Frame Place, double Height);

/// <summary>What a product draws instead of building it: lines and texts in the world frame, metres.</summary>
/// <param name="Lines">Lines; a closed one repeats its first point.</param>
/// <param name="Texts">Texts.</param>
public sealed record Drawn(IReadOnlyList<IReadOnlyList<Vec3>> Lines, IReadOnlyList<DrawnText> Texts)
{
    /// <summary>Nothing.</summary>
    public static readonly Drawn Nothing = new([], []);

    /// <summary>Whether there is nothing to draw.</summary>
    public bool IsEmpty => Lines.Count == 0 && Texts.Count == 0;
}

/// <summary>Reads annotations, outlines, axes and grids: representations of curves, fill areas and texts.</summary>
internal sealed class DrawnReader(IfcModel model, IfcPlacements placements, CurveReader curves, ProfileReader profiles)
{
    // Common practice: 2.5 mm on a sheet of 1:100.
    private const double UsualHeight = 0.25;
    private const int MaxDepth = 10;

    /// <summary>What a product draws for a purpose; nothing when it has no such representation. What cannot be read is left out.</summary>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="purpose">As the representation is identified: <c>Axis</c>, <c>FootPrint</c>.</param>
    public Drawn Read(int product, string purpose)
    {
        int representation = Representations.For(model, product, purpose);
        if (representation < 0)
            return Drawn.Nothing;
        var lines = new List<IReadOnlyList<Vec3>>();
        var texts = new List<DrawnText>();
        try
        {
            var world = placements.Product(product);
            foreach (int item in model.Refs(representation, "Items"))
                Item(item, world, lines, texts, 0);
        }
        catch (ShapeException)
        {
            return new Drawn(lines, texts);
        }

        return new Drawn(lines, texts);
    }

    /// <summary>The axes of a grid with their tags at both ends.</summary>
    /// <param name="grid">Its position among the instances of the file.</param>
    public Drawn Grid(int grid)
    {
        var axes = GridReader.Axes(model, placements, curves, grid);
        return new Drawn(
            [.. axes.Select(a => a.Points)],
            [
                .. axes.Where(a => a.Tag.Length > 0)
                    .SelectMany(a =>
                        new[] { a.Points[0], a.Points[^1] }.Select(p => new DrawnText(a.Tag, Frame.At(p), UsualHeight))
                    ),
            ]
        );
    }

    private void Item(int item, Frame frame, List<IReadOnlyList<Vec3>> lines, List<DrawnText> texts, int depth)
    {
        if (item < 0 || depth > MaxDepth)
            return;
        WorkBudget.Spend(Representations.ItemCost);
        switch (model.ClassName(item))
        {
            case "IfcMappedItem":
                var inner = frame.Compose(profiles.Mapping(item));
                foreach (
                    int part in model.Refs(model.Ref(model.Ref(item, "MappingSource"), "MappedRepresentation"), "Items")
                )
                    Item(part, inner, lines, texts, depth + 1);
                break;
            case "IfcGeometricCurveSet" or "IfcGeometricSet":
                foreach (int part in model.Refs(item, "Elements"))
                    Item(part, frame, lines, texts, depth + 1);
                break;
            case "IfcAnnotationFillArea":
                foreach (int boundary in model.Refs(item, "InnerBoundaries").Prepend(model.Ref(item, "OuterBoundary")))
                    Item(boundary, frame, lines, texts, depth + 1);
                break;
            case "IfcTextLiteral" or "IfcTextLiteralWithExtent":
                Text(item, frame, texts);
                break;
            case "IfcBoundingBox":
                Box(item, frame, lines);
                break;
            default:
                // IFC2X3 wraps what is annotated in occurrences.
                if (model.Is(item, "IfcStyledItem"))
                    Item(model.Ref(item, "Item"), frame, lines, texts, depth + 1);
                else if (model.Is(item, "IfcCurve"))
                    Curve(item, frame, lines);
                break;
        }
    }

    private void Curve(int curve, Frame frame, List<IReadOnlyList<Vec3>> lines)
    {
        try
        {
            var points = curves.Points(curve);
            if (curves.IsClosed(curve))
                points.Add(points[0]);
            if (points.Count > 1)
                lines.Add([.. points.Select(frame.Point)]);
        }
        catch (ShapeException)
        {
            // One curve that cannot be read does not take the others with it.
        }
    }

    private void Text(int item, Frame frame, List<DrawnText> texts)
    {
        string content = model.Text(item, "Literal") ?? "";
        double height = curves.Optional(model.Ref(item, "Extent"), "SizeInY");
        if (content.Length > 0)
            texts.Add(
                new DrawnText(
                    content,
                    frame.Compose(placements.Axes(model.Ref(item, "Placement"))),
                    height > 0 ? height : UsualHeight
                )
            );
    }

    // The outline of the box's floor.
    private void Box(int item, Frame frame, List<IReadOnlyList<Vec3>> lines)
    {
        var corner = placements.Point(model.Ref(item, "Corner"));
        double x = curves.Optional(item, "XDim"),
            y = curves.Optional(item, "YDim");
        lines.Add([
            .. new[]
            {
                corner,
                corner + new Vec3(x, 0, 0),
                corner + new Vec3(x, y, 0),
                corner + new Vec3(0, y, 0),
                corner,
            }.Select(frame.Point),
        ]);
    }
}

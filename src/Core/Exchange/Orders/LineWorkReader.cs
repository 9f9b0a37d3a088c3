using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Reads what an order's document says of plans, sections and sheets.</summary>
internal static class LineWorkReader
{
    private const int MaxLines = 100;

    // Nothing built is that far away or that deep, metres.
    private const double MaxCoordinate = 1e7,
        MaxDepth = 1e5;

    /// <summary>How plans and sections are drawn.</summary>
    /// <param name="into">What is written into.</param>
    /// <param name="lines">Whether its form draws lines of plans or sections.</param>
    /// <exception cref="OrderException">A number makes no sense, or words do not go with the form.</exception>
    public static LineWork Read(OrderInto into, bool lines)
    {
        if (!lines && (into.Cut ?? into.Depth) is not null)
            throw new OrderException("cut and depth go with plans and sections.");
        if (!lines && (into.Before ?? into.Hidden) is not null)
            throw new OrderException("before and hidden go with plans and sections.");
        if (!lines && (into.Hatch == true || into.Symbols == true || into.Marks == true))
            throw new OrderException("hatch, symbols and marks go with plans and sections.");
        OrderOptions.Before.Check(into.Before);
        OrderOptions.Hidden.Check(into.Hidden);
        return new LineWork
        {
            Cut = into.Cut is null or (> -100 and < 100)
                ? into.Cut ?? 1.2
                : throw new OrderException("cut takes metres above the storey's level."),
            Depth = Depth(into.Depth),
            Before = into.Before != "out",
            Hidden = into.Hidden switch
            {
                "dashed" => HiddenStyle.Dashed,
                "out" => HiddenStyle.Out,
                _ => HiddenStyle.Shown,
            },
            Hatch = into.Hatch == true,
            Symbols = into.Symbols == true,
            Marks = into.Marks == true,
            Lines = Lines(into.Lines ?? []),
        };
    }

    /// <summary>The sheets.</summary>
    /// <exception cref="OrderException">The paper is not known, or the scale is none.</exception>
    public static SheetOrder? Sheet(OrderSheet? sheet)
    {
        if (sheet is null)
            return null;
        OrderOptions.Paper.Check(sheet.Paper);
        return sheet.Scale is >= 1 and <= 100_000
            ? new SheetOrder(PaperSize.Find(sheet.Paper)!, sheet.Scale, sheet.References == true)
            : throw new OrderException("scale takes a whole number: 100 for 1:100.");
    }

    private static double? Depth(double? depth) =>
        depth is null or (> 0 and < MaxDepth) ? depth : throw new OrderException("depth takes metres above 0.");

    private static List<SectionLine> Lines(IReadOnlyList<OrderLine> lines)
    {
        if (lines.Count > MaxLines)
            throw new OrderException($"An order can have {MaxLines} sections.");
        var made = new List<SectionLine>();
        foreach (var line in lines)
        {
            if (line.Name.Length == 0)
                throw new OrderException("Every section needs a name.");
            if (made.Exists(m => m.Name.Equals(line.Name, StringComparison.OrdinalIgnoreCase)))
                throw new OrderException($"Two sections are called {line.Name}; give one another name.");
            if (!IsPoint(line.From) || !IsPoint(line.To))
                throw new OrderException($"The section {line.Name} needs from and to, each an X and a Y in metres.");
            var section = new SectionLine(
                line.Name,
                new Vec2(line.From[0], line.From[1]),
                new Vec2(line.To[0], line.To[1]),
                Depth(line.Depth)
            );
            if ((section.To - section.From).Length < 0.01)
                throw new OrderException($"The section {line.Name} begins and ends at one point.");
            made.Add(section);
        }

        return made;
    }

    private static bool IsPoint(IReadOnlyList<double> point) =>
        point.Count == 2 && point.All(c => Math.Abs(c) < MaxCoordinate);
}

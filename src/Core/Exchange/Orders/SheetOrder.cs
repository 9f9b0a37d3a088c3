namespace SteadyLintel.Exchange;

/// <summary>The sheets of an order of drawings: a layout for each storey or section, with frame and title block.</summary>
/// <param name="Paper">The paper.</param>
/// <param name="Scale">So many millimetres of the building go to one of the paper.</param>
/// <param name="References">Whether all layouts are in one file of their own, which has the other files attached as references; else each
/// file has its own.</param>
public sealed record SheetOrder(PaperSize Paper, int Scale, bool References)
{
    /// <summary>The scales that drawings of buildings usually have (ISO 5455, those a building can need).</summary>
    public static IReadOnlyList<int> UsualScales { get; } = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];
}

/// <summary>A size of paper, lying on its long side.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Width">Millimetres.</param>
/// <param name="Height">Millimetres.</param>
public sealed record PaperSize(string Name, double Width, double Height)
{
    /// <summary>ISO 216 A0 to A4; ANSI/ASME Y14.1 A to E, inches of 25.4 mm.</summary>
    public static IReadOnlyList<PaperSize> All { get; } =
    [
        new("A0", 1189, 841),
        new("A1", 841, 594),
        new("A2", 594, 420),
        new("A3", 420, 297),
        new("A4", 297, 210),
        new("ANSI A", 279.4, 215.9),
        new("ANSI B", 431.8, 279.4),
        new("ANSI C", 558.8, 431.8),
        new("ANSI D", 863.6, 558.8),
        new("ANSI E", 1117.6, 863.6),
    ];

    /// <summary>The size of a name; null for none.</summary>
    public static PaperSize? Find(string name) =>
        All.FirstOrDefault(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
}

using SteadyLintel.Cad;

namespace SteadyLintel.Tests;

/// <summary>The kitchen sink as release 13 and 14 can hold it: no line weights, true colours, sheets with settings, nor kinds that came
/// later.</summary>
internal static class OldSink
{
    public static Drawing Create(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        foreach (var block in drawing.Blocks)
        {
            block.Entities.RemoveAll(e => e is MeshEntity or Underlay or MultiLeader);
            foreach (var entity in block.Entities)
                Older(entity);
        }

        drawing.Objects.RemoveAll(o => o is UnderlayDefinition);
        var own = drawing.Objects.OfType<CadDictionary>().Single(d => !d["PLAN"].IsNull);
        own.Entries.RemoveAll(e => e.Name == "PLAN");
        drawing.Blocks["STR-grid"]!.IsLoaded = true;
        drawing.DimensionStyles["ISO-25"]!.Heads[0] = "Hinge";
        var window = drawing.Blocks[BlockRecord.PaperSpace]!.Entities.OfType<Viewport>().Last();
        drawing.AddApplication("ACAD");
        window.Extras.Data.Add(
            new ExtendedData(drawing.Applications["ACAD"]!.Handle, View(5000, 4000, 10_000, 30, "OFF"))
        );
        window.Frozen.Clear();
        return drawing;
    }

    /// <summary>What a viewport looks at, as extended data (DXF reference of release 12, VIEWPORT).</summary>
    public static List<CadGroup> View(double x, double y, double height, double twist, params string[] frozen) =>
        [
            new(1000, "MVIEW"),
            new(1002, "{"),
            new(1070, 16L),
            new(1010, 1.0),
            new(1020, 2.0),
            new(1030, 3.0),
            new(1010, 0.0),
            new(1020, -1.0),
            new(1030, 1.0),
            .. new[] { twist, height, x, y, 50, 0, 0 }.Select(v => new CadGroup(1040, v)),
            .. new[] { 0L, 100, 1, 3, 0, 1, 0, 0 }.Select(v => new CadGroup(1070, v)),
            .. new[] { 15.0, 1, 2, 3, 4, 5, 6 }.Select(v => new CadGroup(1040, v)),
            new(1070, 0L),
            new(1002, "{"),
            .. frozen.Select(name => new CadGroup(1003, name)),
            new(1002, "}"),
            new(1002, "}"),
        ];

    private static void Older(Entity entity)
    {
        entity.LineWeight = LineWeights.ByLayer;
        if (entity.Colour.Rgb is not null)
            entity.Colour = new CadColour(5);
        if (entity is MText text)
            text.Spacing = (1, 1);
        if (entity is Dimension dimension)
            (dimension.Measurement, dimension.Attachment) = (0, new Dimension(dimension.Kind).Attachment);
    }
}

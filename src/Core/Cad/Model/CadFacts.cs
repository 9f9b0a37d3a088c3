namespace SteadyLintel.Cad;

/// <summary>Everything an object of a drawing says, as groups: what all entities share, the fields of its kind, its extended
/// data.</summary>
public static class CadFacts
{
    /// <summary>The code of a true colour, 0xRRGGBB, of whatever field.</summary>
    public const int TrueColour = 420;

    /// <summary>The code of a colour book's name.</summary>
    public const int ColourName = 430;

    /// <summary>The code of what an embedded object says, a group each as text.</summary>
    public const int EmbeddedCode = 101;

    /// <summary>The code of a transparency.</summary>
    public const int Transparency = 440;

    /// <summary>Everything in a drawing: table records, entities with their parts, objects of dictionaries.</summary>
    public static IEnumerable<CadObject> Objects(Drawing drawing) => HandleCheck.All(drawing);

    /// <summary>The record of a drawing that has the table and name of another's, or null.</summary>
    public static SymbolRecord? Record(Drawing drawing, SymbolRecord record) =>
        drawing.Table(record.Table).Named(record.Name);

    /// <summary>Collects the facts of an object into a list that is emptied first.</summary>
    /// <remarks>Names mean table records; other objects are named by their handle. Angles are in radians.</remarks>
    public static void Of(Drawing drawing, CadObject item, List<CadGroup> facts)
    {
        facts.Clear();
        facts.Add(new CadGroup(0, item.Type));
        if (item is Entity entity)
            Looks(drawing, entity, facts);
        var fields = new FactFields(drawing, facts);
        item.Exchange(fields);
        foreach (var group in fields.FixedGroups)
            if (group.Code != 66 && (!item.HasExtras || !item.Extras.Unread.Exists(u => u.Code == group.Code)))
                facts.Add(group);
        if (item is BlockRecord block)
            Block(drawing, block, facts);
        if (item is AttributeEntity { Paragraphs.Length: > 0, Embedded.Count: 0 } lines)
            facts.Add(new CadGroup(EmbeddedCode, lines.Paragraphs));
        if (item is ModelerEntity body)
            Body(body, facts);
        if (item.HasExtras)
            Extras(drawing, item.Extras, facts);
    }

    // The fields of BLOCK, which a record carries.
    private static void Block(Drawing drawing, BlockRecord block, List<CadGroup> facts)
    {
        facts.Add(new CadGroup(10, block.Base.X));
        facts.Add(new CadGroup(20, block.Base.Y));
        facts.Add(new CadGroup(30, block.Base.Z));
        facts.Add(new CadGroup(1, block.Path));
        facts.Add(new CadGroup(4, block.Description));
        facts.Add(new CadGroup(71, (block.IsXref ? 4L : 0) | (block.IsOverlay ? 8L : 0) | (block.IsLoaded ? 32L : 0)));
        facts.Add(new CadGroup(8, drawing.LayerName(block.EndsLayer)));
    }

    // A body says the same as text and in its binary form: its corners.
    private static void Body(ModelerEntity body, List<CadGroup> facts)
    {
        facts.RemoveAll(g => g.Code is 1 or 3 or 310);
        facts.Add(body.Acis.Length > 0 ? new CadGroup(1, body.Acis) : new CadGroup(310, body.Binary));
        if (body.Faces() is not { } read)
            return;
        facts.Add(new CadGroup(90, (long)read.Faces.Count));
        foreach (var p in read.Points.OrderBy(p => p.X).ThenBy(p => p.Y).ThenBy(p => p.Z))
            facts.AddRange([new CadGroup(10, p.X), new CadGroup(20, p.Y), new CadGroup(30, p.Z)]);
    }

    private static void Looks(Drawing drawing, Entity entity, List<CadGroup> facts)
    {
        facts.Add(new CadGroup(8, drawing.LayerName(entity.Layer)));
        facts.Add(
            new CadGroup(
                6,
                drawing.LineTypes.Of(entity.LineType)?.Name is { } name
                && !name.Equals("ByLayer", StringComparison.OrdinalIgnoreCase)
                    ? name
                    : ""
            )
        );
        facts.Add(new CadGroup(62, (long)entity.Colour.Index));
        if (entity.Colour.Rgb is { } rgb)
            facts.Add(new CadGroup(TrueColour, (long)rgb));
        if (entity.Colour.Name is { } book)
            facts.Add(new CadGroup(ColourName, book));
        facts.Add(new CadGroup(48, entity.LineTypeScale));
        facts.Add(new CadGroup(370, (long)entity.LineWeight));
        facts.Add(new CadGroup(60, entity.Invisible ? 1L : 0L));
    }

    private static void Extras(Drawing drawing, ObjectExtras extras, List<CadGroup> facts)
    {
        if (extras.Transparency != 0)
            facts.Add(new CadGroup(Transparency, (long)extras.Transparency));
        if (!extras.Material.IsNull)
            facts.Add(new CadGroup(347, extras.Material));
        if (extras.Shadow != 0)
            facts.Add(new CadGroup(284, (long)extras.Shadow));
        if (!extras.Dictionary.IsNull)
            facts.Add(new CadGroup(360, extras.Dictionary));
        facts.AddRange(extras.Braced);
        // 66 says that parts follow, which is seen by the parts.
        facts.AddRange(extras.Unread.Where(g => g.Code is not (100 or 66)));
        foreach (
            var data in extras.Data.OrderBy(
                d => drawing.Applications.Of(d.Application)?.Name,
                StringComparer.OrdinalIgnoreCase
            )
        )
        {
            facts.Add(new CadGroup(1001, drawing.Applications.Of(data.Application)?.Name ?? ""));
            facts.AddRange(data.Groups);
        }
    }
}

namespace SteadyLintel.Cad;

/// <summary>What objects of DWG say of their places and order; gathered while they are read, stretch by stretch, and used when they are put
/// together.</summary>
internal sealed class DwgReadState
{
    private const int MostFindings = 100;
    private int _lost;
    private int _damaged;

    /// <summary>Controls of tables by table: their handle and the handles of the records in order.</summary>
    public Dictionary<SymbolKind, (Handle Control, List<Handle> Records)> Tables { get; } = [];

    /// <summary>BLOCK and ENDBLK and SEQEND, with their layers.</summary>
    public List<(Handle Mark, Handle Layer)> Marks { get; } = [];

    /// <summary>Records of tables.</summary>
    public List<SymbolRecord> Records { get; } = [];

    /// <summary>Objects that are neither drawn nor records.</summary>
    public List<CadObject> Others { get; } = [];

    /// <summary>Entities with a line type of their own.</summary>
    public List<Entity> Styled { get; } = [];

    /// <summary>Multi-lines, whose style has a name.</summary>
    public List<MultiLine> MultiLines { get; } = [];

    /// <summary>Bodies whose data lie in the store of the file.</summary>
    public List<ModelerEntity> Bodies { get; } = [];

    /// <summary>Objects whose extended data name layers.</summary>
    public List<CadObject> Extended { get; } = [];

    /// <summary>Notes what of an object is of use later, while it is at hand: going over all objects again is what putting them together
    /// would cost most.</summary>
    public void Note(CadObject item)
    {
        if (item.HasExtras && NamesLayers(item.Extras))
            Extended.Add(item);
        if (item is Entity entity)
        {
            if (!entity.LineType.IsNull)
                Styled.Add(entity);
            if (entity is MultiLine line)
                MultiLines.Add(line);
            else if (entity is ModelerEntity { Acis.Length: 0, Binary.Length: 0 } body)
                Bodies.Add(body);
        }
        else if (item is SymbolRecord record)
            Records.Add(record);
        else
            Others.Add(item);
    }

    private static bool NamesLayers(ObjectExtras extras)
    {
        foreach (var data in extras.Data)
        foreach (var group in data.Groups)
            if (group.Code == CadGroup.Layer)
                return true;
        return false;
    }

    private List<CadFinding> Findings { get; } = [];

    /// <summary>Notes an object that makes no sense.</summary>
    public void Lose(Handle handle, string reason)
    {
        // A file that is damaged throughout would give a finding for every object.
        if (++_lost <= MostFindings)
            Findings.Add(
                new CadFinding(
                    "CAD-OBJECT",
                    $"handle {handle}",
                    $"The object {handle} could not be read ({reason}) and was left out."
                )
            );
    }

    /// <summary>Notes an object whose CRC does not hold.</summary>
    public void Damage(Handle handle)
    {
        if (++_damaged <= MostFindings)
            Findings.Add(
                new CadFinding(
                    "CAD-CRC",
                    $"handle {handle}",
                    $"The check of the object {handle} does not hold: it was damaged or written wrongly."
                )
            );
    }

    /// <summary>Adds what was gathered from the stretch behind.</summary>
    public void Append(DwgReadState next)
    {
        foreach (var (kind, table) in next.Tables)
            Tables[kind] = table;
        Marks.AddRange(next.Marks);
        Records.AddRange(next.Records);
        Others.AddRange(next.Others);
        Styled.AddRange(next.Styled);
        MultiLines.AddRange(next.MultiLines);
        Bodies.AddRange(next.Bodies);
        Extended.AddRange(next.Extended);
        Findings.AddRange(next.Findings);
        _lost += next._lost;
        _damaged += next._damaged;
    }

    /// <summary>Tells the drawing what was odd.</summary>
    public void Report(Drawing drawing)
    {
        foreach (var same in Findings.GroupBy(f => f.Code))
            drawing.Findings.AddRange(same.Take(MostFindings));
        if (_lost > MostFindings)
            drawing.Findings.Add(
                new CadFinding("CAD-OBJECT", "the map", $"{_lost} objects could not be read and were left out.")
            );
    }
}

using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A block: a named set of entities with a base point. Model space and every layout are blocks too.</summary>
public sealed class BlockRecord : SymbolRecord
{
    /// <summary>The name of the block that holds model space.</summary>
    public const string ModelSpace = "*Model_Space";

    /// <summary>The name of the block of the layout in use, and with a number behind it of the others.</summary>
    public const string PaperSpace = "*Paper_Space";

    /// <inheritdoc/>
    public override string Type => "BLOCK_RECORD";

    /// <inheritdoc/>
    internal override SymbolKind Table => SymbolKind.Block;

    /// <summary>The base point (10 of BLOCK).</summary>
    public Vec3 Base { get; set; }

    /// <summary>The path of an external reference, or empty (1 of BLOCK).</summary>
    public string Path { get; set; } = "";

    /// <summary>What it is (4 of BLOCK).</summary>
    public string Description { get; set; } = "";

    /// <summary>Whether it is an external reference (70 of BLOCK, bit 4).</summary>
    public bool IsXref { get; set; }

    /// <summary>Whether the reference is an overlay (bit 8).</summary>
    public bool IsOverlay { get; set; }

    /// <summary>Whether the reference could be found when the file was written (bit 32 of BLOCK; the loaded bit of DWG).</summary>
    public bool IsLoaded { get; set; } = true;

    /// <summary>The units of what is in it ($INSUNITS numbers; 70).</summary>
    public int Units { get; set; }

    /// <summary>Whether it may be exploded (280).</summary>
    public bool Explodable { get; set; } = true;

    /// <summary>Whether it must be scaled alike in all directions (281).</summary>
    public bool ScaleUniformly { get; set; }

    /// <summary>The layout that shows it, for model space and layouts (340).</summary>
    public Handle Layout { get; set; }

    /// <summary>The handles of BLOCK and ENDBLK.</summary>
    public (Handle Begin, Handle End) Ends { get; set; }

    /// <summary>The layer of BLOCK and ENDBLK.</summary>
    public Handle EndsLayer { get; set; }

    /// <summary>A picture of it (310).</summary>
    public byte[] Preview { get; set; } = [];

    /// <summary>Its entities in drawing order.</summary>
    public List<Entity> Entities { get; } = [];

    /// <summary>Whether the name was made by a program (bit 1).</summary>
    public bool IsAnonymous => Name.StartsWith('*') && !IsSpace;

    /// <summary>Whether it is model space or a layout.</summary>
    public bool IsSpace => IsModel || IsPaper;

    /// <summary>Whether it is model space.</summary>
    public bool IsModel => Name.Equals(ModelSpace, StringComparison.OrdinalIgnoreCase);

    /// <summary>Whether it is a layout.</summary>
    public bool IsPaper => Name.StartsWith(PaperSpace, StringComparison.OrdinalIgnoreCase);

    /// <summary>Entities as DWG names them: the chain's ends, or all of them. The writer puts in all that it can write.</summary>
    internal List<Handle> Owned { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        if (f.Dwg is { } d)
        {
            Start(f, "AcDbBlockTableRecord", 0);
            ExchangeDwg(d);
            return;
        }

        f.Subclass("AcDbSymbolTableRecord");
        f.Subclass("AcDbBlockTableRecord");
        Name = f.Text(2, Name);
        Layout = f.Reference(340, Layout);
        if (!f.Since(CadVersion.AC1021) && !f.Reading)
            return;
        Units = f.Short(70, Units);
        Explodable = f.Byte(280, Explodable ? 1 : 0) != 0;
        ScaleUniformly = f.Byte(281, ScaleUniformly ? 1 : 0) != 0;
    }

    private void ExchangeDwg(DwgFields d)
    {
        d.Bit(IsAnonymous);
        d.Bit(Entities.OfType<AttributeDefinition>().Any());
        IsXref = d.Bit(IsXref);
        IsOverlay = d.Bit(IsOverlay);
        if (d.Since(CadVersion.AC1015))
            IsLoaded = !d.Bit(IsXref && !IsLoaded);
        bool counted = d.Since(CadVersion.AC1018);
        if (!d.Reading)
            FillOwned(counted);
        int count = counted && !IsXref && !IsOverlay ? d.Count(Owned.Count) : 0;
        Base = d.Point(10, Base);
        Path = d.Text(1, Path);
        int inserts = d.Since(CadVersion.AC1015) ? InsertCount(d) : 0;
        if (d.Since(CadVersion.AC1015))
        {
            Description = d.Text(4, Description);
            int size = d.Count(Preview.Length);
            Preview = d.Bytes(Preview, size);
        }

        if (d.Since(CadVersion.AC1021))
        {
            Units = d.Short(Units);
            Explodable = d.Bit(Explodable);
            ScaleUniformly = d.RawByte(ScaleUniformly ? 1 : 0) != 0;
        }

        var begin = d.Handle(Ends.Begin, HandleKind.HardOwner);
        if (!counted && !IsXref && !IsOverlay)
            d.Handles(Owned, 2, HandleKind.SoftPointer);
        else
            d.Handles(Owned, count, HandleKind.HardOwner);
        Ends = (begin, d.Handle(Ends.End, HandleKind.HardOwner));
        if (!d.Since(CadVersion.AC1015))
            return;
        // Which inserts use it can be seen from the inserts; none are named when writing.
        d.Handles([], inserts, HandleKind.SoftPointer);
        Layout = d.Handle(Layout, HandleKind.HardPointer);
    }

    private void FillOwned(bool counted)
    {
        if (IsXref || IsOverlay)
            Owned.Clear();
        if (IsXref || IsOverlay || counted)
            return;
        var (first, last) = Owned.Count == 0 ? default : (Owned[0], Owned[^1]);
        Owned.Clear();
        Owned.AddRange([first, last]);
    }

    // One byte that is not zero for every insert, then a zero.
    private static int InsertCount(DwgFields d)
    {
        int count = 0;
        while (d.RawByte(0) != 0)
            count++;
        return count;
    }
}

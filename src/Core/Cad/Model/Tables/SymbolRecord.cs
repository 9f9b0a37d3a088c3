namespace SteadyLintel.Cad;

/// <summary>A record of a symbol table.</summary>
public abstract class SymbolRecord : CadObject
{
    private const int FromReference = 16,
        Resolved = 32;

    /// <summary>The name (2).</summary>
    public string Name { get; set; } = "";

    /// <summary>Whether it came with an external reference (70, bits 16 and 32).</summary>
    public bool FromXref { get; set; }

    /// <summary>The external reference it came with.</summary>
    public Handle Xref { get; set; }

    /// <summary>The table.</summary>
    internal abstract SymbolKind Table { get; }

    /// <summary>The fields all records share; answers the bits of group 70 that are the kind's own.</summary>
    internal int Start(Fields f, string subclass, int flags)
    {
        f.Subclass("AcDbSymbolTableRecord");
        f.Subclass(subclass);
        Name = f.Text(2, Name);
        if (f.Dwg is { } d)
        {
            if (!f.Since(CadVersion.AC1021))
                d.Bit(true);
            int xref = d.Short(FromXref ? 256 : 0);
            FromXref = f.Since(CadVersion.AC1021) ? (xref & 256) != 0 : d.Bit(FromXref);
            Xref = d.Handle(Xref, HandleKind.HardPointer);
            return flags;
        }

        int all = f.Short(70, flags | (FromXref ? FromReference | Resolved : 0));
        FromXref = (all & FromReference) != 0;
        return all & ~(FromReference | Resolved | 64);
    }

    /// <summary>A flag as a bit of DWG where DXF has it in group 70.</summary>
    internal static int Flag(DwgFields d, int flags, int bit) => d.Bit((flags & bit) != 0) ? flags | bit : flags & ~bit;
}

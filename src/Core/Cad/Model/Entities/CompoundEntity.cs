namespace SteadyLintel.Cad;

/// <summary>An entity with parts of its own behind it, ended by SEQEND.</summary>
public abstract class CompoundEntity : Entity
{
    private List<Handle>? _owned;

    /// <summary>The handle of SEQEND.</summary>
    public Handle End { get; set; }

    /// <summary>The layer of SEQEND.</summary>
    public Handle EndLayer { get; set; }

    /// <summary>Handles of the parts as DWG has them: the ends of a chain, or all.</summary>
    internal List<Handle> Owned => _owned ??= [];

    /// <summary>Whether DWG named parts or an end.</summary>
    internal bool IsFollowed => !End.IsNull || _owned is { Count: > 0 };

    /// <summary>The count of parts, which newer versions keep among the data.</summary>
    internal int CountParts(DwgFields d)
    {
        if (!d.Reading)
        {
            Owned.Clear();
            if (d.Since(CadVersion.AC1018))
                Owned.AddRange(Parts.Select(p => p.Handle));
            else
                Owned.AddRange(Parts.Count == 0 ? [default, default] : [Parts[0].Handle, Parts[^1].Handle]);
        }

        return d.Since(CadVersion.AC1018) ? d.Count(Owned.Count) : 2;
    }

    /// <summary>The handles of the parts and of the end.</summary>
    internal void HandleParts(DwgFields d, int count)
    {
        d.Handles(Owned, count, d.Since(CadVersion.AC1018) ? HandleKind.HardOwner : HandleKind.SoftPointer);
        End = d.Handle(End, HandleKind.HardOwner);
    }
}

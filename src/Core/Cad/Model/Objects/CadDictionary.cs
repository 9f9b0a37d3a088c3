namespace SteadyLintel.Cad;

/// <summary>DICTIONARY: objects by name; with a default (ACDBDICTIONARYWDFLT) where one is asked for that is not there.</summary>
public sealed class CadDictionary(bool withDefault = false) : CadObject
{
    /// <summary>Whether there is a default.</summary>
    public bool HasDefault { get; } = withDefault;

    /// <inheritdoc/>
    public override string Type => HasDefault ? "ACDBDICTIONARYWDFLT" : "DICTIONARY";

    /// <summary>The entries in order.</summary>
    public List<(string Name, Handle Object)> Entries { get; } = [];

    /// <summary>Whether it needs what it owns (280).</summary>
    public bool HardOwner { get; set; }

    /// <summary>What becomes of doubles when copied (281).</summary>
    public int Cloning { get; set; } = 1;

    /// <summary>The default (340).</summary>
    public Handle Default { get; set; }

    /// <summary>The object under a name; null when there is none.</summary>
    public Handle this[string name] =>
        Entries.Find(e => e.Name.Equals(name, StringComparison.OrdinalIgnoreCase)).Object;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbDictionary");
        if (f.Dwg is { } d)
        {
            int count = d.Count(Entries.Count);
            if (d.Version == CadVersion.AC1014)
                d.RawByte(0);
            if (d.Since(CadVersion.AC1015))
            {
                Cloning = d.Short(Cloning);
                HardOwner = d.RawByte(HardOwner ? 1 : 0) != 0;
            }

            d.Items(Entries, count, 0, e =>
                (d.Text(3, e.Name ?? ""), d.Handle(e.Object, HardOwner ? HandleKind.HardOwner : HandleKind.SoftOwner))
            );
            if (HasDefault)
                Default = d.Handle(Default, HandleKind.HardPointer);
            return;
        }

        HardOwner = f.Byte(280, HardOwner ? 1 : 0, 0) != 0;
        Cloning = f.Byte(281, Cloning);
        f.Items(Entries, Entries.Count, 3, e =>
        {
            string name = f.Text(3, e.Name ?? "");
            var soft =
                f.Reading ? f.Reference(350, default)
                : HardOwner ? default
                : f.Reference(350, e.Object, HandleKind.SoftOwner);
            return (name, soft.IsNull ? f.Reference(360, e.Object, HandleKind.HardOwner) : soft);
        });
        if (!HasDefault)
            return;
        f.Subclass("AcDbDictionaryWithDefault");
        Default = f.Reference(340, Default);
    }
}

namespace SteadyLintel.Cad;

/// <summary>ATTRIB: a value an insert carries under a tag.</summary>
public class AttributeEntity : TextEntity
{
    /// <inheritdoc/>
    public override string Type => "ATTRIB";

    /// <summary>The tag (2).</summary>
    public string Tag { get; set; } = "";

    /// <summary>1 invisible, 2 constant, 4 to be verified, 8 preset (70).</summary>
    public int Flags { get; set; }

    /// <summary>Whether its place in the block is locked (280).</summary>
    public bool Locked { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        ExchangeText(f);
        f.Subclass("AcDbAttribute");
        ExchangeAttribute(f);
    }

    /// <summary>The fields behind the text.</summary>
    internal void ExchangeAttribute(Fields f)
    {
        if (f.Dwg is { } d)
        {
            if (d.Since(CadVersion.AC1024)) d.RawByte(0);
            if (d.Since(CadVersion.AC1032)) d.RawByte(1);
            Tag = d.Text(2, Tag);
            d.Short(0);
            Flags = d.RawByte(Flags);
            if (d.Since(CadVersion.AC1021)) Locked = d.Bit(Locked);
            return;
        }

        if (f.Since(CadVersion.AC1024)) f.Fixed(280, 0L);
        Tag = f.Text(2, Tag);
        Flags = f.Short(70, Flags);
        f.Fixed(73, 0L);
        Vertical = f.Short(74, Vertical, 0);
    }
}

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

    /// <summary>The paragraphs of an attribute of several lines in DWG of 2018, with their codes; empty for one of a single line.</summary>
    public string Paragraphs { get; private set; } = "";

    /// <summary>The groups of the text that one of several lines embeds in DXF of 2018, as they came.</summary>
    public IReadOnlyList<CadGroup> Embedded { get; private set; } = [];

    /// <summary>The bits of one of several lines. Its paragraphs are recognised by fields that no other reader could confirm; so only its
    /// texts
    /// are read, and it goes back into its version as it came, into others with its single line.</summary>
    public OpaqueBits? Bits { get; set; }

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
            if (d.Since(CadVersion.AC1024))
                d.RawByte(0);
            bool single = !d.Since(CadVersion.AC1032) || d.RawByte(1) < 2;
            // Texts are apart from the other fields, and can be read without them.
            if (!single)
                Paragraphs = d.Text(1, Paragraphs);
            Tag = d.Text(2, Tag);
            if (!single)
                return;
            d.Short(0);
            Flags = d.RawByte(Flags);
            if (d.Since(CadVersion.AC1021))
                Locked = d.Bit(Locked);
            return;
        }

        if (f.Since(CadVersion.AC1024))
            f.Fixed(280, 0L);
        Tag = f.Text(2, Tag);
        Flags = f.Short(70, Flags);
        f.Fixed(73, 0L);
        Vertical = f.Short(74, Vertical, 0);
        ExchangeParagraphs(f);
    }

    /// <summary>In DXF of 2018: the paragraphs of an attribute of several lines, a text embedded behind its own fields.</summary>
    internal void ExchangeParagraphs(Fields f)
    {
        Embedded = f.Embedded(Embedded);
        if (f.Reading && Embedded.Count > 0)
            Paragraphs = string.Concat(Embedded.Where(g => g.Code is 3 or 1).Select(g => g.Text));
    }
}

using System.Text;

namespace SteadyLintel.Cad;

/// <summary>3DSOLID, REGION and BODY: a body told in ACIS text. From 2013 on drawings keep bodies in a binary form apart, which is kept but not understood.</summary>
/// <param name="type">The DXF name.</param>
public sealed class ModelerEntity(string type) : Entity
{
    /// <summary>The last version whose bodies are text.</summary>
    public const CadVersion LastText = CadVersion.AC1024;

    private const int BlockSize = 4096;

    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The text, a line a record; empty when the body is kept in another form.</summary>
    public string Acis { get; set; } = "";

    /// <summary>The history of a 3DSOLID (350).</summary>
    public Handle History { get; set; }

    /// <summary>What a newer DXF says instead of text, kept as it came.</summary>
    public List<CadGroup> Kept { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbModelerGeometry");
        if (f.Dwg is { } d)
        {
            ExchangeDwg(d);
            return;
        }

        if (f.Reading) ReadText(f);
        else if (Acis.Length > 0)
        {
            f.Short(70, 1);
            f.Groups([.. AcisCipher.ToGroups(Acis)]);
        }
        else f.Groups(Kept);
        if (Type != "3DSOLID" || !f.Since(CadVersion.AC1021)) return;
        f.Subclass("AcDb3dSolid");
        History = f.Reference(350, History);
    }

    private void ReadText(Fields f)
    {
        if (!f.Since(CadVersion.AC1027)) f.Short(70, 1);
        var groups = new List<CadGroup>();
        f.Groups(groups);
        Acis = f.Since(CadVersion.AC1027) ? "" : AcisCipher.FromGroups(groups);
        if (Acis.Length == 0) Kept.AddRange(groups);
    }

    private void ExchangeDwg(DwgFields d)
    {
        if (d.Bit(Acis.Length == 0)) return;
        d.Bit(false);
        if (d.Short(1) != 1) throw new CadFormatException("its body is binary");
        if (d.Reading)
        {
            var text = new StringBuilder();
            for (int size; (size = d.Count(0)) > 0;) text.Append(Encoding.Latin1.GetString(d.Bytes([], size)));
            Acis = string.Concat(text.ToString().Where(c => c != '\r').Select(AcisCipher.Turn));
            // Wires and silhouettes behind it are a picture of the body, which is made anew by whoever shows it.
            return;
        }

        byte[] turned = Encoding.Latin1.GetBytes(string.Concat(Acis.Select(AcisCipher.Turn)));
        for (int at = 0; at < turned.Length;)
        {
            // Whole lines, since some readers take the end of a block for the end of a line.
            int end = Math.Min(turned.Length, at + BlockSize), line = Array.LastIndexOf(turned, (byte)'\n', end - 1, end - at);
            if (end < turned.Length && line >= at) end = line + 1;
            d.Count(end - at);
            d.Bytes(turned[at..end], end - at);
            at = end;
        }

        d.Count(0);
        d.Bit(false);
        d.Bit(true);
        if (!d.Since(CadVersion.AC1021)) return;
        d.Long(0);
        d.Handle(History, HandleKind.HardPointer);
    }
}

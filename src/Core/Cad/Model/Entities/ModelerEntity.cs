using System.Runtime.InteropServices;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>3DSOLID, REGION and BODY: a body described in ACIS data, as text up to 2010 and in a binary form, kept apart from the entity,
/// from
/// 2013 on.</summary>
/// <remarks>A body of plane faces crosses between the two: it is read into faces and written again. Other bodies stay in the form they came
/// in.</remarks>
/// <param name="type">The DXF name.</param>
public sealed class ModelerEntity(string type) : Entity
{
    /// <summary>The last version whose bodies are text.</summary>
    public const CadVersion LastText = CadVersion.AC1024;

    private const int BlockSize = 4096,
        TextVersion = 1,
        BinaryVersion = 2;
    private string? _told;
    private byte[]? _toldBinary;
    private Decoded? _decoded;

    /// <inheritdoc/>
    public override string Type { get; } = type;

    /// <summary>The text, a line a record; empty when the body came in its binary form.</summary>
    public string Acis { get; set; } = "";

    /// <summary>The binary form; empty when the body came as text.</summary>
    public byte[] Binary { get; set; } = [];

    /// <summary>The history of a 3DSOLID (350).</summary>
    public Handle History { get; set; }

    /// <summary>What a newer DXF says beside the binary form: a mark and the identity of the body (290, 2).</summary>
    public List<CadGroup> Kept { get; } = [];

    /// <summary>The points and plane faces; null when a face is not plane or an edge not straight.</summary>
    public (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Faces()
    {
        object from = Acis.Length > 0 ? Acis : Binary;
        if (_decoded is null || !ReferenceEquals(_decoded.From, from))
            _decoded = new Decoded(from, Acis.Length > 0 ? SatReader.Read(Acis) : SabReader.Read(Binary));
        return _decoded.Faces;
    }

    // Extents, a report and a picture each ask: the data are exploded once, until others take their place.
    private sealed record Decoded(object From, (IReadOnlyList<Vec3> Points, IReadOnlyList<PlanarFace> Faces)? Faces);

    /// <summary>Whether the body has a form in a version.</summary>
    internal bool IsIn(CadVersion version) => version <= LastText ? TextForm().Length > 0 : BinaryForm().Length > 0;

    /// <summary>Whether it has one in DXF of a version: there the entity is also where its data are lost.</summary>
    internal bool IsInDxf(CadVersion version) =>
        IsIn(version) || (version > LastText && Acis.Length == 0 && Kept.Count > 0);

    /// <summary>The text; made again from plane faces when the body came in its binary form. Empty when it cannot be.</summary>
    internal string TextForm() => Acis.Length > 0 ? Acis : _told ??= Solid() is { } body ? AcisWriter.Text(body) : "";

    /// <summary>The binary form; made again from plane faces when the body came as text. Empty when it cannot be.</summary>
    internal byte[] BinaryForm() =>
        Binary.Length > 0 ? Binary : _toldBinary ??= Solid() is { } body ? AcisWriter.Binary(body) : [];

    private Polyhedron? Solid() =>
        Faces() is { } faces && Polyhedron.Of(faces.Points, faces.Faces) is var body && body.Problem() is null
            ? body
            : null;

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbModelerGeometry");
        if (f.Dwg is { } d)
        {
            if (f.Reading)
                ReadDwg(d);
            else
                WriteDwg(d);
            return;
        }

        if (f.Reading)
            ReadGroups(f);
        else
            WriteGroups(f);
        if (Type != "3DSOLID" || !f.Since(CadVersion.AC1021))
            return;
        f.Subclass("AcDb3dSolid");
        History = f.Reference(350, History);
    }

    private void ReadGroups(Fields f)
    {
        if (!f.Since(CadVersion.AC1027))
            f.Short(70, TextVersion);
        var groups = new List<CadGroup>();
        f.Groups(groups);
        Acis = AcisCipher.FromGroups(groups);
        if (Acis.Length == 0)
            Kept.AddRange(groups);
    }

    private void WriteGroups(Fields f)
    {
        if (f.Version <= LastText)
        {
            f.Short(70, TextVersion);
            f.Groups([.. AcisCipher.ToGroups(TextForm())]);
            return;
        }

        f.Groups(
            Kept.Count > 0
                ? Kept
                : [new CadGroup(290, true), new CadGroup(2, $"{{00000000-0000-0000-0000-{Identity:X12}}}")]
        );
    }

    private void ReadDwg(DwgFields d)
    {
        // Data kept apart are put into the body when all objects are read.
        if (d.Bit(false) || d.HasStoredData)
            return;
        d.Bit(false);
        switch (d.Short(TextVersion))
        {
            case TextVersion:
                Acis = ReadText(d);
                break;
            case BinaryVersion:
                Binary = ReadBinary(d);
                break;
            default:
                throw new CadFormatException("its body has a form that is not known");
        }

        // Wires and silhouettes behind it are a picture of the body, which is made again by whoever shows it.
    }

    private static string ReadText(DwgFields d)
    {
        var text = new StringBuilder();
        for (int size; (size = d.Count(0)) > 0; )
            text.Append(Encoding.Latin1.GetString(d.Bytes([], size)));
        return string.Concat(text.ToString().Where(c => c != '\r').Select(AcisCipher.Turn));
    }

    // No length is given: the data run to the words that end them.
    private static byte[] ReadBinary(DwgFields d)
    {
        var bytes = new List<byte>();
        do
        {
            bytes.Add((byte)d.RawByte(0));
        } while (
            !SabReader.Ends.Any(end =>
                bytes.Count >= end.Length && bytes[^1] == end[^1] && CollectionsMarshal.AsSpan(bytes).EndsWith(end)
            )
        );
        return [.. bytes];
    }

    private void WriteDwg(DwgFields d)
    {
        d.Bit(false);
        d.Bit(false);
        if (d.Version <= LastText)
        {
            d.Short(TextVersion);
            WriteText(d);
        }
        else
            d.Short(BinaryVersion);

        d.Bit(false);
        d.Bit(true);
        if (!d.Since(CadVersion.AC1021))
            return;
        d.Long(0);
        if (d.Since(CadVersion.AC1027))
            WriteIdentity(d);
        d.Handle(History, HandleKind.HardPointer);
    }

    // The body's identity as DXF has it (group 2): a bit that there is one, its three numbers and eight bytes, and an end. Readers differ
    // over whether the bit alone is enough where there is none, so there always is one.
    private void WriteIdentity(DwgFields d)
    {
        d.Bit(true);
        d.Long(0);
        d.Short(0);
        d.Short(0);
        for (int i = 7; i >= 0; i--)
            d.RawByte((byte)(Identity >> (8 * i)));
        d.Long(0);
    }

    // An identity tells bodies apart that look alike; the handle does so within a drawing.
    private ulong Identity => Handle.Value & 0xFFFFFFFFFFFF;

    private void WriteText(DwgFields d)
    {
        byte[] turned = Encoding.Latin1.GetBytes(string.Concat(TextForm().Select(AcisCipher.Turn)));
        for (int at = 0; at < turned.Length; )
        {
            // Whole lines, since some readers take the end of a block for the end of a line.
            int end = Math.Min(turned.Length, at + BlockSize),
                line = Array.LastIndexOf(turned, (byte)'\n', end - 1, end - at);
            if (end < turned.Length && line >= at)
                end = line + 1;
            d.Count(end - at);
            d.Bytes(turned[at..end], end - at);
            at = end;
        }

        d.Count(0);
    }
}

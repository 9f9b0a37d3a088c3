using System.Buffers.Binary;

namespace SteadyLintel.Cad;

/// <summary>Reads DWG of release 13 and 14, and of 2000, 2004, 2007, 2010, 2013 and 2018. The layout is that of the published Open Design
/// specification, from memory, checked against two independent readers in tests/Outside.</summary>
/// <remarks>What is damaged is a finding, and the rest is read: an object whose bits make no sense is left out with its handle.</remarks>
public sealed class DwgReader
{
    private const int MostBytes = 1 << 30,
        Stretch = 4096;

    /// <summary>Whether bytes begin like DWG of any version.</summary>
    public static bool Looks(ReadOnlySpan<byte> head) =>
        head.Length >= 6 && head.StartsWith("AC"u8) && !head[2..6].ContainsAnyExceptInRange((byte)'0', (byte)'9');

    /// <summary>Reads a drawing.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="cancel">Stops the reading.</param>
    /// <exception cref="CadFormatException">The version is not read, or the file is damaged so that nothing can be found in it; the message
    /// says what to ask for.</exception>
    public static Drawing Read(byte[] bytes, CancellationToken cancel = default)
    {
        if (!Looks(bytes))
            throw new CadFormatException("The file does not begin like a DWG drawing. Ask for it again, or for DXF.");
        if (bytes.Length > MostBytes)
            throw new CadFormatException("The drawing is larger than 1 GB. Ask for it in parts.");
        string version = System.Text.Encoding.ASCII.GetString(bytes, 0, 6);
        if (!Enum.TryParse(version, out CadVersion known) || !Enum.IsDefined(known) || known < CadVersion.AC1012)
            throw new CadFormatException(
                $"The drawing is DWG of version {version}, which is not read; those of release 13 and 14 and of 2000, 2004, 2007, 2010, 2013 and 2018 are. Ask for it as one of these, or as DXF."
            );
        if (bytes.Length < 0x80)
            throw new CadFormatException("The DWG drawing ends within its first bytes. Ask for it again.");
        var drawing = new Drawing { Version = known, Maintenance = bytes[0x0B] };
        var encoding = CodePages.Encoding((int)BinaryPrimitives.ReadUInt16LittleEndian(bytes.AsSpan(0x13)));
        drawing.Header.Set("$ACADVER", 1, version);
        drawing.Header.Set(
            "$DWGCODEPAGE",
            3,
            CodePages.Name(BinaryPrimitives.ReadUInt16LittleEndian(bytes.AsSpan(0x13)))
        );
        var sections = known switch
        {
            <= CadVersion.AC1015 => Dwg2000Container.Read(bytes, drawing),
            CadVersion.AC1021 => Dwg2007Container.Read(bytes, drawing),
            _ => Dwg2004Container.Read(bytes, drawing),
        };
        return new DwgReader(drawing, sections, encoding, cancel).Read();
    }

    private readonly Drawing _drawing;
    private readonly DwgSections _sections;
    private readonly System.Text.Encoding _encoding;
    private readonly CancellationToken _cancel;

    private DwgReader(Drawing drawing, DwgSections sections, System.Text.Encoding encoding, CancellationToken cancel) =>
        (_drawing, _sections, _encoding, _cancel) = (drawing, sections, encoding, cancel);

    private Drawing Read()
    {
        DwgClasses.Read(_drawing, _sections.Classes, new CadText(_encoding));
        var header = Header();
        var map = DwgMap.Read(_sections.Map, _drawing);
        var beside = new DwgReadState();
        // Owners that mean model space and a layout until their blocks are known, when the header variables are lost.
        Handle[] spaces =
        [
            default,
            header?.Known.GetValueOrDefault("@PS") ?? new Handle(ulong.MaxValue - 1),
            header?.Known.GetValueOrDefault("@MS") ?? new Handle(ulong.MaxValue - 2),
            default,
        ];
        var objects = new DwgObjects(map, _drawing.Version < CadVersion.AC1018);
        Objects(map, objects, spaces, header, beside);
        beside.Report(_drawing);
        var assembly = new DwgAssembly(_drawing, objects, spaces, beside, header);
        if (assembly.IsEmpty)
            throw new CadFormatException(
                "Not one object of the drawing can be found: it is damaged. Ask for it again, or for DXF."
            );
        assembly.Run();
        if (_drawing.Version < CadVersion.AC1015)
            ViewportData.Apply(_drawing);
        Store(beside.Bodies);
        if (_sections.Template.Length >= 4 && _sections.Template is [0, 0, var metric, ..])
            _drawing.Header.Set("$MEASUREMENT", 70, (int)metric);
        if (objects.AreNamed)
            HandleCheck.Raise(_drawing, objects.Greatest);
        else
            HandleCheck.Run(_drawing);
        _drawing.Complete();
        return _drawing;
    }

    private DwgHeader? Header()
    {
        try
        {
            var fields = DwgFrame.Open(
                _sections.Header,
                DwgSections.HeaderStart,
                _drawing,
                new CadText(_encoding),
                "header variables"
            );
            if (fields is null)
                return null;
            var header = new DwgHeader(_drawing, fields);
            header.Exchange();
            _drawing.Seed = header.Known.GetValueOrDefault("@SEED");
            return header;
        }
        catch (CadFormatException e)
        {
            _drawing.Findings.Add(
                new CadFinding(
                    "CAD-SECTION",
                    "header variables",
                    $"The header variables could not be read to their end ({e.Message})."
                )
            );
            return null;
        }
    }

    private void Store(List<ModelerEntity> bodies)
    {
        if (_sections.Store.Length == 0)
            return;
        var waiting = bodies.GroupBy(b => b.Handle).ToDictionary(g => g.Key, g => g.Last());
        foreach (var record in DwgStoreReader.Read(_sections.Store, [.. waiting.Keys]))
        {
            if (SabReader.Looks(record.Data) && waiting.TryGetValue(record.Owner, out var body))
                body.Binary = record.Data;
            else
                _drawing.Stored.Add(record);
        }
    }

    // Objects do not depend on one another, so stretches of the map are read side by side.
    private void Objects(
        List<(Handle Handle, long Offset)> map,
        DwgObjects objects,
        Handle[] spaces,
        DwgHeader? header,
        DwgReadState beside
    )
    {
        var stretches = new DwgReadState[(map.Count + Stretch - 1) / Stretch];
        Parallel.For(0, stretches.Length, new ParallelOptions { CancellationToken = _cancel }, s =>
        {
            stretches[s] = new DwgReadState();
            var reader = new DwgObjectReader(_drawing, _sections.Objects, new CadText(_encoding), stretches[s])
            {
                Spaces = spaces,
                ByBlock = header?.Known.GetValueOrDefault("@BYBLOCK") ?? default,
                Continuous = header?.Known.GetValueOrDefault("@CONTINUOUS") ?? default,
            };
            for (int i = s * Stretch; i < Math.Min(map.Count, (s + 1) * Stretch); i++)
            {
                _cancel.ThrowIfCancellationRequested();
                try
                {
                    objects.Put(i, reader.Read(map[i].Handle, map[i].Offset), reader.Next);
                }
                catch (CadFormatException e)
                {
                    stretches[s].Lose(map[i].Handle, e.Message);
                }
            }
        });
        foreach (var stretch in stretches)
            beside.Append(stretch);
    }
}

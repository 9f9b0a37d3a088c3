namespace SteadyLintel.Cad;

/// <summary>The section ACDSDATA of DXF from 2013 on: bodies in their binary form, each with the handle of its entity, behind a description
/// of what kinds of data there are.</summary>
/// <remarks>No published reference describes the section; its form is that which independent readers know, and tests/Outside checks it with
/// one.</remarks>
internal static class DxfStore
{
    /// <summary>The name of the section.</summary>
    public const string Section = "ACDSDATA";

    private const string Record = "ACDSRECORD",
        Schema = "ACDSSCHEMA",
        OwnerField = "AcDbDs::ID",
        BodyField = "ASM_Data";
    private const int ChunkSize = 127;

    /// <summary>Puts the bodies of the section into their entities; the rest of it stays as it is.</summary>
    public static void Take(Drawing drawing)
    {
        int at = drawing.OtherSections.FindIndex(s => s.Name == Section);
        if (at < 0)
            return;
        var bodies = new Dictionary<Handle, ModelerEntity>();
        foreach (var body in HandleCheck.Entities(drawing).OfType<ModelerEntity>())
            bodies.TryAdd(body.Handle, body);
        var kept = new List<CadGroup>();
        foreach (var part in Parts(drawing.OtherSections[at].Groups))
        {
            if (
                part[0].Text == Record
                && Owner(part) is { } owner
                && Data(part) is { Length: > 0 } data
                && bodies.TryGetValue(owner, out var body)
                && body.Acis.Length == 0
            )
                body.Binary = data;
            else
                kept.AddRange(part);
        }

        drawing.OtherSections[at] = (Section, kept);
    }

    /// <summary>Whether there is more in a section of DXF that is kept than a description of bodies that went elsewhere.</summary>
    public static bool Matters((string Name, IReadOnlyList<CadGroup> Groups) section) =>
        section.Name != Section || section.Groups.Any(g => g.Code == 0 && g.Text == Record);

    /// <summary>The groups of the section: what was kept of it, and the bodies; none when there is nothing to say.</summary>
    public static IReadOnlyList<CadGroup> Groups(Drawing drawing, IReadOnlyList<ModelerEntity> bodies)
    {
        var kept = drawing.OtherSections.Find(s => s.Name == Section).Groups ?? [];
        if (bodies.Count == 0)
            return kept;
        var groups = kept.Count > 0 ? kept.ToList() : Described();
        int schema = SchemaNumber(groups);
        foreach (var body in bodies)
        {
            byte[] data = body.BinaryForm();
            groups.AddRange([
                new(0, Record),
                new(90, (long)schema),
                new(2, OwnerField),
                new(280, 10L),
                new(320, body.Handle),
                new(2, BodyField),
                new(280, 15L),
                new(94, (long)data.Length),
            ]);
            foreach (byte[] chunk in data.Chunk(ChunkSize))
                groups.Add(new(310, chunk));
        }

        return groups;
    }

    // The head of the section, then from one group 0 to the next.
    private static IEnumerable<List<CadGroup>> Parts(IReadOnlyList<CadGroup> groups)
    {
        var part = new List<CadGroup>();
        foreach (var group in groups)
        {
            if (group.Code == 0 && part.Count > 0)
            {
                yield return part;
                part = [];
            }

            part.Add(group);
        }

        if (part.Count > 0)
            yield return part;
    }

    private static Handle? Owner(List<CadGroup> part) => part.FirstOrDefault(g => g.Code == 320).Value as Handle?;

    private static byte[]? Data(List<CadGroup> part)
    {
        int at = part.FindIndex(g => g.Code == 2 && g.Text == BodyField);
        return at < 0 ? null : [.. part.Skip(at).Where(g => g.Code == 310).SelectMany(g => g.Value as byte[] ?? [])];
    }

    private static int SchemaNumber(List<CadGroup> groups)
    {
        int at = groups.FindIndex(g => g.Code == 1 && g.Text == StoredData.Bodies);
        return at > 0 && groups[at - 1].Code == 90 ? (int)groups[at - 1].Number : 0;
    }

    // The schema of bodies and those it refers to.
    private static List<CadGroup> Described()
    {
        string[] marks = ["AcDbDs::TreatedAsObjectData", "AcDbDs::Legacy", "AcDs:Indexable", "AcDbDs::HandleAttribute"];
        string[] schemas =
        [
            "AcDbDs::TreatedAsObjectDataSchema",
            "AcDbDs::LegacySchema",
            "AcDbDs::IndexedPropertySchema",
            "AcDbDs::HandleAttributeSchema",
        ];
        List<CadGroup> groups =
        [
            new(70, 2L),
            new(71, 6L),
            .. Begin(0, StoredData.Bodies),
            new(2, OwnerField),
            new(280, 10L),
            new(91, 8L),
            new(2, BodyField),
            new(280, 15L),
            new(91, 0L),
        ];
        for (int i = 0; i < marks.Length; i++)
        {
            groups.Add(new(101, Record));
            // The first two marks are of the schema as a whole, the others of the handle in it.
            if (i < 2)
                groups.Add(new(95, 0L));
            else
                groups.Add(new(1, OwnerField));
            groups.AddRange([new(90, i + 1L), new(2, marks[i])]);
            if (i < 3)
                groups.AddRange([new(280, 1L), new(291, true)]);
            else
                groups.AddRange([new(280, 7L), new(282, 1L)]);
        }

        for (int i = 0; i < schemas.Length; i++)
        {
            groups.AddRange([.. Begin(i + 1, schemas[i]), new(2, marks[i])]);
            if (i < 3)
                groups.AddRange([new(280, 1L), new(91, 0L)]);
            else
                groups.AddRange([new(280, 7L), new(91, 1L), new(284, 1L)]);
        }

        return groups;

        static CadGroup[] Begin(int number, string name) => [new(0, Schema), new(90, (long)number), new(1, name)];
    }
}

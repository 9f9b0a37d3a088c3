using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>External references made blocks of the drawing itself: what another file holds, with its layers, styles and blocks under
/// names that say where they came from.</summary>
/// <remarks>
/// A name of the other file becomes <c>REFERENCE$0$NAME</c>, as DXF has it for bound references; layer 0, Defpoints, and line types that
/// mean others stay. What the drawing says of a reference's layers (<c>REFERENCE|NAME</c>: colour, on or off) holds on. The other
/// drawing is written as DXF with every handle (codes by the DXF reference, group codes in numerical order) moved to a free one, and read
/// again; so whatever DXF can say comes along, also what nobody here understands.
/// </remarks>
public sealed class ReferenceBinder
{
    private const int Deepest = 8;
    private static readonly string[] Common = ["0", "Defpoints", "ByLayer", "ByBlock", "Continuous"];

    // What is alike in both under one name, such as the plot style that layers have as a rule, is one; groups and sheets never are.
    private static readonly string[] Apart = ["ACAD_LAYOUT", "ACAD_GROUP", "ACAD_PLOTSETTINGS"];
    private static readonly string[] OfSheets = [.. Apart, "ACAD_PLOTSTYLENAME"];
    private readonly Func<BlockRecord, Drawing?> _find;
    private readonly bool _merges;
    private readonly CancellationToken _cancel;
    private readonly List<CadFinding> _findings = [];

    private ReferenceBinder(Func<BlockRecord, Drawing?> find, bool merges, CancellationToken cancel) =>
        (_find, _merges, _cancel) = (find, merges, cancel);

    /// <summary>Binds the references that are found.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="find">Reads the drawing that a block refers to, again each time; null where there is none.</param>
    /// <param name="cancel">Stops between references.</param>
    /// <returns>References that stay, with the reason.</returns>
    public static IReadOnlyList<CadFinding> Bind(
        Drawing drawing,
        Func<BlockRecord, Drawing?> find,
        CancellationToken cancel = default
    )
    {
        var binder = new ReferenceBinder(find, false, cancel);
        binder.Bind(drawing, []);
        return binder._findings;
    }

    /// <summary>Makes a block of another drawing's model space. Layers, styles and line types of one name become one, as this drawing has
    /// them; blocks stay apart.</summary>
    /// <param name="drawing">The drawing; changed in place.</param>
    /// <param name="name">The block's name; with a number where the drawing has such a block.</param>
    /// <param name="other">The other drawing.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The block, and what has no form that could come along.</returns>
    public static (BlockRecord Block, IReadOnlyList<CadFinding> Findings) Insert(
        Drawing drawing,
        string name,
        Drawing other,
        CancellationToken cancel = default
    )
    {
        var binder = new ReferenceBinder(_ => null, true, cancel);
        string clean = LayerNames.Clean(name),
            free = clean;
        for (int n = 2; drawing.Blocks[free] is not null; n++)
            free = $"{clean} {n}";
        var block = drawing.AddBlock(free);
        binder.Join(drawing, block, other);
        return (block, binder._findings);
    }

    // Within is the way down, by the names of files: one that refers to itself ends there.
    private void Bind(Drawing drawing, IReadOnlyList<string> within)
    {
        foreach (var block in drawing.Blocks.Where(b => b.IsXref).ToList())
        {
            _cancel.ThrowIfCancellationRequested();
            string file = FileOf(block);
            // An overlay is for whoever drew it, not for who refers to the drawing.
            if (within.Count > 0 && block.IsOverlay)
                continue;
            if (within.Contains(file, StringComparer.OrdinalIgnoreCase) || within.Count >= Deepest)
                Stays(block, "it refers to itself");
            else if (_find(block) is not { } other)
                Stays(block, "the file is not here");
            else
            {
                Bind(other, [.. within, file]);
                Join(drawing, block, other);
            }
        }
    }

    /// <summary>The name of the file a reference is to, without folders, which are another machine's.</summary>
    public static string FileOf(BlockRecord block) =>
        block.Path.Length == 0 ? block.Name : block.Path[(block.Path.LastIndexOfAny(['/', '\\']) + 1)..];

    private void Stays(BlockRecord block, string why) =>
        _findings.Add(
            new CadFinding(
                "CAD-XREF-OPEN",
                $"handle {block.Handle}",
                $"The reference {block.Name} ({FileOf(block)}) was not bound: {why}."
            )
        );

    private void Join(Drawing drawing, BlockRecord block, Drawing other)
    {
        var moved = Moved(drawing, other, block.Name);
        var tables = new (SymbolTable To, SymbolTable From)[]
        {
            (drawing.Layers, moved.Layers),
            (drawing.LineTypes, moved.LineTypes),
            (drawing.Styles, moved.Styles),
            (drawing.DimensionStyles, moved.DimensionStyles),
            (drawing.Applications, moved.Applications),
            (drawing.Blocks, moved.Blocks),
        };
        foreach (var (to, from) in tables)
            Records(to, from, block.Name);
        (block.IsXref, block.IsOverlay, block.Path, block.Units) = (false, false, "", moved.Units);
        block.Base = moved.Header.Point("$INSBASE");
        block.Entities.Clear();
        foreach (var entity in moved.Model.Entities)
        {
            entity.Owner = block.Handle;
            block.Entities.Add(entity);
        }

        foreach (var kind in moved.Classes.Where(c => !drawing.Classes.Exists(k => k.DxfName == c.DxfName)))
            drawing.Classes.Add(kind);
        Objects(drawing, moved, block.Name);
    }

    // The same drawing with handles that are free in this one; what both share has this one's.
    private Drawing Moved(Drawing drawing, Drawing other, string reference)
    {
        var shared = new Dictionary<ulong, ulong>();
        foreach (var kind in Enum.GetValues<SymbolKind>())
        foreach (var record in other.Table(kind).All)
            if (Twin(drawing, record, reference) is { } twin)
                shared[record.Handle.Value] = twin.Handle.Value;
        var (mine, theirs) = (Dictionaries(drawing), Dictionaries(other));
        foreach (var (name, dictionary) in theirs)
            if (mine.TryGetValue(name, out var same) && !Apart.Contains(name))
                foreach (var (key, item) in dictionary.Entries)
                    if (same[key] is { IsNull: false } known)
                        shared[item.Value] = known.Value;
        using var stream = new MemoryStream();
        _findings.AddRange(
            DxfWriter
                .Write(other, stream, CadVersion.AC1032, cancel: _cancel)
                .Select(f => f with { Place = $"{f.Place} of {reference}" })
        );
        ulong offset = drawing.Seed.Value;
        byte[] text = Renumbered(stream.ToArray(), h => h == 0 ? 0
            : shared.TryGetValue(h, out ulong known) ? known
            : h + offset);
        var moved = DxfReader.Read(text, _cancel);
        drawing.Seed = new Handle(
            Math.Max(drawing.Seed.Value, Math.Max(other.Seed.Value, moved.Seed.Value) + offset) + 1
        );
        return moved;
    }

    // The record that means one of the other drawing's: one that every drawing has, or the one that the drawing keeps for the
    // reference.
    private SymbolRecord? Twin(Drawing drawing, SymbolRecord record, string reference)
    {
        if (record is BlockRecord)
            return null;
        if (_merges || record is ApplicationId || Common.Contains(record.Name, StringComparer.OrdinalIgnoreCase))
            return drawing.Table(record.Table).Named(record.Name);
        return drawing.Table(record.Table).Named($"{reference}|{record.Name}");
    }

    private static byte[] Renumbered(byte[] dxf, Func<ulong, ulong> handle)
    {
        var result = new StringBuilder(dxf.Length + (dxf.Length / 8));
        using var lines = new StreamReader(new MemoryStream(dxf), Encoding.UTF8);
        while (lines.ReadLine() is { } code)
        {
            string value = lines.ReadLine() ?? "";
            ulong old = 0;
            bool is16 =
                int.TryParse(code, NumberStyles.Integer, CultureInfo.InvariantCulture, out int number)
                && GroupCodes.Kind(number) == GroupKind.Handle
                && ulong.TryParse(value.Trim(), NumberStyles.HexNumber, CultureInfo.InvariantCulture, out old);
            result.Append(code).Append('\n').Append(is16 ? new Handle(handle(old)).ToString() : value).Append('\n');
        }

        return Encoding.UTF8.GetBytes(result.ToString());
    }

    private void Records(SymbolTable to, SymbolTable from, string reference)
    {
        foreach (var record in from.All.ToList())
        {
            if (record is BlockRecord { IsSpace: true })
                continue;
            if (to.Of(record.Handle) is { } known)
            {
                // The drawing's own record of a reference's layer becomes a layer of its own.
                if (!known.Name.Contains('|', StringComparison.Ordinal))
                    continue;
                known.FromXref = false;
                Rename(
                    to,
                    known,
                    Bound(
                        known.Name.Split('|')[0],
                        known.Name[(known.Name.IndexOf('|', StringComparison.Ordinal) + 1)..]
                    )
                );
                continue;
            }

            string name =
                record is BlockRecord { IsAnonymous: true } ? Anonymous(to, record.Name)
                : _merges || Common.Contains(record.Name, StringComparer.OrdinalIgnoreCase) || record is ApplicationId
                    ? record.Name
                : Bound(reference, record.Name);
            if (record.Name.StartsWith('_') && record is BlockRecord)
                name = record.Name;
            for (int n = _merges ? 0 : 1; to.Named(name) is not null; n++)
                name = $"{reference}${n}${record.Name}";
            record.Name = name;
            (record.Owner, record.FromXref) = (to.Handle, record.FromXref && record is BlockRecord { IsXref: true });
            to.Put(record);
        }
    }

    private static string Bound(string reference, string name) => $"{reference}$0${name.Replace('|', '$')}";

    private static string Anonymous(SymbolTable blocks, string name)
    {
        string letter = name[..Math.Min(2, name.Length)];
        int n = blocks.Count;
        while (blocks.Named($"{letter}{n}") is not null)
            n++;
        return $"{letter}{n}";
    }

    private static void Rename(SymbolTable table, SymbolRecord record, string name)
    {
        if (table.Named(name) is not null)
            return;
        if (table is SymbolTable<Layer> layers)
            layers.Rename((Layer)record, name);
        else if (table is SymbolTable<LineType> types)
            types.Rename((LineType)record, name);
        else if (table is SymbolTable<TextStyle> styles)
            styles.Rename((TextStyle)record, name);
        else if (table is SymbolTable<DimensionStyle> dimensions)
            dimensions.Rename((DimensionStyle)record, name);
    }

    private static Dictionary<string, CadDictionary> Dictionaries(Drawing drawing)
    {
        var byHandle = drawing.Objects.OfType<CadDictionary>().DistinctBy(d => d.Handle).ToDictionary(d => d.Handle);
        return drawing.Objects.FirstOrDefault() is CadDictionary root
            ? root
                .Entries.Where(e => byHandle.ContainsKey(e.Object))
                .DistinctBy(e => e.Name, StringComparer.OrdinalIgnoreCase)
                .ToDictionary(e => e.Name, e => byHandle[e.Object], StringComparer.OrdinalIgnoreCase)
            : [];
    }

    // Styles, images and the like: into the drawing's dictionaries; and what hangs on whatever came along.
    private static void Objects(Drawing drawing, Drawing moved, string reference)
    {
        var present = drawing.Objects.Select(o => o.Handle).ToHashSet();
        var came = moved
            .Blocks.Where(b => !b.IsSpace)
            .Select(b => b.Handle)
            .Concat(
                moved
                    .Blocks.Where(b => !b.IsPaper)
                    .SelectMany(b => b.Entities)
                    .SelectMany(e => e.Parts.Append(e))
                    .Select(e => e.Handle)
            )
            .Concat(moved.Layers.Select(l => l.Handle))
            .ToHashSet();
        var mine = Dictionaries(drawing);
        var root = drawing.Objects.FirstOrDefault() as CadDictionary;
        foreach (var (name, dictionary) in Dictionaries(moved))
        {
            if (OfSheets.Contains(name) || root is null)
                continue;
            if (!mine.TryGetValue(name, out var to))
            {
                root.Entries.Add((name, dictionary.Handle));
                dictionary.Owner = root.Handle;
                came.Add(dictionary.Handle);
                drawing.Objects.Add(dictionary);
                present.Add(dictionary.Handle);
                foreach (var (_, item) in dictionary.Entries)
                    came.Add(item);
                continue;
            }

            foreach (var (key, item) in dictionary.Entries.Where(e => !present.Contains(e.Object)))
            {
                string free = to[key].IsNull ? key : Bound(reference, key);
                to.Entries.Add((free, item));
                came.Add(item);
                if (moved.Objects.Find(o => o.Handle == item) is { } kept)
                    kept.Owner = to.Handle;
            }
        }

        for (bool more = true; more; )
        {
            more = false;
            foreach (
                var item in moved
                    .Objects.Where(o =>
                        o is not Layout
                        && !present.Contains(o.Handle)
                        && (came.Contains(o.Handle) || came.Contains(o.Owner))
                    )
                    .ToList()
            )
            {
                drawing.Objects.Add(item);
                present.Add(item.Handle);
                came.Add(item.Handle);
                more = true;
            }
        }
    }
}

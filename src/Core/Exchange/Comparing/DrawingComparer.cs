using System.Globalization;
using System.Text;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>An entity of a drawing that a comparison tells of.</summary>
/// <param name="Handle">Hexadecimal; of the older drawing where it was removed.</param>
/// <param name="Kind">As DXF spells it.</param>
/// <param name="Layer">Its layer; the newer one where it changed.</param>
/// <param name="What">What changed, in words; empty where it was added or removed.</param>
public sealed record DrawingChange(string Handle, string Kind, string Layer, IReadOnlyList<string> What);

/// <summary>What became of the entities of a drawing's model space.</summary>
/// <param name="Added">In the newer alone.</param>
/// <param name="Removed">In the older alone.</param>
/// <param name="Changed">In both, and not the same.</param>
/// <param name="Same">How many stayed as they were.</param>
/// <param name="PairedByGeometry">Whether handles were of no use, and layer, kind and geometry paired them: nothing counts as changed
/// then.</param>
public sealed record DrawingChanges(
    IReadOnlyList<DrawingChange> Added,
    IReadOnlyList<DrawingChange> Removed,
    IReadOnlyList<DrawingChange> Changed,
    int Same,
    bool PairedByGeometry
);

/// <summary>Compares two revisions of a drawing: by handle, or where another program gave everything new ones, by what each entity
/// says.</summary>
public static class DrawingComparer
{
    // Handles that pair less than this share of the smaller drawing with its own kind say nothing.
    private const double Telling = 0.5;

    /// <summary>Compares model space.</summary>
    /// <param name="old">The older.</param>
    /// <param name="now">The newer.</param>
    public static DrawingChanges Compare(Drawing old, Drawing now)
    {
        List<(Entity Entity, string Says)> before = Prints(old),
            after = Prints(now);
        var byHandle = new Dictionary<Handle, int>();
        for (int i = 0; i < before.Count; i++)
            byHandle.TryAdd(before[i].Entity.Handle, i);
        var partner = after.ConvertAll(a =>
            byHandle.TryGetValue(a.Entity.Handle, out int i) && before[i].Entity.Type == a.Entity.Type ? i : -1
        );
        int paired = partner.Count(p => p >= 0);
        bool telling = paired >= Telling * Math.Min(before.Count, after.Count);
        // The same handle for altogether other things is another program's numbering.
        if (telling && paired > 0)
            telling =
                Enumerable
                    .Range(0, after.Count)
                    .Count(n =>
                        partner[n] >= 0
                        && (
                            before[partner[n]].Says == after[n].Says
                            || old.LayerName(before[partner[n]].Entity.Layer) == now.LayerName(after[n].Entity.Layer)
                        )
                    )
                >= paired * Telling;
        return telling ? ByHandle(old, now, before, after, partner) : ByGeometry(old, now, before, after);
    }

    private static DrawingChanges ByHandle(
        Drawing old,
        Drawing now,
        List<(Entity Entity, string Says)> before,
        List<(Entity Entity, string Says)> after,
        List<int> partner
    )
    {
        var taken = new bool[before.Count];
        List<DrawingChange> added = [],
            changed = [];
        int same = 0;
        for (int n = 0; n < after.Count; n++)
        {
            int i = partner[n];
            if (i < 0 || taken[i])
            {
                added.Add(Change(now, after[n].Entity, []));
                continue;
            }

            taken[i] = true;
            if (before[i].Says == after[n].Says)
                same++;
            else
                changed.Add(Change(now, after[n].Entity, Differences(old, before[i].Entity, now, after[n].Entity)));
        }

        return new DrawingChanges(
            added,
            [.. before.Where((_, i) => !taken[i]).Select(b => Change(old, b.Entity, []))],
            changed,
            same,
            false
        );
    }

    private static DrawingChanges ByGeometry(
        Drawing old,
        Drawing now,
        List<(Entity Entity, string Says)> before,
        List<(Entity Entity, string Says)> after
    )
    {
        var left = before
            .GroupBy(b => b.Says)
            .ToDictionary(g => g.Key, g => new Queue<Entity>(g.Select(b => b.Entity)));
        var added = new List<DrawingChange>();
        foreach (var (entity, says) in after)
            if (!left.TryGetValue(says, out var queue) || !queue.TryDequeue(out _))
                added.Add(Change(now, entity, []));
        return new DrawingChanges(
            added,
            [.. left.Values.SelectMany(q => q).Select(e => Change(old, e, []))],
            [],
            after.Count - added.Count,
            true
        );
    }

    private static DrawingChange Change(Drawing drawing, Entity entity, IReadOnlyList<string> what) =>
        new(
            entity.Handle.Value.ToString("X", CultureInfo.InvariantCulture),
            entity.Type,
            drawing.LayerName(entity.Layer),
            what
        );

    private static List<(Entity, string)> Prints(Drawing drawing)
    {
        var facts = new List<CadGroup>();
        var text = new StringBuilder();
        return drawing.Model.Entities.ConvertAll(e => (e, Print(drawing, e, facts, text)));
    }

    private static string Print(Drawing drawing, Entity entity, List<CadGroup> facts, StringBuilder text)
    {
        text.Clear();
        foreach (var (code, value) in Facts(drawing, entity, facts))
            text.Append(code).Append('=').Append(value).Append('\n');
        return text.ToString();
    }

    private static IReadOnlyList<string> Differences(Drawing old, Entity was, Drawing now, Entity entity)
    {
        var facts = new List<CadGroup>();
        ILookup<string, string> before = Facts(old, was, facts).ToLookup(f => Word(f.Code), f => f.Value),
            after = Facts(now, entity, facts).ToLookup(f => Word(f.Code), f => f.Value);
        return
        [
            .. before
                .Concat(after)
                .Select(g => g.Key)
                .Distinct()
                .Where(w => !before[w].SequenceEqual(after[w]))
                .Order(),
        ];
    }

    // What an entity and its parts say, without what another program may number otherwise.
    private static List<(int Code, string Value)> Facts(Drawing drawing, Entity entity, List<CadGroup> facts)
    {
        var said = new List<(int, string)>();
        foreach (var item in entity.Parts.Prepend(entity))
        {
            CadFacts.Of(drawing, item, facts);
            foreach (var group in facts)
            {
                // A dimension's picture has a number of its own in each file.
                if (group.Value is Handle || (group.Code == 2 && group.Value is string name && name.StartsWith('*')))
                    continue;
                said.Add(
                    (
                        group.Code,
                        group.Value switch
                        {
                            double d => (Math.Abs(d) < 5e-7 ? 0 : Math.Round(d, 6)).ToString(
                                "0.######",
                                CultureInfo.InvariantCulture
                            ),
                            byte[] bytes => Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(bytes)),
                            IFormattable f => f.ToString(null, CultureInfo.InvariantCulture),
                            var other => other?.ToString() ?? "",
                        }
                    )
                );
            }
        }

        return said;
    }

    private static string Word(int code) =>
        code switch
        {
            8 => "layer",
            62 or CadFacts.TrueColour or CadFacts.ColourName => "colour",
            6 or 48 => "line type",
            370 => "line weight",
            1 or 3 or CadFacts.EmbeddedCode => "text",
            2 => "block",
            7 => "text style",
            >= 1000 => "extended data",
            >= 10 and < 60 or 210 or 220 or 230 => "geometry",
            _ => "other values",
        };
}

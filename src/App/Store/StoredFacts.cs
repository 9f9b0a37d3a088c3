using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Store;

/// <summary>The facts of an element that neither its row nor its property sets have: what is kept beside them, so that a million elements
/// take little room and little time.</summary>
/// <param name="StepId">The instance name in the file.</param>
/// <param name="Tag">The tag; null where it is empty, as the others.</param>
/// <param name="Description">The description.</param>
/// <param name="TypeClass">Its type's class.</param>
/// <param name="Container">What it directly is in or belongs to.</param>
/// <param name="Materials">Materials, with thickness and place.</param>
/// <param name="Classifications">Classifications, part by part.</param>
/// <param name="Sets">Of each property set its instance, whether it is a quantity and whether it is the type's (1 or 0), in the order of
/// <see cref="ElementRow.Sets"/>.</param>
internal sealed record StoredFacts(
    int StepId,
    string? Tag,
    string? Description,
    string? TypeClass,
    string? Container,
    IReadOnlyList<MaterialUse>? Materials,
    IReadOnlyList<ClassificationUse>? Classifications,
    IReadOnlyList<int[]>? Sets
)
{
    private static readonly JsonSerializerOptions Json = new(IntakeStore.Json)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    /// <summary>What is kept of facts, as JSON in UTF-8.</summary>
    public static byte[] Pack(ElementFacts facts) =>
        JsonSerializer.SerializeToUtf8Bytes(
            new StoredFacts(
                facts.StepId,
                Said(facts.Tag),
                Said(facts.Description),
                Said(facts.TypeClass),
                Said(facts.Container),
                facts.Materials is { Count: > 0 } materials ? materials : null,
                facts.Classifications is { Count: > 0 } classifications ? classifications : null,
                facts.Sets is { Count: > 0 } sets
                    ? [.. sets.Select(s => new[] { s.Index, s.IsQuantity ? 1 : 0, s.FromType ? 1 : 0 })]
                    : null
            ),
            Json
        );

    /// <summary>The facts of an element, from its row and its property sets.</summary>
    public static async Task<ElementFacts> LoadAsync(LintelDb db, ElementRow row, CancellationToken cancel)
    {
        var kept = JsonSerializer.Deserialize<StoredFacts>(row.Facts, Json)!;
        string storey = await db
            .Levels.AsNoTracking()
            .Where(l => l.RevisionId == row.RevisionId && l.Number == row.Storey)
            .Select(l => l.Name)
            .FirstOrDefaultAsync(cancel)
            ?? "";
        var contents = await db
            .PropertySets.AsNoTracking()
            .Where(s => s.RevisionId == row.RevisionId && row.Sets.Contains(s.Number))
            .ToDictionaryAsync(s => s.Number, cancel);
        return new ElementFacts(
            row.GlobalId,
            kept.StepId,
            row.Class,
            row.Predefined,
            row.Name,
            kept.Tag ?? "",
            kept.Description ?? "",
            row.TypeName,
            kept.TypeClass ?? "",
            storey,
            kept.Container ?? "",
            row.Layers,
            kept.Materials ?? [],
            kept.Classifications ?? [],
            [.. row.Sets.Select((number, n) => SetOf(contents[number], kept.Sets?.ElementAtOrDefault(n)))]
        );
    }

    private static PropertySet SetOf(PropertySetRow row, int[]? set) =>
        set is [var index, var quantity, var type]
            ? new PropertySet(index, row.Name, quantity == 1, type == 1, PropertySetStore.Properties(row.Values))
            : new PropertySet(-1, row.Name, false, false, PropertySetStore.Properties(row.Values));

    private static string? Said(string text) => text.Length > 0 ? text : null;
}

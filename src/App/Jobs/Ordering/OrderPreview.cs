using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What an order would give of a storey.</summary>
/// <param name="Storey">The storey's name.</param>
/// <param name="In">How many there are.</param>
/// <param name="Out">How many a rule leaves out.</param>
public sealed record PreviewRow(string Storey, int In, int Out);

/// <summary>The live preview of an order: counted over stored elements, decided by Core's rules.</summary>
/// <param name="Rows">By storey, highest first.</param>
/// <param name="Reasons">Left out, by rule.</param>
/// <param name="Problem">What is wrong with the order, null when nothing is.</param>
public sealed record OrderPreview(IReadOnlyList<PreviewRow> Rows, IReadOnlyList<NamedCount> Reasons, string? Problem)
{
    /// <summary>The drawings that would go.</summary>
    public IReadOnlyList<SourceState> Drawings { get; init; } = [];

    /// <summary>The drawings that an order gives.</summary>
    public static IReadOnlyList<SourceState> DrawingsOf(JobState state, OrderDocument document) => document.Drawings is not { } wish ? []
        : [.. state.Drawings.Where(d => wish.Sources.Count == 0 || wish.Sources.Contains(d.Source.Id.ToString()))];

    /// <summary>The models that an order gives.</summary>
    public static IEnumerable<SourceState> ModelsOf(JobState state, OrderDocument document) => document.Into.File == DrawingForms.None ? []
        : state.Sources.Where(s => s.Latest is not null
            && (document.Sources.Count == 0 || document.Sources.Contains(s.Source.Id.ToString())));

    /// <summary>Counts what an order gives and leaves.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="document">The order.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<OrderPreview> OfAsync(LintelDb db, JobState state, OrderDocument document, CancellationToken cancel)
    {
        var (order, wrong) = Read(document);
        if (order is null) return new OrderPreview([], [], wrong);

        var target = Target.Of(order);
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        // Facets tell storey, class and layers of elements that are alike; other rules ask the elements themselves.
        bool byFacets = selection.Rules.All(
            r => r.Field is SelectionField.Storey or SelectionField.Class or SelectionField.Layer or SelectionField.Party);
        var schemas = await SchemasAsync(db, state, cancel);
        var rows = new Dictionary<int, (int In, int Out)>();
        var reasons = new SortedDictionary<string, int>(StringComparer.Ordinal);
        var models = ModelsOf(state, document).ToHashSet();
        for (int s = 0; s < state.Sources.Count; s++)
        {
            if (!models.Contains(state.Sources[s]) || state.Sources[s].Latest is not { } latest) continue;
            var schema = IfcSchema.For(schemas.GetValueOrDefault(latest.Id, "")) ?? IfcSchema.For("IFC4")!;
            string party = state.Sources[s].Source.Party.Code;
            if (byFacets)
            {
                foreach (var facet in state.Facets[s])
                {
                    var subject = new SelectionSubject(schema, state.StoreyName(s, facet.Storey), facet.Class, facet.Layer.Length == 0
                        ? [] : facet.Layer.Split('\n'), "")
                    { Source = s, StoreyNumber = facet.Storey, Party = party };
                    Count(s, facet.Storey, selection.Decide(subject) ?? target.CannotHold(facet.Shaped, facet.Drawn), facet.Count);
                }
            }
            else
            {
                foreach (var group in await new ElementQuery(db).GroupsAsync(latest.Id, s, party, schema, selection, cancel))
                    Count(s, group.Storey, selection.Decide(n => group.Matches[n]) ?? target.CannotHold(group.Shaped, false), group.Count);
            }
        }

        var drawings = DrawingsOf(state, document);
        var loose = order.PlacesDrawings ? drawings.FirstOrDefault(d => d.SetOut is null) : null;
        string? problem = wrong ?? (loose is not null ? DrawingHandover.NotPlaced(loose.Source.Name) : null)
            ?? (document.Drawings is not null && drawings.Count == 0 ? "There is no drawing to give; take drawings out of the sentence." : null)
            ?? (rows.Count > 0 && rows.Values.Sum(r => r.In - r.Out) == 0
            ? "Nothing is left to give; loosen a word of the sentence." : null);
        return new OrderPreview([.. rows.OrderByDescending(r => r.Key)
            .Select(r => new PreviewRow(r.Key < 0 ? "In no storey" : state.Schedule.Rungs[r.Key].Name, r.Value.In, r.Value.Out))],
            [.. reasons.Select(r => new NamedCount(r.Key, r.Value))], problem)
        { Drawings = drawings };

        void Count(int source, int storey, string? reason, int count)
        {
            int rung = state.Schedule.RungOf(source, storey);
            var (all, left) = rows.GetValueOrDefault(rung);
            rows[rung] = (all + count, left + (reason is null ? 0 : count));
            if (reason is not null) reasons[reason] = reasons.GetValueOrDefault(reason) + count;
        }
    }

    // What goes can be counted while a name is still being typed.
    private static (HandoverOrder? Order, string? Problem) Read(OrderDocument document)
    {
        if (NameTemplate.Problem(document.Name) is { } problem)
            return (Read(document with { Name = new OrderDocument().Name }).Order, problem);
        try
        {
            return (document.ToOrder(), null);
        }
        catch (OrderException e)
        {
            return (null, e.Message);
        }
    }

    private static async Task<Dictionary<Guid, string>> SchemasAsync(LintelDb db, JobState state, CancellationToken cancel)
    {
        var ids = state.Sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        return await db.Database.SqlQuery<SchemaOf>($"SELECT id, report->>'schema' AS schema FROM revisions WHERE id = ANY({ids})")
            .ToDictionaryAsync(s => s.Id, s => s.Schema, cancel);
    }

    private sealed record SchemaOf(Guid Id, string Schema);
}

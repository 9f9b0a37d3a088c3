using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Web;

/// <summary>What an order would give, counted from the facets: a storey's elements that go and that stay.</summary>
/// <param name="Storey">The storey's name.</param>
/// <param name="In">How many there are.</param>
/// <param name="Out">How many a rule leaves out.</param>
public sealed record PreviewRow(string Storey, int In, int Out);

/// <summary>The live preview of an order.</summary>
/// <param name="Rows">By storey, highest first.</param>
/// <param name="Reasons">Left out, by rule.</param>
/// <param name="Problem">What is wrong with the order, null when nothing is.</param>
public sealed record OrderPreview(IReadOnlyList<PreviewRow> Rows, IReadOnlyList<NamedCount> Reasons, string? Problem)
{
    /// <summary>Counts with Core's own rules.</summary>
    /// <param name="state">What the job holds.</param>
    /// <param name="spec">The order.</param>
    /// <param name="schemas">Each source's schema name.</param>
    public static OrderPreview Of(JobState state, OrderSpec spec, IReadOnlyList<string> schemas)
    {
        var order = spec.ToOrder(state.Schedule);
        var rows = new Dictionary<int, (int In, int Out)>();
        var reasons = new SortedDictionary<string, int>(StringComparer.Ordinal);
        for (int s = 0; s < state.Sources.Count; s++)
        {
            if (spec.Sources.Count > 0 && !spec.Sources.Contains(state.Sources[s].Source.Id)) continue;
            var schema = IfcSchema.For(schemas[s]) ?? IfcSchema.For("IFC4")!;
            foreach (var facet in state.Facets[s])
            {
                int rung = state.Schedule.RungOf(s, facet.Storey);
                string storey = rung < 0 ? "" : state.Schedule.Rungs[rung].Storeys.First(t => t.Source == s).Name;
                string? reason = order.Selection.Decide(new SelectionSubject(schema, storey, facet.Class, facet.Layer.Length == 0 ? [] : facet.Layer.Split('\n'), ""))
                    ?? Target.Of(order).CannotHold(facet.Shaped, facet.Drawn);
                var (all, left) = rows.GetValueOrDefault(rung);
                rows[rung] = (all + facet.Count, left + (reason is null ? 0 : facet.Count));
                if (reason is not null) reasons[reason] = reasons.GetValueOrDefault(reason) + facet.Count;
            }
        }

        string? problem = NameTemplate.Problem(spec.Name) ?? (rows.Count > 0 && rows.Values.Sum(r => r.In - r.Out) == 0 ? "Nothing is left to give; loosen a word of the sentence." : null);
        return new OrderPreview([.. rows.OrderByDescending(r => r.Key).Select(r => new PreviewRow(r.Key < 0 ? "In no storey" : state.Schedule.Rungs[r.Key].Name, r.Value.In, r.Value.Out))], [.. reasons.Select(r => new NamedCount(r.Key, r.Value))], problem);
    }
}

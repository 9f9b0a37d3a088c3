using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>An order as it is saved: the words of the sentence.</summary>
/// <param name="To">Who gets it, in words.</param>
/// <param name="Sources">Sources by identity; empty for all.</param>
/// <param name="Storeys">Names of the job's storeys; empty for every storey.</param>
/// <param name="Classes">Classes; empty for every class.</param>
/// <param name="Layers">Layers; empty for every layer.</param>
/// <param name="Form"><c>ifc</c>, or one of <see cref="DrawingForms"/>.</param>
/// <param name="Unit"><c>mm</c>, <c>m</c>, <c>ft</c>, or empty for the source's own.</param>
/// <param name="ByStorey">One file for each storey.</param>
/// <param name="Name">The name template.</param>
public sealed record OrderSpec(string To, IReadOnlyList<Guid> Sources, IReadOnlyList<string> Storeys, IReadOnlyList<string> Classes, IReadOnlyList<string> Layers, string Form, string Unit, bool ByStorey, string Name)
{
    /// <summary>An order for everything, as IFC by storey.</summary>
    public static OrderSpec Default { get; } = new("", [], [], [], [], "ifc", "", true, "{job}-{party}-{storey}");

    /// <summary>The order for Core.</summary>
    /// <param name="schedule">Translates the job's storeys into each source's own names.</param>
    public HandoverOrder ToOrder(LevelSchedule schedule)
    {
        var rules = new List<SelectionRule>();
        if (Storeys.Count > 0) rules.Add(new SelectionRule(SelectionField.Storey, OwnNames(schedule), true));
        if (Classes.Count > 0) rules.Add(new SelectionRule(SelectionField.Class, Classes, true));
        if (Layers.Count > 0) rules.Add(new SelectionRule(SelectionField.Layer, Layers, true));
        var order = new HandoverOrder(new Selection(rules), HandoverFormat.Ifc, ByStorey, LengthUnit.Find(Unit), Name);
        return DrawingForms.All.TryGetValue(Form, out var drawing) ? order with { Format = drawing.Format, Form = drawing.Form, Solids = drawing.Solids } : order;
    }

    private List<string> OwnNames(LevelSchedule schedule) =>
        [.. schedule.Rungs.Where(r => Storeys.Contains(r.Name)).SelectMany(r => r.Storeys.Select(s => s.Name)).Concat(Storeys).Distinct()];
}

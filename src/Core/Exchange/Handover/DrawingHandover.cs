using SteadyLintel.Cad;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Writes the drawings of a hand-over: all sources in one drawing, or one drawing a storey.</summary>
internal static class DrawingHandover
{
    /// <summary>The reason an element cannot go into a plan.</summary>
    public const string NoLine = "no line in plan";

    public static IReadOnlyList<WrittenFile> Write(HandoverPlan plan, FileNames names, IFileSet target, Reconciler reconciler, SortedDictionary<string, int> losses, CancellationToken cancel)
    {
        var unit = plan.Order.Unit ?? LengthUnit.Nearest(plan.Sources.Count > 0 ? plan.Sources[0].Snapshot.Units.Metres : 1);
        var files = new List<WrittenFile>();
        string party = string.Join("+", plan.Sources.Select(s => s.Party).Distinct());
        string label = string.Join("+", plan.Sources.Select(s => s.Label).Distinct());
        foreach (var (storey, group) in StoreyGroups.Of(plan))
        {
            var drawing = new DrawingBuilder(plan, unit, reconciler, losses);
            foreach (var (source, _, elements) in group) drawing.Add(source, elements, cancel);
            if (drawing.Written.Count == 0) continue;
            string name = names.Next(party, label, storey, plan.Order.Form.Extension);
            using (var stream = target.Create(name)) CadFile.Write(drawing.Finish(), stream, plan.Order.Form, cancel);
            files.Add(new WrittenFile(name, drawing.Written, [], new MadeInstances()));
        }

        return files;
    }
}

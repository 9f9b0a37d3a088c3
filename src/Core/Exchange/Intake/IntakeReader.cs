using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Reads a model's intake report.</summary>
public static class IntakeReader
{
    /// <summary>Reads facts and findings; shapes are built on the way and offered to <paramref name="shaped"/>.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="shaped">Called for every element in order with its shape, null when it has none.</param>
    /// <param name="cancel">Stops between elements.</param>
    public static IntakeReport Read(
        ModelSnapshot snapshot,
        Action<ModelElement, Shape?>? shaped = null,
        CancellationToken cancel = default
    )
    {
        var findings = new FindingList();
        FileFindings.Add(snapshot, findings);
        StructureFindings.Add(snapshot, findings);
        RuleCheck.Add(snapshot, findings, cancel);
        var shapes = new ShapeFindings(snapshot, findings);
        var frame = new FrameReader(snapshot);
        snapshot.ForEachShape(
            snapshot.Elements,
            (element, shape) =>
            {
                shapes.Add(element, shape);
                frame.Add(element, shape);
                shaped?.Invoke(element, shape);
            },
            0,
            cancel
        );
        shapes.Finish();
        var facts = frame.Finish();
        frame.AddTo(findings);
        return Facts(snapshot, shapes.Bounds, shapes.Triangles, findings.ToList()) with { Frame = facts };
    }

    private static IntakeReport Facts(
        ModelSnapshot snapshot,
        Box bounds,
        long triangles,
        IReadOnlyList<Finding> findings
    )
    {
        var model = snapshot.Model;
        var structure = snapshot.Structure;
        var types = model.Types().Where(t => t.Entity is not null).ToList();
        var products = types.Where(t => t.Entity!.Is("IfcProduct")).ToList();
        return new IntakeReport(
            model.File.Header.Schema,
            Application(model),
            snapshot.Units.LengthName,
            snapshot.Units.Metres,
            structure.Project < 0 ? "" : model.Name(structure.Project),
            First(model, structure.Sites),
            First(model, structure.Buildings),
            Storeys(snapshot),
            Ranked(products.Select(t => new NamedCount(t.Entity!.Name, t.Count))),
            products.Sum(t => t.Count),
            snapshot.Elements.Count,
            snapshot.Elements.Count(e => e.Storey < 0),
            Ranked(
                types.Where(t => t.Entity!.Is("IfcTypeObject")).Select(t => new NamedCount(t.Entity!.Name, t.Count))
            ),
            Layers(snapshot),
            Materials(snapshot),
            PropertyFacts.Read(snapshot),
            bounds,
            GeoReference.Read(model, structure, snapshot.Units),
            triangles,
            findings
        )
        {
            Data = ModelDatum.Read(snapshot),
            ProjectId = structure.Project < 0 ? "" : model.Text(structure.Project, "GlobalId") ?? "",
        };
    }

    private static string First(IfcModel model, IReadOnlyList<int> items) =>
        items.Count == 0 ? "" : model.Name(items[0]);

    private static string Application(IfcModel model)
    {
        int application = model.OfType("IfcApplication").Append(-1).First();
        if (application < 0)
            return model.File.Header.OriginatingSystem;
        return $"{model.Text(application, "ApplicationFullName")} {model.Text(application, "Version")}".Trim();
    }

    private static List<StoreyFacts> Storeys(ModelSnapshot snapshot)
    {
        var byStorey = snapshot.Elements.Where(e => e.Storey >= 0).ToLookup(e => e.Storey);
        return
        [
            .. snapshot.Structure.Storeys.Select(
                (s, n) =>
                    new StoreyFacts(
                        s.Name,
                        s.GlobalId,
                        s.Level,
                        byStorey[n].Count(),
                        Ranked(byStorey[n].CountBy(e => e.Class).Select(c => new NamedCount(c.Key, c.Value)))
                    )
            ),
        ];
    }

    private static List<NamedCount> Layers(ModelSnapshot snapshot)
    {
        var counts = snapshot.Layers.Names.ToDictionary(n => n, _ => 0);
        foreach (var element in snapshot.Elements)
        foreach (string layer in element.Layers)
            counts[layer]++;
        return [.. counts.Select(c => new NamedCount(c.Key, c.Value)).OrderBy(c => c.Name, StringComparer.Ordinal)];
    }

    private static IReadOnlyList<NamedCount> Materials(ModelSnapshot snapshot)
    {
        var names = snapshot.Elements.SelectMany(e =>
            snapshot.Materials.Of(e.Index).Select(m => m.Name).Where(n => n.Length > 0).Distinct()
        );
        return Ranked(names.CountBy(n => n).Select(c => new NamedCount(c.Key, c.Value)));
    }

    private static IReadOnlyList<NamedCount> Ranked(IEnumerable<NamedCount> counts) =>
        [.. counts.OrderByDescending(c => c.Count).ThenBy(c => c.Name, StringComparer.Ordinal)];
}

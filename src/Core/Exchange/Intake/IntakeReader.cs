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
    ) => Read<object?>(snapshot, (_, _, _) => null, (element, shape, _) => shaped?.Invoke(element, shape), cancel);

    /// <summary>Reads facts and findings; what else follows from elements and their shapes is made on all cores meanwhile.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="derive">What follows from an element, its shape and the shape's facts, null when it has none; called on many threads at
    /// once.</param>
    /// <param name="shaped">Called for every element in order with what was derived.</param>
    /// <param name="cancel">Stops between elements.</param>
    public static IntakeReport Read<T>(
        ModelSnapshot snapshot,
        Func<ModelElement, Shape?, ShapeFacts?, T> derive,
        Action<ModelElement, Shape?, T> shaped,
        CancellationToken cancel = default
    )
    {
        var checking = Task.Run(() => Checked(snapshot, cancel), cancel);
        var findings = new FindingList();
        var shapes = new ShapeFindings(snapshot, findings);
        var frame = new FrameReader(snapshot);
        try
        {
            snapshot.ForEachShape(
                snapshot.Elements,
                (element, shape) =>
                    ShapeFacts.Of(shape) is var facts ? (facts, derive(element, shape, facts)) : default,
                (element, shape, made) =>
                {
                    shapes.Add(element, shape, made.facts);
                    frame.Add(element, made.facts);
                    shaped(element, shape, made.Item2);
                },
                0,
                cancel
            );
        }
        finally
        {
            // The bytes of the model may go once this returns.
            Task.WhenAny(checking).GetAwaiter().GetResult();
        }

        shapes.Finish();
        var facts = frame.Finish();
        frame.AddTo(findings);
        return Facts(
            snapshot,
            shapes.Bounds,
            shapes.Triangles,
            checking.GetAwaiter().GetResult().With(findings).ToList()
        ) with
        {
            Frame = facts,
        };
    }

    // What is found without shapes, beside them: it keeps a core busy while elements are written.
    private static FindingList Checked(ModelSnapshot snapshot, CancellationToken cancel)
    {
        var findings = new FindingList();
        FileFindings.Add(snapshot, findings);
        StructureFindings.Add(snapshot, findings);
        RuleCheck.Add(snapshot, findings, cancel);
        return findings;
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

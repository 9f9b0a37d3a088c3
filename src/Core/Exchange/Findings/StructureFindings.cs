using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Findings about storeys, containment and identity.</summary>
internal static class StructureFindings
{
    // Levels that differ by more than this are two levels.
    private const double LevelTolerance = 0.001;

    // Beyond this share, proxies say that classes were lost on export. Common practice.
    private const double ProxyShare = 0.1;

    public static void Add(ModelSnapshot snapshot, FindingList findings)
    {
        Storeys(snapshot, findings);
        foreach (var element in snapshot.Elements)
        {
            if (element.Storey < 0 && NeedsStorey(snapshot.Model, element))
                findings.Add(
                    "IFC-ELEMENT-NO-STOREY",
                    Severity.Warning,
                    n => $"{n} elements are in no storey; a hand-over by storey would miss them.",
                    About(snapshot.Model, element.Index, "")
                );
        }

        GlobalIdsOf(snapshot, findings);
        int proxies = snapshot.Elements.Count(e => e.Class == "IfcBuildingElementProxy");
        if (proxies > 0 && proxies >= ProxyShare * snapshot.Elements.Count)
        {
            foreach (var proxy in snapshot.Elements.Where(e => e.Class == "IfcBuildingElementProxy"))
                findings.Add(
                    "IFC-PROXY-MANY",
                    Severity.Warning,
                    n =>
                        $"{n} of {snapshot.Elements.Count} elements are IfcBuildingElementProxy: their class is not stated. Ask for an export with classes.",
                    About(snapshot.Model, proxy.Index, "")
                );
        }
    }

    public static FindingElement About(IfcModel model, int index, string detail) =>
        new(model.GlobalId(index), model.File.Id(index), model.ClassName(index), model.Name(index), detail);

    // Grids, annotations and structural analysis items often belong to the building as a whole.
    private static bool NeedsStorey(IfcModel model, ModelElement element) =>
        model.Is(element.Index, "IfcElement") || element.Class == "IfcSpace";

    private static void Storeys(ModelSnapshot snapshot, FindingList findings)
    {
        var storeys = snapshot.Structure.Storeys;
        if (storeys.Count == 0)
            findings.Add(
                "IFC-STOREY-NONE",
                Severity.Error,
                _ =>
                    "The file has no storeys; nothing can be handed over by storey. Ask for an export with IfcBuildingStorey.",
                null
            );
        if (storeys.Count > LevelSchedule.MaxStoreys)
            findings.Add(
                "IFC-STOREY-MANY",
                Severity.Warning,
                _ =>
                    $"The file has {storeys.Count} storeys; more than {LevelSchedule.MaxStoreys} cannot be levels of a building, so none of them is matched with the job's. Ask what was exported as storeys.",
                null
            );
        double datum = Datum(snapshot);
        var used = snapshot.Elements.Select(e => e.Storey).ToHashSet();
        for (int n = 0; n < storeys.Count; n++)
        {
            var storey = storeys[n];
            if (!used.Contains(n))
                findings.Add(
                    "IFC-STOREY-EMPTY",
                    Severity.Note,
                    c => $"{c} storeys hold no element.",
                    About(snapshot.Model, storey.Index, "")
                );
            if (
                storey is { Elevation: { } elevation, PlacementZ: { } placed }
                && Math.Abs(elevation - placed + datum) > LevelTolerance
            )
                findings.Add(
                    "IFC-STOREY-ELEVATION",
                    Severity.Warning,
                    c => $"{c} storeys say one elevation and stand at another; ask which is meant.",
                    About(
                        snapshot.Model,
                        storey.Index,
                        FormattableString.Invariant($"Elevation {elevation:0.000} m, placement {placed:0.000} m")
                    )
                );
        }
    }

    // Elevations count from the building's own zero, which may itself be placed higher.
    private static double Datum(ModelSnapshot snapshot)
    {
        if (snapshot.Structure.Buildings.Count == 0)
            return 0;
        try
        {
            return new IfcPlacements(snapshot.Model, snapshot.Units.Metres)
                .Product(snapshot.Structure.Buildings[0])
                .Origin.Z;
        }
        catch (Geometry.ShapeException)
        {
            return 0;
        }
    }

    private static void GlobalIdsOf(ModelSnapshot snapshot, FindingList findings)
    {
        var model = snapshot.Model;
        var seen = new Dictionary<string, int>();
        foreach (int root in model.OfType("IfcRoot"))
        {
            string id = model.GlobalId(root);
            if (id.Length == 0)
                findings.Add(
                    "IFC-GUID-MISSING",
                    Severity.Error,
                    n => $"{n} rooted instances have no GlobalId; they cannot be followed from revision to revision.",
                    About(model, root, "")
                );
            else if (!GlobalIds.IsWellFormed(id))
                findings.Add(
                    "IFC-GUID-FORM",
                    Severity.Error,
                    n => $"{n} GlobalIds are not 22 characters of the standard's alphabet.",
                    About(model, root, "")
                );
            else if (!seen.TryAdd(id, root))
                findings.Add(
                    "IFC-GUID-DUPLICATE",
                    Severity.Error,
                    n => $"{n} GlobalIds are used twice; two elements would be taken for one.",
                    About(
                        model,
                        root,
                        $"also #{model.File.Id(seen[id])} {model.ClassName(seen[id])} {model.Name(seen[id])}".TrimEnd()
                    )
                );
        }
    }
}

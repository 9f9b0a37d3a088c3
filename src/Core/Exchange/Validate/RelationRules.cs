using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Checks what holds between instances: one project, one place in the structure, no circles, units complete, values under a unit
/// of their kind.</summary>
internal static class RelationRules
{
    private const int MaxDepth = 100;

    public static void Add(ModelSnapshot snapshot, FindingList findings)
    {
        var model = snapshot.Model;
        int projects = model.OfType("IfcProject").Count();
        if (projects != 1)
            findings.Add(
                "IFC-PROJECT-COUNT",
                Severity.Error,
                _ => $"The file has {projects} projects; there must be one.",
                null
            );
        Once(
            snapshot,
            snapshot.Relations.Container,
            "IFC-CONTAINED-TWICE",
            n => $"{n} elements are contained in more than one structure; the first was taken.",
            findings
        );
        Once(
            snapshot,
            snapshot.Relations.Whole,
            "IFC-AGGREGATED-TWICE",
            n => $"{n} parts belong to more than one whole; the first was taken.",
            findings
        );
        Once(
            snapshot,
            snapshot.Relations.Type,
            "IFC-TYPE-TWICE",
            n => $"{n} elements have more than one type; the first was taken.",
            findings
        );
        Once(
            snapshot,
            snapshot.Relations.Voided,
            "IFC-OPENING-TWICE",
            n => $"{n} openings void more than one element.",
            findings
        );
        Circles(snapshot, findings);
        Unconnected(snapshot, findings);
        Units(snapshot, findings);
    }

    private static void Once(
        ModelSnapshot snapshot,
        Links links,
        string code,
        Func<int, string> message,
        FindingList findings
    )
    {
        var from = links.Sources;
        for (int i = 1; i < from.Length; i++)
        {
            if (from[i] != from[i - 1] || (i > 1 && from[i - 2] == from[i]))
                continue;
            var targets = links[from[i]];
            // The same said twice is no contradiction.
            if (targets.Length > 1 && targets[1..].ContainsAnyExcept(targets[0]))
                findings.Add(code, Severity.Warning, message, StructureFindings.About(snapshot.Model, from[i], ""));
        }
    }

    private static void Circles(ModelSnapshot snapshot, FindingList findings)
    {
        foreach (int product in snapshot.Model.OfType("IfcObjectDefinition"))
        {
            int at = product;
            for (int depth = 0; at >= 0 && depth < MaxDepth; depth++)
                at = snapshot.Structure.Parent(at);
            if (at >= 0)
                findings.Add(
                    "IFC-STRUCTURE-CIRCLE",
                    Severity.Error,
                    n => $"{n} objects belong to themselves over others; they have no place in the structure.",
                    StructureFindings.About(snapshot.Model, product, "")
                );
        }
    }

    // Everything spatial hangs on the project in the end.
    private static void Unconnected(ModelSnapshot snapshot, FindingList findings)
    {
        var model = snapshot.Model;
        foreach (int structure in model.OfType("IfcSpatialStructureElement"))
        {
            int at = structure;
            for (int depth = 0; depth < MaxDepth && at >= 0 && !model.Is(at, "IfcProject"); depth++)
                at = snapshot.Structure.Parent(at);
            if (at < 0)
                findings.Add(
                    "IFC-STRUCTURE-LOOSE",
                    Severity.Warning,
                    n => $"{n} sites, buildings, storeys or spaces do not hang on the project.",
                    StructureFindings.About(model, structure, "")
                );
        }
    }

    private static void Units(ModelSnapshot snapshot, FindingList findings)
    {
        var model = snapshot.Model;
        var units = snapshot.Units;
        var seen = new HashSet<string>();
        foreach (int unit in model.Refs(units.Assignment, "Units"))
            if (model.Get(unit, "UnitType").Enumeration is { } kind && kind != "USERDEFINED" && !seen.Add(kind))
                findings.Add(
                    "IFC-UNIT-TWICE",
                    Severity.Warning,
                    n => $"{n} kinds of unit are assigned twice; the first of each was taken.",
                    StructureFindings.About(model, unit, kind)
                );
        var missing = new HashSet<string>();
        foreach (int property in model.OfType("IfcPropertySingleValue"))
        {
            string? measure = model.Get(property, "NominalValue").TypeName;
            if (measure is null || MeasureKinds.UnitKind(measure) is not { } kind)
                continue;
            int own = model.Ref(property, "Unit");
            if (own < 0 && !seen.Contains(kind) && missing.Add(kind))
                findings.Add(
                    "IFC-UNIT-INCOMPLETE",
                    Severity.Note,
                    n => $"{n} kinds of measure are used for which the project assigns no unit; SI units are assumed.",
                    StructureFindings.About(model, property, kind)
                );
            if (own >= 0 && model.Get(own, "UnitType").Enumeration is { } given && given != kind)
                findings.Add(
                    "IFC-UNIT-MEASURE",
                    Severity.Warning,
                    n => $"{n} property values name a unit of another kind than their measure.",
                    StructureFindings.About(model, property, $"{measure} in {given}")
                );
        }
    }
}

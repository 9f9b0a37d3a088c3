using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Findings about the exchange structure and the schema.</summary>
internal static class FileFindings
{
    public static void Add(ModelSnapshot snapshot, FindingList findings)
    {
        var model = snapshot.Model;
        foreach (var problem in model.File.Problems)
            AddProblem(problem, findings);
        if (!model.SchemaKnown)
            findings.Add(
                "IFC-SCHEMA-UNKNOWN",
                Severity.Error,
                _ =>
                    $"The header names the schema '{model.File.Header.Schema}', which is not an IFC schema known here; it was read as IFC4. Ask for IFC2X3, IFC4 or IFC4X3.",
                null
            );
        foreach (var (keyword, entity, count, first) in model.Types())
        {
            if (entity is not null || keyword.Length == 0)
                continue;
            findings.Add(
                "IFC-ENTITY-UNKNOWN",
                Severity.Warning,
                n =>
                    $"{n} entity names are not in {model.Schema.Name}; their instances are stored but not interpreted.",
                new FindingElement(
                    "",
                    model.File.Id(first),
                    keyword,
                    "",
                    $"{count} instances, first on line {model.File.Line(first)}"
                )
            );
        }

        Dangling(model, findings);
        if (!snapshot.Units.LengthDeclared)
            findings.Add(
                "IFC-UNIT-NONE",
                Severity.Error,
                _ => "No length unit is declared; metres are assumed. Ask the sender which unit was meant.",
                null
            );
    }

    private static void AddProblem(StepProblem problem, FindingList findings)
    {
        var place = new FindingElement(
            "",
            0,
            "",
            "",
            $"line {problem.Line}, offset {problem.Offset}: {problem.Message}"
        );
        switch (problem.Kind)
        {
            case StepProblemKind.Truncated:
                findings.Add(
                    "STEP-TRUNCATED",
                    Severity.Error,
                    _ => "The file is cut off: its end mark is missing. Ask for it again; what arrived was read.",
                    place
                );
                break;
            case StepProblemKind.NotAnExchangeStructure:
                findings.Add(
                    "STEP-START-MISSING",
                    Severity.Warning,
                    _ => "The file does not begin as ISO 10303-21 demands; what follows was read.",
                    place
                );
                break;
            case StepProblemKind.DuplicateId:
                findings.Add(
                    "STEP-ID-DUPLICATE",
                    Severity.Error,
                    n => $"{n} instance names stand twice; the first of each was used.",
                    place
                );
                break;
            default:
                findings.Add(
                    "STEP-DAMAGED",
                    Severity.Error,
                    n =>
                        $"{n} {(n == 1 ? "instance is" : "instances are")} damaged and could not be read; the rest was read.",
                    place
                );
                break;
        }
    }

    private static void Dangling(IfcModel model, FindingList findings)
    {
        var file = model.File;
        for (int i = 0; i < file.Count; i++)
        {
            var raw = file.Raw(i);
            int at = 1;
            while (StepReferences.Next(raw, ref at, out int id, out _))
            {
                if (file.IndexOf(id) >= 0)
                    continue;
                findings.Add(
                    "IFC-REFERENCE-DANGLING",
                    Severity.Error,
                    n => $"{n} references point to instances that are not in the file; what hangs on them is missing.",
                    new FindingElement("", file.Id(i), model.ClassName(i), "", $"refers to #{id}")
                );
            }
        }
    }
}

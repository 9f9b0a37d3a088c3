using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The rule check: a model against ISO 10303-21, its schema and the rules between instances that can be checked without knowing
/// the
/// project.</summary>
public static class RuleCheck
{
    /// <summary>Everything found, worst first. Shapes are not built: the intake reads those.</summary>
    public static IReadOnlyList<Finding> Read(ModelSnapshot snapshot, CancellationToken cancel = default)
    {
        var findings = new FindingList();
        FileFindings.Add(snapshot, findings);
        StructureFindings.Add(snapshot, findings);
        Add(snapshot, findings, cancel);
        return findings.ToList();
    }

    internal static void Add(ModelSnapshot snapshot, FindingList findings, CancellationToken cancel)
    {
        new AttributeRules(snapshot.Model).Add(findings, cancel);
        RelationRules.Add(snapshot, findings);
        new WhereRules(snapshot, findings).Add();
    }
}

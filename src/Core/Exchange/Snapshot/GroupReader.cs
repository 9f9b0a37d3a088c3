using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The groups that instances are assigned to: systems, zones and others (ISO 16739-1, IfcRelAssignsToGroup).</summary>
internal sealed class GroupReader
{
    // A group may be in a group; in files that go in circles this ends it.
    private const int MaxDepth = 8;
    private readonly IfcModel _model;
    private readonly Dictionary<int, List<int>> _groups = [];

    /// <summary>Reads the assignments of a model.</summary>
    public GroupReader(IfcModel model)
    {
        _model = model;
        foreach (int relation in model.OfType("IfcRelAssignsToGroup"))
        {
            int group = model.Ref(relation, "RelatingGroup");
            if (group < 0)
                continue;
            foreach (int member in model.Refs(relation, "RelatedObjects"))
                (_groups.TryGetValue(member, out var list) ? list : _groups[member] = []).Add(group);
        }
    }

    /// <summary>The names of the groups an instance is in, and of those that these are in.</summary>
    public IReadOnlyList<string> Of(int index)
    {
        if (!_groups.ContainsKey(index))
            return [];
        var found = new List<int>();
        var open = new List<int> { index };
        for (int depth = 0; depth < MaxDepth && open.Count > 0; depth++)
        {
            open = [.. open.SelectMany(i => _groups.GetValueOrDefault(i) ?? []).Except(found).Distinct()];
            found.AddRange(open);
        }

        return [.. found.Select(_model.Name).Where(n => n.Length > 0).Distinct()];
    }
}

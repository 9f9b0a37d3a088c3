namespace SteadyLintel.Topics;

/// <summary>Merges lists.</summary>
internal static class MergeLists
{
    /// <summary>All of both, each once, in the order of the first and then of the second.</summary>
    public static IReadOnlyList<string> Union(IReadOnlyList<string> ours, IReadOnlyList<string> theirs) =>
        [.. ours.Concat(theirs).Distinct(StringComparer.Ordinal)];

    /// <summary>A list of which both sides had a copy: what either added is added, what either removed is gone.</summary>
    /// <param name="common">The copy; null where it is not known: then nothing is gone.</param>
    /// <param name="ours">Our list.</param>
    /// <param name="theirs">Their list.</param>
    public static IReadOnlyList<string> Merge(
        IReadOnlyList<string>? common,
        IReadOnlyList<string> ours,
        IReadOnlyList<string> theirs
    )
    {
        if (common is null)
            return Union(ours, theirs);
        var gone = common.Where(c => !ours.Contains(c) || !theirs.Contains(c)).ToHashSet(StringComparer.Ordinal);
        return [.. Union(ours, theirs).Where(w => !gone.Contains(w))];
    }

    /// <summary>What neither side has a name for.</summary>
    public static Extras Extras(Extras ours, Extras theirs)
    {
        if (theirs.Count == 0)
            return ours;
        var attributes = theirs.Attributes.ToDictionary();
        foreach (var (name, value) in ours.Attributes)
            attributes[name] = value;
        return new Extras(attributes, Union(ours.Elements, theirs.Elements));
    }
}

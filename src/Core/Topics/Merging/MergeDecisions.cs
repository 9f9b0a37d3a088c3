namespace SteadyLintel.Topics;

/// <summary>Chooses between two values, and keeps a list of the conflicts.</summary>
internal sealed class MergeDecisions(Func<TopicConflict, bool> takeTheirs)
{
    private readonly List<TopicConflict> _conflicts = [];

    /// <summary>The conflicts, in the order they were met.</summary>
    public IReadOnlyList<TopicConflict> Conflicts => _conflicts;

    /// <summary>Chooses.</summary>
    /// <param name="topic">The topic; null for the project.</param>
    /// <param name="what">What it is.</param>
    /// <param name="common">What both had before; null where it is not known.</param>
    /// <param name="ours">Our value.</param>
    /// <param name="theirs">Their value.</param>
    /// <param name="newer">Above zero where theirs was modified later, below where ours was.</param>
    public string? Pick(Topic? topic, string what, Known? common, string? ours, string? theirs, int newer)
    {
        if (ours == theirs)
            return ours;
        if (common is { } before)
        {
            if (ours == before.Value)
                return theirs;
            if (theirs == before.Value)
                return ours;
        }
        else if (ours is null || theirs is null)
        {
            return ours ?? theirs;
        }
        else if (newer != 0)
        {
            return newer > 0 ? theirs : ours;
        }

        return Decide(topic, what, ours, theirs) ? theirs : ours;
    }

    /// <summary>Whether their word is taken in a conflict.</summary>
    public bool Decide(Topic? topic, string what, string? ours, string? theirs)
    {
        var conflict = new TopicConflict(topic?.Guid ?? "", topic?.Title ?? "", what, ours, theirs);
        _conflicts.Add(conflict);
        return takeTheirs(conflict);
    }

    /// <summary>A value that both sides had before; it may be null.</summary>
    public readonly record struct Known(string? Value);
}

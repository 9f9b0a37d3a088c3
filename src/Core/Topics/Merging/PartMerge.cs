namespace SteadyLintel.Topics;

/// <summary>Adds the files of one folder to those of another; a file of another content gets another name.</summary>
/// <param name="ours">Our files.</param>
/// <param name="taken">Names that are used for something else.</param>
internal sealed class PartMerge(IReadOnlyList<TopicPart> ours, IEnumerable<string> taken)
{
    private readonly HashSet<string> _names = new(
        ours.Select(p => p.Name).Concat(taken),
        StringComparer.OrdinalIgnoreCase
    );

    /// <summary>Adds files.</summary>
    /// <param name="theirs">Their files.</param>
    /// <param name="renamed">Gets the new name of each file that has one.</param>
    public IReadOnlyList<TopicPart> Add(IReadOnlyList<TopicPart> theirs, Dictionary<string, string> renamed)
    {
        var all = ours.ToList();
        var byName = ours.DistinctBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(p => p.Name, StringComparer.OrdinalIgnoreCase);
        foreach (var part in theirs)
        {
            if (byName.TryGetValue(part.Name, out var known) && Same(known, part))
                continue;
            string name = Free(part.Name);
            if (name != part.Name)
                renamed[part.Name] = name;
            all.Add(part with { Name = name });
        }

        return all;
    }

    /// <summary>A name that nothing else has, and that nothing else will get.</summary>
    public string Free(string name)
    {
        string free = name;
        string extension = Path.GetExtension(name);
        for (int n = 2; !_names.Add(free); n++)
            free = $"{name[..^extension.Length]}-{n}{extension}";
        return free;
    }

    private static bool Same(TopicPart a, TopicPart b) =>
        ReferenceEquals(a, b) || (a.Length == b.Length && a.Bytes().AsSpan().SequenceEqual(b.Bytes()));
}

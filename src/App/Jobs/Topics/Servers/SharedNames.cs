using System.Text.Json;

namespace SteadyLintel.Jobs;

/// <summary>GUIDs of comments and views that a server gave other ones: ours and theirs.</summary>
internal sealed class SharedNames
{
    private readonly Dictionary<string, string> _theirs = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, string> _ours = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Reads what <see cref="Write"/> wrote; null for none.</summary>
    public static SharedNames Read(string? json)
    {
        var names = new SharedNames();
        if (json is not null)
            foreach (var (ours, theirs) in JsonSerializer.Deserialize<Dictionary<string, string>>(json)!)
                names.Add(ours, theirs);
        return names;
    }

    /// <summary>As they are kept; null for none.</summary>
    public string? Write() => _theirs.Count == 0 ? null : JsonSerializer.Serialize(_theirs);

    /// <summary>Notes one; the same on both sides is not noted.</summary>
    public void Add(string ours, string theirs)
    {
        if (!ours.Equals(theirs, StringComparison.OrdinalIgnoreCase))
            (_theirs[ours], _ours[theirs]) = (theirs, ours);
    }

    /// <summary>A GUID that is spelt in another way there is spelt as ours are.</summary>
    public void Recognise(string theirs)
    {
        if (Guid.TryParse(theirs, out var guid) && !_ours.ContainsKey(theirs))
            Add(guid.ToString(), theirs);
    }

    /// <summary>Whether the server has another name for it, or is known to have it under ours.</summary>
    public bool Knows(string theirs) => _ours.ContainsKey(theirs);

    /// <summary>Their name.</summary>
    public string Theirs(string ours) => _theirs.GetValueOrDefault(ours, ours);

    /// <summary>Our name.</summary>
    public string Ours(string theirs) => _ours.GetValueOrDefault(theirs, theirs);
}

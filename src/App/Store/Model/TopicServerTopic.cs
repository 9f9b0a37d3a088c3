namespace SteadyLintel.Store;

/// <summary>What a job and another server both know of a topic.</summary>
public sealed class TopicServerTopic
{
    /// <summary>The server.</summary>
    public Guid ServerId { get; set; }

    /// <summary>The topic's GUID here.</summary>
    public string Guid { get; set; } = "";

    /// <summary>Its GUID there.</summary>
    public string TheirGuid { get; set; } = "";

    /// <summary>The topic as both knew it last, as the job says it; null before the first exchange.</summary>
    public string? Common { get; set; }

    /// <summary>The same as the server says it: with its authors and dates, without what it has no place for.</summary>
    public string? Theirs { get; set; }

    /// <summary>When the server said then that it was modified; empty where that is to be asked again.</summary>
    public string TheirModified { get; set; } = "";

    /// <summary>GUIDs of comments and views that the server gave other ones, as JSON: ours to theirs.</summary>
    public string? Names { get; set; }

    /// <summary>The version of our row then.</summary>
    public int Version { get; set; }

    /// <summary>Why it is not the same on both sides; empty where it is.</summary>
    public string Problem { get; set; } = "";

    /// <summary>What both changed, as JSON; null for nothing.</summary>
    public string? Conflicts { get; set; }

    /// <summary>What was decided of it, as JSON; null for nothing.</summary>
    public string? Decisions { get; set; }
}

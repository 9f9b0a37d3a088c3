using SteadyLintel.Exchange;

namespace SteadyLintel.Store;

/// <summary>A version of something that a job keeps under a name. Rows are never changed; the newest version counts.</summary>
public sealed class LibraryItem
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>What it is.</summary>
    public LibraryKind Kind { get; set; }

    /// <summary>Its name, one within the kind.</summary>
    public string Name { get; set; } = "";

    /// <summary>From 1.</summary>
    public int Version { get; set; }

    /// <summary>The thing itself, in the form of its kind.</summary>
    public byte[] Content { get; set; } = [];

    /// <summary>What lists show of it without its content, as JSON in the form of its kind.</summary>
    public string Facts { get; set; } = "{}";

    /// <summary>When this version was kept.</summary>
    public DateTime MadeAt { get; set; }

    /// <summary>Who kept it.</summary>
    public Guid MadeBy { get; set; }
}

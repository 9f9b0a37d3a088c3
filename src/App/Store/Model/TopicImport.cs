namespace SteadyLintel.Store;

/// <summary>A topic file that somebody is looking at before it is imported.</summary>
public sealed class TopicImport
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>The file.</summary>
    public Guid BlobId { get; set; }

    /// <summary>Its name.</summary>
    public string FileName { get; set; } = "";

    /// <summary>Who uploaded it.</summary>
    public Guid By { get; set; }

    /// <summary>When; after a day it is deleted.</summary>
    public DateTime At { get; set; }
}

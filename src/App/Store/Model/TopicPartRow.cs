namespace SteadyLintel.Store;

/// <summary>A file of a topic, or of a job's topics together: a picture, a document, a part that no standard names.</summary>
public sealed class TopicPartRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>The topic; null for a file of all topics together.</summary>
    public Guid? TopicId { get; set; }

    /// <summary>Its path from its folder on, separated by <c>/</c>.</summary>
    public string Name { get; set; } = "";

    /// <summary>Bytes.</summary>
    public long Length { get; set; }

    /// <summary>SHA-256, lower-case hex.</summary>
    public string Sha256 { get; set; } = "";

    /// <summary>Its content.</summary>
    public Guid BlobId { get; set; }
}

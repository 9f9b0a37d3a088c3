namespace SteadyLintel.Store;

/// <summary>What a job says about its topics together.</summary>
public sealed class TopicProject
{
    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>Words, documents and what else BCF says beside the topics, as JSON (<c>TopicJson</c>).</summary>
    public string Document { get; set; } = "";

    /// <summary>What the job wants of its topics, as JSON (<c>TopicSettings</c>).</summary>
    public string Settings { get; set; } = "";
}

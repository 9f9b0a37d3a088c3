namespace SteadyLintel.Jobs;

/// <summary>What came in between with another server.</summary>
public enum TopicServerFault
{
    /// <summary>It does not answer, or not as such a server does; it is tried again.</summary>
    Away,

    /// <summary>It does not know this job any more: somebody has to sign in.</summary>
    SignIn,

    /// <summary>It does not take one thing; others go on.</summary>
    Refused,
}

/// <summary>Another server did not do what it was asked; the message says so to people.</summary>
/// <param name="fault">What came in between.</param>
/// <param name="message">The sentence.</param>
/// <param name="status">The status it answered with; 0 for none.</param>
public sealed class TopicServerException(TopicServerFault fault, string message, int status = 0) : Exception(message)
{
    /// <summary>What came in between.</summary>
    public TopicServerFault Fault => fault;

    /// <summary>The status it answered with; 0 for none.</summary>
    public int Status => status;
}

namespace SteadyLintel.Topics;

/// <summary>A version of BCF.</summary>
public enum TopicVersion
{
    /// <summary>2.0: read, not written.</summary>
    V20,

    /// <summary>2.1.</summary>
    V21,

    /// <summary>3.0.</summary>
    V30,
}

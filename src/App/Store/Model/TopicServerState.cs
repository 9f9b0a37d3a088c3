namespace SteadyLintel.Store;

/// <summary>How the last exchange with another server ended.</summary>
public enum TopicServerState
{
    /// <summary>None was tried yet, or one is asked for.</summary>
    Waiting,

    /// <summary>One is under way.</summary>
    Underway,

    /// <summary>Both have the same.</summary>
    Same,

    /// <summary>Some topics wait for a decision or were not taken; the others are the same.</summary>
    Left,

    /// <summary>The server could not be asked; it is tried again.</summary>
    Failed,
}

namespace SteadyLintel.Jobs;

/// <summary>What a topic was made from, as a word: asked about the same again, its open topic is found.</summary>
public static class TopicCause
{
    /// <summary>A finding of a source's newest revision; gone when a revision no longer has it.</summary>
    public static string Finding(Guid source, string code) => $"finding {source} {code}";

    /// <summary>An amendment that waits for a decision; gone when it no longer does.</summary>
    public static string Amendment(Guid id) => $"amendment {id}";

    /// <summary>A transmittal of an order that is not balanced; gone when a later one is.</summary>
    public static string Order(Guid order) => $"order {order}";

    /// <summary>A change of an element from one revision to the next; it stays a change.</summary>
    public static string Change(Guid source, int revision, string element) => $"change {source} {revision} {element}";

    /// <summary>An entity of a drawing; whether a revision still has it is not looked at.</summary>
    public static string Drawing(Guid source, string handle) => $"drawing {source} {handle}";
}

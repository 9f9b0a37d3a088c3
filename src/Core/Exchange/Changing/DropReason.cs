namespace SteadyLintel.Exchange;

/// <summary>Why an instance has no place in what is written.</summary>
internal enum DropReason : byte
{
    /// <summary>It has one.</summary>
    None,

    /// <summary>No entity there can stand for its own.</summary>
    NoEntity,

    /// <summary>Something it must refer to has no place.</summary>
    NeedsDropped,

    /// <summary>It served only what has no place, or what is written in another form.</summary>
    ServedDropped,

    /// <summary>What it refers to stands in its place.</summary>
    Unwrapped,
}

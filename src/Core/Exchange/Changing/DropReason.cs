namespace SteadyLintel.Exchange;

/// <summary>Why an instance has no place in what is written.</summary>
internal enum DropReason : byte
{
    /// <summary>It has one.</summary>
    None,

    /// <summary>No entity there can be for its own.</summary>
    NoEntity,

    /// <summary>Something it must refer to has no place.</summary>
    NeedsDropped,

    /// <summary>It served only what has no place, or what is written in another form.</summary>
    ServedDropped,

    /// <summary>What it refers to is in its place.</summary>
    Unwrapped,
}

/// <summary>What becomes of an instance that is not written.</summary>
internal enum DropKind : byte
{
    /// <summary>A rule left it out.</summary>
    LeftOut,

    /// <summary>It is said in another form.</summary>
    Replaced,

    /// <summary>What is written has no place for it.</summary>
    Lost,
}

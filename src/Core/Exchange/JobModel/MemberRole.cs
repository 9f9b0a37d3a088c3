namespace SteadyLintel.Exchange;

/// <summary>What a member may do.</summary>
public enum MemberRole
{
    /// <summary>Reads.</summary>
    Reader,

    /// <summary>Also delivers for one party.</summary>
    Contributor,

    /// <summary>Does everything in the job.</summary>
    Coordinator,

    /// <summary>Sees only what was handed over to one party.</summary>
    Recipient,
}

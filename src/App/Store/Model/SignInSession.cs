namespace SteadyLintel.Store;

/// <summary>A browser that is signed in.</summary>
public sealed class SignInSession
{
    /// <summary>Identity; the cookie names it.</summary>
    public Guid Id { get; set; }

    /// <summary>The person.</summary>
    public Guid UserId { get; set; }

    /// <summary>When it began.</summary>
    public DateTime BegunAt { get; set; }

    /// <summary>When it was last used; updated once a minute.</summary>
    public DateTime SeenAt { get; set; }

    /// <summary>The network address it was last used from.</summary>
    public string Address { get; set; } = "";

    /// <summary>What the browser calls itself.</summary>
    public string Browser { get; set; } = "";

    /// <summary>Whether the person wants to stay signed in; else it ends half an hour after its last use.</summary>
    public bool Stays { get; set; }

    /// <summary>When it was ended; null while it is open.</summary>
    public DateTime? EndedAt { get; set; }
}

namespace SteadyLintel.Store;

/// <summary>A secret that a program may use in a person's place.</summary>
public sealed class AccessToken
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The person.</summary>
    public Guid UserId { get; set; }

    /// <summary>What it is for, in the person's words.</summary>
    public string Name { get; set; } = "";

    /// <summary>SHA-256 of the secret, lower-case hex.</summary>
    public string SecretHash { get; set; } = "";

    /// <summary>What it may do: <c>read</c>, <c>deliver</c>, <c>handover</c>.</summary>
    public string[] Scopes { get; set; } = [];

    /// <summary>When it was made.</summary>
    public DateTime MadeAt { get; set; }

    /// <summary>Until when it is good.</summary>
    public DateTime ExpiresAt { get; set; }

    /// <summary>When it was last used.</summary>
    public DateTime? UsedAt { get; set; }

    /// <summary>When it was taken back; null while it is good.</summary>
    public DateTime? EndedAt { get; set; }
}

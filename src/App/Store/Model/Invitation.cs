using SteadyLintel.Exchange;

namespace SteadyLintel.Store;

/// <summary>An invitation into a job, open until it is taken up, withdrawn or expires.</summary>
public sealed class Invitation
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>Whom it was sent to.</summary>
    public string Email { get; set; } = "";

    /// <summary>The role it gives.</summary>
    public MemberRole Role { get; set; }

    /// <summary>The party, for contributors and recipients.</summary>
    public Guid? PartyId { get; set; }

    /// <summary>SHA-256 of the secret in the link, lower-case hex.</summary>
    public string SecretHash { get; set; } = "";

    /// <summary>Who sent it.</summary>
    public Guid SentBy { get; set; }

    /// <summary>When.</summary>
    public DateTime SentAt { get; set; }

    /// <summary>Until when it may be taken up.</summary>
    public DateTime ExpiresAt { get; set; }

    /// <summary>When it was taken up or withdrawn; null while it is open.</summary>
    public DateTime? EndedAt { get; set; }

    /// <summary>The job itself.</summary>
    public Job Job { get; set; } = null!;
}

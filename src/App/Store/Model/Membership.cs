using SteadyLintel.Exchange;

namespace SteadyLintel.Store;

/// <summary>A person in a job.</summary>
public sealed class Membership
{
    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>The person.</summary>
    public Guid UserId { get; set; }

    /// <summary>The role.</summary>
    public MemberRole Role { get; set; }

    /// <summary>A contributor's or recipient's party.</summary>
    public Guid? PartyId { get; set; }

    /// <summary>When mails about topics are sent.</summary>
    public TopicMails TopicMails { get; set; }

    /// <summary>The job itself.</summary>
    public Job Job { get; set; } = null!;
}

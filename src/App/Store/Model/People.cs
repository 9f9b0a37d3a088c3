using Microsoft.AspNetCore.Identity;

namespace SteadyLintel.Store;

/// <summary>A person who signs in.</summary>
public sealed class AppUser : IdentityUser<Guid>
{
    /// <summary>The name to show.</summary>
    public string DisplayName { get; set; } = "";

    /// <summary>Whether the person runs the site: makes jobs, sees its state.</summary>
    public bool IsAdministrator { get; set; }

    /// <summary>The time zone that times are shown in (IANA name); empty for the site's.</summary>
    public string TimeZone { get; set; } = "";

    /// <summary>How lengths are written: <c>m</c>, <c>mm</c>, <c>ft</c>; empty for metres.</summary>
    public string Lengths { get; set; } = "";

    /// <summary>The time step (RFC 6238, 5.2) of the last code of the second factor that was used, so that each is used once; 0 before the
    /// first.</summary>
    public long LastCodeStep { get; set; }

    /// <summary>Whether keys without Ctrl or Alt do something on pages (WCAG 2.1.4).</summary>
    public bool SingleKeys { get; set; } = true;
}

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

    /// <summary>The job itself.</summary>
    public Job Job { get; set; } = null!;
}

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

/// <summary>A line of the record: who did what, when, to what, from where. Lines are added and never changed.</summary>
public sealed class RecordLine
{
    /// <summary>Its number.</summary>
    public long Id { get; set; }

    /// <summary>When.</summary>
    public DateTime At { get; set; }

    /// <summary>The job; null for what concerns accounts and the site.</summary>
    public Guid? JobId { get; set; }

    /// <summary>Who did it; empty for the program itself.</summary>
    public Guid UserId { get; set; }

    /// <summary>What was done, a word of <c>RecordWords</c>.</summary>
    public string Did { get; set; } = "";

    /// <summary>To what, in words that can be read when it is gone.</summary>
    public string Subject { get; set; } = "";

    /// <summary>The network address.</summary>
    public string Address { get; set; } = "";
}

/// <summary>A mail that waits to be sent, or was.</summary>
public sealed class OutgoingMail
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The address.</summary>
    public string To { get; set; } = "";

    /// <summary>The subject.</summary>
    public string Subject { get; set; } = "";

    /// <summary>The text.</summary>
    public string Text { get; set; } = "";

    /// <summary>When it was written.</summary>
    public DateTime WrittenAt { get; set; }

    /// <summary>When it is to be tried next.</summary>
    public DateTime NextAt { get; set; }

    /// <summary>How often it was tried in vain.</summary>
    public int Attempts { get; set; }

    /// <summary>When it was sent, or given up after <see cref="Attempts"/>; its text is then removed.</summary>
    public DateTime? EndedAt { get; set; }

    /// <summary>Why it could not be sent last.</summary>
    public string Problem { get; set; } = "";
}

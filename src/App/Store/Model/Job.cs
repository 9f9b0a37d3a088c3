using Microsoft.AspNetCore.Identity;

namespace SteadyLintel.Store;

/// <summary>A person who signs in.</summary>
public sealed class AppUser : IdentityUser<Guid>
{
    /// <summary>The name to show.</summary>
    public string DisplayName { get; set; } = "";
}

/// <summary>A building project.</summary>
public sealed class Job
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>Short code, unique; part of addresses and file names.</summary>
    public string Code { get; set; } = "";

    /// <summary>Name.</summary>
    public string Name { get; set; } = "";

    /// <summary>A line about it.</summary>
    public string Description { get; set; } = "";

    /// <summary>The level schedule as JSON (<c>LevelDocument</c>); null before the first model.</summary>
    public string? Levels { get; set; }

    /// <summary>Its parties.</summary>
    public List<Party> Parties { get; set; } = [];

    /// <summary>Its sources.</summary>
    public List<Source> Sources { get; set; } = [];

    /// <summary>Who belongs to it.</summary>
    public List<Membership> Members { get; set; } = [];
}

/// <summary>An organisation in a job.</summary>
public sealed class Party
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>Short code, unique in the job.</summary>
    public string Code { get; set; } = "";

    /// <summary>Discipline in words.</summary>
    public string Discipline { get; set; } = "";

    /// <summary>Its colour, #rrggbb.</summary>
    public string Colour { get; set; } = "";
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

    /// <summary>A contributor's party.</summary>
    public Guid? PartyId { get; set; }

    /// <summary>The job itself.</summary>
    public Job Job { get; set; } = null!;
}

/// <summary>One model that a party keeps sending.</summary>
public sealed class Source
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>The party.</summary>
    public Guid PartyId { get; set; }

    /// <summary>What it is called, unique for the party.</summary>
    public string Name { get; set; } = "";

    /// <summary>From its own frame into the job's, as JSON (<c>SettingOut</c>); null until it is set out.</summary>
    public string? SettingOut { get; set; }

    /// <summary>The party itself.</summary>
    public Party Party { get; set; } = null!;

    /// <summary>Everything that arrived for it.</summary>
    public List<Delivery> Deliveries { get; set; } = [];

    /// <summary>What of it could be read.</summary>
    public List<Revision> Revisions { get; set; } = [];
}

namespace SteadyLintel.Store;

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

    /// <summary>When it was archived; null while it is worked on. Nothing changes in a job that was archived.</summary>
    public DateTime? ArchivedAt { get; set; }

    /// <summary>Whether contributors may fetch the originals and read the reports of other parties; all see the combined view.</summary>
    public bool SharesOriginals { get; set; }

    /// <summary>The level schedule as JSON (<c>LevelDocument</c>); null before the first model.</summary>
    public string? Levels { get; set; }

    /// <summary>Its settings as JSON (<c>JobSettings</c>); null for the usual ones.</summary>
    public string? Settings { get; set; }

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

    /// <summary>The name of the organisation; empty when only the code is used.</summary>
    public string Name { get; set; } = "";

    /// <summary>Whom to ask, in words.</summary>
    public string Contact { get; set; } = "";

    /// <summary>Discipline in words.</summary>
    public string Discipline { get; set; } = "";

    /// <summary>Its colour, #rrggbb.</summary>
    public string Colour { get; set; } = "";
}

/// <summary>One model or drawing that a party keeps sending.</summary>
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

    /// <summary>What kind of file is expected; null while nobody has said.</summary>
    public RevisionKind? Kind { get; set; }

    /// <summary>What is expected of it, in words.</summary>
    public string Expected { get; set; } = "";

    /// <summary>By when the next revision is due.</summary>
    public DateOnly? Due { get; set; }

    /// <summary>When it was taken out of use; null while it is in use.</summary>
    public DateTime? RetiredAt { get; set; }

    /// <summary>Who locked it, so that nobody else delivers for it; null while it is open.</summary>
    public Guid? LockedBy { get; set; }

    /// <summary>Since when it is locked.</summary>
    public DateTime? LockedAt { get; set; }

    /// <summary>Why it is locked, in words.</summary>
    public string LockedWhy { get; set; } = "";

    /// <summary>Who may amend what of it, as JSON (<c>SourceProtection</c>); null where nobody has said.</summary>
    public string? Protection { get; set; }

    /// <summary>Counts how often what is said beside its files changed.</summary>
    public int Amendments { get; set; }

    /// <summary>When it changed last; null where nothing ever was said.</summary>
    public DateTime? AmendedAt { get; set; }

    /// <summary>The settings-out that were accepted for it, those taken back included.</summary>
    public List<SettingOutRow> SettingOuts { get; set; } = [];

    /// <summary>The party itself.</summary>
    public Party Party { get; set; } = null!;

    /// <summary>Everything that arrived for it.</summary>
    public List<Delivery> Deliveries { get; set; } = [];

    /// <summary>What of it could be read.</summary>
    public List<Revision> Revisions { get; set; } = [];
}

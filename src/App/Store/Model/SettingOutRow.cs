namespace SteadyLintel.Store;

/// <summary>A setting-out that was accepted for a source. Rows are never changed but for being taken back: they are its history.</summary>
public sealed class SettingOutRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The source.</summary>
    public Guid SourceId { get; set; }

    /// <summary>The first revision that it holds for; later revisions lie where it says until another is accepted.</summary>
    public int FromRevision { get; set; } = 1;

    /// <summary>The setting-out with its evidence, as JSON (<c>SettingOutDocument</c>).</summary>
    public string Document { get; set; } = "";

    /// <summary>Of a drawing: its preparation, as JSON (<c>PreparationDocument</c>), accepted with it; null without steps.</summary>
    public string? Preparation { get; set; }

    /// <summary>When it was accepted.</summary>
    public DateTime AcceptedAt { get; set; }

    /// <summary>Who accepted it.</summary>
    public Guid AcceptedBy { get; set; }

    /// <summary>When it was taken back; null while it holds.</summary>
    public DateTime? TakenBackAt { get; set; }
}

namespace SteadyLintel.Store;

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

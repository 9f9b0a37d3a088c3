namespace SteadyLintel.Store;

/// <summary>When somebody gets mails about the topics of a job.</summary>
public enum TopicMails
{
    /// <summary>At once, one for each.</summary>
    AtOnce,

    /// <summary>One mail a day.</summary>
    Daily,

    /// <summary>Never.</summary>
    Never,
}

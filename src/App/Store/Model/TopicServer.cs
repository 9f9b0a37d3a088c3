namespace SteadyLintel.Store;

/// <summary>Another server that a job shares its topics with, by BCF API.</summary>
public sealed class TopicServer
{
    /// <summary>Identity.</summary>
    public Guid Id { get; set; }

    /// <summary>The job.</summary>
    public Guid JobId { get; set; }

    /// <summary>What people call it.</summary>
    public string Name { get; set; } = "";

    /// <summary>Where it is asked for its versions: <c>https://bcf.example</c>.</summary>
    public string Address { get; set; } = "";

    /// <summary>Where its BCF API begins, with the version.</summary>
    public string ApiAddress { get; set; } = "";

    /// <summary><c>3.0</c> or <c>2.1</c>.</summary>
    public string Version { get; set; } = "";

    /// <summary>Where people sign in; empty where it has no such address.</summary>
    public string SignInAddress { get; set; } = "";

    /// <summary>Where tokens are got; empty where it has no such address.</summary>
    public string TokenAddress { get; set; } = "";

    /// <summary>How the job signs in: <c>token</c>, <c>program</c> or <c>person</c>.</summary>
    public string SignIn { get; set; } = "";

    /// <summary>The name it knows this program by.</summary>
    public string ClientId { get; set; } = "";

    /// <summary>The secret of this program, or the token; protected, empty for none.</summary>
    public string Secret { get; set; } = "";

    /// <summary>What a person's access is renewed with; protected, empty for none.</summary>
    public string Renewal { get; set; } = "";

    /// <summary>Who the job is there.</summary>
    public string Account { get; set; } = "";

    /// <summary>The project there; empty until one is chosen.</summary>
    public string Project { get; set; } = "";

    /// <summary>Its name.</summary>
    public string ProjectName { get; set; } = "";

    /// <summary>Whether topics that began here are sent; else only answers to topics that came from there.</summary>
    public bool SendsOwn { get; set; }

    /// <summary>The frame of views there: <c>job</c>, a source, or <c>auto</c> for that of each topic.</summary>
    public string Frame { get; set; } = "auto";

    /// <summary>Who added it: what comes is noted under that name.</summary>
    public Guid AddedBy { get; set; }

    /// <summary>When.</summary>
    public DateTime AddedAt { get; set; }

    /// <summary>How it is.</summary>
    public TopicServerState State { get; set; }

    /// <summary>The same in a sentence.</summary>
    public string Sentence { get; set; } = "";

    /// <summary>When it is to be asked next.</summary>
    public DateTime NextAt { get; set; }

    /// <summary>Until when a process that exchanges is believed to be alive; null for none.</summary>
    public DateTime? HeldUntil { get; set; }

    /// <summary>When both had everything of each other.</summary>
    public DateTime? SyncedAt { get; set; }

    /// <summary>The server's own time then: what changed there later is asked for.</summary>
    public DateTime? TheirTime { get; set; }

    /// <summary>Failures since it last answered.</summary>
    public int Failures { get; set; }
}

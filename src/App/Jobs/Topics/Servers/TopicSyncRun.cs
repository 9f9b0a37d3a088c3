using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>One exchange with a server.</summary>
internal sealed class TopicSyncRun
{
    public TopicSyncRun(TopicServer server, JobState state, TopicBoard board, BcfClient client)
    {
        (Server, State, Board, Frame) = (server, state, board, TopicFrame.Read(server.Frame));
        There = new RemoteTopics(client, server.Project, server.Account, board);
    }

    /// <summary>The server.</summary>
    public TopicServer Server { get; }

    /// <summary>The job.</summary>
    public JobState State { get; }

    /// <summary>Words, parties and people.</summary>
    public TopicBoard Board { get; }

    /// <summary>The frame of views there.</summary>
    public TopicFrame Frame { get; }

    /// <summary>The topics there.</summary>
    public RemoteTopics There { get; }

    /// <summary>Our GUIDs of topics to theirs.</summary>
    public System.Collections.Concurrent.ConcurrentDictionary<string, string> TheirGuids { get; } =
        new(StringComparer.OrdinalIgnoreCase);

    /// <summary>New topics there that could not be read, and why.</summary>
    public System.Collections.Concurrent.ConcurrentBag<string> Unread { get; } = [];

    /// <summary>Topics that changed here.</summary>
    public int Received { get; set; }

    /// <summary>Topics that were changed there.</summary>
    public int Sent { get; set; }
}

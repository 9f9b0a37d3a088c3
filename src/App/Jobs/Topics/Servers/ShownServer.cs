using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Another server as its page shows it.</summary>
/// <param name="Server">The server.</param>
/// <param name="Shared">How many topics both have.</param>
/// <param name="Waiting">How many topics of the job have something that is not sent yet.</param>
/// <param name="Open">Topics that need a look: why, and what both changed.</param>
public sealed record ShownServer(TopicServer Server, int Shared, int Waiting, IReadOnlyList<OpenServerTopic> Open);

/// <summary>A topic that is not the same on both sides.</summary>
/// <param name="Guid">Its GUID here.</param>
/// <param name="Number">Its number.</param>
/// <param name="Title">Its title.</param>
/// <param name="Problem">Why.</param>
/// <param name="Conflicts">What both changed.</param>
public sealed record OpenServerTopic(
    string Guid,
    int Number,
    string Title,
    string Problem,
    IReadOnlyList<TopicConflict> Conflicts
);

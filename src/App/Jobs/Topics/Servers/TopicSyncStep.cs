using System.Text.Json;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>One topic within an exchange: read there, merged, sent, noted.</summary>
internal sealed class TopicSyncStep
{
    // Before the GUID of a topic that the server did not take.
    internal const string NotThere = "-";

    // The version of a row whose changes are still to be sent.
    private const int Unsent = -1;

    private Topic? _theirs;
    private TopicChanges? _changes;
    private string? _unread;
    private byte[]? _snippet;
    private IReadOnlyList<BcfViewpoint> _views = [];
    private IReadOnlyDictionary<string, (string Name, byte[] Content)> _documents =
        new Dictionary<string, (string, byte[])>();

    /// <summary>Its GUID there; null while it is not there.</summary>
    public string? TheirGuid { get; set; }

    /// <summary>Our row; null while we have none.</summary>
    public TopicRow? Row { get; set; }

    /// <summary>Our topic.</summary>
    public Topic? Ours { get; set; }

    /// <summary>What both knew last; null before the first exchange.</summary>
    public TopicServerTopic? Link { get; set; }

    /// <summary>The topic as both knew it last; null before the first exchange.</summary>
    private Topic? Common => Link?.Common is { } common ? TopicJson.Read(common) : null;

    /// <summary>GUIDs that the server gave.</summary>
    public SharedNames Names { get; set; } = new();

    /// <summary>The topic as the server says it, with our GUIDs and views in our frame.</summary>
    public Topic? There { get; private set; }

    /// <summary>The source in whose frame a new topic's views are.</summary>
    public Guid? FrameOf { get; set; }

    /// <summary>Both as one.</summary>
    public Topic? Merged { get; private set; }

    /// <summary>What is noted of it; null where it is looked at again the next time.</summary>
    public TopicServerTopic? Note { get; set; }

    /// <summary>Whether something was sent.</summary>
    public bool HasSent { get; private set; }

    /// <summary>Whether a noted GUID says that the server never took the topic.</summary>
    public static bool IsNotThere(string theirGuid) => theirGuid.StartsWith(NotThere, StringComparison.Ordinal);

    /// <summary>Reads it there.</summary>
    public async Task ReadAsync(TopicSyncRun run, CancellationToken cancel)
    {
        if (TheirGuid is null)
            return;
        try
        {
            There = await run.There.ReadAsync(TheirGuid, Ours, Common, Names, cancel);
        }
        catch (TopicServerException e) when (e.Fault == TopicServerFault.Refused)
        {
            // One topic that cannot be read holds no other up.
            _unread = e.Message;
            if (Row is null)
                run.Unread.Add($"topic {TheirGuid}, {e.Message}");
        }

        if (There is null)
            return;
        // What is read is in the server's frame; views that are known are not read at all.
        if (Row is not null)
            There = run.Frame.In(run.State.Model, Row.FrameOf, There);
    }

    /// <summary>Merges.</summary>
    /// <returns>Whether the exchange of this topic goes on.</returns>
    public bool Merge(TopicSyncRun run)
    {
        if (_unread is not null)
        {
            if (Row is not null)
                Note = Noted(Link?.Common, Link?.Theirs, Row.Version, $"The server's topic was not read: {_unread}.");
            return false;
        }

        if (There is null && TheirGuid is not null)
        {
            // It was removed there, or is hidden: nothing is removed here.
            if (Link is not null && Row is not null)
                Note = Noted(Link.Common, Link.Theirs, Row.Version, "The server does not have this topic any more.");
            return false;
        }

        if (There is null)
        {
            Merged = Ours;
            return Ours is not null;
        }

        if (Ours is null)
        {
            Merged = There;
            _theirs = There;
            return true;
        }

        var common = Common;
        _theirs =
            common is not null && Link?.Theirs is { } before
                ? SharedTopic.InOurTerms(There, TopicJson.Read(before), common)
                : There;
        var decisions = TopicDecision.Read(Link?.Decisions);
        var (merged, conflicts) = TopicMerge.Whole(Ours, _theirs with { Guid = Ours.Guid }, common, conflict =>
            decisions.FirstOrDefault(d => d.IsAbout(conflict))?.TakesTheirs == true
        );
        var open = conflicts.Where(conflict => !decisions.Any(d => d.IsAbout(conflict))).ToList();
        if (open.Count > 0)
        {
            Note = Noted(
                Link?.Common,
                Link?.Theirs,
                Row!.Version,
                $"Both changed the {string.Join(", the ", open.Select(o => o.Kind).Distinct())}."
            );
            Note.Conflicts = JsonSerializer.Serialize(open);
            Note.Decisions = Link?.Decisions;
            return false;
        }

        Merged = merged;
        return true;
    }

    /// <summary>Finds what the server lacks, with the contents that go with it: later there is no database.</summary>
    public void Prepare(TopicSyncRun run)
    {
        var merged = Merged!;
        var nothing = new Topic { Guid = merged.Guid };
        _changes = TopicChanges.Of(merged, _theirs ?? nothing, There ?? nothing);
        // What the server said is known to both, whatever becomes of what is sent; a topic that it is to make is known by what was sent.
        if (There is null)
            Note = Noted(null, Json(merged), Unsent, "");
        else if (_changes.None)
            Note = Noted(Json(merged), Json(There), Row!.Version, "");
        else
            Note = Noted(Json(_theirs!), Json(There), Unsent, "");

        var sent = run.Frame.Out(run.State.Model, Row!, merged);
        var parts = merged.Parts.ToLookup(p => p.Name, StringComparer.Ordinal);
        _views =
        [
            .. _changes.Views.Select(v =>
                BcfViewpoint.Posted(sent.Viewpoints.First(o => o.Guid == v.Guid), name =>
                    parts[name].FirstOrDefault()?.Bytes()
                )
            ),
        ];
        _snippet = _changes.Snippet is { IsExternal: not true, Reference: { } piece }
            ? parts[piece].FirstOrDefault()?.Bytes()
            : null;
        _documents = _changes
            .Documents.Where(d => d.Path is not null && parts.Contains(d.Path))
            .ToDictionary(d => d.Guid ?? "", d => (Path.GetFileName(d.Path!), parts[d.Path!].First().Bytes()));
    }

    /// <summary>Sends it.</summary>
    public async Task SendAsync(TopicSyncRun run, CancellationToken cancel)
    {
        if (_changes is not { } changes || Merged is not { } merged)
            return;
        try
        {
            await SendAsync(run, changes, merged, cancel);
        }
        catch (TopicServerException e) when (e.Fault == TopicServerFault.Refused)
        {
            // The topic itself was not taken: what both know is what they knew.
            Note = Noted(Link?.Common, Link?.Theirs, Row!.Version, $"The server did not take it: {e.Message}");
        }
        catch (TopicServerException)
        {
            // GUIDs that the server gave so far are known; the rest is sent again.
            Note = Noted(Link?.Common, TheirGuid is null || There is not null ? Link?.Theirs : null, Unsent, "");
            throw;
        }
    }

    private async Task SendAsync(TopicSyncRun run, TopicChanges changes, Topic merged, CancellationToken cancel)
    {
        if (TheirGuid is null)
        {
            TheirGuid = await MadeAsync(run, merged, cancel);
            HasSent = true;
            changes = changes with { Fields = null };
        }

        if (changes.None && There is not null)
            return;

        HasSent = true;
        var refused = await run.There.WriteAsync(
            TheirGuid,
            changes,
            _views,
            _documents,
            _snippet,
            Names,
            guid => run.TheirGuids.GetValueOrDefault(guid),
            cancel
        );
        var now = await run.There.ReadAsync(TheirGuid, merged, Common, Names, cancel)
            ?? throw new TopicServerException(TopicServerFault.Refused, "it does not have it any more.");
        var common = SharedTopic.Common(merged, _theirs ?? merged, [.. refused.Keys]);
        var theirs = There is null ? now : SharedTopic.Noted(common, now, There, changes);
        string problem =
            refused.Count == 0
                ? ""
                : $"The server did not take everything: {string.Join(" ", refused.Values.Distinct())}";
        Note = Noted(Json(common), Json(theirs), Row!.Version, problem);
        Note.TheirModified = now.ModifiedDate ?? "";
    }

    private static string Json(Topic topic) => TopicJson.Write(topic with { Parts = [] });

    // One that is there already, from an exchange that was broken off, is found by the next.
    private static async Task<string> MadeAsync(TopicSyncRun run, Topic topic, CancellationToken cancel)
    {
        try
        {
            return await run.There.CreateAsync(topic, cancel);
        }
        catch (TopicServerException e) when (e.Status == 409)
        {
            return topic.Guid;
        }
    }

    private TopicServerTopic Noted(string? common, string? theirs, int version, string problem) =>
        new()
        {
            Guid = Row!.Guid,
            TheirGuid = TheirGuid ?? NotThere + Row.Guid,
            Common = common,
            Theirs = theirs,
            TheirModified = There?.ModifiedDate ?? Link?.TheirModified ?? "",
            Names = Names.Write(),
            Version = version,
            Problem = StoredText.Clean(problem),
        };
}

using SteadyLintel.Exchange;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>The frame that views of a topic file are in.</summary>
/// <param name="Automatic">Whether it is found by each topic itself: by the models it names, or the elements it is about.</param>
/// <param name="Source">Else the source whose frame it is; null for the job's.</param>
public sealed record TopicFrame(bool Automatic, Guid? Source)
{
    /// <summary>Each topic says it itself.</summary>
    public static readonly TopicFrame ByTopic = new(true, null);

    /// <summary>The job's frame.</summary>
    public static readonly TopicFrame OfJob = new(false, null);

    /// <summary>Reads what a form sends: <c>auto</c>, <c>job</c> or a source.</summary>
    public static TopicFrame Read(string? word) =>
        word == "job" ? OfJob
        : Guid.TryParse(word, out var source) ? new TopicFrame(false, source)
        : ByTopic;

    /// <summary>A topic of the job with its views in this frame; in its own where that is automatic.</summary>
    internal Topic Out(JobModel model, TopicRow row, Topic topic)
    {
        if (Automatic || Source == row.FrameOf)
            return topic;
        var frame = TopicQuery.FrameOf(model, Source).Inverse().Compose(TopicQuery.FrameOf(model, row.FrameOf));
        return topic with
        {
            Viewpoints =
            [
                .. topic.Viewpoints.Select(v => v.Info is { } info ? v with { Info = ViewMove.Into(info, frame) } : v),
            ],
        };
    }

    /// <summary>A topic with views in this frame as the job has it: with views in its own.</summary>
    internal Topic In(JobModel model, Guid? frameOf, Topic topic)
    {
        if (Automatic || Source == frameOf)
            return topic;
        var frame = TopicQuery.FrameOf(model, frameOf).Inverse().Compose(TopicQuery.FrameOf(model, Source));
        return topic with
        {
            Viewpoints =
            [
                .. topic.Viewpoints.Select(v => v.Info is { } info ? v with { Info = ViewMove.Into(info, frame) } : v),
            ],
        };
    }

    /// <summary>Their topic with our views where they have the same: a view does not change once it is made, and theirs may be in
    /// another frame.</summary>
    internal static Topic SameViews(Topic theirs, Topic ours)
    {
        var known = ours
            .Viewpoints.DistinctBy(v => v.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(v => v.Guid, StringComparer.OrdinalIgnoreCase);
        return theirs with
        {
            Viewpoints =
            [
                .. theirs.Viewpoints.Select(v =>
                    known.TryGetValue(v.Guid, out var our) && our.Info is not null ? v with { Info = our.Info } : v
                ),
            ],
        };
    }
}

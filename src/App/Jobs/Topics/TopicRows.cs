using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Between a topic and its row: the columns are made from the document, never the other way round.</summary>
internal static class TopicRows
{
    private const int MostElements = 200,
        LongestWord = 200,
        MostWords = 50_000;

    /// <summary>Writes a topic into its row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="topic">The topic; its parts are not written here.</param>
    /// <param name="board">What holds for all topics of the job.</param>
    /// <param name="frame">From the frame of the topic's views into the job's; null where its views did not change.</param>
    /// <param name="now">When it changed last, where the topic does not say so.</param>
    public static void Write(TopicRow row, Topic topic, TopicBoard board, Frame? frame, DateTime now)
    {
        row.Document = TopicJson.Write(topic);
        row.Title = Word(topic.Title);
        row.Words = WordsOf(topic);
        row.Type = Word(topic.Type);
        row.Status = Word(topic.Status);
        row.Priority = Word(topic.Priority);
        row.Labels = [.. topic.Labels.Select(Word).Where(l => l.Length > 0).Distinct()];
        row.Assigned = Word(topic.AssignedTo);
        row.OwedBy = board.PersonOf(row.Assigned).Party;
        if (row.OwedBy is { } party && !row.HandedTo.Contains(party))
            row.HandedTo = [.. row.HandedTo, party];
        row.Due = TopicDates.TryRead(topic.DueDate, out var due) ? DateOnly.FromDateTime(due.DateTime) : null;
        row.Author = Word(topic.CreationAuthor);
        row.CreatedAt = At(topic.CreationDate, now);
        row.ModifiedAt = At(topic.ModifiedDate ?? topic.CreationDate, now);
        bool closed = board.Settings.Closes(topic.Status);
        row.ClosedAt = closed ? row.ClosedAt ?? row.ModifiedAt : null;
        row.Closed = closed;
        row.Comments = topic.Comments.Count;
        row.LastBy = Word(topic.Comments.MaxBy(c => TopicDates.Of(c.Date))?.Author);
        row.Elements =
        [
            .. topic
                .Viewpoints.SelectMany(v => v.Info?.Selection ?? [])
                .Select(c => Word(c.IfcGuid))
                .Where(id => id.Length > 0)
                .Distinct()
                .Take(MostElements),
        ];
        row.Picture = topic.Viewpoints.FirstOrDefault(v => v.Snapshot is { Length: > 0 })?.Snapshot ?? "";
        if (frame is { } own)
            row.Place = PlaceOf(topic, own);
        row.Version++;
    }

    /// <summary>Reads a topic without its parts.</summary>
    public static Topic Read(TopicRow row) => TopicJson.Read(row.Document);

    // What a view with a camera looks at: some metres before it.
    private static double[]? PlaceOf(Topic topic, Frame frame)
    {
        foreach (var view in topic.Viewpoints)
            if (
                view.Info is { } info
                && ViewTranslation.ToDocument(ViewMove.Into(info, frame)) is { At: { } at }
                && at.All(double.IsFinite)
            )
                return [.. at];
        return null;
    }

    // Small beside the document, which the database packs: a search reads it of every topic.
    private static string WordsOf(Topic topic) =>
        StoredText
            .Clean(
                string.Join('\n', topic.Comments.Select(c => c.Text).Prepend(topic.Description).Prepend(topic.Title)),
                MostWords
            )
            .ToLowerInvariant();

    private static DateTime At(string? text, DateTime now) =>
        TopicDates.TryRead(text, out var date) ? date.UtcDateTime : now;

    private static string Word(string? text) => StoredText.Clean(text ?? "", LongestWord);
}

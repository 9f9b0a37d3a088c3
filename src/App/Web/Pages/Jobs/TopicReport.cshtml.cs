using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A report of topics with their pictures and threads: as a page to print, as PDF, as a table.</summary>
public sealed class TopicReportModel(JobAccess access, TopicQuery query, TopicPictures pictures) : JobPage(access)
{
    /// <summary>So many topics a report has.</summary>
    public const int Most = 300;

    /// <summary>Words, parties and people.</summary>
    public TopicBoard Board { get; private set; } = null!;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The topics.</summary>
    public IReadOnlyList<(TopicRow Row, Topic Topic)> Topics { get; private set; } = [];

    /// <summary>The name of a level; empty for none.</summary>
    public string LevelOf(TopicRow row) =>
        State.Schedule.Rungs.FirstOrDefault(r => r.Level is not null && r.Level == row.Level)?.Name ?? "";

    /// <summary>Shows the report.</summary>
    public Task OnGetAsync(List<int> ids) => LoadAsync(ids);

    /// <summary>Downloads it as PDF.</summary>
    public async Task<IActionResult> OnGetPdfAsync(List<int> ids)
    {
        await LoadAsync(ids);
        var entries = Topics.Select(t => new TopicPdfEntry(
            $"T-{t.Row.Number} {t.Row.Title}",
            Facts(t.Row),
            t.Topic.Description ?? "",
            [.. t.Topic.Comments.Select(Said)],
            PictureOf(t.Row, t.Topic)
        ));
        return File(
            TopicPdf.Write($"{Job.Name}: topics, {DisplayText.Day(DateTime.UtcNow)}", entries),
            "application/pdf",
            $"{Job.Code}-topics.pdf"
        );
    }

    /// <summary>Downloads it as a table.</summary>
    public async Task<IActionResult> OnGetXlsxAsync(List<int> ids)
    {
        await LoadAsync(ids);
        IReadOnlyList<object?> head =
        [
            "Topic",
            "Title",
            "Type",
            "Status",
            "Priority",
            "Owes the next answer",
            "Storey",
            "Due",
            "Labels",
            "Asked by",
            "Asked",
            "Changed",
            "Comments",
            "Last comment",
            "Elements",
        ];
        var rows = Topics.Select(t =>
            (IReadOnlyList<object?>)
                [
                    $"T-{t.Row.Number}",
                    t.Row.Title,
                    t.Row.Type,
                    t.Row.Status,
                    t.Row.Priority,
                    DisplayText.PersonName(Board, t.Row.Assigned),
                    LevelOf(t.Row),
                    t.Row.Due?.ToString("yyyy-MM-dd", null),
                    string.Join(", ", t.Row.Labels),
                    DisplayText.PersonName(Board, t.Row.Author),
                    t.Row.CreatedAt.ToString("yyyy-MM-dd", null),
                    t.Row.ModifiedAt.ToString("yyyy-MM-dd", null),
                    t.Topic.Comments.Count,
                    t.Topic.Comments.Count > 0 ? Said(t.Topic.Comments[^1]) : "",
                    string.Join(' ', t.Row.Elements),
                ]
        );
        return File(
            TableFile.WriteXlsx(rows.Prepend(head), "Topics"),
            "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            $"{Job.Code}-topics.xlsx"
        );
    }

    /// <summary>What a topic says of itself, in one line.</summary>
    public string Facts(TopicRow row) =>
        string.Join(
            " · ",
            new[]
            {
                row.Status,
                row.Type,
                row.Priority.Length > 0 ? $"priority {row.Priority}" : "",
                $"{DisplayText.PersonName(Board, row.Author)} asks {DisplayText.PersonName(Board, row.Assigned)}",
                LevelOf(row),
                row.Due is { } due ? $"due {DisplayText.Day(due)}" : "",
                string.Join(", ", row.Labels),
            }.Where(w => w.Length > 0)
        );

    private string Said(TopicComment c) =>
        $"{DisplayText.PersonName(Board, c.Author)}, {DisplayText.Time(TopicDates.Of(c.Date).UtcDateTime)}: {c.Text}";

    private byte[]? PictureOf(TopicRow row, Topic topic) =>
        topic.Parts.FirstOrDefault(p => p.Name == row.Picture) is { } part
            ? pictures.Of(part, false, HttpContext.RequestAborted)?.Bytes
            : null;

    private async Task LoadAsync(List<int> ids)
    {
        State = await StateAsync();
        Board = await query.BoardAsync(Job.Id, HttpContext.RequestAborted);
        Topics = await query.WholeAsync(
            Job.Id,
            Permissions,
            ids.Count > 0 ? new TopicFilter { State = "all" } : ResolveModel.ReadFilter(Request.Query),
            ids.Count > 0 ? ids : null,
            Most,
            HttpContext.RequestAborted
        );
    }
}

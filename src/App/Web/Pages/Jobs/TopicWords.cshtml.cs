using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Which words the job uses for its topics, and what closes them.</summary>
public sealed class TopicWordsModel(JobAccess access, TopicQuery query, TopicEditing editing) : JobPage(access)
{
    /// <summary>Words, parties and people.</summary>
    public TopicBoard Board { get; private set; } = null!;

    /// <inheritdoc/>
    protected override bool IsForCoordinators => true;

    /// <summary>Shows them.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Saves them.</summary>
    public async Task<IActionResult> OnPostAsync(
        string? types,
        string? statuses,
        string? priorities,
        string? labels,
        string? stages,
        string? closing,
        bool closes
    ) =>
        await TryAsync(
            () =>
                editing.WordsAsync(
                    Job.Id,
                    Permissions,
                    new TopicExtensions
                    {
                        Types = Lines(types),
                        Statuses = Lines(statuses),
                        Priorities = Lines(priorities),
                        Labels = Lines(labels),
                        Stages = Lines(stages),
                    },
                    new TopicSettings { Closing = Lines(closing), ClosesWhenGone = closes },
                    Actor,
                    HttpContext.RequestAborted
                ),
            "Saved.",
            LoadAsync
        );

    private static string[] Lines(string? text) =>
        (text ?? "").Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private async Task LoadAsync() => Board = await query.BoardAsync(Job.Id, HttpContext.RequestAborted);
}

using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The level schedule: the job's storeys, and which storey of each source is which of them.</summary>
public sealed class LevelsModel(JobAccess access, LevelEditing levels, JobReference reference, SettingOutQuery query)
    : JobPage(access)
{
    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The schedule as it is kept.</summary>
    public LevelDocument Document { get; private set; } = new();

    /// <summary>What each storey is called in matches.</summary>
    public IReadOnlyDictionary<(int Source, int Number), string> Keys { get; private set; } =
        new Dictionary<(int, int), string>();

    /// <summary>The level that is being changed.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Edit { get; set; }

    /// <summary>Whether the person may change the schedule.</summary>
    public bool MayChange => Permissions.MaySetOut;

    /// <summary>Shows the page.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Adds or changes a level.</summary>
    public Task<IActionResult> OnPostLevelAsync(int? id, string? name, string? elevation) =>
        ChangeAsync(
            () =>
                levels.ChangeAsync(Job.Id, id, name, elevation, ReaderUnit.Notation, Actor, HttpContext.RequestAborted),
            "The level is saved."
        );

    /// <summary>Removes a level.</summary>
    public Task<IActionResult> OnPostRemoveAsync(int id) =>
        ChangeAsync(
            () => levels.RemoveAsync(Job.Id, id, Actor, HttpContext.RequestAborted),
            "The level is removed; storeys that were on it wait for your decision, unless another level is as high."
        );

    /// <summary>Matches a storey.</summary>
    public Task<IActionResult> OnPostMatchAsync(Guid source, string? storey, int? level) =>
        ChangeAsync(
            () => levels.MatchAsync(Job.Id, source, storey ?? "", level, Actor, HttpContext.RequestAborted),
            level is null ? "Matched by elevation and name again." : "Matched."
        );

    /// <summary>Makes a source the reference of the job.</summary>
    public Task<IActionResult> OnPostReferenceAsync(Guid source) =>
        ChangeAsync(
            () => reference.ChooseAsync(Job.Id, source, Actor, HttpContext.RequestAborted),
            "It is the reference: its frame is the job's, and its storeys are the job's levels."
        );

    /// <summary>Confirms storeys that wait: one of a source, or all.</summary>
    public Task<IActionResult> OnPostConfirmAsync(Guid? source, string? storey) =>
        ChangeAsync(() => levels.ConfirmAsync(Job.Id, source, storey, Actor, HttpContext.RequestAborted), "Confirmed.");

    /// <summary>Declares an offset.</summary>
    public Task<IActionResult> OnPostOffsetAsync(Guid source, string? storey, string? offset) =>
        ChangeAsync(
            () =>
                levels.OffsetAsync(
                    Job.Id,
                    source,
                    storey,
                    offset,
                    ReaderUnit.Notation,
                    Actor,
                    HttpContext.RequestAborted
                ),
            "The offset is declared."
        );

    /// <summary>Makes the schedule of a source's storeys.</summary>
    public Task<IActionResult> OnPostFromAsync(Guid source) =>
        ChangeAsync(
            () => levels.FromSourceAsync(Job.Id, source, Actor, HttpContext.RequestAborted),
            "The schedule is made; every other source is matched to it."
        );

    private async Task<IActionResult> ChangeAsync(Func<Task> change, string done) =>
        MayChange ? await TryAsync(change, done, LoadAsync) : StatusCode(403);

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Document = await query.LevelsAsync(Job.Id, HttpContext.RequestAborted);
        Keys = LevelDocument.Keys(State.Storeys);
    }
}

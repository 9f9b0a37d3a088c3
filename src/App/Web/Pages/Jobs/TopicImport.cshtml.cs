using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What importing a topic file would do, and what somebody has to decide first.</summary>
public sealed class TopicImportModel(JobAccess access, TopicExchange exchange) : JobPage(access)
{
    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>What importing it would do.</summary>
    public TopicImportPreview Preview { get; private set; } = null!;

    /// <summary>The frame of its views: <c>auto</c>, <c>job</c> or a source.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Frame { get; set; }

    private Guid Id => Guid.Parse((string)RouteData.Values["id"]!);

    /// <summary>Shows what it would do.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        return await LoadAsync() ? Page() : NotFound();
    }

    /// <summary>Imports it.</summary>
    /// <param name="theirs">The conflicts in which the file is right.</param>
    public async Task<IActionResult> OnPostAsync(List<string> theirs)
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        string words = "";
        return await TryAsync(
            async () =>
            {
                var result = await exchange.ImportAsync(
                    await StateAsync(),
                    Permissions,
                    Id,
                    TopicFrame.Read(Frame),
                    theirs.ToHashSet(StringComparer.Ordinal),
                    Actor,
                    HttpContext.RequestAborted
                );
                words =
                    $"Imported: {DisplayText.Count(result.Added.Count, "new topic", "new topics")}, {result.Changed.Count} changed, {result.Same.Count} the same.";
            },
            "",
            async () =>
            {
                if (!await LoadAsync())
                    Response.StatusCode = 404;
            },
            $"/jobs/{Job.Code}/resolve",
            () => words
        );
    }

    /// <summary>Discards it.</summary>
    public async Task<IActionResult> OnPostDiscardAsync()
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        await exchange.DiscardAsync(Job.Id, Permissions, Id, HttpContext.RequestAborted);
        Done = "The topic file was not imported.";
        return Redirect($"/jobs/{Job.Code}/resolve");
    }

    private async Task<bool> LoadAsync()
    {
        State = await StateAsync();
        try
        {
            if (
                await exchange.PreviewAsync(State, Permissions, Id, TopicFrame.Read(Frame), HttpContext.RequestAborted)
                is not { } preview
            )
                return false;
            Preview = preview;
            return true;
        }
        catch (RefusedException)
        {
            return false;
        }
    }
}

using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>One element: what it is, what was said about it, how it came through its revisions, and what it went out with.</summary>
public sealed class ElementModel(
    JobAccess access,
    CombinedView view,
    ElementLife life,
    AmendmentQuery query,
    AmendmentEditing editing,
    TopicQuery topics
) : JobPage(access)
{
    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Topics that are about it.</summary>
    public IReadOnlyList<ShownTopic> Topics { get; private set; } = [];

    /// <summary>The GlobalId.</summary>
    public string Id { get; private set; } = "";

    /// <summary>The element in the newest revisions: one, where GlobalIds are as the standard has them.</summary>
    public IReadOnlyList<(SourceState Source, PickedElement Picked)> Found { get; private set; } = [];

    /// <summary>All that was ever said about it, the newest first.</summary>
    public IReadOnlyList<ShownAmendment> Amendments { get; private set; } = [];

    /// <summary>The revisions that have it.</summary>
    public IReadOnlyList<ElementRevision> Revisions { get; private set; } = [];

    /// <summary>The transmittals of revisions that have it.</summary>
    public IReadOnlyList<ElementTransmittal> Transmittals { get; private set; } = [];

    /// <summary>Shows the element.</summary>
    public async Task<IActionResult> OnGetAsync(string id)
    {
        await LoadAsync(id);
        return Found.Count + Amendments.Count + Revisions.Count > 0 ? Page() : NotFound();
    }

    /// <summary>What its file says that is not stored.</summary>
    public async Task<IActionResult> OnGetFileAsync(string id)
    {
        State = await StateAsync();
        var found = await life.FindAsync(State, id, HttpContext.RequestAborted);
        if (found.Count == 0 || !MaySeeFiles(found[0].Source.Source.PartyId))
            return NotFound();
        return Partial(
            "_ElementFile",
            await life.FileAsync(found[0].Source.Latest!.Id, id, HttpContext.RequestAborted)
        );
    }

    /// <summary>Amends the element.</summary>
    public async Task<IActionResult> OnPostAmendAsync(string id, Amendment amendment, string? why, bool ask)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        State = await StateAsync();
        var found = await life.FindAsync(State, id, HttpContext.RequestAborted);
        if (found.Count == 0)
            return NotFound();
        var source = found[0].Source.Source.Id;
        var said = amendment with { Element = id };
        var known = await query.InForceAsync(source, HttpContext.RequestAborted);
        (int made, int asked) = (0, 0);
        return await TryAsync(
            async () =>
                (made, asked) = await editing.SaveAsync(
                    Job.Id,
                    Permissions,
                    [new AmendmentWish(source, said, known.TryGetValue(said.Subject, out var over) ? over : null)],
                    null,
                    why,
                    Actor,
                    ask,
                    HttpContext.RequestAborted
                ),
            "",
            () => LoadAsync(id),
            $"/jobs/{Job.Code}/elements/{Uri.EscapeDataString(id)}",
            () => asked > 0 ? "The amendment is requested from the owning party." : "The amendment is in force."
        );
    }

    private async Task LoadAsync(string id)
    {
        (Id, State) = (id, await StateAsync());
        var found = new List<(SourceState, PickedElement)>();
        foreach (var (source, number) in await life.FindAsync(State, id, HttpContext.RequestAborted))
            if (
                await DeliveryAsync(source.Latest!.Id) is { } delivery
                && await view.ElementAsync(delivery, number, HttpContext.RequestAborted) is { } picked
            )
                found.Add((source, picked));
        Found = found;
        Amendments = await query.OfElementAsync(Job.Id, id, HttpContext.RequestAborted);
        (Topics, _) = await topics.ListAsync(
            Job.Id,
            Permissions,
            new TopicFilter { State = "all", Element = id },
            TopicQuery.Most,
            HttpContext.RequestAborted
        );
        Revisions = await life.RevisionsAsync(Job.Id, id, HttpContext.RequestAborted);
        Transmittals = await life.TransmittalsAsync(State, id, HttpContext.RequestAborted);
    }
}

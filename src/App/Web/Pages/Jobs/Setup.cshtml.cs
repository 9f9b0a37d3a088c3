using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What a job is made of: its name, parties and sources.</summary>
public sealed class SetupModel(JobAccess access, JobSetup setup, HeldDeliveries held, DeliveryQuery query)
    : JobPage(access)
{
    /// <summary>The parties, by code.</summary>
    public IReadOnlyList<Party> Parties { get; private set; } = [];

    /// <summary>The sources with how many revisions each has, by party and name.</summary>
    public IReadOnlyList<(Source Source, int Revisions)> Sources { get; private set; } = [];

    /// <summary>The party or source that is being changed.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Edit { get; set; }

    /// <inheritdoc/>
    protected override bool IsForCoordinators => true;

    /// <inheritdoc/>
    protected override bool ChangesArchived => true;

    /// <summary>Shows the set-up.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Changes the job's own words.</summary>
    public Task<IActionResult> OnPostJobAsync(string? name, string? description, bool shares) =>
        TryAsync(
            () => setup.ChangeAsync(Job.Id, name, description, shares, Actor, HttpContext.RequestAborted),
            "Saved.",
            LoadAsync
        );

    /// <summary>When deliveries are held.</summary>
    public Exchange.DeliveryLimits Limits => JobSettings.Read(Job.Settings).Deliveries;

    /// <summary>Sets when deliveries are held.</summary>
    /// <param name="lost">How many of a hundred elements may be gone.</param>
    /// <param name="size">How many elements a class had to have.</param>
    /// <param name="storeys">Whether a storey that is gone holds a delivery.</param>
    /// <param name="errors">Whether errors of reading do.</param>
    public Task<IActionResult> OnPostLimitsAsync(double lost, int size, bool storeys, bool errors) =>
        TryAsync(
            () =>
                held.SetLimitsAsync(
                    Job.Id,
                    new Exchange.DeliveryLimits
                    {
                        LostShare = lost / 100,
                        ClassSize = size,
                        Storeys = storeys,
                        Errors = errors,
                    },
                    Actor,
                    HttpContext.RequestAborted
                ),
            "Saved: it holds for deliveries from now on.",
            LoadAsync
        );

    /// <summary>The smallest part of an inch that lengths are shown in.</summary>
    public int InchParts => JobSettings.Read(Job.Settings).InchParts;

    /// <summary>Sets it.</summary>
    public Task<IActionResult> OnPostInchesAsync(int parts) =>
        TryAsync(() => setup.InchesAsync(Job.Id, parts, Actor, HttpContext.RequestAborted), "Saved.", LoadAsync);

    /// <summary>Adds or changes a party.</summary>
    public Task<IActionResult> OnPostPartyAsync(Guid? id, Party party) =>
        TryAsync(
            () => setup.PartyAsync(Job.Id, id, party, Actor, HttpContext.RequestAborted),
            $"{party.Code?.ToUpperInvariant()} is saved.",
            LoadAsync
        );

    /// <summary>Removes a party.</summary>
    public Task<IActionResult> OnPostRemovePartyAsync(Guid id) =>
        TryAsync(
            () => setup.RemovePartyAsync(Job.Id, id, Actor, HttpContext.RequestAborted),
            "The party is removed.",
            LoadAsync
        );

    /// <summary>Adds or changes a source.</summary>
    public Task<IActionResult> OnPostSourceAsync(Guid? id, Source source) =>
        TryAsync(
            () => setup.SourceAsync(Job.Id, id, source, Actor, HttpContext.RequestAborted),
            $"{source.Name} is saved.",
            LoadAsync
        );

    /// <summary>Retires a source, or takes it back.</summary>
    public Task<IActionResult> OnPostRetireAsync(Guid id, bool retired) =>
        TryAsync(
            () => setup.RetireAsync(Job.Id, id, retired, Actor, HttpContext.RequestAborted),
            retired ? "The source is out of use; its deliveries are still stored." : "The source is in use again.",
            LoadAsync
        );

    /// <summary>Puts the job away, or brings it back.</summary>
    public Task<IActionResult> OnPostArchiveAsync(bool away) =>
        TryAsync(
            () => setup.ArchiveAsync(Job.Id, away, Actor, HttpContext.RequestAborted),
            away ? "The job is archived: everything can be read, nothing can be changed." : "The job is back.",
            LoadAsync
        );

    /// <summary>Deletes the job.</summary>
    public Task<IActionResult> OnPostDeleteAsync(string? typed) =>
        TryAsync(
            () => setup.DeleteAsync(Job.Id, typed, Actor, HttpContext.RequestAborted),
            $"{Job.Name} is deleted.",
            LoadAsync,
            "/"
        );

    private async Task LoadAsync()
    {
        Parties = [.. Job.Parties.OrderBy(p => p.Code, StringComparer.Ordinal)];
        Sources = await query.AllSourcesAsync(Job.Id, HttpContext.RequestAborted);
    }
}

using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Receiving: files arrive in pieces, so that a lost connection or a restarted server costs one piece.</summary>
public sealed class ReceiveModel(JobAccess access, Receiving receiving, SourceLocks locks, DeliveryQuery query)
    : JobPage(access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "deliver";

    private const int Shown = 60;

    /// <summary>The steps of a delivery that are shown.</summary>
    public static readonly DeliveryState[] Steps =
    [
        DeliveryState.Received,
        DeliveryState.Indexing,
        DeliveryState.Reading,
        DeliveryState.Shaping,
        DeliveryState.Storing,
    ];

    /// <summary>The job's deliveries, newest first.</summary>
    public IReadOnlyList<Delivery> Deliveries { get; private set; } = [];

    /// <summary>The job's sources.</summary>
    public IReadOnlyList<Source> Sources { get; private set; } = [];

    /// <summary>Parties the member may deliver for.</summary>
    public IReadOnlyList<Party> DeliverFor => [.. Job.Parties.Where(p => MayDeliver(p.Id)).OrderBy(p => p.Code)];

    /// <summary>The name to suggest.</summary>
    public string FirstSource => Sources.FirstOrDefault(s => s.PartyId == DeliverFor[0].Id)?.Name ?? "";

    /// <summary>The sources in use with where each is, in the order asked for.</summary>
    public IReadOnlyList<SourceLine> Lines { get; private set; } = [];

    /// <summary>What the list of sources is sorted by: <c>party</c>, <c>state</c>, <c>received</c> or <c>lock</c>.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Sort { get; set; }

    /// <summary>Locks a source, so that nobody else delivers for it.</summary>
    public async Task<IActionResult> OnPostLockAsync(Guid source, string? why)
    {
        if (await RefusalAsync(source) is { } refusal)
            return refusal;
        return await TryAsync(
            () => locks.LockAsync(Job.Id, source, why, Actor, HttpContext.RequestAborted),
            "The source is locked: until you unlock it, nobody else can deliver for it.",
            OnGetAsync
        );
    }

    /// <summary>Opens a source; a coordinator breaks the lock of somebody else, and the record says so.</summary>
    public async Task<IActionResult> OnPostUnlockAsync(Guid source)
    {
        if (await RefusalAsync(source) is { } refusal)
            return refusal;
        return await TryAsync(
            () => locks.UnlockAsync(Job.Id, source, Permissions.MayBreakLocks, Actor, HttpContext.RequestAborted),
            "The source is unlocked.",
            OnGetAsync
        );
    }

    /// <summary>Who is looking.</summary>
    public Guid Self => Actor.User;

    private async Task<IActionResult?> RefusalAsync(Guid source) =>
        await query.PartyOfAsync(Job.Id, source, HttpContext.RequestAborted) is not { } party
            ? IsCoordinator
                ? NotFound()
                : StatusCode(403)
            : MayDeliver(party)
                ? null
                : StatusCode(403);

    /// <summary>Shows the page.</summary>
    public async Task OnGetAsync()
    {
        Lines = await query.LinesAsync(Job.Id, Sort, HttpContext.RequestAborted);
        Sources = await query.SourcesAsync(Job.Id, HttpContext.RequestAborted);
        await LoadAsync();
    }

    /// <summary>Shows the list alone.</summary>
    public async Task<IActionResult> OnGetListAsync()
    {
        await LoadAsync();
        return Partial("_Deliveries", this);
    }

    /// <summary>The originals of all newest revisions that the member may see, in one archive.</summary>
    public async Task<IActionResult> OnGetOriginalsAsync()
    {
        var state = await StateAsync();
        if (!NewestOriginals.Any(state, MaySeeFiles))
            return NotFound();
        Response.ContentType = "application/zip";
        Response.Headers.ContentDisposition = new System.Net.Http.Headers.ContentDispositionHeaderValue("attachment")
        {
            FileNameStar = $"{Job.Code}-originals.zip",
        }.ToString();
        // The archive writes the heads of its entries without waiting.
        HttpContext.Features.Get<Microsoft.AspNetCore.Http.Features.IHttpBodyControlFeature>()!.AllowSynchronousIO =
            true;
        await query.WriteNewestAsync(state, MaySeeFiles, Response.Body, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    /// <summary>The party and source that a file is likely for.</summary>
    /// <param name="fileName">The file's name.</param>
    /// <param name="project">The GlobalId of its IfcProject, where its head has one.</param>
    public async Task<IActionResult> OnGetSuggestAsync(string? fileName, string? project)
    {
        var found = await query.SuggestAsync(
            Job.Id,
            DeliverFor,
            InputRules.Of(fileName, "The file's name", 1000, false),
            project,
            Actor.User,
            HttpContext.RequestAborted
        );
        return new JsonResult(
            found is null
                ? null
                : new
                {
                    found.Party,
                    found.Source,
                    found.Why,
                    found.Sure,
                }
        );
    }

    /// <summary>Begins a delivery, or goes on with one that was interrupted.</summary>
    /// <param name="party">The party.</param>
    /// <param name="source">The source's name.</param>
    /// <param name="fileName">The file's name.</param>
    /// <param name="length">Its length, bytes.</param>
    /// <param name="ask">Whether the person is asked before a file of the other kind gets a source of its own.</param>
    /// <returns>Its identity, and the SHA-256 of each piece that is here.</returns>
    public async Task<IActionResult> OnPostBeginAsync(
        Guid party,
        string? source,
        string? fileName,
        long length,
        bool ask
    )
    {
        if (Job.Parties.FirstOrDefault(p => p.Id == party) is not { } found || !MayDeliver(party))
            return Refuse(403, "You may not deliver for this party.");
        return await GuardAsync(async () =>
        {
            var delivery = await receiving.BeginAsync(
                found,
                source,
                fileName,
                length,
                Actor,
                CancellationToken.None,
                !ask
            );
            return new JsonResult(new { id = delivery.Id, held = await query.HeldAsync(delivery) });
        });
    }

    /// <summary>Takes one piece; its body is the bytes.</summary>
    public async Task<IActionResult> OnPostPieceAsync(Guid id, int number)
    {
        if (await ArrivingAsync(id) is not { } delivery)
            return Refuse(404, "This delivery is not waiting for bytes.");
        return await GuardAsync(async () =>
        {
            await receiving.PieceAsync(
                delivery,
                number,
                Request.ContentLength,
                bytes => Request.Body.ReadAtLeastAsync(bytes, bytes.Length, false, HttpContext.RequestAborted).AsTask(),
                HttpContext.RequestAborted
            );
            return new OkResult();
        });
    }

    /// <summary>Ends a delivery and queues it for reading.</summary>
    public async Task<IActionResult> OnPostCompleteAsync(Guid id)
    {
        if (await DeliveryAsync(id) is not { } delivery || !MayDeliver(delivery.Source.PartyId))
            return Refuse(404, "There is no such delivery.");
        // Asked again because the answer got lost: what was asked for has been done.
        if (delivery.State is not (DeliveryState.Receiving or DeliveryState.Cancelled))
            return new OkResult();
        if (delivery.State == DeliveryState.Cancelled)
            return Refuse(404, "This delivery is not waiting for bytes.");
        return await GuardAsync(async () =>
        {
            await receiving.CompleteAsync(delivery, CancellationToken.None);
            return new OkResult();
        });
    }

    /// <summary>Cancels a delivery.</summary>
    public async Task<IActionResult> OnPostCancelAsync(Guid id)
    {
        if (await DeliveryAsync(id) is not { } delivery)
            return NotFound();
        if (!MayDeliver(delivery.Source.PartyId))
            return Refuse(403, "You may not cancel this delivery.");
        await receiving.CancelAsync(delivery, Actor, CancellationToken.None);
        return await OnGetListAsync();
    }

    private static async Task<IActionResult> GuardAsync(Func<Task<IActionResult>> act)
    {
        try
        {
            return await act();
        }
        catch (AskedException e)
        {
            return Refuse(StatusCodes.Status428PreconditionRequired, e.Message);
        }
        catch (RefusedException e)
        {
            return Refuse(Status(e.Kind), e.Message);
        }
    }

    private async Task<Delivery?> ArrivingAsync(Guid id) =>
        await DeliveryAsync(id) is { State: DeliveryState.Receiving } delivery && MayDeliver(delivery.Source.PartyId)
            ? delivery
            : null;

    private static ContentResult Refuse(int status, string sentence) =>
        new()
        {
            StatusCode = status,
            Content = sentence,
            ContentType = "text/plain",
        };

    private async Task LoadAsync()
    {
        Deliveries = await query.NewestAsync(
            Job.Id,
            MaySeeFiles(Guid.Empty) ? null : Member.PartyId ?? Guid.Empty,
            Shown,
            HttpContext.RequestAborted
        );
    }
}

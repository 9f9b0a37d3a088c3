using System.Text;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What waits for a decision, what is said beside the files, and who may say what.</summary>
[RequestSizeLimit(16 << 20)]
public sealed class AmendmentsModel(
    JobAccess access,
    AmendmentQuery query,
    AmendmentEditing editing,
    JobLibrary library
) : JobPage(access)
{
    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Amendments that wait for a decision or an answer.</summary>
    public IReadOnlyList<ShownAmendment> Waiting { get; private set; } = [];

    /// <summary>Amendments in force, newest first.</summary>
    public IReadOnlyList<ShownAmendment> Holding { get; private set; } = [];

    /// <summary>How many are in force, by source.</summary>
    public IReadOnlyDictionary<Guid, int> Counts { get; private set; } = new Dictionary<Guid, int>();

    /// <summary>The job's property set templates.</summary>
    public IReadOnlyList<string> Templates { get; private set; } = [];

    /// <summary>The source whose amendments are listed; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Source { get; set; }

    /// <summary>Whether the person may say who amends a source.</summary>
    public bool MayProtect(Source source) => Permissions.MayAnswerFor(source.PartyId) || IsCoordinator;

    /// <summary>Shows the page.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Decides about amendments.</summary>
    /// <param name="ids">Which.</param>
    /// <param name="how"><c>theirs</c>, <c>ours</c> or <c>withdraw</c>.</param>
    /// <param name="back">Where to go afterwards, within the job; null for this page.</param>
    public async Task<IActionResult> OnPostDecideAsync(List<Guid> ids, string? how, string? back)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        return await TryAsync(
            () =>
                how switch
                {
                    "theirs" => editing.TakeTheirsAsync(Job.Id, Permissions, ids, Actor, HttpContext.RequestAborted),
                    "ours" => editing.KeepOursAsync(Job.Id, Permissions, ids, Actor, HttpContext.RequestAborted),
                    "withdraw" => editing.WithdrawAsync(Job.Id, Permissions, ids, Actor, HttpContext.RequestAborted),
                    _ => throw new RefusedException(RefusalKind.Wrong, "Choose what to do."),
                },
            how switch
            {
                "theirs" => "The sender's value is taken.",
                "ours" => "The amendment is in force over the newest revision.",
                _ => "The amendment is withdrawn.",
            },
            LoadAsync,
            back?.StartsWith($"/jobs/{Job.Code}/", StringComparison.Ordinal) == true ? back : null
        );
    }

    /// <summary>Answers requests.</summary>
    /// <param name="ids">Which.</param>
    /// <param name="accept">Whether they are accepted.</param>
    public async Task<IActionResult> OnPostAnswerAsync(List<Guid> ids, bool accept)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        return await TryAsync(
            () =>
                accept
                    ? editing.AcceptAsync(Job.Id, Permissions, ids, Actor, HttpContext.RequestAborted)
                    : editing.RejectAsync(Job.Id, Permissions, ids, Actor, HttpContext.RequestAborted),
            accept ? "Accepted: the amendments are in force." : "The requests are rejected.",
            LoadAsync
        );
    }

    /// <summary>Says who may amend a source.</summary>
    public async Task<IActionResult> OnPostProtectAsync(Guid id, string? party, string? coordinator, string? others)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        return await TryAsync(
            () =>
                editing.ProtectAsync(
                    Job.Id,
                    Permissions,
                    id,
                    new SourceProtection
                    {
                        Party = party ?? "",
                        Coordinator = coordinator ?? "",
                        Others = others ?? "",
                    },
                    Actor,
                    HttpContext.RequestAborted
                ),
            "Saved.",
            LoadAsync
        );
    }

    /// <summary>The amendments of a source as a document.</summary>
    public async Task<IActionResult> OnGetFileAsync(Guid source)
    {
        State = await StateAsync();
        if (State.Sources.FirstOrDefault(s => s.Source.Id == source) is not { } of)
            return NotFound();
        var document = await query.DocumentAsync(Job.Id, source, HttpContext.RequestAborted);
        return File(
            Encoding.UTF8.GetBytes(document.Write()),
            "application/json",
            $"{LayerNames.Clean(of.Title)}-amendments.json"
        );
    }

    /// <summary>Imports amendments of a source from a document.</summary>
    public async Task<IActionResult> OnPostImportAsync(Guid source, IFormFile? file)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        int made = 0;
        return await TryAsync(
            async () =>
            {
                if (file is null)
                    throw new RefusedException(RefusalKind.Wrong, "Choose the file to import.");
                using var reader = new StreamReader(file.OpenReadStream());
                try
                {
                    var document = AmendmentDocument.Read(await reader.ReadToEndAsync(HttpContext.RequestAborted));
                    var known = await query.InForceAsync(source, HttpContext.RequestAborted);
                    (made, _) = await editing.SaveAsync(
                        Job.Id,
                        Permissions,
                        [
                            .. AmendmentDocument
                                .Effective(document.Amendments)
                                .Select(a => new AmendmentWish(
                                    source,
                                    a,
                                    known.TryGetValue(a.Subject, out var id) ? id : null
                                )),
                        ],
                        null,
                        $"imported from {file.FileName}",
                        Actor,
                        false,
                        HttpContext.RequestAborted
                    );
                }
                catch (OrderException e)
                {
                    throw new RefusedException(RefusalKind.Wrong, $"Nothing was saved. {e.Message}");
                }
            },
            "",
            LoadAsync,
            null,
            () => $"{DisplayText.Count(made, "amendment is", "amendments are")} in force."
        );
    }

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Waiting = await query.WaitingAsync(Job.Id, HttpContext.RequestAborted);
        Holding = await query.HoldingAsync(Job.Id, Source, HttpContext.RequestAborted);
        Counts = await query.CountsAsync(Job.Id, HttpContext.RequestAborted);
        Templates =
        [
            .. (await library.ListAsync(Job.Id, HttpContext.RequestAborted))
                .Where(i => i.Kind == LibraryKind.Template)
                .Select(i => i.Name),
        ];
    }
}

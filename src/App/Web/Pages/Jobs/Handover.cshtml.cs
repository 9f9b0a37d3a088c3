using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>An order in the list.</summary>
public sealed record OrderLine(
    int Number,
    string Title,
    string To,
    string Form,
    DateTime SavedAt,
    Transmittal? Last,
    bool Every,
    IReadOnlyList<string> Stale
);

/// <summary>The orders of a job.</summary>
public sealed class HandoverModel(JobAccess access, Orders orders, TransmittalIssue handing, OrderQuery query)
    : JobPage(access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "handover";

    /// <summary>The orders, newest first.</summary>
    public IReadOnlyList<OrderLine> Lines { get; private set; } = [];

    /// <summary>Lists the orders.</summary>
    public async Task OnGetAsync()
    {
        var rows = await query.ListAsync(await StateAsync(), HttpContext.RequestAborted);
        Lines =
        [
            .. rows.Select(r => (Row: r, Stored: StoredOrder.Read(r.Order.Spec)))
                .Select(p => new OrderLine(
                    p.Row.Order.Number,
                    p.Row.Order.Title,
                    p.Stored.Document.To,
                    p.Stored.Problem is null
                        ? OrderWords.FormName(OrderWords.FormOf(p.Stored.Document.Into))
                        : "cannot be read",
                    p.Row.Order.SavedAt,
                    p.Row.Last,
                    p.Stored.Document.Every is not null,
                    p.Row.Stale
                )),
        ];
        Waiting = IsCoordinator ? await handing.UnconfirmedAsync(Job.Id, Job.Parties, HttpContext.RequestAborted) : [];
    }

    /// <summary>Released transmittals that the recipient has not confirmed, oldest first.</summary>
    public IReadOnlyList<Unconfirmed> Waiting { get; private set; } = [];

    /// <summary>The orders by whom they are for, as the job's parties are in their list; those for nobody named last.</summary>
    public IEnumerable<(string To, IReadOnlyList<OrderLine> Lines)> Folders =>
        Lines
            .GroupBy(
                l =>
                    Job.Parties.FirstOrDefault(p => TransmittalIssue.IsFor(l.To, p)) is { } party
                        ? $"{party.Code} {party.Name}".Trim()
                        : l.To.Trim(),
                StringComparer.OrdinalIgnoreCase
            )
            .OrderBy(g => g.Key.Length == 0)
            .ThenBy(g => g.Key, StringComparer.OrdinalIgnoreCase)
            .Select(g => (g.Key, (IReadOnlyList<OrderLine>)[.. g]));

    /// <summary>Brings a deleted order back.</summary>
    public async Task<IActionResult> OnPostRestoreAsync(int number) =>
        !MayHandOver
            ? StatusCode(403)
            : await TryAsync(
                () => orders.DeleteAsync(Job.Id, number, true, Actor, HttpContext.RequestAborted),
                "The order is restored.",
                OnGetAsync
            );

    /// <summary>Runs all orders that are stale.</summary>
    public async Task<IActionResult> OnPostStaleAsync()
    {
        if (!MayHandOver)
            return StatusCode(403);
        var (started, refused) = await orders.RunStaleAsync(Job.Id, Actor, HttpContext.RequestAborted);
        Done =
            $"{DisplayText.Count(started, "order is", "orders are")} running."
            + (refused.Count == 0 ? "" : " " + string.Join(" ", refused));
        return Redirect($"/jobs/{Job.Code}/handover");
    }

    /// <summary>Makes an order for everything and opens it.</summary>
    public async Task<IActionResult> OnPostNewAsync()
    {
        if (!MayHandOver)
            return StatusCode(403);
        int number = await orders.CreateAsync(Job.Id, Actor, HttpContext.RequestAborted);
        return Redirect($"/jobs/{Job.Code}/handover/{number}");
    }
}

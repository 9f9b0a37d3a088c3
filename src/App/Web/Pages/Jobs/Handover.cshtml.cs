using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>An order in the list.</summary>
public sealed record OrderLine(int Number, string Title, string To, string Form, DateTime SavedAt, Transmittal? Last, bool Every,
    IReadOnlyList<string> Stale);

/// <summary>The orders of a job.</summary>
public sealed class HandoverModel(LintelDb db, JobAccess access, Orders orders) : JobPage(db, access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "handover";

    /// <summary>The orders, newest first.</summary>
    public IReadOnlyList<OrderLine> Lines { get; private set; } = [];

    /// <summary>Lists the orders.</summary>
    public async Task OnGetAsync()
    {
        var state = await StateAsync();
        var rows = await Db.Orders.AsNoTracking().Where(o => o.JobId == Job.Id).OrderByDescending(o => o.Number)
            .Select(o => new
            {
                Order = o,
                Last = o.Transmittals.OrderByDescending(t => t.Number)
            .Select(t => new Transmittal
            {
                Number = t.Number,
                RanAt = t.RanAt,
                State = t.State,
                Balanced = t.Balanced,
                SignedBy = t.SignedBy,
                Revisions = t.Revisions
            }).FirstOrDefault()
            }).ToListAsync(HttpContext.RequestAborted);
        var stale = await Staleness.OfAsync(Db, state, HttpContext.RequestAborted);
        Lines = [.. rows.Select(r => (Row: r, Document: OrderDocument.Read(r.Order.Spec))).Select(p => new OrderLine(p.Row.Order.Number,
            p.Row.Order.Title, p.Document.To, OrderWords.FormName(DrawingForms.WordOf(p.Document.Into)), p.Row.Order.SavedAt, p.Row.Last,
            p.Document.Every is not null, stale.GetValueOrDefault(p.Row.Order.Id, [])))];
    }

    /// <summary>Runs all orders that are stale.</summary>
    public async Task<IActionResult> OnPostStaleAsync()
    {
        if (!MayHandOver) return StatusCode(403);
        var (started, refused) = await orders.RunStaleAsync(Job.Id, Actor, HttpContext.RequestAborted);
        Done = $"{Say.Count(started, "order is", "orders are")} under way." + (refused.Count == 0 ? "" : " " + string.Join(" ", refused));
        return Redirect($"/jobs/{Job.Code}/handover");
    }

    /// <summary>Makes an order for everything and opens it.</summary>
    public async Task<IActionResult> OnPostNewAsync()
    {
        if (!MayHandOver) return StatusCode(403);
        int number = await orders.CreateAsync(Job.Id, Actor, HttpContext.RequestAborted);
        return Redirect($"/jobs/{Job.Code}/handover/{number}");
    }
}

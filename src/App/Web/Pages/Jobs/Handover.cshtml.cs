using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>An order in the list.</summary>
public sealed record OrderLine(int Number, string Title, string Form, DateTime SavedAt, Transmittal? Last, bool Stale);

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
        var state = await JobState.LoadAsync(Db, Job.Id, HttpContext.RequestAborted);
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
                Revisions = t.Revisions
            }).FirstOrDefault()
            }).ToListAsync(HttpContext.RequestAborted);
        Lines =
            [.. rows.Select(r => new OrderLine(r.Order.Number, r.Order.Title,
                OrderModel.FormName(DrawingForms.WordOf(OrderDocument.Read(r.Order.Spec).Into)), r.Order.SavedAt, r.Last,
                    r.Last?.Revisions.Any(d => !state.Newest.Contains(d)) == true))];
    }

    /// <summary>Makes an order for everything and opens it.</summary>
    public async Task<IActionResult> OnPostNewAsync()
    {
        if (!MayHandOver) return StatusCode(403);
        int number = await orders.CreateAsync(Job.Id, Actor, HttpContext.RequestAborted);
        return Redirect($"/jobs/{Job.Code}/handover/{number}");
    }
}

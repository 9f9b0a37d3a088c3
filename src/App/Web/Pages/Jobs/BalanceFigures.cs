using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The figures of some rows of a transmittal's balance.</summary>
/// <param name="Page">The order's page.</param>
/// <param name="Run">The transmittal.</param>
/// <param name="Storey">The storey they are of; null for all.</param>
/// <param name="Class">The class they are of; null for all.</param>
/// <param name="Rows">The rows.</param>
public sealed record BalanceFigures(
    OrderModel Page,
    Transmittal Run,
    string? Storey,
    string? Class,
    IReadOnlyList<ReconciliationRow> Rows
)
{
    /// <summary>In, left out, written, found again, unaccounted: the account whose elements each opens, and how it is shown.</summary>
    public IEnumerable<(string Account, int Count, string State)> Cells
    {
        get
        {
            int unaccounted = Rows.Sum(r => r.Unaccounted);
            return
            [
                ("in", Rows.Sum(r => r.In), ""),
                ("left", Rows.Sum(r => r.LeftOut), ""),
                ("written", Rows.Sum(r => r.Written), ""),
                ("written", Rows.Sum(r => r.Found), ""),
                ("unaccounted", unaccounted, unaccounted == 0 ? "ok" : "error"),
            ];
        }
    }
}

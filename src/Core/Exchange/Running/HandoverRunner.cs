using System.Security.Cryptography;

namespace SteadyLintel.Exchange;

/// <summary>Carries out orders: writes the files, reads them again, and balances.</summary>
public static class HandoverRunner
{
    /// <summary>Runs an order.</summary>
    /// <param name="order">The order.</param>
    /// <param name="sources">The models.</param>
    /// <param name="job">The job's code, for names; may be empty.</param>
    /// <param name="timeStamp">The time to put in headers, ISO 8601.</param>
    /// <param name="target">Where files go.</param>
    /// <param name="levels">The job's level schedule; null to match the storeys of these sources.</param>
    /// <param name="progress">Told what is going on: a text and the share done.</param>
    /// <param name="cancel">Stops between elements.</param>
    /// <param name="drawings">The drawings that go beside the models, where the order has any; null for none.</param>
    /// <exception cref="OrderException">The order cannot be carried out.</exception>
    public static HandoverResult Run(HandoverOrder order, IReadOnlyList<HandoverSource> sources, string job, string timeStamp,
        IFileSet target, LevelSchedule? levels = null, Action<string, double>? progress = null, CancellationToken cancel = default,
        IReadOnlyList<HandoverDrawing>? drawings = null)
    {
        if (!order.Models) sources = [];
        drawings = order.Drawings is null ? [] : drawings ?? [];
        DrawingHandover.Check(order, drawings);
        var plan = HandoverPlan.Of(order, sources, levels);
        var names = new FileNames(order.NameTemplate, job, order.Unit?.Code ?? "", order.To, timeStamp.Split('T')[0]);
        var form = Target.Of(order);
        var reconciler = new Reconciler(plan, form.NewLedger(plan));
        progress?.Invoke("writing", 0);
        var written = form.Write(plan, names, timeStamp, target, reconciler, cancel);
        progress?.Invoke("reading again", 0.5);
        foreach (var file in written)
        {
            cancel.ThrowIfCancellationRequested();
            reconciler.Read(file, target.Read(file.Name), cancel);
        }

        var sheets = new List<(HandoverFile File, DrawingBalance Balance)>();
        foreach (var drawing in drawings)
        {
            progress?.Invoke($"drawing {drawing.Label}", 0.8 + (0.15 * sheets.Count / drawings.Count));
            sheets.Add(DrawingHandover.Write(order, drawing, names, target, cancel));
        }

        progress?.Invoke("balancing", 0.95);
        var files = written.Select(w =>
        {
            var bytes = target.Read(w.Name);
            return new HandoverFile(w.Name, bytes.Length, Convert.ToHexStringLower(SHA256.HashData(bytes.Span)), w.Elements.Count);
        });
        return new HandoverResult([.. files, .. sheets.Select(s => s.File)], reconciler.Balance())
        {
            Drawings = [.. sheets.Select(s => s.Balance)],
        };
    }
}

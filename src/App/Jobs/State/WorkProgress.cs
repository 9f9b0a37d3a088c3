using System.Diagnostics;

namespace SteadyLintel.Jobs;

/// <summary>Tells the database how far long work is, seldom enough not to slow it, and hears there whether to stop.</summary>
/// <param name="report">Stores step and share; returns whether somebody asked to stop.</param>
/// <param name="stopping">The process is ending.</param>
internal sealed class WorkProgress(Func<string, double, bool> report, CancellationToken stopping) : IDisposable
{
    private static readonly TimeSpan Interval = TimeSpan.FromMilliseconds(400);
    private readonly CancellationTokenSource _cancel = CancellationTokenSource.CreateLinkedTokenSource(stopping);
    private readonly Stopwatch _since = new();
    private string _step = "";

    /// <summary>Cancelled when somebody asked to stop, or the process is ending.</summary>
    public CancellationToken Token => _cancel.Token;

    /// <summary>Whether somebody asked to stop.</summary>
    public bool Asked { get; private set; }

    /// <summary>Reports a step and how much of it is done.</summary>
    public void At(string step, double share)
    {
        if (step == _step && _since.IsRunning && _since.Elapsed < Interval) return;
        _step = step;
        _since.Restart();
        if (report(step, share))
        {
            Asked = true;
            _cancel.Cancel();
        }

        _cancel.Token.ThrowIfCancellationRequested();
    }

    /// <inheritdoc/>
    public void Dispose() => _cancel.Dispose();
}

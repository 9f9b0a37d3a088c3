using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Tells the database once a second that work is alive and how far it is, and hears there whether to stop. It does so by itself,
/// whatever the work is at.</summary>
public sealed class WorkProgress : IDisposable
{
    private static readonly TimeSpan Interval = TimeSpan.FromMilliseconds(500);

    private readonly CancellationTokenSource _cancel;
    private readonly Func<string, double, bool?> _beat;
    private readonly Timer _timer;
    private readonly Lock _beating = new();
    private volatile string _step = "";
    private double _share;

    /// <param name="beat">Stores step and share; returns whether somebody asked to stop, null when the work is another's.</param>
    /// <param name="stopping">The process is ending.</param>
    internal WorkProgress(Func<string, double, bool?> beat, CancellationToken stopping)
    {
        _beat = beat;
        _cancel = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        _timer = new Timer(_ => Beat(), null, Interval, Interval);
    }

    /// <summary>Cancelled when somebody asked to stop, the work is another's, or the process is ending.</summary>
    public CancellationToken Token => _cancel.Token;

    /// <summary>Whether somebody asked to stop.</summary>
    public bool Asked { get; private set; }

    /// <summary>Notes a step and how much of it is done.</summary>
    /// <exception cref="OperationCanceledException">Somebody asked to stop.</exception>
    public void At(string step, double share)
    {
        bool next = step != _step;
        _step = step;
        Volatile.Write(ref _share, share);
        if (next)
            Beat();
        _cancel.Token.ThrowIfCancellationRequested();
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _timer.Dispose();
        _cancel.Dispose();
    }

    private void Beat()
    {
        if (_step.Length == 0 || !_beating.TryEnter())
            return;
        try
        {
            bool? asked = _beat(_step, Volatile.Read(ref _share));
            if (asked == false)
                return;
            Asked |= asked == true;
            _cancel.Cancel();
        }
        catch (Exception e)
            when (e
                    is System.Data.Common.DbException
                        or InvalidOperationException
                        or TimeoutException
                        or ObjectDisposedException
            )
        {
            // The database is away for a moment; the next beat tries again, and the lease decides whose the work is.
        }
        finally
        {
            _beating.Exit();
        }
    }
}

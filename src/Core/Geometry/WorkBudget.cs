namespace SteadyLintel.Geometry;

/// <summary>What one shape may cost: files come from strangers, and a few hundred bytes can ask for work without end.</summary>
/// <remarks>
/// A shape is built on one thread, so its budget is the thread's: whatever loops over input spends from it. Without a budget nothing is
/// limited. A budget of <see cref="MaxWork"/> lasts some ten seconds; the largest shapes of ordinary models take a thousandth of it.
/// </remarks>
public sealed class WorkBudget : IDisposable
{
    /// <summary>Steps of work: a point made, a facet cut, a piece placed.</summary>
    public const long MaxWork = 300_000_000;

    /// <summary>Triangles of one shape.</summary>
    public const long MaxTriangles = 8_000_000;

    private const long CheckEvery = 100_000;

    [ThreadStatic]
    private static WorkBudget? _current;

    private readonly WorkBudget? _outer = _current;
    private readonly CancellationToken _cancel;
    private long _left,
        _nextCheck,
        _triangles = MaxTriangles;

    /// <summary>Begins a budget for what this thread does until it is disposed of.</summary>
    /// <param name="cancel">Stops the work between steps.</param>
    /// <param name="work">Steps of work.</param>
    public WorkBudget(CancellationToken cancel = default, long work = MaxWork)
    {
        (_cancel, _left, _nextCheck) = (cancel, work, work - CheckEvery);
        _current = this;
    }

    /// <summary>Spends steps of work.</summary>
    /// <param name="steps">How many.</param>
    /// <exception cref="WorkBudgetException">The budget is spent.</exception>
    /// <exception cref="OperationCanceledException">The work was cancelled.</exception>
    public static void Spend(long steps)
    {
        if (_current is not { } budget)
            return;
        budget._left -= steps;
        if (budget._left > budget._nextCheck)
            return;
        budget._cancel.ThrowIfCancellationRequested();
        budget._nextCheck = budget._left - CheckEvery;
        if (budget._left < 0)
            throw new WorkBudgetException("The shape asks for more work than any ordinary one; it is not built.");
    }

    /// <summary>Counts triangles of the finished shape.</summary>
    /// <param name="triangles">How many.</param>
    /// <exception cref="WorkBudgetException">There are more than <see cref="MaxTriangles"/>.</exception>
    public static void SpendTriangles(int triangles)
    {
        if (_current is { } budget && (budget._triangles -= triangles) < 0)
            throw new WorkBudgetException(
                $"The shape has more than {MaxTriangles / 1_000_000} million triangles; it is not built."
            );
    }

    /// <inheritdoc/>
    public void Dispose() => _current = _outer;
}

/// <summary>A shape costs more than it may; the message says so in a sentence.</summary>
/// <param name="message">Why, in a sentence that people read.</param>
/// <remarks>No <see cref="ShapeException"/>: those are answered by going on with the next piece, which would cost as much again.</remarks>
public sealed class WorkBudgetException(string message) : Exception(message);

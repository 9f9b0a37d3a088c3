using System.Collections.Concurrent;

namespace SteadyLintel.Web;

/// <summary>Counts wrong passwords by account and network address together: whoever guesses is stopped, the person at another address is
/// not.</summary>
public sealed class SignInAttempts
{
    private const int MaxWrong = 6, MaxKept = 100_000;

    private static readonly TimeSpan For = TimeSpan.FromMinutes(10);

    private readonly ConcurrentDictionary<(string Account, string Address), (int Wrong, DateTime Since)> _wrong = new();

    /// <summary>Whether an account may be tried from an address now.</summary>
    public bool MayTry(string account, string address) =>
        !_wrong.TryGetValue((account.ToUpperInvariant(), address), out var known) || known.Wrong < MaxWrong
            || DateTime.UtcNow - known.Since > For;

    /// <summary>Counts a wrong password.</summary>
    public void Wrong(string account, string address)
    {
        var now = DateTime.UtcNow;
        if (_wrong.Count >= MaxKept)
            foreach (var old in _wrong.Where(w => now - w.Value.Since > For)) _wrong.TryRemove(old);
        _wrong.AddOrUpdate((account.ToUpperInvariant(), address), (1, now), (_, w) => now - w.Since > For
            ? (1, now) : (w.Wrong + 1, w.Since));
    }

    /// <summary>Forgets what was wrong: the right password came.</summary>
    public void Right(string account, string address) => _wrong.TryRemove((account.ToUpperInvariant(), address), out _);
}

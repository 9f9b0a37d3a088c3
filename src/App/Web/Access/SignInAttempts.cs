namespace SteadyLintel.Web;

/// <summary>Counts tries by account and network address together: whoever guesses is stopped, the person at another address is
/// not.</summary>
/// <remarks>A try counts before the password is looked at, so that many at once are as many as one after the other.</remarks>
public sealed class SignInAttempts
{
    /// <summary>How many tries there are before a pause.</summary>
    public const int Most = 6;

    /// <summary>The longest account name that is looked for, characters (RFC 5321, 4.5.3.1.3: a path of 256).</summary>
    public const int LongestAccount = 256;

    private const int MaxKept = 100_000;

    private static readonly TimeSpan For = TimeSpan.FromMinutes(10);

    private readonly Lock _gate = new();
    private readonly Dictionary<(string Account, string Address), int> _tries = [];
    private readonly Queue<((string Account, string Address) Key, DateTime Until)> _ends = [];

    /// <summary>Counts a try.</summary>
    /// <returns>Whether it may be made.</returns>
    public bool Try(string account, string address)
    {
        if (account.Length > LongestAccount)
            return false;
        var now = DateTime.UtcNow;
        lock (_gate)
        {
            // In the order in which they began, so that the oldest go first when there are too many.
            while (_ends.TryPeek(out var oldest) && (oldest.Until < now || _ends.Count >= MaxKept))
                _tries.Remove(_ends.Dequeue().Key);
            var key = Key(account, address);
            if (!_tries.TryGetValue(key, out int count))
                _ends.Enqueue((key, now + For));
            _tries[key] = ++count;
            return count <= Most;
        }
    }

    /// <summary>Forgets the tries: the right password came.</summary>
    public void Right(string account, string address)
    {
        lock (_gate)
            if (_tries.ContainsKey(Key(account, address)))
                _tries[Key(account, address)] = 0;
    }

    private static (string Account, string Address) Key(string account, string address) =>
        (account.ToUpperInvariant(), address);
}

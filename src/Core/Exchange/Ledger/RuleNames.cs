namespace SteadyLintel.Exchange;

/// <summary>Rules and reasons by number, so that millions of things can name theirs in a column. Safe for concurrent use.</summary>
internal sealed class RuleNames
{
    private readonly Dictionary<string, int> _numbers = new(StringComparer.Ordinal) { [""] = 0 };
    private readonly List<string> _names = [""];

    /// <summary>The number of a rule; 0 for none.</summary>
    public int Number(string rule)
    {
        lock (_names)
        {
            if (_numbers.TryGetValue(rule, out int known))
                return known;
            _names.Add(rule);
            return _numbers[rule] = _names.Count - 1;
        }
    }

    /// <summary>The rule of a number.</summary>
    public string Name(int number)
    {
        lock (_names)
            return _names[number];
    }
}

namespace SteadyLintel.Exchange;

/// <summary>Collects findings by code, worst first when done.</summary>
public sealed class FindingList
{
    private readonly Dictionary<
        string,
        (Severity Severity, Func<int, string> Message, List<FindingElement> Elements, int Count)
    > _byCode = [];

    /// <summary>Adds one case of a finding.</summary>
    /// <param name="code">The code.</param>
    /// <param name="severity">How bad.</param>
    /// <param name="message">The sentence, from the final count.</param>
    /// <param name="element">What it is about; null when it is about the whole file.</param>
    /// <param name="count">How many cases it means.</param>
    public void Add(string code, Severity severity, Func<int, string> message, FindingElement? element, int count = 1)
    {
        var entry = _byCode.TryGetValue(code, out var known) ? known : (severity, message, [], 0);
        if (element is not null && entry.Elements.Count < Finding.MaxElements)
            entry.Elements.Add(element);
        entry.Count += count;
        _byCode[code] = entry;
    }

    /// <summary>These findings and others; of one code the cases of both count.</summary>
    /// <param name="others">Findings of the same file, made elsewhere.</param>
    public FindingList With(FindingList others)
    {
        foreach (var (code, more) in others._byCode)
        {
            if (!_byCode.TryGetValue(code, out var known))
            {
                _byCode[code] = more;
                continue;
            }

            known.Elements.AddRange(more.Elements.Take(Finding.MaxElements - known.Elements.Count));
            _byCode[code] = known with { Count = known.Count + more.Count };
        }

        return this;
    }

    /// <summary>The findings, errors first, then by code.</summary>
    public IReadOnlyList<Finding> ToList() =>
        [
            .. _byCode
                .Select(f => new Finding(
                    f.Key,
                    f.Value.Severity,
                    f.Value.Message(f.Value.Count),
                    f.Value.Count,
                    f.Value.Elements
                ))
                .OrderByDescending(f => f.Severity)
                .ThenBy(f => f.Code, StringComparer.Ordinal),
        ];
}

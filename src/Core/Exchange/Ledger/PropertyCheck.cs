namespace SteadyLintel.Exchange;

/// <summary>Whether elements have the values that an order sets, and properties the units, as the written file's reader says.</summary>
internal static class PropertyCheck
{
    /// <summary>Looks each ordered property up on each element it was ordered for.</summary>
    public static void Check(
        SourceAccounts accounts,
        ModelSnapshot again,
        IReadOnlyList<int> found,
        RewriteSet rewrites,
        Action<string> differ
    )
    {
        foreach (var (edit, elements) in rewrites.Properties)
        {
            foreach (int element in elements)
            {
                if (found[element] < 0)
                    continue;
                var own = again
                    .Properties.Of(found[element])
                    .Where(s => !s.FromType && s.Name == edit.Set)
                    .SelectMany(s => s.Properties)
                    .Where(p => p.Name == edit.Property)
                    .ToList();
                var before = accounts
                    .Snapshot.Properties.Of(element)
                    .Where(s => s.Name == edit.Set)
                    .SelectMany(s => s.Properties)
                    .FirstOrDefault(p => p.Name == edit.Property);
                if (
                    own.Count == 1
                    && IsSame(own[0].Value, edit.To)
                    && (before is null || before.Measure.Length == 0 || own[0].Measure == before.Measure)
                )
                    continue;
                accounts.Put(element, LedgerAccount.Unaccounted);
                differ(
                    $"{accounts.Label(element)}: {edit.Set}.{edit.Property} was to be '{edit.To}' and is {(own.Count == 0 ? "not there" : string.Join(", ", own.Select(p => $"{p.Measure}('{p.Value}')")))}."
                );
            }
        }
    }

    /// <summary>Reads each property that goes in another unit with the units of the written file: the unit is the one that was ordered, and
    /// number times unit is what the source says.</summary>
    public static void CheckUnits(
        SourceAccounts accounts,
        ModelSnapshot again,
        IReadOnlyList<int> found,
        RewriteSet rewrites,
        Action<string> differ
    )
    {
        foreach (var (property, unit) in rewrites.PropertyUnits)
        {
            if (found[property] is not (>= 0 and var at))
                continue;
            double size = unit.SizeOf(again, at);
            double was = NumberOf(accounts.Snapshot, property) * unit.SizeOf(accounts.Snapshot, property),
                now = NumberOf(again, at) * size;
            if (IsNear(size, unit.Factor) && IsNear(now, was))
                continue;
            accounts.Put(property, LedgerAccount.Unaccounted);
            differ(
                $"{accounts.Label(property)}: {accounts.Snapshot.Model.Name(property)} was to be in {unit.Symbol}, and its value and unit in the file say another size."
            );
        }
    }

    private static double NumberOf(ModelSnapshot snapshot, int property) =>
        PropertyUnit.ValueOf(snapshot.Model, property) is { } attribute
            ? snapshot.Model.Get(property, attribute).Inner.Real
            : double.NaN;

    // Numbers of files have up to 17 digits; multiplied twice they agree to 15.
    private static bool IsNear(double a, double b) =>
        Math.Abs(a - b) <= 1e-14 * Math.Max(Math.Abs(a), Math.Abs(b)) + double.Epsilon;

    private static bool IsSame(string value, string ordered)
    {
        if (value.Equals(ordered, StringComparison.OrdinalIgnoreCase))
            return true;
        var culture = System.Globalization.CultureInfo.InvariantCulture;
        if (double.TryParse(value, culture, out double a) && double.TryParse(ordered, culture, out double b))
            return a.Equals(b);
        return ordered.Length > 0
            && value.Length > 0
            && ordered.Trim('.').StartsWith(value[..1], StringComparison.OrdinalIgnoreCase)
            && value is "True" or "False" or "Unknown"
            && ordered.Trim('.').Length == 1;
    }
}

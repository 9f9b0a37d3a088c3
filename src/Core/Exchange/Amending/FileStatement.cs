namespace SteadyLintel.Exchange;

/// <summary>What a file says of what an amendment is about.</summary>
/// <remarks>Three of the four states of a value; the fourth, zero or <c>False</c>, is a value like others.</remarks>
public sealed record FileStatement
{
    /// <summary>The file does not have it.</summary>
    public const string Missing = "missing";

    /// <summary>The file has it, without a value.</summary>
    public const string Blank = "blank";

    /// <summary>The file has a value.</summary>
    public const string Filled = "value";

    /// <summary><see cref="Missing"/>, <see cref="Blank"/> or <see cref="Filled"/>.</summary>
    public string Is { get; init; } = Missing;

    /// <summary>The value as text; empty without one.</summary>
    public string Text { get; init; } = "";

    /// <summary>Its unit's symbol; empty for none.</summary>
    public string Unit { get; init; } = "";

    /// <summary>The file does not have it.</summary>
    public static FileStatement None { get; } = new();

    /// <summary>The file has it, without a value.</summary>
    public static FileStatement Empty { get; } = new() { Is = Blank };

    /// <summary>A value that the file has; blank where the text is empty, missing where it is null.</summary>
    public static FileStatement Of(string? text, string unit = "") =>
        text switch
        {
            null => None,
            "" => Empty,
            _ => new FileStatement
            {
                Is = Filled,
                Text = text,
                Unit = unit,
            },
        };

    /// <summary>Whether two files say the same: numbers by what they measure, texts to the letter.</summary>
    public bool Agrees(FileStatement other)
    {
        if (Is != other.Is)
            return false;
        if ((Text == other.Text && Unit == other.Unit) || IsSamePlace(Text, other.Text))
            return true;
        var (a, b) = (Number(Text), Number(other.Text));
        if (double.IsFinite(a) && double.IsFinite(b))
        {
            // A number in units that are known is compared by its size, else as it is written.
            var (from, to) = (PropertyUnit.Written(Unit), PropertyUnit.Written(other.Unit));
            if (from is not null && to is not null && from.Kind == to.Kind)
                (a, b) = (a * from.Factor, b * to.Factor);
            else if (Unit.Length > 0 && other.Unit.Length > 0 && Unit != other.Unit)
                return false;
            return Math.Abs(a - b) <= 1e-9 * Math.Max(1e-3, Math.Max(Math.Abs(a), Math.Abs(b)));
        }

        return false;
    }

    private static double Number(string text) =>
        double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out double n) && double.IsFinite(n)
            ? n
            : double.NaN;

    // Places are nine numbers, which rounding may part by their last digit.
    private static bool IsSamePlace(string a, string b)
    {
        if (!a.Contains('/', StringComparison.Ordinal) || !b.Contains('/', StringComparison.Ordinal))
            return false;
        double[] x = Numbers(a),
            y = Numbers(b);
        return x.Length == 9
            && y.Length == 9
            && x.Zip(y).Take(3).All(p => Math.Abs(p.First - p.Second) <= 2e-5)
            && x.Zip(y).Skip(3).All(p => Math.Abs(p.First - p.Second) <= 2e-7);

        static double[] Numbers(string text) =>
            [
                .. text.Split([' ', '/'], StringSplitOptions.RemoveEmptyEntries)
                    .Select(t =>
                        double.TryParse(t, System.Globalization.CultureInfo.InvariantCulture, out double n)
                            ? n
                            : double.NaN
                    ),
            ];
    }

    /// <summary>As people read it.</summary>
    public override string ToString() =>
        Is == Filled
            ? Unit.Length > 0
                ? $"{Text} {Unit}"
                : Text
            : Is;
}

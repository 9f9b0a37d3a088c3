using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>ACIS text of version 7.0: each record ends in <c>#</c>, <c>$n</c> names record n.</summary>
internal sealed class SatOutput : AcisOutput
{
    private readonly StringBuilder _text = new();

    public SatOutput()
    {
        const string Product = "Steady Lintel",
            Version = "ACIS 32.0 NT",
            Date = "Thu Jan 01 00:00:00 1970";
        _text.Append("700 0 1 0 \n");
        _text.Append(
            CultureInfo.InvariantCulture,
            $"@{Product.Length} {Product} @{Version.Length} {Version} @{Date.Length} {Date} \n"
        );
        _text.Append("1 9.9999999999999995e-007 1e-010 \n");
    }

    /// <inheritdoc/>
    public override int First => 0;

    /// <summary>The text, with its end.</summary>
    public string Text() => _text.ToString() + "End-of-ACIS-data \n";

    /// <inheritdoc/>
    public override void Begin(string kind) => _text.Append(kind).Append(" $-1 -1 $-1");

    /// <inheritdoc/>
    public override void Link(int record) => _text.Append(CultureInfo.InvariantCulture, $" ${record}");

    /// <inheritdoc/>
    public override void Number(double value) => _text.Append(CultureInfo.InvariantCulture, $" {value:R}");

    /// <inheritdoc/>
    public override void Position(Vec3 value) =>
        _text.Append(CultureInfo.InvariantCulture, $" {value.X:R} {value.Y:R} {value.Z:R}");

    /// <inheritdoc/>
    public override void Direction(Vec3 value) => Position(value);

    /// <inheritdoc/>
    public override void Either(bool value, string whenTrue, string whenFalse) =>
        _text.Append(' ').Append(value ? whenTrue : whenFalse);

    /// <inheritdoc/>
    public override void Word(string word) => _text.Append(CultureInfo.InvariantCulture, $" @{word.Length} {word}");

    /// <inheritdoc/>
    public override void End() => _text.Append(" #\n");
}

using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What a conversion gave.</summary>
/// <param name="Bytes">The file.</param>
/// <param name="Rows">The balance by kind and layer.</param>
/// <param name="Findings">What was odd when reading, what was left behind when writing.</param>
public sealed record ConversionResult(byte[] Bytes, IReadOnlyList<ConversionRow> Rows, IReadOnlyList<CadFinding> Findings)
{
    /// <summary>What nobody can account for.</summary>
    public int Unaccounted => Rows.Sum(r => Math.Abs(r.Unaccounted));

    /// <summary>Whether everything is accounted for.</summary>
    public bool Balanced => Unaccounted == 0;
}

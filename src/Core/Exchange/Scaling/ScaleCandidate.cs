namespace SteadyLintel.Exchange;

/// <summary>What a unit of a drawing may be, with the evidence.</summary>
/// <param name="MetresPerUnit">Metres in one unit.</param>
/// <param name="Evidence"><c>known lengths</c>, <c>dimensions</c>, <c>scale bar</c>, <c>sheet</c> or <c>declared</c>.</param>
/// <param name="Error">The relative error, one part; 0 where it is exact.</param>
/// <param name="PlusMinus">What the error becomes across the whole drawing, metres.</param>
/// <param name="Detail">How it was found, in a sentence.</param>
public sealed record ScaleCandidate(
    double MetresPerUnit,
    string Evidence,
    double Error,
    double PlusMinus,
    string Detail
)
{
    /// <summary>What speaks against it, in a sentence; null for nothing.</summary>
    public string? Doubt { get; init; }

    /// <summary>Whether it may be proposed: not where most of its own evidence contradicts it, nor where it fits no unit and no usual
    /// scale. A
    /// length that somebody knows always may.</summary>
    public bool Leads { get; init; } = true;
}

/// <summary>How true a known length is in the scale that was found.</summary>
/// <param name="Drawn">In the drawing's units.</param>
/// <param name="True">As typed, metres.</param>
/// <param name="Residual">True minus drawn at the scale, metres.</param>
public sealed record KnownResidual(double Drawn, double True, double Residual);

/// <summary>The evidence for a drawing's scale, best first.</summary>
/// <param name="Unit">The declared unit; <c>unknown</c> where nothing is said.</param>
/// <param name="Candidates">All that is known, the best first.</param>
/// <param name="Known">The residuals of the known lengths.</param>
/// <param name="NoPlan">What it looks like where it does not look like one plan, as a question; null where it does.</param>
public sealed record ScaleFindings(
    string Unit,
    IReadOnlyList<ScaleCandidate> Candidates,
    IReadOnlyList<KnownResidual> Known,
    string? NoPlan = null
)
{
    /// <summary>The one that is proposed; null where none can be.</summary>
    public ScaleCandidate? Best =>
        Candidates.FirstOrDefault(c => c is { Leads: true, Doubt: null }) ?? Candidates.FirstOrDefault(c => c.Leads);
}

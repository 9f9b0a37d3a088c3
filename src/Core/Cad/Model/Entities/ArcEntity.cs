namespace SteadyLintel.Cad;

/// <summary>ARC: part of a circle, counterclockwise from one angle to the other.</summary>
public sealed class ArcEntity : RoundEntity
{
    /// <inheritdoc/>
    public override string Type => "ARC";

    /// <summary>Where it starts, radians (50).</summary>
    public double Start { get; set; }

    /// <summary>Where it ends, radians (51).</summary>
    public double End { get; set; }

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        base.Exchange(f);
        f.Subclass("AcDbArc");
        Start = f.Angle(50, Start);
        End = f.Angle(51, End);
    }
}

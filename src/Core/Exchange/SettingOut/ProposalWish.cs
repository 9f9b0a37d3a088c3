namespace SteadyLintel.Exchange;

/// <summary>How somebody wants a source to be set out.</summary>
public sealed record ProposalWish
{
    /// <summary>The way: <c>grids</c>, <c>points</c>, <c>typed</c>, <c>levels</c>, <c>declared</c>, <c>same</c>.</summary>
    public string Way { get; init; } = "";

    /// <summary>Typed shift and turn, as written.</summary>
    public string? X { get; init; }

    /// <summary>See <see cref="X"/>.</summary>
    public string? Y { get; init; }

    /// <summary>The height, as written; empty to take it from levels.</summary>
    public string? Z { get; init; }

    /// <summary>Degrees, counter-clockwise.</summary>
    public string? Turn { get; init; }

    /// <summary>The scale as typed; empty for 1.</summary>
    public string? Scale { get; init; }

    /// <summary>Control points as a table (<see cref="PointTable"/>).</summary>
    public string? Points { get; init; }

    /// <summary>Names of points that are switched off.</summary>
    public IReadOnlyList<string> Off { get; init; } = [];

    /// <summary>Whether the scale is released.</summary>
    public bool FreeScale { get; init; }

    /// <summary>Why, in words.</summary>
    public string? Why { get; init; }
}

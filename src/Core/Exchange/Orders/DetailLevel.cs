namespace SteadyLintel.Exchange;

/// <summary>How detailed shapes go.</summary>
public enum DetailLevel
{
    /// <summary>As they are.</summary>
    All,

    /// <summary>Without small parts: elements whose longest side is no longer than <see cref="HandoverOrder.SmallPart"/>.</summary>
    Coarse,

    /// <summary>A box for each element, along its own axes.</summary>
    Boxes,
}

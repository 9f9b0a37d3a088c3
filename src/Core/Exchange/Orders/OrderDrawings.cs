namespace SteadyLintel.Exchange;

/// <summary>Which drawings go beside the models of an order, and how.</summary>
public sealed record OrderDrawings
{
    /// <summary>The drawings: by identity in a job, by file name at the terminal; empty for all.</summary>
    public IReadOnlyList<string> Sources { get; init; } = [];

    /// <summary><c>prepared</c>: after the steps of the desk, in the order's unit and frame. <c>received</c>: the original, byte for
    /// byte.</summary>
    public string As { get; init; } = "prepared";

    /// <summary>With <c>prepared</c>: <c>dwg</c> or <c>dxf</c>; null for the kind that came.</summary>
    public string? File { get; init; }

    /// <summary>With <c>prepared</c>: the version, <c>AC1015</c> … <c>AC1032</c>; null for 2010 with DWG and 2013 with DXF.</summary>
    public string? Version { get; init; }

    /// <summary>With <c>prepared</c>: whether what a drawing refers to becomes part of it, <c>bind</c>, or stays a reference,
    /// <c>keep</c>.</summary>
    public string References { get; init; } = "bind";

    /// <summary>With <c>prepared</c>: names of layers, from the sender's to the receiver's; two that get one name become one.</summary>
    public IReadOnlyList<OrderName> Layers { get; init; } = [];
}

/// <summary>A name and what the receiver calls it.</summary>
public sealed record OrderName
{
    /// <summary>The name as it came.</summary>
    public string From { get; init; } = "";

    /// <summary>The name as it goes.</summary>
    public string To { get; init; } = "";
}

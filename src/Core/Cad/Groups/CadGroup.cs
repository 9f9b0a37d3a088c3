namespace SteadyLintel.Cad;

/// <summary>A group of DXF: a code that tells the kind of its value.</summary>
/// <param name="Code">The group code.</param>
/// <param name="Value">A <see cref="string"/>, <see cref="double"/>, <see cref="long"/>, <see cref="bool"/>, <see cref="Handle"/> or array
/// of bytes.</param>
public readonly record struct CadGroup(int Code, object Value)
{
    /// <summary>The code of a layer in extended data.</summary>
    internal const int Layer = 1003;

    /// <summary>The value as a number; 0 when it is none.</summary>
    public double Number =>
        Value switch
        {
            double d => d,
            long i => i,
            bool b => b ? 1 : 0,
            _ => 0,
        };

    /// <summary>The value as text.</summary>
    public string Text => Value as string ?? "";
}

using System.Globalization;

namespace SteadyLintel.Cad;

/// <summary>The name of an object within its drawing: a number, written in hexadecimal; 0 points nowhere.</summary>
/// <param name="Value">The number.</param>
public readonly record struct Handle(ulong Value) : IComparable<Handle>
{
    /// <summary>Whether it points nowhere.</summary>
    public bool IsNull => Value == 0;

    /// <inheritdoc/>
    public int CompareTo(Handle other) => Value.CompareTo(other.Value);

    /// <summary>The form of group codes 5 and 330: <c>1F</c>.</summary>
    public override string ToString() => Value.ToString("X", CultureInfo.InvariantCulture);
}

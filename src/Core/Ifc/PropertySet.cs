namespace SteadyLintel.Ifc;

/// <summary>A property or quantity with its value as text.</summary>
/// <param name="Name">Its name; parts of a complex property are named <c>whole.part</c>.</param>
/// <param name="Value">The value; empty when it is blank.</param>
/// <param name="Measure">The measure type as written, <c>IFCLABEL</c>; empty when unknown.</param>
/// <param name="Unit">The unit's symbol; empty when the measure has none.</param>
public sealed record Property(string Name, string Value, string Measure, string Unit)
{
    /// <summary>The instance of the unit that the value names itself; -1 when it is in the project's.</summary>
    public int OwnUnit { get; init; } = -1;
}

/// <summary>A property set or element quantity.</summary>
/// <param name="Index">The instance.</param>
/// <param name="Name">Its name.</param>
/// <param name="IsQuantity">Whether it is an IfcElementQuantity.</param>
/// <param name="FromType">Whether the element has it through its type.</param>
/// <param name="Properties">In file order.</param>
public sealed record PropertySet(
    int Index,
    string Name,
    bool IsQuantity,
    bool FromType,
    IReadOnlyList<Property> Properties
)
{
    /// <summary>How many properties carry a value.</summary>
    public int Filled { get; } = Properties.Count(p => p.Value.Length > 0);
}

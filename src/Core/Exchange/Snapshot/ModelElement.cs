namespace SteadyLintel.Exchange;

/// <summary>An element: a product that is accounted for by itself. Openings and ports go with their host, spatial structure above is no element.</summary>
/// <param name="Number">Its place among the model's elements, from 0.</param>
/// <param name="Index">The instance's position in the file.</param>
/// <param name="GlobalId">As written.</param>
/// <param name="Class">The class as the standard spells it.</param>
/// <param name="Name">Its name, empty when unset.</param>
/// <param name="Storey">The number of its storey in the model, -1 when it is in none.</param>
/// <param name="Layers">Its presentation layers.</param>
public sealed record ModelElement(int Number, int Index, string GlobalId, string Class, string Name, int Storey, IReadOnlyList<string> Layers)
{
    /// <summary>What people call it: its name, else its class.</summary>
    public string Label => Name.Length > 0 ? Name : Class;
}

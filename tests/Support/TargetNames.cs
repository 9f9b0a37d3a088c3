using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Targets by the names of their properties, for the data of theories.</summary>
internal static class TargetNames
{
    public static Target Of(string name) => (Target)typeof(TargetCatalog).GetProperty(name)!.GetValue(null)!;
}

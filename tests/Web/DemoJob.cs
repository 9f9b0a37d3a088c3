namespace SteadyLintel.Tests;

/// <summary>Tests that leave the sources of the demo job as they are share one server.</summary>
[CollectionDefinition(Name)]
public sealed class DemoJob : ICollectionFixture<DemoServer>
{
    public const string Name = "demo job";
}

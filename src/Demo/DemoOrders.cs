using System.Reflection;

namespace SteadyLintel.Demo;

/// <summary>An order of the demo.</summary>
/// <param name="Title">What it is called.</param>
/// <param name="Json">Its document.</param>
public sealed record DemoOrder(string Title, string Json);

/// <summary>A table of the demo.</summary>
/// <param name="Kind">What it is: layers, classes or properties.</param>
/// <param name="Name">What orders call it.</param>
/// <param name="Csv">Its rows.</param>
public sealed record DemoTable(string Kind, string Name, string Csv);

/// <summary>What the demo's coordinator hands over, to whom: the orders, and the tables they go by.</summary>
public static class DemoOrders
{
    /// <summary>The orders.</summary>
    public static IReadOnlyList<DemoOrder> All { get; } =
    [
        new("Background for the duct workshop", Read("fabricator.json")),
        new("What bounds rooms, for the acoustician", Read("acoustician.json")),
        new("Everything for those who look, every revision", Read("viewer.json")),
        new("Plans on sheets, for the drawing office", Read("sheets.json")),
    ];

    /// <summary>The tables.</summary>
    public static IReadOnlyList<DemoTable> Tables { get; } =
    [
        new("layers", "Office layers", Read("office-layers.csv")),
        new("properties", "Fabrication", Read("fabrication.csv")),
        new("classes", "What bounds rooms", Read("rooms.csv")),
    ];

    private static string Read(string name)
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream($"Orders/{name}")
            ?? throw new InvalidOperationException($"The demo has no {name}.");
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}

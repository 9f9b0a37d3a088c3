namespace SteadyLintel.Exchange;

/// <summary>A property as it travels beside shapes.</summary>
/// <param name="Set">The name of its set, as it goes.</param>
/// <param name="Name">Its name, as it goes.</param>
/// <param name="Value">A double, a bool or a string; null where it has no value.</param>
/// <param name="Unit">Its unit; empty for none.</param>
public readonly record struct OutgoingProperty(string Set, string Name, object? Value, string Unit)
{
    /// <summary>The set and the name.</summary>
    public string Key => $"{Set}.{Name}";
}

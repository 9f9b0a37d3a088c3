using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A model that takes part in a hand-over.</summary>
/// <param name="Party">The party's code.</param>
/// <param name="Label">What distinguishes it from the party's other sources, such as the file's name.</param>
/// <param name="Snapshot">The model.</param>
/// <param name="SettingOut">From the source's own frame into the job's, metres; null when the source is not set out and its map conversion
/// has to be used.</param>
public sealed record HandoverSource(string Party, string Label, ModelSnapshot Snapshot, Frame? SettingOut = null)
{
    /// <summary>The number of its revision; 0 where nobody has numbered it.</summary>
    public int Revision { get; init; }

    /// <summary>The instances of the model that amendments changed or added before; null where it is as it came.</summary>
    public IReadOnlySet<int>? Amended { get; init; }

    /// <summary>Elements that are not to be given, by GlobalId, with the reason of the balance.</summary>
    public IReadOnlyDictionary<string, string> LeftOut { get; init; } = new Dictionary<string, string>();

    /// <summary>Numbers of the elements that have no body, as its intake found; null where nobody has looked.</summary>
    public IReadOnlySet<int>? Bodiless { get; init; }
}

namespace SteadyLintel.Exchange;

/// <summary>The form of the files of a hand-over.</summary>
public enum HandoverFormat
{
    /// <summary>IFC in the source's own schema.</summary>
    Ifc,

    /// <summary>DXF AC1027 with elements as meshes.</summary>
    DxfMeshes,

    /// <summary>DXF AC1027 with a plan of each storey.</summary>
    DxfPlan,
}

/// <summary>What to give and in what form.</summary>
/// <param name="Selection">Which elements go.</param>
/// <param name="Format">The form.</param>
/// <param name="SplitByStorey">One file for each storey, or one in all.</param>
/// <param name="Unit">The length unit; null keeps the source's own.</param>
/// <param name="NameTemplate">File names without extension, see <see cref="Exchange.NameTemplate"/>.</param>
public sealed record HandoverOrder(Selection Selection, HandoverFormat Format, bool SplitByStorey, LengthUnit? Unit, string NameTemplate = "{party}-{storey}");

/// <summary>A model that takes part in a hand-over.</summary>
/// <param name="Party">The party's code.</param>
/// <param name="Label">What tells it from the party's other sources, such as the file's name.</param>
/// <param name="Snapshot">The model.</param>
public sealed record HandoverSource(string Party, string Label, ModelSnapshot Snapshot);

/// <summary>A written file.</summary>
public sealed record HandoverFile(string Name, long Bytes, string Sha256, int Elements);

/// <summary>What a hand-over gave: its files and the balance sheet.</summary>
public sealed record HandoverResult(IReadOnlyList<HandoverFile> Files, Reconciliation Reconciliation);

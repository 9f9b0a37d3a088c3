namespace SteadyLintel.Exchange;

/// <summary>What a view adds to the layers of elements.</summary>
/// <param name="Cut">For lines of the cut.</param>
/// <param name="Beyond">For edges behind the cut.</param>
/// <param name="Hidden">For edges that others hide; dashed.</param>
/// <param name="Before">For edges before the cut; dashed.</param>
/// <param name="Hatch">For hatched faces.</param>
/// <param name="Text">For names of rooms.</param>
internal sealed record ViewLayers(string Cut, string Beyond, string Hidden, string Before, string Hatch, string Text)
{
    /// <summary>The layer of level marks.</summary>
    public const string Marks = "LEVELS";

    /// <summary>What means the source in the extended data of what is of no element.</summary>
    public const string NoSource = "-";

    private static readonly ViewLayers Plan = new("_CUT", "_BELOW", "_HIDDEN", "_ABOVE", "_HATCH", "_TEXT");
    private static readonly ViewLayers Section = new("_CUT", "_BEYOND", "_HIDDEN", "_BEFORE", "_HATCH", "_TEXT");

    /// <summary>All of them.</summary>
    public IEnumerable<string> All => [Cut, Beyond, Hidden, Before, Hatch, Text, ""];

    /// <summary>Those of a view.</summary>
    public static ViewLayers Of(PlanView view) => view.IsSection ? Section : Plan;

    /// <summary>Whether layers with a suffix are dashed, whatever a layer table says.</summary>
    public static bool IsDashed(string suffix) =>
        suffix == Plan.Hidden || suffix == Plan.Before || suffix == Section.Before;
}

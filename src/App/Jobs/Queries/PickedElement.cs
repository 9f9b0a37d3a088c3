using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>An element that was picked.</summary>
/// <param name="Delivery">What it came with.</param>
/// <param name="Row">The element.</param>
/// <param name="Facts">What it carries.</param>
/// <param name="AboveLevel">How high it begins above its storey, metres; null where nothing says.</param>
/// <param name="Frame">From the source's frame into the job's.</param>
public sealed record PickedElement(
    Delivery Delivery,
    ElementRow Row,
    ElementFacts Facts,
    double? AboveLevel,
    Geometry.Frame Frame
)
{
    /// <summary>What is said about it beside its file, and in force.</summary>
    public IReadOnlyList<ShownAmendment> Amendments { get; init; } = [];

    /// <summary>The box in the job's frame; null without a shape, and where the source lies as it came.</summary>
    public Geometry.Box? InJob =>
        Row.Box is not { } b || Frame == Geometry.Frame.Identity
            ? null
            : Geometry.Box.Of(
                from x in new[] { b[0], b[3] }
                from y in new[] { b[1], b[4] }
                from z in new[] { b[2], b[5] }
                select Frame.Point(new(x, y, z))
            );
}

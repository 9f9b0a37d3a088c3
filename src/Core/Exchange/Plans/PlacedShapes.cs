using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Shapes as an order gives them: in its frame, and as detailed as it says.</summary>
internal static class PlacedShapes
{
    /// <summary>Hands out the shapes of elements in the order's frame, on the calling thread.</summary>
    public static void ForEach(
        HandoverPlan plan,
        int source,
        IReadOnlyList<ModelElement> elements,
        Action<ModelElement, Shape?> visit,
        CancellationToken cancel
    ) =>
        plan.Sources[source]
            .Snapshot.ForEachShape(elements, (element, shape) => visit(element, Of(plan, source, shape)), 0, cancel);

    /// <summary>The height that a storey's plan counts from, in the order's frame, metres.</summary>
    public static double Level(HandoverPlan plan, int source, int storey)
    {
        double level = PlanView.Level(plan.Sources[source].Snapshot, storey);
        return plan.Moves[source] is { } move ? move.Point(new Vec3(0, 0, level)).Z : level;
    }

    /// <summary>What an element without a body shows in a plan, in the order's frame.</summary>
    public static Drawn Drawn(HandoverPlan plan, int source, ModelElement element) =>
        Placed(plan, source, plan.Sources[source].Snapshot.Shapes.ForPlan(element.Index));

    /// <summary>What an element draws for a purpose, such as <c>FootPrint</c>, in the order's frame.</summary>
    public static Drawn Drawn(HandoverPlan plan, int source, ModelElement element, string purpose) =>
        Placed(plan, source, plan.Sources[source].Snapshot.Shapes.Drawn(element.Index, purpose));

    private static Drawn Placed(HandoverPlan plan, int source, Drawn drawn)
    {
        return plan.Moves[source] is not { } move
            ? drawn
            : new Drawn(
                [.. drawn.Lines.Select(l => (IReadOnlyList<Vec3>)[.. l.Select(move.Point)])],
                [.. drawn.Texts.Select(t => t with { Place = move.Compose(t.Place) })]
            );
    }

    private static Shape? Of(HandoverPlan plan, int source, Shape? shape)
    {
        if (shape is not { Parts.Count: > 0 })
            return shape;
        if (plan.Order.Detail == DetailLevel.Boxes)
            shape = Boxed(shape);
        else if (plan.Order.Skins)
            shape = Skin(shape);
        return plan.Moves[source] is { } move ? shape with { World = move.Compose(shape.World) } : shape;
    }

    // In the colour of its first piece; what one body shows is its skin already, but for hollows.
    private static Shape Skin(Shape shape)
    {
        var skin = OuterSkin.Of([.. shape.Parts.Select(p => p.Mesh.Map(p.Frame))]);
        return skin.TriangleCount == 0
            ? shape
            : shape with
            {
                Parts = [new ShapePart(skin, Frame.Identity, shape.Parts[0].Colour, -1)],
            };
    }

    // Along the element's own axes, in the colour of its first piece.
    private static Shape Boxed(Shape shape)
    {
        var box = (shape with { World = Frame.Identity }).Bounds();
        return box.IsEmpty ? shape : Boxed(shape, box, shape.Parts[0].Colour);
    }

    /// <summary>A shape as a box.</summary>
    /// <param name="shape">The shape, for its place.</param>
    /// <param name="box">The box, in the element's own frame.</param>
    /// <param name="colour">Its colour.</param>
    public static Shape Boxed(Shape shape, Box box, Colour colour)
    {
        // Corners count x slowest, z fastest; each face's corners go round against the clock seen from outside.
        int[] faces =
        [
            0,
            1,
            3,
            0,
            3,
            2,
            4,
            6,
            7,
            4,
            7,
            5,
            0,
            4,
            5,
            0,
            5,
            1,
            2,
            3,
            7,
            2,
            7,
            6,
            0,
            2,
            6,
            0,
            6,
            4,
            1,
            5,
            7,
            1,
            7,
            3,
        ];
        return shape with { Parts = [new ShapePart(new Mesh([.. box.Corners()], faces), Frame.Identity, colour, -1)] };
    }
}

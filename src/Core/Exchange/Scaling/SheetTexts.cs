using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A text of a drawing and where it is, in its units.</summary>
/// <param name="Text">Without codes.</param>
/// <param name="At">Its insertion.</param>
/// <param name="Height">The height of its letters.</param>
internal readonly record struct PlacedText(string Text, Vec2 At, double Height);

/// <summary>The texts of a space, those of blocks and attributes included.</summary>
internal static class SheetTexts
{
    private const int Most = 200_000;

    /// <summary>The texts; those of dimensions' pictures are no texts of the sheet.</summary>
    public static List<PlacedText> Of(Drawing drawing, BlockRecord space) =>
        [.. ShownEntities.Of(drawing, space, pictures: false).Select(Of).OfType<PlacedText>().Take(Most)];

    private static PlacedText? Of(ShownEntity shown)
    {
        var at = shown.At;
        return shown.Entity switch
        {
            TextEntity t => Placed(PlainText.Of(t.Value), Anchor(t), t.Height),
            MText t => Placed(PlainText.OfMText(t.Value), t.Insertion, t.Height),
            _ => null,
        };

        PlacedText Placed(string text, Vec3 where, double height) =>
            new(text.Trim(), at.Apply(where).XY, height * at.X.Length);
    }

    // A centred text is about its second point.
    private static Vec3 Anchor(TextEntity t) =>
        ObjectCoordinates.ToWorld(
            (t.Horizontal != 0 || t.Vertical != 0) && t.Alignment != Vec3.Zero ? t.Alignment : t.Insertion,
            t.Normal
        );
}

using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A text of a drawing and where it stands, in its units.</summary>
/// <param name="Text">Without codes.</param>
/// <param name="At">Its insertion.</param>
/// <param name="Height">The height of its letters.</param>
/// <param name="Handle">Of the entity of model space or of a sheet that it belongs to.</param>
internal readonly record struct PlacedText(string Text, Vec2 At, double Height, Handle Handle);

/// <summary>The texts of a space, those of blocks and attributes included.</summary>
internal static class SheetTexts
{
    private const int DeepestBlock = 8, Most = 200_000, MostArray = 100;

    /// <summary>The texts.</summary>
    public static List<PlacedText> Of(Drawing drawing, BlockRecord space)
    {
        var texts = new List<PlacedText>();
        foreach (var entity in space.Entities) Add(entity, entity.Handle, InsertTransform.Identity, 0);
        return texts;

        void Add(Entity entity, Handle handle, InsertTransform at, int depth)
        {
            if (texts.Count >= Most) return;
            switch (entity)
            {
                case AttributeDefinition: break;
                case TextEntity t: Put(PlainText.Of(t.Value), Anchor(t), t.Height); break;
                case MText t: Put(PlainText.OfMText(t.Value), t.Insertion, t.Height); break;
                case Insert i when depth < DeepestBlock:
                    foreach (var attribute in i.Attributes) Add(attribute, handle, at, depth);
                    if (drawing.Blocks[i.Block] is not { } block) break;
                    foreach (var place in InsertTransform.All(i, block, MostArray))
                        foreach (var part in block.Entities) Add(part, handle, place.Within(at), depth + 1);
                    break;
            }

            void Put(string text, Vec3 where, double height) =>
                texts.Add(new PlacedText(text.Trim(), at.Apply(where).XY, height * at.X.Length, handle));
        }
    }

    // A centred text stands about its second point.
    private static Vec3 Anchor(TextEntity t) => ObjectCoordinates.ToWorld(
        (t.Horizontal != 0 || t.Vertical != 0) && t.Alignment != Vec3.Zero ? t.Alignment : t.Insertion, t.Normal);
}

using System.Globalization;
using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What somebody picked in a drawing among the models.</summary>
/// <param name="Kind">As DXF spells it.</param>
/// <param name="Handle">Its handle, hexadecimal.</param>
/// <param name="Layer">The layer it is seen on.</param>
/// <param name="Rgb">The colour it is seen in, 0xRRGGBB.</param>
/// <param name="Block">The block it came with; empty for none.</param>
/// <param name="Outer">The handle of what is in model space: of the insert or the dimension, else of itself.</param>
/// <param name="Text">What it says; empty for what says nothing.</param>
public sealed record SheetItem(
    string Kind,
    string Handle,
    string Layer,
    int Rgb,
    string Block,
    string Outer,
    string Text
)
{
    internal static SheetItem Of(Drawing drawing, ShownEntity shown) =>
        new(
            shown.Entity.Type,
            Hex(shown.Entity),
            drawing.LayerName(shown.Layer),
            shown.Rgb,
            shown.Outer is Insert insert ? drawing.Blocks[insert.Block]?.Name ?? "" : "",
            Hex(shown.Outer),
            shown.Entity switch
            {
                MText text => PlainText.OfMText(text.Value),
                TextEntity text => PlainText.Of(text.Value),
                _ => "",
            }
        );

    private static string Hex(Entity entity) => entity.Handle.Value.ToString("X", CultureInfo.InvariantCulture);
}

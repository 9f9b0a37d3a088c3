using System.Globalization;
using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

// Texts of the picture.
public sealed partial class PlanPicture
{
    private void Text(Handle layer, int colour, TextEntity text, InsertTransform at)
    {
        bool aligned = (text.Horizontal, text.Vertical) != (0, 0) && text.Alignment != Vec3.Zero;
        string anchor = text.Horizontal switch
        {
            1 or 4 => "middle",
            2 => "end",
            _ => "start",
        };
        double down =
            text.Horizontal == 4 || text.Vertical == 2 ? 0.5
            : text.Vertical == 3 ? 1
            : 0;
        var place = at.Apply(
            ObjectCoordinates.ToWorld(
                aligned && text.Horizontal is not (3 or 5) ? text.Alignment : text.Insertion,
                text.Normal
            )
        );
        var (x, y, _) = ObjectCoordinates.Axes(text.Normal);
        var along = at.Turn((x * Math.Cos(text.Rotation)) + (y * Math.Sin(text.Rotation)));
        Text(layer, colour, PlainText.Of(text.Value), place, along, text.Height, anchor, down, text.Width);
    }

    private void Text(Handle layer, int colour, MText text, InsertTransform at)
    {
        string anchor = ((text.Attachment - 1) % 3) switch
        {
            1 => "middle",
            2 => "end",
            _ => "start",
        };
        string[] lines = PlainText.OfMText(text.Value).Split('\n');
        double spacing = 5.0 / 3 * text.Spacing.Factor,
            whole = 1 + (spacing * (lines.Length - 1));
        double down = ((text.Attachment - 1) / 3) switch
        {
            0 => 1,
            1 => 1 - (whole / 2),
            _ => 1 - whole,
        };
        var along = at.Turn(text.Direction.Unit());
        var across = new Vec3(along.Y, -along.X, 0);
        for (int i = 0; i < lines.Length && i < 200; i++)
            Text(
                layer,
                colour,
                lines[i],
                at.Apply(text.Insertion) + (across * (text.Height * spacing * i)),
                along,
                text.Height,
                anchor,
                down,
                1
            );
    }

    private void Text(
        Handle layer,
        int colour,
        string value,
        Vec3 place,
        Vec3 along,
        double height,
        string anchor,
        double down,
        double width
    )
    {
        if (value.Length == 0 || height <= 0)
            return;
        double turn = -Math.Atan2(along.Y, along.X) * 180 / Math.PI,
            scale = along.XY.Length,
            tall = height * scale;
        // About as long as it is: letters are some two thirds as wide as high. Its size is its height.
        var reach = new Vec3(tall, tall, 0) * (1 + (0.7 * value.Length));
        var key = (layer, PartOf(Box.Of([place, place + new Vec3(tall, tall, 0)])));
        if (!_texts.TryGetValue(key, out var part))
            _texts[key] = part = (new PicturePath(_corner, _unit), new StringBuilder());
        part.Box.Cover(Box.Of([place - reach, place + reach]), tall);
        var texts = part.Texts;
        // Browsers draw no letters beyond 10 000 units; these have ten and are scaled.
        double letters = tall * 1.35 / (_unit * FontSize);
        texts.Append(
            CultureInfo.InvariantCulture,
            $"<text transform=\"translate({Number(place.X - _corner.X)} {Number(_corner.Y - place.Y)}) rotate({turn:0.##}) scale({letters * width:G6} {letters:G6})\" y=\"{down * FontSize / 1.35:0.##}\" text-anchor=\"{anchor}\" fill=\"#{(colour == Paper ? Ink : colour):x6}\" stroke=\"none\">"
        );
        texts
            .Append(System.Net.WebUtility.HtmlEncode(new string([.. value.Where(c => !char.IsControl(c))])))
            .Append("</text>");
    }
}

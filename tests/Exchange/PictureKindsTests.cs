using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Every kind of entity there is shows in the picture from above, and is where its extents say.</summary>
public class PictureKindsTests
{
    // Nothing to see from above, or not in model space: a ray has no end, a viewport is a window of a sheet, a definition shows in inserts,
    // a tolerance is kept without its frame.
    private static readonly string[] Unseen = ["RAY", "XLINE", "VIEWPORT", "ATTDEF", "TOLERANCE", "POINT", "WIPEOUT"];

    public static TheoryData<string> Kinds =>
        [.. KitchenSink.Create(CadVersion.AC1027).Model.Entities.Select(e => e.Type).Distinct().Except(Unseen)];

    private static (Drawing Drawing, List<Entity> Entities) Alone(string kind)
    {
        var drawing = KitchenSink.Create(CadVersion.AC1027);
        var of = drawing.Model.Entities.Where(e => e.Type == kind).ToList();
        drawing.Model.Entities.Clear();
        drawing.Model.Entities.AddRange(of);
        return (drawing, of);
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Each_kind_is_drawn(string kind)
    {
        var (drawing, entities) = Alone(kind);
        Assert.NotEmpty(entities);
        var picture = XElement.Parse(PlanPicture.Of(drawing)!);
        // Paths with more than a point, or texts.
        int strokes = picture
                .Descendants()
                .Count(e => e.Name.LocalName == "path" && e.Attribute("d")!.Value.IndexOfAny(['l', 'a']) > 0),
            texts = picture.Descendants().Count(e => e.Name.LocalName == "text" && e.Value.Length > 0);
        Assert.True(strokes + texts > 0, kind);
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void What_is_drawn_lies_within_the_extents(string kind)
    {
        // Letters reach beyond the point they stand at; blocks hold letters too, and references that are not here.
        if (kind is "TEXT" or "MTEXT" or "ATTRIB" or "INSERT" or "DIMENSION" or "MULTILEADER" or "IMAGE")
            return;
        var (drawing, _) = Alone(kind);
        var picture = XElement.Parse(PlanPicture.Of(drawing)!);
        double unit = double.Parse(
            picture.Attribute("data-unit")!.Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
        double[] corner =
        [
            .. picture
                .Attribute("data-corner")!
                .Value.Split(' ')
                .Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture)),
        ];
        var box = drawing.Extents();
        double slack = Math.Max(box.Size.Length * 0.02, 3 * unit);
        foreach (var part in picture.Descendants().Where(e => e.Attribute("data-box") is not null))
        {
            double[] b =
            [
                .. part.Attribute("data-box")!
                    .Value.Split(' ')
                    .Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture) * unit),
            ];
            Assert.InRange(corner[0] + b[0], box.Min.X - slack, box.Max.X + slack);
            Assert.InRange(corner[0] + b[2], box.Min.X - slack, box.Max.X + slack);
            Assert.InRange(corner[1] - b[1], box.Min.Y - slack, box.Max.Y + slack);
            Assert.InRange(corner[1] - b[3], box.Min.Y - slack, box.Max.Y + slack);
        }
    }

    // DXF reference, $PSLTSCALE: whether dashes in a viewport keep the length of the paper or are in the viewport's scale.
    [Theory]
    [InlineData(0, 6.0, 3.0)]
    [InlineData(1, 600.0, 300.0)]
    [InlineData(null, 600.0, 300.0)]
    public void Dashes_in_a_viewport_follow_the_header(int? scaling, double dash, double gap)
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Header.Set("$LTSCALE", 40, 100.0);
        if (scaling is { } given)
            drawing.Header.Set("$PSLTSCALE", 70, given);
        else
            drawing.Header["$PSLTSCALE"] = [];
        var dashed = new LineType
        {
            Name = "DASHED",
            Handle = drawing.NextHandle(),
            Owner = drawing.LineTypes.Handle,
            Length = 9,
        };
        dashed.Dashes.AddRange([new Dash(6), new Dash(-3)]);
        drawing.LineTypes.Add(dashed);
        drawing.Add(new Line { End = new(30_000, 0, 0), LineType = dashed.Handle });
        drawing.Add(
            new Viewport
            {
                Centre = new(200, 150, 0),
                Size = (400, 200),
                ViewHeight = 20_000,
            },
            drawing.Blocks[BlockRecord.PaperSpace]
        );
        var sheet = XElement.Parse(PlanPicture.Of(drawing, "Layout1")!);
        double unit = double.Parse(
            sheet.Attribute("data-unit")!.Value,
            System.Globalization.CultureInfo.InvariantCulture
        );
        var dashes = sheet
            .Descendants()
            .Single(e => e.Attribute("stroke-dasharray") is not null)
            .Attribute("stroke-dasharray")!
            .Value.Split(' ')
            .Select(n => double.Parse(n, System.Globalization.CultureInfo.InvariantCulture) * unit);
        Assert.Equal([dash, gap], dashes.Select(d => Math.Round(d, 6)));
    }

    [Fact]
    public void Layers_of_the_picture_are_those_of_the_entities()
    {
        var drawing = KitchenSink.Create(CadVersion.AC1027);
        var shown = XElement
            .Parse(PlanPicture.Of(drawing)!)
            .Descendants()
            .Select(e => e.Attribute("data-layer")?.Value)
            .Where(l => l is not null)
            .ToHashSet();
        Assert.Subset(drawing.Layers.Select(l => l.Name).ToHashSet(), shown!);
        Assert.Contains("A-WALL", shown);
    }

    [Fact]
    public void Every_sheet_has_a_picture_with_its_window()
    {
        var drawing = KitchenSink.Create(CadVersion.AC1027);
        foreach (var sheet in drawing.Layouts.Where(l => l.Tab > 0))
        {
            var picture = XElement.Parse(PlanPicture.Of(drawing, sheet.Name)!);
            Assert.Contains(picture.Descendants(), e => e.Name.LocalName == "clipPath");
            Assert.Contains(picture.Descendants(), e => e.Value.Contains("Plan 1:100", StringComparison.Ordinal));
        }

        Assert.Null(PlanPicture.Of(drawing, "no such sheet"));
    }
}

using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The demo's drawing is one that a party could have sent: what is said of it, shown of it and made of it agrees with what it
/// is.</summary>
public class DemoDrawingTests
{
    private static byte[] Bytes()
    {
        using var stream = new MemoryStream();
        HeronWharf.Drawings.Single().Write(stream);
        return stream.ToArray();
    }

    private static Drawing Plan() => DwgReader.Read(Bytes());

    [Fact]
    public void It_is_the_same_every_time() => Assert.Equal(Bytes(), Bytes());

    [Fact]
    public void Its_report_says_what_is_in_it()
    {
        var report = DrawingIntake.Read(Plan(), new CadForm(true, CadVersion.AC1024));
        Assert.Equal(
            ("dwg", "AC1024", "millimetre", 0.001),
            (report.Format, report.Version, report.Unit, report.Metres)
        );
        Assert.Equal(["S-100 Foundations"], report.Layouts.Select(l => l.Name));
        Assert.Equal([0.01, 0.05], report.Layouts[0].ViewportScales.Select(s => Math.Round(s, 6)));
        Assert.Equal([("CAD-XREF-MISSING", Severity.Warning)], report.Findings.Select(f => (f.Code, f.Severity)));
        Assert.Equal(
            (28, 22),
            (
                report.Blocks.Single(b => b.Name == "PAD-1800").Inserts,
                report.Blocks.Single(b => b.Name == "GRID-BUBBLE").Inserts
            )
        );
        Assert.Equal([("HW-QUAY-survey", false)], report.ExternalReferences.Select(r => (r.Name, r.Loaded)));
    }

    // The grid is that of the models: seven axes of 8 m one way, four the other, each with its tag at both ends.
    [Fact]
    public void Its_grid_is_that_of_the_models()
    {
        var plan = Plan();
        var tags = plan
            .Model.Entities.OfType<Insert>()
            .SelectMany(i => i.Attributes)
            .Where(a => a.Tag == "AXIS")
            .ToList();
        Assert.Equal(
            "A B C D E F G 1 2 3 4".Split(' ').Select(t => (t, 2)).Order(),
            tags.CountBy(t => t.Value).Select(t => (t.Key, t.Value)).Order()
        );
        foreach (var axis in tags.Where(t => char.IsLetter(t.Value[0])))
            Assert.Equal((axis.Value[0] - 'A') * 8000.0, axis.Insertion.X);
        foreach (var axis in tags.Where(t => char.IsDigit(t.Value[0])))
            Assert.Equal((axis.Value[0] - '1') * 8000.0, axis.Insertion.Y);
    }

    [Fact]
    public void Every_dimension_measures_what_lies_between_its_points()
    {
        var plan = Plan();
        var dimensions = plan.Model.Entities.OfType<Dimension>().ToList();
        Assert.Equal(
            [8000, 8000, 8000, 8000, 8000, 8000, 8000, 8000, 8000, 24_000, 48_000],
            dimensions.Select(d => d.Measurement).Order()
        );
        Assert.All(dimensions, d =>
        {
            Assert.Equal(d.Measurement, (d.Points.Second - d.Points.First).Length, 1e-9);
            // Its picture says the same in letters.
            Assert.Equal($"{d.Measurement:0}", plan.Blocks[d.Block]!.Entities.OfType<Text>().Single().Value);
        });
    }

    [Fact]
    public void Its_picture_shows_pads_hatched_and_the_title_of_the_sheet()
    {
        var model = XElement.Parse(PlanPicture.Of(Plan())!);
        XElement Layer(XElement svg, string name) =>
            svg.Descendants().First(e => (string?)e.Attribute("data-layer") == name);
        Assert.Contains(
            "url(#lines",
            string.Concat(Layer(model, "S-FNDN-HATCH").Descendants().Attributes("fill").Select(a => a.Value))
        );
        Assert.NotEmpty(Layer(model, "S-FNDN-BEAM").Descendants().Attributes("stroke-dasharray"));
        var sheet = XElement.Parse(PlanPicture.Of(Plan(), "S-100 Foundations")!);
        Assert.Contains(
            "Plan of foundations",
            Layer(sheet, "S-NOTE")
                .Descendants()
                .Concat(sheet.Descendants())
                .Where(e => e.Name.LocalName == "text")
                .Select(e => e.Value)
        );
    }

    public static TheoryData<bool, CadVersion, bool> Forms =>
        [
            .. from dwg in (bool[])[false, true]
            from version in new CadForm(dwg, CadVersion.AC1024).Versions
            from apart in (bool[])[false, true]
            select new TheoryDataRow<bool, CadVersion, bool>(dwg, version, apart),
        ];

    [Theory]
    [MemberData(nameof(Forms))]
    public void In_every_form_it_is_accounted_for(bool dwg, CadVersion version, bool apart)
    {
        var given = DrawingConverter.Convert(Bytes(), new CadForm(dwg, version), explode: apart);
        Assert.True(given.Balanced);
        // Taking apart names the one insert whose drawing was not sent.
        Assert.Equal(apart ? 1 : 0, given.Findings.Count);
        var again = CadFile.Read(given.Bytes).Drawing;
        Assert.Empty(again.Findings);
        Assert.Equal(Plan().Extents().ToString(), again.Extents().ToString());
        Assert.Equal(
            [0.01, 0.05],
            again.Blocks[BlockRecord.PaperSpace]!
                .Entities.OfType<Viewport>()
                .Skip(1)
                .Select(v => Math.Round(v.Scale, 6))
        );
    }
}

using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Shapes whose numbers or references would cost work without end: each ends, as a shape or as a problem.</summary>
public class HostileShapeTests
{
    // Far more than any of these takes on a slow machine; what hangs, hangs for hours.
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    [Fact]
    public void A_reference_to_nothing_is_of_no_class()
    {
        var model = IfcModel.Open(System.Text.Encoding.ASCII.GetBytes(Sample.Text("")));
        Assert.Equal(("nothing", null, false), (model.ClassName(-1), model.Entity(-1), model.Is(-1, "IfcRoot")));
    }

    [Fact]
    public void Profiles_whose_dimensions_are_mixed_up_end()
    {
        double[] sizes = [0.008, 0.012, 0.1, 0.2, 0.3, 1];
        var random = new Random(7);
        foreach (var (kind, attributes, _) in ProfileCases.Areas.Select(r => r.Data))
        {
            int count = attributes.Split(',').Length;
            for (int n = 0; n < 150; n++)
            {
                var mixed = Enumerable
                    .Range(0, count)
                    .Select(_ => sizes[random.Next(sizes.Length)].ToString(CultureInfo.InvariantCulture));
                Ends(ProfileCases.Extruded(kind, string.Join(',', mixed)));
            }
        }
    }

    [Fact]
    public void Dimensions_that_contradict_each_other_are_told_with_their_numbers()
    {
        var shape = Ends(ProfileCases.Extruded("IFCISHAPEPROFILEDEF", "0.15,0.3,0.2,0.02,$,$,$"));
        Assert.Equal(
            "The dimensions of an IfcIShapeProfileDef contradict each other: WebThickness is 0.2 m, OverallWidth only 0.15 m.",
            Assert.Single(shape.Problems)
        );
    }

    [Fact]
    public void Unions_of_themselves_are_computed_once()
    {
        // Each of forty unions uses the next one twice: 2^40 blocks if none is kept.
        var data = new StringBuilder("#90=IFCBLOCK(#2,1.,1.,1.);");
        for (int n = 0; n < 40; n++)
            data.Append(
                CultureInfo.InvariantCulture,
                $"#{(n == 0 ? 100 : 200 + n)}=IFCBOOLEANRESULT(.UNION.,#{(n == 39 ? 90 : 201 + n)},#{(n == 39 ? 90 : 201 + n)});"
            );
        var shape = Ends(data.ToString());
        Assert.Empty(shape.Problems);
        Assert.Equal(1, shape.Measure().Volume, 9);
    }

    [Fact]
    public void Mapped_items_to_the_power_of_ten_end_as_a_problem()
    {
        Assert.Contains("more work", Assert.Single(Ends(Mapped()).Problems), StringComparison.Ordinal);
    }

    [Fact]
    public void A_curve_that_leads_to_itself_by_two_ways_ends()
    {
        // Twenty composite curves of twice the next one.
        var data = new StringBuilder(
            "#90=IFCCARTESIANPOINT((0.,0.));#91=IFCCARTESIANPOINT((1.,0.));#92=IFCPOLYLINE((#90,#91));"
        );
        for (int n = 0; n < 40; n++)
            data.Append(
                CultureInfo.InvariantCulture,
                $"#{200 + (2 * n)}=IFCCOMPOSITECURVE((#{201 + (2 * n)},#{201 + (2 * n)}),.F.);#{201 + (2 * n)}=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#{(n == 39 ? 92 : 202 + (2 * n))});"
            );
        data.Append("#50=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#200);#100=IFCEXTRUDEDAREASOLID(#50,#2,#3,1.);");
        Assert.NotEmpty(Ends(data.ToString()).Problems);
        // Rewriting a shape asks for its parts, which have a budget too.
        var model = IfcModel.Open(Encoding.ASCII.GetBytes(Sample.ProxyText(data.ToString())));
        var reader = new ShapeReader(model, new IfcRelations(model), new IfcUnits(model));
        Assert.Throws<ShapeException>(() => reader.CurveSamples(model.File.IndexOf(200)));
        Assert.Throws<ShapeException>(() => reader.Item(model.File.IndexOf(100)));
    }

    [Fact]
    public void A_shape_can_be_called_off_while_it_is_built()
    {
        // Called off before it begins; what is felt is felt after some thousand steps.
        var model = IfcModel.Open(Encoding.ASCII.GetBytes(Sample.ProxyText(Mapped())));
        var reader = new ShapeReader(model, new IfcRelations(model), new IfcUnits(model));
        Assert.Throws<OperationCanceledException>(() =>
            reader.Read(model.File.IndexOf(103), new CancellationToken(true))
        );
    }

    private static string Mapped()
    {
        // Ten mapped items of a representation of ten mapped items, nine times over.
        var data = new StringBuilder(
            "#90=IFCBLOCK(#2,1.,1.,1.);#91=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#90));#92=IFCREPRESENTATIONMAP(#2,#91);"
                + "#93=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,$,#1,1.,$);"
        );
        for (int n = 1; n < 10; n++)
        {
            for (int i = 0; i < 10; i++)
                data.Append(
                    CultureInfo.InvariantCulture,
                    $"#{(1000 * n) + i}=IFCMAPPEDITEM(#{(n == 1 ? 92 : (1000 * n) - 900)},#93);"
                );
            data.Append(
                CultureInfo.InvariantCulture,
                $"#{(1000 * n) + 90}=IFCSHAPEREPRESENTATION(#8,'Body','MappedRepresentation',({string.Join(',', Enumerable.Range(0, 10).Select(i => $"#{(1000 * n) + i}"))}));"
            );
            data.Append(
                CultureInfo.InvariantCulture,
                $"#{(1000 * n) + 100}=IFCREPRESENTATIONMAP(#2,#{(1000 * n) + 90});"
            );
        }

        data.Append("#100=IFCMAPPEDITEM(#9100,#93);");
        return data.ToString();
    }

    private static Shape Ends(string data)
    {
        Shape? shape = null;
        Exception? failure = null;
        var thread = new Thread(() =>
        {
            try
            {
                shape = Sample.Shape(data);
            }
            catch (Exception e)
            {
                failure = e;
            }
        });
        thread.IsBackground = true;
        thread.Start();
        Assert.True(thread.Join(Patience), $"Takes without end: {data}");
        Assert.True(failure is null, $"{failure}: {data}");
        return shape!;
    }
}

using System.Globalization;
using System.Text;
using System.Text.Json;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Where the axes of members lie, against sections written by hand and formulas over rectangles.</summary>
public sealed class MemberTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private const string Rectangle = "#60=IFCRECTANGLEPROFILEDEF(.AREA.,'R 200x300',$,0.2,0.3);";

    // A channel 200 × 75, web 10, flanges 12, open to the section's +X.
    private const string Channel =
        "#61=IFCPOLYLINE((#62,#63,#64,#65,#66,#67,#68,#69,#62));#62=IFCCARTESIANPOINT((-0.0375,-0.1));#63=IFCCARTESIANPOINT((0.0375,-0.1));#64=IFCCARTESIANPOINT((0.0375,-0.088));#65=IFCCARTESIANPOINT((-0.0275,-0.088));#66=IFCCARTESIANPOINT((-0.0275,0.088));#67=IFCCARTESIANPOINT((0.0375,0.088));#68=IFCCARTESIANPOINT((0.0375,0.1));#69=IFCCARTESIANPOINT((-0.0375,0.1));#60=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,'U 200',#61);";

    [Theory]
    [InlineData(-0.15, 0, "top", 4.8, 4.5)]
    [InlineData(0.15, 0, "bottom", 5.1, 4.8)]
    [InlineData(0, 0, "centre", 4.95, 4.65)]
    [InlineData(-0.15, 0.1, "top left", 4.8, 4.5)]
    [InlineData(-0.1, 0, "0.050 m below the top", 4.85, 4.55)]
    public void A_beam_hangs_where_its_placement_runs_through_its_section(
        double down,
        double aside,
        string at,
        double top,
        double bottom
    )
    {
        var beam = Beam(Rectangle, down, aside);
        Assert.Equal(AxisEvidence.Placed, beam.From);
        Assert.Equal(at, beam.AxisAt);
        Assert.Equal("R 200x300", beam.Section);
        Assert.Equal(
            (top, bottom, 6.0),
            (Math.Round(beam.Top, 9), Math.Round(beam.Bottom, 9), Math.Round(beam.Length, 9))
        );
        Assert.Equal(top, beam.TopAtEnds.Least, 9);
        Assert.False(beam.IsOneSided);
    }

    [Fact]
    public void A_drawn_axis_goes_before_all_and_may_lie_outside_of_the_body()
    {
        var beam = Beam(Rectangle, -0.2, 0, axis: "(0.,0.,0.)", to: "(6.5,0.,0.)");
        Assert.Equal(
            (AxisEvidence.Drawn, "0.050 m above the top", 6.5),
            (beam.From, beam.AxisAt, Math.Round(beam.Length, 9))
        );
        Assert.Null(BeamOrNone(Rectangle, -0.2, 0, axis: "(0.,0.,0.),#91", to: "(6.,1.,0.)"));
    }

    [Fact]
    public void A_placement_far_from_the_body_tells_nothing_and_the_section_does()
    {
        var beam = Beam(Rectangle, 40, 0);
        Assert.Equal((AxisEvidence.Extruded, "centre"), (beam.From, beam.AxisAt));
        Assert.Equal(44.8 + 0.15, beam.Top, 9);
    }

    [Fact]
    public void A_body_of_faces_is_measured_along_its_longest_edge()
    {
        // A box of 0.2 × 5 × 0.3 metres whose placement lies elsewhere.
        var beam = Assert.Single(
            Read(
                Sample.Text(
                    Product(
                        "IFCBEAM",
                        "#100=IFCBLOCK(#70,0.2,5.,0.3);#70=IFCAXIS2PLACEMENT3D(#71,$,$);#71=IFCCARTESIANPOINT((30.,20.,4.));",
                        "CSG"
                    )
                )
            )
        );
        Assert.Equal((AxisEvidence.Found, "centre", 5.0), (beam.From, beam.AxisAt, Math.Round(beam.Length, 9)));
        Assert.Equal((30.1, 20.0, 4.15 + 4.8), (beam.Start.X, beam.Start.Y, Math.Round(beam.Start.Z, 9)));
    }

    [Fact]
    public void A_sloping_beam_has_a_top_at_either_end()
    {
        // From (0, 0, 4.8) up by 3 over 4: the top lies 0.15 square to the axis, 0.12 higher.
        var beam = Beam(Rectangle, 0, 0, along: "(4.,0.,3.)");
        Assert.Equal(4.8 + (0.15 * 0.8), beam.TopAtEnds.Least, 9);
        Assert.Equal(4.8 + (6 * 0.6) + (0.15 * 0.8), beam.TopAtEnds.Most, 9);
    }

    // ∫x³ over a channel as three rectangles, about the centroid.
    [Fact]
    public void A_channel_is_heavier_on_its_web_side_by_the_formula_for_rectangles()
    {
        (double X0, double X1, double Height)[] parts = [(-0.0375, -0.0275, 0.2), (-0.0275, 0.0375, 0.024)];
        double area = parts.Sum(p => (p.X1 - p.X0) * p.Height);
        double centroid = parts.Sum(p => (p.X1 - p.X0) * p.Height * (p.X0 + p.X1) / 2) / area;
        double third = parts.Sum(p => p.Height * (Math.Pow(p.X1 - centroid, 4) - Math.Pow(p.X0 - centroid, 4)) / 4);
        var beam = Beam(Channel, 0, 0);
        // The section's X is the job's Y, to the left of a beam that runs along X.
        Assert.Equal(Math.Cbrt(third / area) / 0.2, beam.Heavy.Y, 9);
        Assert.Equal(0, beam.Heavy.Z, 4);
        Assert.True(beam.IsOneSided);
    }

    [Fact]
    public void Two_sources_of_one_member_are_told_apart_by_height_axis_place_and_turn()
    {
        var top = Beam(Rectangle, -0.15, 0);
        Assert.Empty(MemberDisagreements.Find([top], [top]));
        // Placed by its bottom instead of its top: the whole body stands 0.3 higher.
        var bottom = Beam(Rectangle, 0.15, 0);
        Assert.Equal([(MemberDisagreements.Height, 0.3)], Found(top, bottom));
        Assert.Equal([(MemberDisagreements.Height, -0.3)], Found(bottom, top));
        // The same body about two axes.
        Assert.Equal([(MemberDisagreements.Axis, 0.15)], Found(top, Beam(Rectangle, 0, 0, at: "4.65")));
        Assert.Equal([(MemberDisagreements.Aside, 0.05)], Found(top, Beam(Rectangle, -0.15, 0.05)));
        // Drawn the other way round it is the same beam.
        var back = top with { Start = top.End, End = top.Start, Aside = new Reach(-top.Aside.Most, -top.Aside.Least) };
        Assert.Empty(Found(top, back));
    }

    [Fact]
    public void A_channel_that_opens_to_the_other_side_is_turned_half_round_and_a_box_never_is()
    {
        var channel = Beam(Channel, 0, 0);
        Assert.Equal(
            [(MemberDisagreements.Turn, 180.0)],
            Found(channel, Beam(Channel, 0, 0, reference: "(0.,-1.,0.)"))
        );
        Assert.Equal([], Found(Beam(Rectangle, 0, 0), Beam(Rectangle, 0, 0, reference: "(0.,-1.,0.)")));
    }

    [Fact]
    public void A_column_on_its_side_is_turned_by_a_quarter()
    {
        var column = Beam(Rectangle, 0, 0, along: "(0.,0.,1.)", reference: "(1.,0.,0.)");
        Assert.True(column.IsUpright);
        var turned = Beam(Rectangle, 0, 0, along: "(0.,0.,1.)", reference: "(0.,1.,0.)");
        Assert.Equal([(MemberDisagreements.Turn, 90.0)], Found(column, turned));
        Assert.Empty(Found(column, column.In(new SettingOutDocument { TurnDegrees = 180 }.Frame)));
    }

    [Fact]
    public void Neighbours_that_lie_apart_or_pass_one_another_are_no_pair()
    {
        var beam = Beam(Rectangle, -0.15, 0);
        Assert.Empty(MemberPairs.Find([beam], [beam.In(Frame.At(new Vec3(0, 0.6, 0)))]));
        Assert.Empty(MemberPairs.Find([beam], [beam.In(Frame.At(new Vec3(4, 0, 0)))]));
        Assert.Empty(MemberPairs.Find([beam], [beam.In(new SettingOutDocument { TurnDegrees = 20 }.Frame)]));
        // Of two the nearer, and the other stays alone.
        var near = beam.In(Frame.At(new Vec3(0, 0.01, 0)));
        Assert.Equal([new MemberPair(0, 1)], MemberPairs.Find([beam], [beam.In(Frame.At(new Vec3(0, 0.1, 0))), near]));
    }

    [Fact]
    public void Another_unit_another_frame_and_json_keep_a_member()
    {
        var metres = Beam(Channel, -0.1, 0);
        string feet = Sample.Text(
            Extruded(
                "#60=IFCRECTANGLEPROFILEDEF(.AREA.,'R',$,0.656167979,0.984251969);",
                "-0.492125984",
                "0.",
                "(1.,0.,0.)",
                "(0.,1.,0.)",
                "15.748031496",
                "19.68503937"
            ),
            "ft"
        );
        var beam = Assert.Single(Read(feet));
        Assert.Equal(("top", 4.8), (beam.AxisAt, Math.Round(beam.Top, 6)));
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web);
        Assert.Equal(metres, JsonSerializer.Deserialize<Member>(JsonSerializer.Serialize(metres, options), options));
        var frame = new SettingOutDocument { Shift = [500_000, 5_000_000, -30.48], TurnDegrees = 33 }.Frame;
        var there = metres.In(frame).In(frame.Inverse());
        Assert.True((there.Start - metres.Start).Length < 1e-6 && Math.Abs(there.Top - metres.Top) < 1e-9);
        Assert.Equal(metres.AxisAt, metres.In(frame).AxisAt);
    }

    [Fact]
    public void A_frame_that_stands_higher_disagrees_in_every_member_and_in_nothing_else()
    {
        var frame = MemberReader.ReadAll(demo.Snapshots["STR"]);
        Assert.Equal(405, frame.Count);
        Assert.Empty(MemberDisagreements.Find(frame, frame));
        var higher = frame.Select(m => m.In(Frame.At(new Vec3(0, 0, 0.1)))).ToList();
        var found = MemberDisagreements.Find(frame, higher);
        Assert.Equal([(MemberDisagreements.Height, 405)], found.CountBy(d => d.Code).Select(c => (c.Key, c.Value)));
        Assert.All(found, d => Assert.Equal(0.1, d.Amount, 6));
    }

    private static IEnumerable<(string, double)> Found(Member a, Member b) =>
        MemberDisagreements.Find([a], [b]).Select(d => (d.Code, Math.Round(d.Amount, 6)));

    private static Member Beam(
        string profile,
        double down,
        double aside,
        string? axis = null,
        string to = "",
        string along = "(1.,0.,0.)",
        string reference = "(0.,1.,0.)",
        string at = "4.8",
        bool half = false
    ) => BeamOrNone(profile, down, aside, axis, to, along, reference, at)!;

    // A beam at (0, 0, at) whose section is extruded by 6 along a direction, its middle so far down and aside.
    private static Member? BeamOrNone(
        string profile,
        double down,
        double aside,
        string? axis = null,
        string to = "",
        string along = "(1.,0.,0.)",
        string reference = "(0.,1.,0.)",
        string at = "4.8"
    )
    {
        string text = Extruded(profile, N(down), N(-aside), along, reference, at, "6.");
        if (axis is not null)
        {
            text =
                text.Replace("(#101)", "(#101,#95)", StringComparison.Ordinal)
                + $"#95=IFCSHAPEREPRESENTATION(#8,'Axis','Curve2D',(#94));#94=IFCPOLYLINE((#90,{(axis.Contains('#', StringComparison.Ordinal) ? "#91," : "")}#92));#90=IFCCARTESIANPOINT({axis.Split(",#")[0]});#91=IFCCARTESIANPOINT((3.,0.,0.));#92=IFCCARTESIANPOINT({to});";
        }

        return Read(Sample.Text(text)).SingleOrDefault();
    }

    private static string Extruded(
        string profile,
        string down,
        string aside,
        string along,
        string reference,
        string at,
        string depth
    ) =>
        profile
        + Product(
            "IFCBEAM",
            $"#100=IFCEXTRUDEDAREASOLID(#60,#70,#3,{depth});#70=IFCAXIS2PLACEMENT3D(#71,#72,#73);#71=IFCCARTESIANPOINT((0.,{aside},{down}));#72=IFCDIRECTION({along});#73=IFCDIRECTION({reference});",
            "SweptSolid",
            at
        );

    private static string Product(string entity, string item, string form, string at = "4.8") =>
        item
        + $"#80=IFCCARTESIANPOINT((0.,0.,{at}));#81=IFCAXIS2PLACEMENT3D(#80,$,$);#82=IFCLOCALPLACEMENT($,#81);#101=IFCSHAPEREPRESENTATION(#8,'Body','{form}',(#100));#102=IFCPRODUCTDEFINITIONSHAPE($,$,(#101));#103={entity}('0000000000000000000002',$,'B1',$,$,#82,#102,$,$);";

    private static IReadOnlyList<Member> Read(string text) =>
        MemberReader.ReadAll(ModelSnapshot.Open(Encoding.ASCII.GetBytes(text)));

    private static string N(double value) => value.ToString("0.0#####", CultureInfo.InvariantCulture);
}

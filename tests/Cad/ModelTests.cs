using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

public class ModelTests
{
    [Fact]
    public void A_layout_is_renamed_in_its_dictionary_too()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var sheet = drawing.Layouts.Last();
        drawing.Rename(sheet, "A-201");
        Assert.Equal(["Model", "A-201"], drawing.Layouts.Select(l => l.Name));
        Assert.Equal(
            ["Model", "A-201"],
            drawing.Objects.OfType<CadDictionary>().Single(d => d.Handle == sheet.Owner).Entries.Select(e => e.Name)
        );
    }

    [Fact]
    public void A_new_drawing_has_what_every_drawing_has()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        Assert.Equal(["ByBlock", "ByLayer", "Continuous"], drawing.LineTypes.Select(l => l.Name));
        Assert.Equal(["*Model_Space", "*Paper_Space"], drawing.Blocks.Select(b => b.Name));
        Assert.Equal(["Model", "Layout1"], drawing.Layouts.Select(l => l.Name));
        Assert.All(drawing.Blocks, b =>
            Assert.Equal(b.Handle, drawing.Layouts.Single(l => l.Handle == b.Layout).Block)
        );
        var root = Assert.IsType<CadDictionary>(drawing.Objects[0]);
        Assert.Equal(
            ["ACAD_GROUP", "ACAD_LAYOUT", "ACAD_MLINESTYLE", "ACAD_PLOTSTYLENAME"],
            root.Entries.Select(e => e.Name)
        );
        int objects = drawing.Objects.Count;
        drawing.Complete();
        Assert.Equal(objects, drawing.Objects.Count);
    }

    [Fact]
    public void Handles_are_given_to_entities_and_their_parts()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var line = new Polyline(PolylineKind.Space);
        line.Vertices.AddRange([new(PolylineKind.Space), new(PolylineKind.Space)]);
        drawing.Add(line);
        Assert.All(line.Vertices, v => Assert.Equal(line.Handle, v.Owner));
        Assert.Equal(drawing.Layers["0"]!.Handle, line.Layer);
        Assert.Equal(
            4,
            new[] { line.Handle, line.End, line.Vertices[0].Handle, line.Vertices[1].Handle }.Distinct().Count()
        );
        Assert.True(drawing.Seed.CompareTo(line.End) > 0);
    }

    [Fact]
    public void Records_are_found_by_name_in_any_case()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        var layer = drawing.AddLayer("A-Wall", 0xFF0000);
        Assert.Same(layer, drawing.AddLayer("a-WALL"));
        Assert.Same(layer, drawing.Layers["A-WALL"]);
        Assert.Same(layer, drawing.Layers[layer.Handle]);
        Assert.Null(drawing.Layers["B"]);
        Assert.Equal("0", drawing.LayerName(new Handle(0xFFFF)));
    }

    // DXF reference, "Group code value types".
    [Theory]
    [InlineData(0, GroupKind.Text)]
    [InlineData(5, GroupKind.Handle)]
    [InlineData(40, GroupKind.Double)]
    [InlineData(62, GroupKind.Short)]
    [InlineData(90, GroupKind.Int)]
    [InlineData(100, GroupKind.Text)]
    [InlineData(105, GroupKind.Handle)]
    [InlineData(160, GroupKind.Long)]
    [InlineData(210, GroupKind.Double)]
    [InlineData(280, GroupKind.Short)]
    [InlineData(290, GroupKind.Bool)]
    [InlineData(310, GroupKind.Binary)]
    [InlineData(330, GroupKind.Handle)]
    [InlineData(370, GroupKind.Short)]
    [InlineData(420, GroupKind.Int)]
    [InlineData(430, GroupKind.Text)]
    [InlineData(1000, GroupKind.Text)]
    [InlineData(1004, GroupKind.Binary)]
    [InlineData(1010, GroupKind.Double)]
    [InlineData(1070, GroupKind.Short)]
    [InlineData(1071, GroupKind.Int)]
    public void Group_codes_announce_their_kind(int code, GroupKind kind) => Assert.Equal(kind, GroupCodes.Kind(code));

    [Theory]
    [InlineData(-3)]
    [InlineData(-2)]
    [InlineData(-1)]
    [InlineData(0)]
    [InlineData(35)]
    [InlineData(211)]
    public void Line_weights_come_back(short weight) =>
        Assert.Equal(weight, LineWeights.FromNumber(LineWeights.ToNumber(weight)));

    [Fact]
    public void A_weight_between_two_becomes_the_heavier() =>
        Assert.Equal(40, LineWeights.FromNumber(LineWeights.ToNumber(37)));

    // Common practice: 1 red, 5 blue, 7 white on a dark screen; 30 is orange, 30 degrees on from red.
    [Theory]
    [InlineData(1, 0xFF0000)]
    [InlineData(5, 0x0000FF)]
    [InlineData(7, 0xFFFFFF)]
    [InlineData(30, 0xFF7F00)]
    [InlineData(170, 0x0000FF)]
    public void Colour_numbers_have_their_colour(int index, int rgb) => Assert.Equal(rgb, ColourTable.Rgb(index));

    [Fact]
    public void A_true_colour_finds_its_nearest_number()
    {
        Assert.Equal(1, ColourTable.Nearest(0xFE0101));
        Assert.Equal(new CadColour(3, 0x00FF00), CadColour.True(0x00FF00));
        Assert.Equal(0x00FF00, new CadColour(3).Seen);
        Assert.Null(CadColour.ByLayer.Seen);
    }

    [Theory]
    [InlineData("ANSI_1252", 1252)]
    [InlineData("ANSI_932", 932)]
    [InlineData("ISO8859_5", 28595)]
    [InlineData("nonsense", 1252)]
    public void Code_pages_go_by_name(string name, int page) => Assert.Equal(page, CodePages.Encoding(name).CodePage);

    [Theory]
    [InlineData("ANSI_1252")]
    [InlineData("ANSI_1251")]
    [InlineData("ANSI_936")]
    public void Code_pages_have_a_number_in_dwg(string name) =>
        Assert.Equal(name, CodePages.Name(CodePages.Number(name)));

    [Theory]
    [InlineData("\\U+6881", "梁")]
    [InlineData("a\\U+00e9b", "aéb")]
    [InlineData("\\M+182A0", "あ")]
    [InlineData("\\U+12", "\\U+12")]
    [InlineData("C:\\Users", "C:\\Users")]
    public void Characters_written_as_codes_are_read(string bytes, string text) =>
        Assert.Equal(
            text,
            new CadText(System.Text.Encoding.Latin1).Decode(System.Text.Encoding.Latin1.GetBytes(bytes))
        );

    [Fact]
    public void An_insert_scales_turns_and_repeats()
    {
        var block = new BlockRecord { Base = new(1, 0, 0) };
        var insert = new Insert
        {
            Location = new(10, 20, 0),
            Scale = new(2, 3, 1),
            Rotation = Math.PI / 2,
            Array = (2, 2),
            Spacing = (5, 7),
        };
        var places = InsertTransform.All(insert, block, 100).Select(t => t.Apply(new Vec3(2, 1, 0))).ToList();
        // (2,1) less the base, scaled to (2,3), turned to (-3,2).
        Vec3[] expected = [new(7, 22, 0), new(7, 27, 0), new(0, 22, 0), new(0, 27, 0)];
        Assert.All(expected.Zip(places), p => Assert.True((p.First - p.Second).Length < 1e-9, $"{p.First} {p.Second}"));
        Assert.Equal(2, InsertTransform.All(insert, block, 1).Count());
    }

    [Fact]
    public void Extents_follow_blocks_and_object_coordinates()
    {
        var drawing = Drawing.Create(CadVersion.AC1024);
        drawing.Add(
            new Circle
            {
                Centre = new(5, 0, 0),
                Radius = 1,
                Normal = new(0, 0, -1),
            }
        );
        var box = drawing.Extents();
        Assert.Equal((-6, -4), (Math.Round(box.Min.X, 9), Math.Round(box.Max.X, 9)));
    }

    // Half a circle below, a quarter to the right, three quarters around: by hand.
    [Theory]
    [InlineData(1.0, 0, -5, 10, 0)]
    [InlineData(-1.0, 0, 0, 10, 5)]
    [InlineData(0.41421356237309503, 0, -2.0710678118654746, 10, 0)]
    [InlineData(2.414213562373095, -2.0710678118654755, -12.071067811865476, 12.071067811865476, 0)]
    [InlineData(0, 0, 0, 10, 0)]
    public void Extents_reach_as_far_as_arcs_of_polylines(
        double bulge,
        double left,
        double bottom,
        double right,
        double top
    )
    {
        var drawing = Drawing.Create(CadVersion.AC1027);
        var light = new LightPolyline();
        light.Vertices.AddRange([new(new(0, 0), bulge), new(new(10, 0))]);
        drawing.Add(light);
        Assert.True(
            (drawing.Extents().Min - new Vec3(left, bottom, 0)).Length
                + (drawing.Extents().Max - new Vec3(right, top, 0)).Length
                < 1e-9,
            drawing.Extents().ToString()
        );
        var heavy = new Polyline(PolylineKind.Flat);
        heavy.Vertices.AddRange([
            new Vertex(PolylineKind.Flat) { Bulge = bulge },
            new Vertex(PolylineKind.Flat) { Location = new(10, 0, 0) },
        ]);
        drawing.Model.Entities.Clear();
        drawing.Add(heavy);
        Assert.True(
            (drawing.Extents().Min - new Vec3(left, bottom, 0)).Length
                + (drawing.Extents().Max - new Vec3(right, top, 0)).Length
                < 1e-9,
            drawing.Extents().ToString()
        );
    }

    [Fact]
    public void Dimension_variables_go_by_name()
    {
        var style = new DimensionStyle();
        Assert.Equal(0.18, style["DIMTXT"]);
        style["DIMTXT"] = 3.5;
        Assert.Equal(3.5, style["DIMTXT"]);
        Assert.Throws<KeyNotFoundException>(() => style["DIMNONE"]);
        Assert.Throws<ArgumentException>(() => style["DIMTXT"] = "wide");
    }

    [Fact]
    public void The_map_of_objects_comes_back_over_many_pieces()
    {
        var entries = Enumerable
            .Range(1, 5000)
            .Select(i => (new Handle((ulong)(i * 3)), (long)(i * 977 % 100_000)))
            .ToList();
        var drawing = new Drawing();
        byte[] map = DwgMap.Write(entries);
        Assert.Equal(entries, DwgMap.Read(map, drawing));
        Assert.Empty(drawing.Findings);
        map[5000] ^= 0x10;
        Assert.NotEmpty(DwgMap.Read(map, drawing));
        Assert.Contains(drawing.Findings, f => f.Code is "CAD-CRC" or "CAD-MAP");
    }

    [Theory]
    [InlineData(new byte[] { })]
    [InlineData(new byte[] { 0x01, 1, 2, 3, 4 })]
    [InlineData(new byte[] { 0x01, 1, 2, 3, 4, 0xFF, 0xFF })]
    [InlineData(new byte[] { 0x00, 0x00, 0x00 })]
    public void Packed_pages_that_make_no_sense_are_refused(byte[] packed) =>
        Assert.Throws<CadFormatException>(() => DwgCompression.Decompress(packed, new byte[64]));

    [Fact]
    public void Groups_of_a_record_come_back_from_bytes()
    {
        List<CadGroup> groups =
        [
            new(1, "text 梁"),
            new(40, 1.5),
            new(70, -3L),
            new(90, 70000L),
            new(160, 1L << 40),
            new(290, true),
            new(310, new byte[] { 1, 2 }),
            new(330, new Handle(0x2A)),
            new(10, 1.0),
            new(20, 2.0),
            new(30, 3.0),
        ];
        var text = new CadText(System.Text.Encoding.Latin1);
        foreach (var version in (CadVersion[])[CadVersion.AC1018, CadVersion.AC1024])
        {
            byte[] bytes = DwgGroups.Write(groups, version, text);
            var again = new List<CadGroup>();
            DwgGroups.Read(new BitReader(bytes), again, bytes.Length, version, text);
            Assert.Equal(groups.Select(Say), again.Select(Say));
        }

        static string Say(CadGroup g) => $"{g.Code} {(g.Value is byte[] b ? Convert.ToHexString(b) : g.Value)}";
    }
}

using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>
/// Group codes of the published DXF reference ("ENTITIES section", "TABLES section", "OBJECTS section"), kind by kind: what a stranger
/// writes under a code
/// is found in the property that means it, and is written under the same code again.
/// </summary>
public class DxfReferenceTests
{
    private const double Degree = Math.PI / 180;

    /// <summary>Kind, its groups, what is seen, as it should be.</summary>
    public static TheoryData<string, string, Func<Entity, object>, object> Entities =>
        new()
        {
            {
                "LINE",
                "10=1 20=2 30=3 11=4 21=5 31=6 39=0.5",
                e => ((Line)e).Start + (Vec3.AxisX * ((Line)e).Thickness),
                new Vec3(1.5, 2, 3)
            },
            { "LINE", "10=1 20=2 30=3 11=4 21=5 31=6", e => ((Line)e).End, new Vec3(4, 5, 6) },
            {
                "POINT",
                "10=1 20=2 30=3 50=30",
                e => (((Point)e).Location, Math.Round(((Point)e).Angle / Degree, 9)),
                (new Vec3(1, 2, 3), 30.0)
            },
            {
                "CIRCLE",
                "10=1 20=2 30=3 40=4",
                e => (((Circle)e).Centre, ((Circle)e).Radius),
                (new Vec3(1, 2, 3), 4.0)
            },
            { "CIRCLE", "10=1 20=2 40=4 210=0 220=0 230=-1", e => ((Circle)e).Normal, new Vec3(0, 0, -1) },
            {
                "ARC",
                "10=0 20=0 40=4 50=30 51=120",
                e => (Math.Round(((ArcEntity)e).Start / Degree, 9), Math.Round(((ArcEntity)e).End / Degree, 9)),
                (30.0, 120.0)
            },
            {
                "ELLIPSE",
                "10=1 20=2 30=0 11=3 21=0 31=0 40=0.5 41=0 42=3.14",
                e => (((Ellipse)e).Axis, ((Ellipse)e).Ratio, ((Ellipse)e).End),
                (new Vec3(3, 0, 0), 0.5, 3.14)
            },
            {
                "LWPOLYLINE",
                "90=2 70=1 43=0.2 38=7 10=0 20=0 42=1 10=5 20=0",
                e =>
                    (
                        ((LightPolyline)e).Closed,
                        ((LightPolyline)e).Width,
                        ((LightPolyline)e).Elevation,
                        ((LightPolyline)e).Vertices[0].Bulge,
                        ((LightPolyline)e).Vertices[1].Point
                    ),
                (true, 0.2, 7.0, 1.0, new Vec2(5, 0))
            },
            {
                "LWPOLYLINE",
                "90=1 70=128 10=0 20=0 40=0.1 41=0.3",
                e =>
                    (
                        ((LightPolyline)e).Generated,
                        ((LightPolyline)e).Vertices[0].StartWidth,
                        ((LightPolyline)e).Vertices[0].EndWidth
                    ),
                (true, 0.1, 0.3)
            },
            {
                "TEXT",
                "10=1 20=2 40=2.5 1=Gate~2 50=45 41=0.8 51=15 71=2",
                e =>
                    (
                        ((Text)e).Value,
                        ((Text)e).Height,
                        Math.Round(((Text)e).Rotation / Degree, 9),
                        ((Text)e).Width,
                        Math.Round(((Text)e).Slant / Degree, 9),
                        ((Text)e).Generation
                    ),
                ("Gate 2", 2.5, 45.0, 0.8, 15.0, 2)
            },
            {
                "TEXT",
                "10=1 20=2 40=1 1=x 72=1 73=2 11=7 21=8",
                e => (((Text)e).Horizontal, ((Text)e).Vertical, ((Text)e).Alignment),
                (1, 2, new Vec3(7, 8, 0))
            },
            {
                "MTEXT",
                "10=1 20=2 40=2 41=30 71=5 72=1 1=two\\Plines 44=1.5 73=2",
                e => (((MText)e).Value, ((MText)e).Width, ((MText)e).Attachment, ((MText)e).Flow, ((MText)e).Spacing),
                ("two\\Plines", 30.0, 5, 1, (2, 1.5))
            },
            {
                "MTEXT",
                "10=1 20=2 40=2 3=begin~ 1=end 11=0 21=1 31=0",
                e => (((MText)e).Value, ((MText)e).Direction),
                ("begin end", new Vec3(0, 1, 0))
            },
            {
                "INSERT",
                "2=DOOR 10=1 20=2 41=2 42=3 43=4 50=90 70=5 71=6 44=7 45=8",
                e =>
                    (
                        ((Insert)e).Scale,
                        Math.Round(((Insert)e).Rotation / Degree, 9),
                        ((Insert)e).Array,
                        ((Insert)e).Spacing
                    ),
                (new Vec3(2, 3, 4), 90.0, (5, 6), (7.0, 8.0))
            },
            {
                "SOLID",
                "10=0 20=0 11=1 21=0 12=0 22=1 13=1 23=1 39=2",
                e => (((Solid)e).Corners[3], ((Solid)e).Thickness),
                (new Vec3(1, 1, 0), 2.0)
            },
            { "TRACE", "10=0 20=0 11=1 21=0 12=0 22=1 13=1 23=1", e => ((Solid)e).IsTrace, true },
            {
                "3DFACE",
                "10=0 20=0 30=1 11=1 21=0 31=1 12=1 22=1 32=1 13=0 23=1 33=1 70=5",
                e => (((Face3D)e).Corners[2], ((Face3D)e).Hidden),
                (new Vec3(1, 1, 1), 5)
            },
            {
                "RAY",
                "10=1 20=2 30=3 11=0 21=1 31=0",
                e => (((Ray)e).Both, ((Ray)e).Direction),
                (false, new Vec3(0, 1, 0))
            },
            {
                "XLINE",
                "10=1 20=2 30=3 11=1 21=0 31=0",
                e => (((Ray)e).Both, ((Ray)e).Start),
                (true, new Vec3(1, 2, 3))
            },
            {
                "SPLINE",
                "70=8 71=2 72=6 73=3 74=0 40=0 40=0 40=0 40=1 40=1 40=1 10=0 20=0 30=0 10=1 20=2 30=0 10=2 20=0 30=0",
                e => (((Spline)e).Degree, ((Spline)e).Knots.Count, ((Spline)e).Controls[1]),
                (2, 6, new Vec3(1, 2, 0))
            },
            {
                "SPLINE",
                "70=12 71=1 72=4 73=2 40=0 40=0 40=1 40=1 41=1 41=0.5 10=0 20=0 30=0 10=1 20=0 30=0",
                e => string.Join(' ', ((Spline)e).Weights),
                "1 0.5"
            },
            {
                "SPLINE",
                "70=8 71=3 74=2 11=1 21=2 31=0 11=3 21=4 31=0 12=1 22=0 32=0 13=0 23=1 33=0",
                e => (((Spline)e).Fits[1], ((Spline)e).Tangents.End),
                (new Vec3(3, 4, 0), new Vec3(0, 1, 0))
            },
            {
                "LEADER",
                "3=Standard 71=0 72=1 73=0 76=2 10=0 20=0 30=0 10=5 20=5 30=0 40=2 41=9",
                e =>
                    (
                        ((Leader)e).Arrow,
                        ((Leader)e).Path,
                        ((Leader)e).AnnotationKind,
                        ((Leader)e).Points[1],
                        ((Leader)e).Box
                    ),
                (false, 1, 0, new Vec3(5, 5, 0), (2.0, 9.0))
            },
            {
                "TOLERANCE",
                "3=Standard 10=1 20=2 1=abc 11=0 21=1",
                e => (((GeometricTolerance)e).Value, ((GeometricTolerance)e).Insertion),
                ("abc", new Vec3(1, 2, 0))
            },
            {
                "DIMENSION",
                "2=*D1 10=5 20=6 70=32 1=<>~mm 13=0 23=0 14=9 24=0 50=30",
                e =>
                    (
                        ((Dimension)e).Kind,
                        ((Dimension)e).Value,
                        ((Dimension)e).Points.Second,
                        Math.Round(((Dimension)e).Angle / Degree, 9)
                    ),
                (DimensionKind.Linear, "<> mm", new Vec3(9, 0, 0), 30.0)
            },
            { "DIMENSION", "10=5 20=6 70=33 13=1 23=1 14=9 24=1", e => ((Dimension)e).Kind, DimensionKind.Aligned },
            {
                "DIMENSION",
                "10=5 20=6 70=36 15=7 25=8",
                e => (((Dimension)e).Kind, ((Dimension)e).Third),
                (DimensionKind.Radius, new Vec3(7, 8, 0))
            },
            {
                "DIMENSION",
                "10=5 20=6 70=38 13=1 23=2 14=3 24=4",
                e => (((Dimension)e).Kind, ((Dimension)e).OfX),
                (DimensionKind.Ordinate, false)
            },
            {
                "HATCH",
                "10=0 20=0 30=1 210=0 220=0 230=1 2=SOLID 70=1 71=0 91=1 92=2 72=0 73=1 93=3 10=0 20=0 10=4 20=0 10=4 20=4 97=0 75=1 76=1 98=0",
                e => (((Hatch)e).Filled, ((Hatch)e).Elevation, ((Hatch)e).Style, ((Hatch)e).Paths[0].Vertices.Count),
                (true, 1.0, 1, 3)
            },
            {
                "HATCH",
                "10=0 20=0 30=0 210=0 220=0 230=1 2=ANSI31 70=0 71=0 91=1 92=1 93=2 72=1 10=0 20=0 11=4 21=0 72=2 10=2 20=0 40=2 50=0 51=180 73=1 97=0 75=0 76=1 52=45 41=2 77=0 78=1 53=45 43=0 44=0 45=-1 46=1 79=2 49=1 49=-2 98=1 10=1 20=1",
                e =>
                    (
                        ((Hatch)e).Paths[0].Edges[1].Radius,
                        Math.Round(((Hatch)e).Angle / Degree, 9),
                        ((Hatch)e).Scale,
                        ((Hatch)e).Lines[0].Dashes[1],
                        ((Hatch)e).Seeds[0]
                    ),
                (2.0, 45.0, 2.0, -2.0, new Vec2(1, 1))
            },
            {
                "IMAGE",
                "10=1 20=2 30=0 11=0.1 21=0 31=0 12=0 22=0.1 32=0 13=640 23=480 70=3 280=0 281=60 282=40 283=10",
                e => (((Image)e).Size, ((Image)e).Display, ((Image)e).Tone),
                (new Vec2(640, 480), 3, (60, 40, 10))
            },
            {
                "VIEWPORT",
                "10=100 20=80 40=200 41=160 68=2 69=3 12=5 22=6 45=16000",
                e =>
                    (
                        ((Viewport)e).Centre,
                        ((Viewport)e).Size,
                        ((Viewport)e).Id,
                        ((Viewport)e).ViewCentre,
                        ((Viewport)e).Scale
                    ),
                (new Vec3(100, 80, 0), (200.0, 160.0), 3, new Vec2(5, 6), 0.01)
            },
            {
                "MESH",
                "71=2 72=0 91=1 92=3 10=0 20=0 30=0 10=1 20=0 30=0 10=0 20=1 30=0 93=4 90=3 90=0 90=1 90=2 94=0 95=0 90=0",
                e => (((MeshEntity)e).Points.Count, string.Join(' ', ((MeshEntity)e).Faces), ((MeshEntity)e).Level),
                (3, "3 0 1 2", 1)
            },
            {
                "POLYLINE",
                "66=1 10=0 20=0 30=4 70=1 0=VERTEX 8=W 10=1 20=2 42=0.5 0=VERTEX 8=W 10=3 20=4 0=SEQEND 8=W",
                e =>
                    (
                        ((Polyline)e).Kind,
                        ((Polyline)e).Elevation,
                        ((Polyline)e).Vertices[0].Bulge,
                        ((Polyline)e).Vertices[1].Location.Y
                    ),
                (PolylineKind.Flat, 4.0, 0.5, 4.0)
            },
            {
                "POLYLINE",
                "66=1 70=8 0=VERTEX 8=W 10=1 20=2 30=3 70=32 0=SEQEND 8=W",
                e => (((Polyline)e).Kind, ((Polyline)e).Vertices[0].Location),
                (PolylineKind.Space, new Vec3(1, 2, 3))
            },
            {
                "POLYLINE",
                "66=1 70=64 71=3 72=1 0=VERTEX 8=W 10=0 20=0 30=0 70=192 0=VERTEX 8=W 10=1 20=0 30=0 70=192 0=VERTEX 8=W 10=0 20=1 30=0 70=192 0=VERTEX 8=W 10=0 20=0 30=0 70=128 71=1 72=2 73=-3 0=SEQEND 8=W",
                e =>
                    (
                        ((Polyline)e).Kind,
                        ((Polyline)e).Counts,
                        ((Polyline)e).Vertices[3].IsFace,
                        ((Polyline)e).Vertices[3].Corners[2]
                    ),
                (PolylineKind.Polyface, (3, 1), true, -3)
            },
        };

    [Theory]
    [MemberData(nameof(Entities))]
    public void A_code_is_the_property_that_means_it(
        string kind,
        string groups,
        Func<Entity, object> seen,
        object expected
    )
    {
        var drawing = GroupText.Entity(kind, groups);
        var entity = Assert.Single(drawing.Model.Entities);
        Assert.Equal(kind, entity.Type);
        Assert.Equal(expected, seen(entity));
        // Through our own writing, and through DWG, it says the same.
        using var dxf = new MemoryStream();
        DxfWriter.Write(drawing, dxf);
        Assert.Equal(expected, seen(Assert.Single(DxfReader.Read(dxf.ToArray()).Model.Entities)));
    }

    [Theory]
    [MemberData(nameof(Entities))]
    public void In_DWG_it_is_the_same(string kind, string groups, Func<Entity, object> seen, object expected)
    {
        var drawing = GroupText.Entity(kind, groups);
        foreach (var version in DwgWriter.Versions)
        {
            using var dwg = new MemoryStream();
            Assert.Empty(DwgWriter.Write(drawing, dwg, version));
            var again = DwgReader.Read(dwg.ToArray());
            Assert.Equal("", string.Join("; ", again.Findings));
            var value = seen(again.Model.Entities.Single(e => e.Type == kind));
            Assert.True(
                expected.Equals(value) || Close(expected, value),
                $"{kind} in {version}: {value} for {expected}"
            );
        }
    }

    // Numbers of a spline's or an image's that DWG keeps in another form may differ in their last digits.
    private static bool Close(object a, object b) =>
        a.ToString() is { } x
        && b.ToString() is { } y
        && string.Concat(x.Where(c => !char.IsDigit(c))) == string.Concat(y.Where(c => !char.IsDigit(c)))
        && a is not string;

    /// <summary>Codes all entities share.</summary>
    public static TheoryData<string, Func<Drawing, Entity, object>, object> Shared =>
        new()
        {
            { "62=3", (_, e) => e.Colour.Index, (short)3 },
            { "62=3 420=1193046", (_, e) => e.Colour.Rgb!, 0x123456 },
            { "420=255 430=BOOK$Blue", (_, e) => e.Colour.Name!, "BOOK$Blue" },
            { "6=CONTINUOUS", (d, e) => d.LineTypes[e.LineType]!.Name.ToUpperInvariant(), "CONTINUOUS" },
            { "48=2.5", (_, e) => e.LineTypeScale, 2.5 },
            { "370=50", (_, e) => e.LineWeight, (short)50 },
            { "60=1", (_, e) => e.Invisible, true },
            { "440=33554687", (_, e) => e.Extras.Transparency, 33554687 },
            { "284=2", (_, e) => e.Extras.Shadow, 2 },
            { "102={ACAD_REACTORS 330=1F 102=}", (_, e) => e.Extras.Reactors[0].Value, 0x1Ful },
            { "102={ACAD_XDICTIONARY 360=2A 102=}", (_, e) => e.Extras.Dictionary.Value, 0x2Aul },
        };

    [Theory]
    [MemberData(nameof(Shared))]
    public void What_entities_share_is_read(string groups, Func<Drawing, Entity, object> seen, object expected)
    {
        var drawing = GroupText.Entity("POINT", groups + " 10=1 20=2");
        Assert.Equal(expected, seen(drawing, Assert.Single(drawing.Model.Entities)));
        Assert.Equal("W", drawing.LayerName(drawing.Model.Entities[0].Layer));
    }

    /// <summary>Table, groups of a record, what is seen.</summary>
    public static TheoryData<string, string, Func<Drawing, object>, object> Records =>
        new()
        {
            {
                "LAYER",
                "2=A 70=0 62=-3 6=CONTINUOUS",
                d => (d.Layers["A"]!.On, d.Layers["A"]!.Colour.Index),
                (false, (short)3)
            },
            {
                "LAYER",
                "2=A 70=5 62=7 290=0 370=25 420=255",
                d =>
                    (
                        d.Layers["A"]!.Frozen,
                        d.Layers["A"]!.Locked,
                        d.Layers["A"]!.Plot,
                        d.Layers["A"]!.LineWeight,
                        d.Layers["A"]!.Colour.Rgb
                    ),
                (true, true, false, (short)25, (int?)255)
            },
            {
                "LTYPE",
                "2=DASHDOT 70=0 3=Dash~dot 72=65 73=4 40=1 49=0.5 74=0 49=-0.25 74=0 49=0 74=0 49=-0.25 74=0",
                d =>
                    (
                        d.LineTypes["DASHDOT"]!.Description,
                        d.LineTypes["DASHDOT"]!.Length,
                        d.LineTypes["DASHDOT"]!.Dashes.Count
                    ),
                ("Dash dot", 1.0, 4)
            },
            {
                "STYLE",
                "2=NARROW 70=0 40=3.5 41=0.7 50=10 71=0 42=2.5 3=arial.ttf",
                d => (d.Styles["NARROW"]!.Height, d.Styles["NARROW"]!.Width, d.Styles["NARROW"]!.Font),
                (3.5, 0.7, "arial.ttf")
            },
            {
                "UCS",
                "2=GRID 70=0 10=1 20=2 30=3 11=0 21=1 31=0 12=-1 22=0 32=0",
                d => (d.CoordinateSystems["GRID"]!.Origin, d.CoordinateSystems["GRID"]!.AxisX),
                (new Vec3(1, 2, 3), new Vec3(0, 1, 0))
            },
            {
                "VIEW",
                "2=SOUTH 70=0 40=30 10=5 20=6 41=40 11=0 21=-1 31=0",
                d => (d.Views["SOUTH"]!.Height, d.Views["SOUTH"]!.Width, d.Views["SOUTH"]!.Direction),
                (30.0, 40.0, new Vec3(0, -1, 0))
            },
            { "APPID", "2=SOMEBODY 70=0", d => d.Applications["SOMEBODY"]!.Name, "SOMEBODY" },
            {
                "DIMSTYLE",
                "2=ISO-25 70=0 140=2.5 271=2 41=2.5",
                d =>
                    (
                        (double)d.DimensionStyles["ISO-25"]!["DIMTXT"],
                        Convert.ToInt64(d.DimensionStyles["ISO-25"]!["DIMDEC"], null)
                    ),
                (2.5, 2L)
            },
        };

    [Theory]
    [MemberData(nameof(Records))]
    public void Records_of_tables_are_read(string table, string groups, Func<Drawing, object> seen, object expected)
    {
        var drawing = GroupText.Record(table, groups);
        Assert.Equal(expected, seen(drawing));
        using var dxf = new MemoryStream();
        DxfWriter.Write(drawing, dxf);
        Assert.Equal(expected, seen(DxfReader.Read(dxf.ToArray())));
        using var dwg = new MemoryStream();
        DwgWriter.Write(drawing, dwg, CadVersion.AC1027);
        Assert.Equal(expected, seen(DwgReader.Read(dwg.ToArray())));
    }

    /// <summary>Kind, groups, what is seen.</summary>
    public static TheoryData<string, string, Func<CadObject, object>, object> Objects =>
        new()
        {
            { "DICTIONARY", "5=90 3=ONE 350=91 3=TWO 350=92", o => ((CadDictionary)o)["TWO"].Value, 0x92ul },
            {
                "GROUP",
                "5=90 300=Stair 70=0 71=1 340=1A 340=1B",
                o => (((EntityGroup)o).Description, ((EntityGroup)o).Members.Count),
                ("Stair", 2)
            },
            {
                "XRECORD",
                "5=90 280=1 1=text 40=2.5 90=7",
                o => string.Join(' ', ((CadRecord)o).Groups.Select(g => g.Code)),
                "1 40 90"
            },
            { "DICTIONARYVAR", "5=90 280=0 1=42", o => ((DictionaryVariable)o).Value, "42" },
            { "SORTENTSTABLE", "5=90 330=1F 331=A 5=B", o => o.Type, "SORTENTSTABLE" },
        };

    [Theory]
    [MemberData(nameof(Objects))]
    public void Objects_without_a_picture_are_read(
        string kind,
        string groups,
        Func<CadObject, object> seen,
        object expected
    )
    {
        var drawing = GroupText.Object(kind, groups);
        var item = drawing.Objects.Single(o => o.Handle.Value == 0x90);
        Assert.Equal(kind, item.Type);
        Assert.Equal(expected, seen(item));
    }

    // A kind nobody here knows comes back group by group.
    [Theory]
    [InlineData("ACAD_MARVEL", "100=AcDbEntity 62=3 100=AcDbMarvel 40=1.5 1=as_it_was 70=2 330=1F")]
    public void Kinds_that_are_not_known_come_back_as_they_were(string kind, string groups)
    {
        var drawing = GroupText.Entity(kind, groups);
        var entity = Assert.IsType<OpaqueEntity>(Assert.Single(drawing.Model.Entities));
        string written = GroupText.Of(drawing, entity);
        foreach (
            string group in groups
                .Split(' ')
                .Where(g =>
                    !g.StartsWith("100=", StringComparison.Ordinal) && !g.StartsWith("330=", StringComparison.Ordinal)
                )
        )
            Assert.Contains(group, written);
    }
}

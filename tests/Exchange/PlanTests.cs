using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>What a plan shows of elements that have no body: grids, annotations, axes, outlines.</summary>
public class PlanTests
{
    private const string Model =
        "#20=IFCSITE('0000000000000000000020',$,'S',$,$,$,$,$,.ELEMENT.,$,$,$,$,$);#21=IFCBUILDING('0000000000000000000021',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);#22=IFCBUILDINGSTOREY('0000000000000000000022',$,'Deck',$,$,$,$,$,.ELEMENT.,2.);"
        + "#23=IFCRELAGGREGATES('0000000000000000000023',$,$,$,#7,(#20));#24=IFCRELAGGREGATES('0000000000000000000024',$,$,$,#20,(#21));#25=IFCRELAGGREGATES('0000000000000000000025',$,$,$,#21,(#22));"
        + "#30=IFCCARTESIANPOINT((0.,0.));#31=IFCCARTESIANPOINT((6.,0.));#32=IFCPOLYLINE((#30,#31));#33=IFCCARTESIANPOINT((0.,4.));#34=IFCPOLYLINE((#30,#33));#35=IFCGRIDAXIS('A',#32,.T.);#36=IFCGRIDAXIS('1',#34,.T.);"
        + "#37=IFCGRID('0000000000000000000037',$,'Grid',$,$,$,$,(#35),(#36),$,$);"
        + "#40=IFCAXIS2PLACEMENT2D(#31,$);#41=IFCTEXTLITERAL('Gangway',#40,.RIGHT.);#42=IFCCIRCLE(#40,0.5);#43=IFCGEOMETRICCURVESET((#42));#44=IFCSHAPEREPRESENTATION(#8,'Annotation','Annotation2D',(#41,#43));#45=IFCPRODUCTDEFINITIONSHAPE($,$,(#44));#46=IFCANNOTATION('0000000000000000000046',$,'Note',$,$,$,#45);"
        + "#50=IFCSHAPEREPRESENTATION(#8,'Axis','Curve2D',(#32));#51=IFCPRODUCTDEFINITIONSHAPE($,$,(#50));#52=IFCBEAM('0000000000000000000052',$,'Beam',$,$,$,#51,$,$);"
        + "#55=IFCBEAM('0000000000000000000055',$,'Nothing',$,$,$,$,$,$);"
        + "#60=IFCCARTESIANPOINT((0.,0.,2.));#61=IFCAXIS2PLACEMENT3D(#60,$,$);#62=IFCLOCALPLACEMENT($,#61);#63=IFCBLOCK(#2,6.,0.3,3.);#64=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#63));#65=IFCPRODUCTDEFINITIONSHAPE($,$,(#64));#66=IFCWALL('0000000000000000000066',$,'Wall',$,$,#62,#65,$,$);"
        + "#67=IFCBLOCK(#68,1.,0.2,3.);#68=IFCAXIS2PLACEMENT3D(#69,$,$);#69=IFCCARTESIANPOINT((2.,0.3,0.));#70=IFCSHAPEREPRESENTATION(#8,'Body','CSG',(#67));#71=IFCPRODUCTDEFINITIONSHAPE($,$,(#70));#72=IFCPROJECTIONELEMENT('0000000000000000000072',$,'Pilaster',$,$,#62,#71,$,$);#73=IFCRELPROJECTSELEMENT('0000000000000000000073',$,$,$,#66,#72);"
        + "#80=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000080',$,$,$,(#37,#46,#52,#55,#66),#22);";

    private static (HandoverResult Result, MemoryFiles Files) Run(Target form, LengthUnit? unit = null)
    {
        var snapshot = ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.Text(Model)));
        var files = new MemoryFiles();
        return (
            HandoverRunner.Run(
                new HandoverRun(
                    new HandoverOrder(Selection.All, form, true, unit),
                    [new HandoverSource("ARC", "arc", snapshot)],
                    files
                )
                {
                    Job = "HW",
                    TimeStamp = "2026-11-26T10:00:00",
                }
            ),
            files
        );
    }

    [Theory]
    [InlineData(null, 1)]
    [InlineData("mm", 1000)]
    public void Grids_annotations_and_axes_are_in_the_plan(string? unit, double scale)
    {
        var (result, files) = Run(TargetCatalog.DrawingPlan, unit is null ? null : LengthUnit.Find(unit));
        Assert.True(result.Reconciliation.Balanced, string.Join("\n", result.Reconciliation.Differences));
        var row = result.Reconciliation.Rows.ToDictionary(r => r.Class);
        Assert.Equal((1, 1, 1), (row["IfcGrid"].Found, row["IfcAnnotation"].Found, row["IfcWall"].Found));
        // The beam with an axis goes, the one with nothing stays and says why.
        Assert.Equal((2, 1, 1), (row["IfcBeam"].In, row["IfcBeam"].Found, row["IfcBeam"].LeftOut));
        Assert.Contains(DrawingTarget.NoShape, row["IfcBeam"].Reasons.Keys);
        var drawing = CadFile.Read(files.Read(Assert.Single(result.Files).Name).ToArray()).Drawing;
        var texts = drawing.Model.Entities.OfType<Text>().ToList();
        Assert.Equal(["1", "1", "A", "A", "Gangway"], texts.Select(t => t.Value).Order(StringComparer.Ordinal));
        Assert.All(texts, t => Assert.Equal(0.25 * scale, t.Height, 1e-9));
        Assert.Equal(6 * scale, texts.Single(t => t.Value == "Gangway").Insertion.X, 1e-6);
        // Plans lie at the height of their level.
        Assert.All(drawing.Model.Entities.OfType<LightPolyline>(), p => Assert.Equal(2 * scale, p.Elevation, 1e-9));
        Assert.Contains(drawing.Model.Entities.OfType<LightPolyline>(), p => p.Closed && p.Vertices.Count > 40);
    }

    [Fact]
    public void As_bodies_they_stay_and_say_why()
    {
        var (result, _) = Run(TargetCatalog.DrawingMeshes);
        Assert.True(result.Reconciliation.Balanced);
        Assert.Equal(["IfcWall"], result.Reconciliation.Rows.Where(r => r.Found > 0).Select(r => r.Class));
        Assert.All(result.Reconciliation.Rows.Where(r => r.LeftOut > 0), r =>
            Assert.Equal(r.LeftOut, r.Reasons[DrawingTarget.NoShape])
        );
    }

    [Fact]
    public void A_projection_goes_with_its_element_and_is_none_itself()
    {
        var snapshot = ModelSnapshot.Open(Encoding.ASCII.GetBytes(Sample.Text(Model)));
        Assert.DoesNotContain(snapshot.Elements, e => e.Class == "IfcProjectionElement");
        var wall = snapshot.Elements.Single(e => e.Class == "IfcWall");
        using var stream = new MemoryStream();
        SubsetWriter.Write(snapshot, SubsetPlan.Of(snapshot, [wall], []), null, "x", "", stream);
        var again = ModelSnapshot.Open(stream.ToArray());
        Assert.Equal(
            (6 * 0.3 * 3) + (0.2 * 3),
            again.Shapes.Read(again.Elements.Single().Index)!.Measure().Volume,
            1e-6
        );
        Assert.Equal(0, snapshot.Structure.StoreyOf(snapshot.Model.File.IndexOf(72)));
    }
}

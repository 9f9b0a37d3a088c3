using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

public class ModelTests
{
    [Theory]
    [InlineData("IFC2X3", "IFC2X3")]
    [InlineData("IFC2X_FINAL", "IFC2X3")]
    [InlineData("ifc4", "IFC4")]
    [InlineData("IFC4X3_ADD2", "IFC4X3")]
    [InlineData("CIS2", null)]
    public void Schema_names_are_understood(string file, string? schema) =>
        Assert.Equal(schema, IfcSchema.For(file)?.Name);

    // ISO 16739-1: the positions that a redeclared attribute shifts in common readings.
    [Theory]
    [InlineData("IFCSIUNIT", "Name", 3)]
    [InlineData("IFCORIENTEDEDGE", "Orientation", 3)]
    [InlineData("IFCGEOMETRICREPRESENTATIONSUBCONTEXT", "ParentContext", 6)]
    [InlineData("IFCMIRROREDPROFILEDEF", "Label", 4)]
    [InlineData("IFCWALL", "PredefinedType", 8)]
    public void Positions_are_those_of_the_standard(string entity, string attribute, int position) =>
        Assert.Equal(position, IfcSchema.For("IFC4")!.Find(entity)!.Position(attribute));

    [Fact]
    public void Subtypes_are_known()
    {
        var wall = IfcSchema.For("IFC2X3")!.Find("IFCWALLSTANDARDCASE")!;
        Assert.True(wall.Is("IfcWall") && wall.Is("IfcProduct") && wall.Is("IfcRoot"));
        Assert.False(wall.Is("IfcSlab"));
    }

    [Theory]
    [InlineData("m", 1)]
    [InlineData("mm", 0.001)]
    [InlineData("ft", 0.3048)]
    public void Length_units_are_read(string unit, double metres) =>
        Assert.Equal(metres, new IfcUnits(Sample.Model("", unit)).Metres);

    [Fact]
    public void A_missing_unit_is_told() => Assert.False(new IfcUnits(Sample.Model("", "none")).LengthDeclared);

    [Theory]
    [InlineData("0000000000000000000001", true)]
    [InlineData("3hX9tQ0bL7kOa$2fVwE1zR", true)]
    [InlineData("4000000000000000000000", false)]
    [InlineData("short", false)]
    [InlineData("0000000000000000000-01", false)]
    public void GlobalIds_have_a_form(string id, bool good) => Assert.Equal(good, GlobalIds.IsWellFormed(id));

    [Fact]
    public void A_GlobalId_is_its_128_bits()
    {
        Assert.Equal("0000000000000000000001", GlobalIds.FromBytes([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1]));
        Assert.Equal("3$$$$$$$$$$$$$$$$$$$$$", GlobalIds.FromBytes(Enumerable.Repeat((byte)255, 16).ToArray()));
    }

    [Fact]
    public void Every_kind_of_property_becomes_text()
    {
        var model = Sample.Model(
            """
            #20=IFCPROPERTYSINGLEVALUE('Single',$,IFCLABEL('x'),$);
            #21=IFCPROPERTYSINGLEVALUE('Blank',$,$,$);
            #22=IFCPROPERTYSINGLEVALUE('Length',$,IFCLENGTHMEASURE(2.5),$);
            #23=IFCPROPERTYSINGLEVALUE('Own unit',$,IFCLENGTHMEASURE(25.),#40);
            #24=IFCPROPERTYENUMERATEDVALUE('Enum',$,(IFCLABEL('a'),IFCLABEL('b')),$);
            #25=IFCPROPERTYBOUNDEDVALUE('Bounds',$,IFCREAL(9.),IFCREAL(1.),$,$);
            #26=IFCPROPERTYLISTVALUE('List',$,(IFCINTEGER(1),IFCINTEGER(2)),$);
            #27=IFCPROPERTYTABLEVALUE('Table',$,(IFCREAL(1.)),(IFCLABEL('one')),$,$,$,$);
            #28=IFCCOMPLEXPROPERTY('Complex',$,'use',(#20,#29));
            #29=IFCPROPERTYSINGLEVALUE('Flag',$,IFCBOOLEAN(.T.),$);
            #30=IFCPROPERTYSET('0000000000000000000005',$,'Set',$,(#20,#21,#22,#23,#24,#25,#26,#27,#28));
            #40=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
            """
        );
        var set = new PropertyReader(model, new IfcRelations(model), new IfcUnits(model)).Set(model.File.IndexOf(30));
        Assert.Equal(
            [
                "Single=x",
                "Blank=",
                "Length=2.5 m",
                "Own unit=25 mm",
                "Enum=a, b",
                "Bounds=1 … 9",
                "List=1, 2",
                "Table=1 → one",
                "Complex.Single=x",
                "Complex.Flag=True",
            ],
            set.Properties.Select(p => $"{p.Name}={p.Value}{(p.Unit.Length > 0 ? " " + p.Unit : "")}")
        );
        Assert.Equal(9, set.Filled);
    }

    [Fact]
    public void A_type_gives_what_the_element_lacks()
    {
        var model = Sample.Model(
            """
            #20=IFCPROPERTYSINGLEVALUE('A',$,IFCLABEL('own'),$);
            #21=IFCPROPERTYSINGLEVALUE('A',$,IFCLABEL('type'),$);
            #22=IFCPROPERTYSINGLEVALUE('B',$,IFCLABEL('type'),$);
            #23=IFCPROPERTYSET('0000000000000000000005',$,'Set',$,(#20));
            #24=IFCPROPERTYSET('0000000000000000000006',$,'Set',$,(#21,#22));
            #25=IFCWALLTYPE('0000000000000000000007',$,'T',$,$,(#24),$,$,$,.STANDARD.);
            #26=IFCWALL('0000000000000000000008',$,'W',$,$,$,$,$,$);
            #27=IFCRELDEFINESBYTYPE('0000000000000000000009',$,$,$,(#26),#25);
            #28=IFCRELDEFINESBYPROPERTIES('000000000000000000000A',$,$,$,(#26),#23);
            """
        );
        var sets = new PropertyReader(model, new IfcRelations(model), new IfcUnits(model)).Of(model.File.IndexOf(26));
        Assert.Equal(["own", "type"], sets.SelectMany(s => s.Properties).Select(p => p.Value));
        Assert.Equal([false, true], sets.Select(s => s.FromType));
    }

    [Fact]
    public void Materials_layers_and_classifications_are_read()
    {
        var model = Sample.Model(
            """
            #20=IFCMATERIAL('Brick',$,$);
            #21=IFCMATERIALLAYER(#20,0.115,$,$,$,$,$);
            #22=IFCMATERIALLAYERSET((#21,#21),'Wall',$);
            #23=IFCMATERIALLAYERSETUSAGE(#22,.AXIS2.,.POSITIVE.,0.,$);
            #26=IFCWALL('0000000000000000000008',$,'W',$,$,$,#31,$,$);
            #27=IFCRELASSOCIATESMATERIAL('0000000000000000000009',$,$,$,(#26),#23);
            #28=IFCCLASSIFICATION($,$,$,'Our codes',$,$,$);
            #29=IFCCLASSIFICATIONREFERENCE($,'W1','Outer wall',#28,$,$);
            #30=IFCRELASSOCIATESCLASSIFICATION('000000000000000000000A',$,$,$,(#26),#29);
            #31=IFCPRODUCTDEFINITIONSHAPE($,$,(#32));
            #32=IFCSHAPEREPRESENTATION(#8,'Body','SweptSolid',());
            #33=IFCPRESENTATIONLAYERASSIGNMENT('A-WALL',$,(#32),$);
            """
        );
        var relations = new IfcRelations(model);
        int wall = model.File.IndexOf(26);
        Assert.Equal(
            [("Brick", 0.115), ("Brick", 0.115)],
            new MaterialReader(model, relations, new IfcUnits(model)).Of(wall).Select(m => (m.Name, m.Thickness!.Value))
        );
        var use = Assert.Single(new ClassificationReader(model, relations).Of(wall));
        Assert.Equal(("Our codes", "W1", "Outer wall"), (use.System, use.Code, use.Name));
        Assert.Equal(["A-WALL"], new LayerReader(model).Of(wall));
    }

    [Fact]
    public void The_demo_has_its_grid_with_the_curved_axis()
    {
        using var stream = new MemoryStream();
        Demo.HeronWharf.Models[0].Write(stream);
        var model = IfcModel.Open(stream.ToArray());
        var axes = GridReader.Read(model, new IfcUnits(model));
        Assert.Equal(["A", "B", "C", "D", "E", "F", "G", "1", "2", "3", "4", "R"], axes.Select(a => a.Tag));
        Assert.Equal(8, axes[1].Points[0].X, 9);
        Assert.All(axes[^1].Points, p => Assert.Equal(12, Math.Sqrt(Math.Pow(p.X - 48, 2) + Math.Pow(p.Y - 12, 2)), 6));
    }
}

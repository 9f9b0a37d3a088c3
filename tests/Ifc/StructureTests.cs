using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

public class StructureTests
{
    private const string Storeys = """
        #20=IFCSITE('0000000000000000000020',$,'S',$,$,#21,$,$,.ELEMENT.,$,$,$,$,$);
        #21=IFCLOCALPLACEMENT($,#22);
        #22=IFCAXIS2PLACEMENT3D(#23,#3,#24);
        #23=IFCCARTESIANPOINT((1000.,2000.,5.));
        #24=IFCDIRECTION((0.,1.,0.));
        #25=IFCBUILDING('0000000000000000000025',$,'B',$,$,$,$,$,.ELEMENT.,$,$,$);
        #26=IFCBUILDINGSTOREY('0000000000000000000026',$,'Upper',$,$,$,$,$,.ELEMENT.,4.);
        #27=IFCBUILDINGSTOREY('0000000000000000000027',$,'Lower',$,$,#21,$,$,.ELEMENT.,$);
        #28=IFCRELAGGREGATES('0000000000000000000028',$,$,$,#25,(#26,#27));
        """;

    private static (IfcModel Model, SpatialStructure Structure) Open(string data, string unit = "m")
    {
        var model = Sample.Model(Storeys + data, unit);
        var relations = new IfcRelations(model);
        return (model, new SpatialStructure(model, relations, new IfcUnits(model)));
    }

    private static string StoreyOf((IfcModel Model, SpatialStructure Structure) open, int id) =>
        open.Structure.StoreyOf(open.Model.File.IndexOf(id)) is >= 0 and var storey
            ? open.Structure.Storeys[storey].Name
            : "";

    [Fact]
    public void Storeys_are_in_order_and_fall_back_to_their_placement()
    {
        var (_, structure) = Open("");
        Assert.Equal(["Upper", "Lower"], structure.Storeys.Select(s => s.Name));
        Assert.Equal([4, 5], structure.Storeys.Select(s => s.Level));
        Assert.Equal(0.3048 * 4, Open("", "ft").Structure.Storeys[0].Level, 9);
    }

    [Fact]
    public void Parts_openings_fillers_rooms_and_ports_find_their_storey()
    {
        var open = Open(
            """
            #30=IFCWALL('0000000000000000000030',$,$,$,$,$,$,$,$);
            #31=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000031',$,$,$,(#30),#26);
            #32=IFCOPENINGELEMENT('0000000000000000000032',$,$,$,$,$,$,$,$);
            #33=IFCRELVOIDSELEMENT('0000000000000000000033',$,$,$,#30,#32);
            #34=IFCDOOR('0000000000000000000034',$,$,$,$,$,$,$,$,$,$,$,$);
            #35=IFCRELFILLSELEMENT('0000000000000000000035',$,$,$,#32,#34);
            #36=IFCSPACE('0000000000000000000036',$,$,$,$,$,$,$,.ELEMENT.,$,$);
            #37=IFCRELAGGREGATES('0000000000000000000037',$,$,$,#27,(#36));
            #38=IFCFURNITURE('0000000000000000000038',$,$,$,$,$,$,$,$);
            #39=IFCRELCONTAINEDINSPATIALSTRUCTURE('0000000000000000000039',$,$,$,(#38),#36);
            #40=IFCBUILDINGELEMENTPART('0000000000000000000040',$,$,$,$,$,$,$,$);
            #41=IFCRELAGGREGATES('0000000000000000000041',$,$,$,#30,(#40));
            #42=IFCDISTRIBUTIONPORT('0000000000000000000042',$,$,$,$,$,$,$,$,$);
            #43=IFCRELNESTS('0000000000000000000043',$,$,$,#38,(#42));
            #44=IFCSLAB('0000000000000000000044',$,$,$,$,$,$,$,$);
            """
        );
        Assert.Equal(
            ["Upper", "Upper", "Upper", "Lower", "Lower", "Upper", "Lower", ""],
            new[] { 30, 32, 34, 36, 38, 40, 42, 44 }.Select(id => StoreyOf(open, id))
        );
    }

    [Fact]
    public void A_whole_that_is_its_own_part_belongs_nowhere_and_hangs_nothing() =>
        Assert.Equal(
            "",
            StoreyOf(
                Open(
                    "#30=IFCWALL('0000000000000000000030',$,$,$,$,$,$,$,$);#31=IFCRELAGGREGATES('0000000000000000000031',$,$,$,#30,(#30));"
                ),
                30
            )
        );

    [Fact]
    public void A_map_conversion_is_read_in_the_maps_unit_and_turned()
    {
        var (model, structure) = Open(
            "#50=IFCMAPCONVERSION(#8,#51,500000.,5500000.,30.,0.,1.,$);#51=IFCPROJECTEDCRS('EPSG:25832',$,$,$,$,$,#52);#52=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);",
            "mm"
        );
        // ISO 16739-1, IfcMapConversion: without a Scale one unit of the file is one unit of the map, here a millimetre a metre.
        Assert.Equal(
            new GeoReference("IfcMapConversion", "EPSG:25832", 500000, 5500000, 30, 90) { Scale = 1000 },
            GeoReference.Read(model, structure, new IfcUnits(model))
        );
    }

    [Fact]
    public void Without_one_the_site_placement_stands_in()
    {
        var (model, structure) = Open("");
        Assert.Equal(
            new GeoReference("site placement", "", 1000, 2000, 5, 90),
            GeoReference.Read(model, structure, new IfcUnits(model))
        );
    }

    [Fact]
    public void Styles_come_from_items_and_materials_in_both_schemas()
    {
        const string data =
            "#60=IFCCOLOURRGB($,1.,0.5,0.);#61=IFCSURFACESTYLERENDERING(#60,0.25,$,$,$,$,$,$,.FLAT.);#62=IFCSURFACESTYLE($,.BOTH.,(#61));#63=IFCPRESENTATIONSTYLEASSIGNMENT((#62));#64=IFCSTYLEDITEM(#1,(#63),$);#65=IFCSTYLEDITEM(#2,(#62),$);#66=IFCMATERIAL('M',$,$);#67=IFCSTYLEDREPRESENTATION(#8,$,$,(#68));#68=IFCSTYLEDITEM($,(#62),$);#69=IFCMATERIALDEFINITIONREPRESENTATION($,$,(#67),#66);";
        var model = Sample.Model(data);
        var styles = new IfcStyles(model);
        var orange = new Colour(255, 128, 0, 191);
        Assert.Equal(orange, styles.Item(model.File.IndexOf(1)));
        Assert.Equal(orange, styles.Item(model.File.IndexOf(2)));
        Assert.Equal(orange, styles.Material(model.File.IndexOf(66)));
        Assert.Null(styles.Item(model.File.IndexOf(3)));
    }

    [Theory]
    [InlineData("#60=IFCSIUNIT(*,.AREAUNIT.,$,.SQUARE_METRE.);", "m²", 1)]
    [InlineData("#60=IFCSIUNIT(*,.AREAUNIT.,.MILLI.,.SQUARE_METRE.);", "mm²", 1e-6)]
    [InlineData("#60=IFCSIUNIT(*,.VOLUMEUNIT.,.CENTI.,.CUBIC_METRE.);", "cm³", 1e-6)]
    [InlineData("#60=IFCSIUNIT(*,.PRESSUREUNIT.,.KILO.,.PASCAL.);", "kPa", 1000)]
    [InlineData(
        "#60=IFCCONVERSIONBASEDUNIT($,.LENGTHUNIT.,'INCH',#61);#61=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(25.4),#62);#62=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);",
        "in",
        0.0254
    )]
    [InlineData(
        "#60=IFCCONVERSIONBASEDUNIT($,.PLANEANGLEUNIT.,'DEGREE',#61);#61=IFCMEASUREWITHUNIT(IFCPLANEANGLEMEASURE(0.0174532925199433),#62);#62=IFCSIUNIT(*,.PLANEANGLEUNIT.,$,.RADIAN.);",
        "°",
        Math.PI / 180
    )]
    public void Units_have_symbols_and_sizes(string data, string symbol, double size)
    {
        var model = Sample.Model(data);
        var units = new IfcUnits(model);
        Assert.Equal(symbol, units.Symbol(model.File.IndexOf(60)));
        Assert.Equal(size, units.Factor(model.File.IndexOf(60)), 12);
    }

    [Fact]
    public void Derived_units_are_written_as_fractions()
    {
        var model = Sample.Model(
            "#60=IFCDERIVEDUNIT((#61,#62,#63),.THERMALTRANSMITTANCEUNIT.,$);#61=IFCDERIVEDUNITELEMENT(#64,1);#62=IFCDERIVEDUNITELEMENT(#5,-2);#63=IFCDERIVEDUNITELEMENT(#65,-1);#64=IFCSIUNIT(*,.POWERUNIT.,$,.WATT.);#65=IFCSIUNIT(*,.THERMODYNAMICTEMPERATUREUNIT.,$,.KELVIN.);"
        );
        Assert.Equal("W/m²·K", new IfcUnits(model).Symbol(model.File.IndexOf(60)));
    }

    [Fact]
    public void Derived_units_of_strangers_end_nothing()
    {
        // A unit of itself a hundred times over, and a power that has no opposite.
        string elements = string.Join(",", Enumerable.Repeat("#61", 100));
        var model = Sample.Model(
            $"#60=IFCDERIVEDUNIT(({elements},#62),.USERDEFINED.,'odd');#61=IFCDERIVEDUNITELEMENT(#60,2);"
                + "#62=IFCDERIVEDUNITELEMENT(#5,-2147483648);"
        );
        var units = new IfcUnits(model);
        Assert.EndsWith("/m^2147483648", units.Symbol(model.File.IndexOf(60)), StringComparison.Ordinal);
        Assert.True(double.IsNaN(units.Factor(model.File.IndexOf(60))));
    }
}

using System.Globalization;
using System.Text;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Small models written by hand, around one shape.</summary>
internal static class Sample
{
    /// <summary>A file with a project in a unit and the given instances; #1 is the origin, #2 a placement at it, #3 up, #8 a body
    /// context.</summary>
    public static IfcModel Model(string data, string unit = "m", string schema = "IFC4") =>
        IfcModel.Open(Encoding.ASCII.GetBytes(Text(data, unit, schema)));

    public static string Text(string data, string unit = "m", string schema = "IFC4")
    {
        string length = unit switch
        {
            "mm" => "#5=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);",
            "ft" =>
                "#5=IFCCONVERSIONBASEDUNIT(#12,.LENGTHUNIT.,'FOOT',#13);#12=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);#13=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(0.3048),#14);#14=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);",
            "none" => "",
            _ => "#5=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);",
        };
        return $"""
            ISO-10303-21;HEADER;FILE_DESCRIPTION((''),'2;1');FILE_NAME('','',(''),(''),'','','');FILE_SCHEMA(('{schema}'));ENDSEC;DATA;
            #1=IFCCARTESIANPOINT((0.,0.,0.));
            #2=IFCAXIS2PLACEMENT3D(#1,$,$);
            #3=IFCDIRECTION((0.,0.,1.));
            {length}
            #6=IFCUNITASSIGNMENT(({(unit == "none" ? "" : "#5")}));
            #7=IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(#8),#6);
            #8=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#2,$);
            {data}
            ENDSEC;END-ISO-10303-21;
            """;
    }

    /// <summary>The measured shape of a proxy whose one item is #100.</summary>
    public static MassProperties Measure(
        string data,
        string unit = "m",
        string placement = "$",
        string schema = "IFC4",
        Tolerance? tolerance = null
    )
    {
        var shape = Shape(data, unit, placement, schema, tolerance);
        Assert.Empty(shape.Problems);
        return shape.Measure();
    }

    /// <summary>A file with a proxy #103 whose one item is #100.</summary>
    public static string ProxyText(string data, string unit = "m", string placement = "$", string schema = "IFC4") =>
        Text(
            data
                + $"#101=IFCSHAPEREPRESENTATION(#8,'Body','SolidModel',(#100));#102=IFCPRODUCTDEFINITIONSHAPE($,$,(#101));#103=IFCBUILDINGELEMENTPROXY('0000000000000000000002',$,'X',$,$,{placement},#102,$,$);",
            unit,
            schema
        );

    public static Shape Shape(
        string data,
        string unit = "m",
        string placement = "$",
        string schema = "IFC4",
        Tolerance? tolerance = null
    )
    {
        var model = IfcModel.Open(Encoding.ASCII.GetBytes(ProxyText(data, unit, placement, schema)));
        var relations = new IfcRelations(model);
        return new ShapeReader(model, relations, new IfcUnits(model), tolerance ?? new Tolerance(1e-5, 200)).Read(
            model.File.IndexOf(103)
        )!;
    }

    /// <summary>A unit-depth extrusion of profile #50, whose lengths the caller gives in the file's unit.</summary>
    public static MassProperties Extrude(string profile, string unit = "m", double metres = 1) =>
        Measure($"{profile}#100=IFCEXTRUDEDAREASOLID(#50,#2,#3,{N(1 / metres)});", unit);

    public static string N(double value) =>
        Step.StepNumber.Format(
            double.Parse(value.ToString("G15", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture)
        );
}

namespace SteadyLintel.Ifc;

/// <summary>What a file says about its place on the map.</summary>
/// <param name="Kind"><c>IfcMapConversion</c>, <c>site placement</c> or <c>none</c>.</param>
/// <param name="System">The coordinate system's name, empty when none.</param>
/// <param name="Eastings">Metres: of the map conversion, or of the site's placement.</param>
/// <param name="Northings">Metres.</param>
/// <param name="Height">Metres.</param>
/// <param name="RotationDegrees">Of the file's X axis from grid east, counter-clockwise.</param>
public sealed record GeoReference(
    string Kind,
    string System,
    double Eastings,
    double Northings,
    double Height,
    double RotationDegrees
)
{
    /// <summary>Metres on the map for a metre of the file, by the map conversion's Scale; 1 without one.</summary>
    public double Scale { get; init; } = 1;

    /// <summary>Reads the map conversion, or the first site's placement when there is none.</summary>
    /// <param name="model">The model.</param>
    /// <param name="structure">Its spatial structure.</param>
    /// <param name="units">Its units.</param>
    public static GeoReference Read(IfcModel model, SpatialStructure structure, IfcUnits units)
    {
        foreach (int conversion in model.OfType("IfcMapConversion"))
        {
            int system = model.Ref(conversion, "TargetCRS");
            int mapUnit = model.Ref(system, "MapUnit");
            double factor =
                mapUnit >= 0 && double.IsFinite(units.Factor(mapUnit)) ? units.Factor(mapUnit) : units.Metres;
            double x = Number(model, conversion, "XAxisAbscissa", 1),
                y = Number(model, conversion, "XAxisOrdinate", 0);
            return new GeoReference(
                "IfcMapConversion",
                model.Name(system),
                factor * Number(model, conversion, "Eastings", 0),
                factor * Number(model, conversion, "Northings", 0),
                factor * Number(model, conversion, "OrthogonalHeight", 0),
                Math.Atan2(y, x) * 180 / Math.PI
            )
            {
                Scale = Number(model, conversion, "Scale", 1) * factor / units.Metres,
            };
        }

        if (structure.Sites.Count == 0)
            return new GeoReference("none", "", 0, 0, 0, 0);
        try
        {
            var frame = new IfcPlacements(model, units.Metres).Product(structure.Sites[0]);
            return new GeoReference(
                "site placement",
                "",
                frame.Origin.X,
                frame.Origin.Y,
                frame.Origin.Z,
                Math.Atan2(frame.X.Y, frame.X.X) * 180 / Math.PI
            );
        }
        catch (Geometry.ShapeException)
        {
            return new GeoReference("none", "", 0, 0, 0, 0);
        }
    }

    private static double Number(IfcModel model, int index, string attribute, double fallback) =>
        model.Get(index, attribute).Real is var value && double.IsFinite(value) ? value : fallback;
}

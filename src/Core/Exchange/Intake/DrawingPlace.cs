using System.Xml;
using System.Xml.Linq;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Where a drawing says it is on the earth (GEODATA).</summary>
/// <param name="System">The coordinate system: its EPSG code or its name, empty when neither is said.</param>
/// <param name="Design">A point of the drawing, in its units.</param>
/// <param name="Reference">The same point in the coordinate system: easting, northing, height, or longitude and latitude.</param>
/// <param name="North">Where north is, degrees counter-clockwise from the drawing's X axis.</param>
public sealed record DrawingPlace(string System, Vec3 Design, Vec3 Reference, double North)
{
    private const int LongestDefinition = 1 << 20;

    /// <summary>The place of a drawing, or null when it says none.</summary>
    public static DrawingPlace? Of(Drawing drawing) =>
        drawing.Objects.OfType<GeoData>().FirstOrDefault() is { } g
            ? new DrawingPlace(
                SystemOf(g.System),
                g.Design,
                g.Reference,
                Math.Atan2(g.North.Y, g.North.X) * 180 / Math.PI
            )
            : null;

    // Definitions are XML with aliases; what is no XML is a name itself.
    private static string SystemOf(string definition)
    {
        definition = definition.Trim();
        if (!definition.StartsWith('<') || definition.Length > LongestDefinition)
            return definition.Length <= 100 ? definition : "";
        try
        {
            var root = XDocument.Parse(definition).Root!;
            var epsg = Named(root, "Alias")
                .FirstOrDefault(a =>
                    (string?)a.Attribute("type") == "CoordinateSystem"
                    && Named(a, "Namespace").Any(n => n.Value.StartsWith("EPSG", StringComparison.Ordinal))
                );
            if (epsg?.Attribute("id") is { } id)
                return $"EPSG:{id.Value}";
            return root.Descendants()
                .FirstOrDefault(e => e.Name.LocalName.EndsWith("CoordinateSystem", StringComparison.Ordinal))
                ?.Attribute("id")
                ?.Value
                ?? "";
        }
        catch (XmlException)
        {
            return "";
        }
    }

    private static IEnumerable<XElement> Named(XElement within, string name) =>
        within.Descendants().Where(e => e.Name.LocalName == name);
}

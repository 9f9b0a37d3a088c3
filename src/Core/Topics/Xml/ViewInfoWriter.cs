using System.Xml.Linq;
using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Writes a <c>.bcfv</c> of 2.1 or 3.0, elements in the order of the schema (from memory).</summary>
internal sealed class ViewInfoWriter(TopicVersion version)
{
    private bool V3 => version == TopicVersion.V30;

    /// <summary>The file of a viewpoint.</summary>
    public XElement Write(ViewInfo v, string guid)
    {
        var info = new ElementBuilder("VisualizationInfo", v.Extras)
            .Attribute("Guid", v.Guid ?? guid)
            .Add(Components(v))
            .Add(v.Orthogonal is { } o ? Camera("OrthogonalCamera", "ViewToWorldScale", o) : null)
            .Add(v.Perspective is { } p ? Camera("PerspectiveCamera", "FieldOfView", p) : null)
            .List("Lines", v.Lines.Select(l => Pair("Line", "StartPoint", l.Start, "EndPoint", l.End)))
            .List(
                "ClippingPlanes",
                v.ClippingPlanes.Select(p => Pair("ClippingPlane", "Location", p.Location, "Direction", p.Direction))
            );
        var bitmaps = v.Bitmaps.Select(Bitmap);
        return (V3 ? info.List("Bitmaps", bitmaps) : info.AddAll(bitmaps)).Element();
    }

    private XElement? Components(ViewInfo v)
    {
        if (v.Selection.Count == 0 && v.Visibility is null && v.Colouring.Count == 0 && v.ComponentExtras.Count == 0)
            return null;
        var components = new ElementBuilder("Components", v.ComponentExtras);
        var hints = v.Visibility?.Hints is { } h ? Hints(h) : null;
        if (!V3)
            components.Add(hints);
        components.List("Selection", v.Selection.Select(Component));
        // Both versions ask for a visibility wherever there are components.
        components.Add(Visibility(v.Visibility, V3 ? hints : null));
        return components.List("Coloring", v.Colouring.Select(Colour)).Element();
    }

    private static XElement Visibility(ViewVisibility? visibility, XElement? hints) =>
        new ElementBuilder("Visibility", Extras.None)
            .Flag("DefaultVisibility", visibility is null ? true : visibility.Default)
            .Add(hints)
            .List("Exceptions", (visibility?.Exceptions ?? []).Select(Component))
            .Element();

    private static XElement Hints(ViewHints h) =>
        new ElementBuilder("ViewSetupHints", Extras.None)
            .Flag("SpacesVisible", h.Spaces)
            .Flag("SpaceBoundariesVisible", h.SpaceBoundaries)
            .Flag("OpeningsVisible", h.Openings)
            .Element();

    private static XElement Component(ViewComponent c) =>
        new ElementBuilder("Component", c.Extras)
            .Attribute("IfcGuid", c.IfcGuid)
            .Text("OriginatingSystem", c.OriginatingSystem)
            .Text("AuthoringToolId", c.AuthoringToolId)
            .Element();

    private XElement Colour(ViewColour c)
    {
        var colour = new ElementBuilder("Color", Extras.None).Attribute("Color", c.Colour);
        var components = c.Components.Select(Component);
        return (V3 ? colour.List("Components", components) : colour.AddAll(components)).Element();
    }

    private XElement Camera(string name, string extent, ViewCamera c) =>
        new ElementBuilder(name, c.Extras)
            .Point("CameraViewPoint", c.ViewPoint)
            .Point("CameraDirection", c.Direction)
            .Point("CameraUpVector", c.Up)
            .Number(extent, c.Extent)
            .Number("AspectRatio", V3 ? c.AspectRatio : null)
            .Element();

    private static XElement Pair(string name, string first, Vec3 a, string second, Vec3 b) =>
        new ElementBuilder(name, Extras.None).Point(first, a).Point(second, b).Element();

    private XElement Bitmap(ViewBitmap b) =>
        new ElementBuilder("Bitmap", b.Extras)
            .Text(V3 ? "Format" : "Bitmap", V3 ? b.Format : b.Format.ToUpperInvariant())
            .Text("Reference", b.Reference)
            .Point("Location", b.Location)
            .Point("Normal", b.Normal)
            .Point("Up", b.Up)
            .Number("Height", b.Height)
            .Element();
}

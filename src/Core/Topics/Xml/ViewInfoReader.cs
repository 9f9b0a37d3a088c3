using System.Xml.Linq;
using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Reads a <c>.bcfv</c> of 2.0, 2.1 or 3.0. What has a wrong number is left among the extras.</summary>
internal static class ViewInfoReader
{
    /// <summary>Reads a viewpoint.</summary>
    public static ViewInfo Read(XElement root)
    {
        var v = new ElementFields(root);
        var info = Components(v, new ViewInfo { Guid = v.Attribute("Guid") }) with
        {
            Orthogonal = Camera(v, "OrthogonalCamera", "ViewToWorldScale"),
            Perspective = Camera(v, "PerspectiveCamera", "FieldOfView"),
            Lines = Pairs(v, "Lines", "Line", "StartPoint", "EndPoint"),
            ClippingPlanes = Pairs(v, "ClippingPlanes", "ClippingPlane", "Location", "Direction"),
            Bitmaps = Bitmaps(v),
        };
        return info with { Extras = v.Rest() };
    }

    private static ViewInfo Components(ElementFields v, ViewInfo info)
    {
        if (v.One("Components") is not { } element)
            return info;
        var c = new ElementFields(v.Take(element));
        // 2.0 lists components with flags; from memory: what is not listed is visible.
        var flat = c.All("Component").ToList();
        if (flat.Count > 0)
            return Flat(c, flat, info);
        var hints = Hints(c);
        var selection = Named(c, "Selection");
        var visibility = Visibility(c, hints);
        var colouring = Colouring(c);
        return info with
        {
            Selection = selection,
            Visibility = visibility,
            Colouring = colouring,
            ComponentExtras = c.Rest(),
        };
    }

    private static ViewInfo Flat(ElementFields c, List<XElement> flat, ViewInfo info)
    {
        var read = flat.Select(e =>
            {
                var f = new ElementFields(c.Take(e));
                bool selected = f.Flag("Selected") ?? false,
                    visible = f.Flag("Visible") ?? true;
                string? colour = f.Attribute("Color");
                return (Component: Component(f), Selected: selected, Visible: visible, Colour: colour);
            })
            .ToList();
        return info with
        {
            Selection = [.. read.Where(r => r.Selected).Select(r => r.Component)],
            Visibility = new ViewVisibility(true, [.. read.Where(r => !r.Visible).Select(r => r.Component)], null),
            Colouring =
            [
                .. read.Where(r => r.Colour is not null)
                    .GroupBy(r => r.Colour)
                    .Select(g => new ViewColour(g.Key, [.. g.Select(r => r.Component)])),
            ],
            ComponentExtras = c.Rest(),
        };
    }

    private static ViewVisibility? Visibility(ElementFields c, ViewHints? outside)
    {
        if (c.One("Visibility") is not { } element)
            return outside is null ? null : new ViewVisibility(null, [], outside);
        var v = new ElementFields(element);
        var visibility = new ViewVisibility(v.Flag("DefaultVisibility"), Named(v, "Exceptions"), Hints(v) ?? outside);
        c.TakeList(element, v);
        return visibility;
    }

    // 2.1 has the hints beside the visibility, 3.0 within it.
    private static ViewHints? Hints(ElementFields parent)
    {
        if (parent.One("ViewSetupHints") is not { HasElements: false } element)
            return null;
        var h = new ElementFields(parent.Take(element));
        return new ViewHints(h.Flag("SpacesVisible"), h.Flag("SpaceBoundariesVisible"), h.Flag("OpeningsVisible"));
    }

    private static IReadOnlyList<ViewComponent> Named(ElementFields parent, string name)
    {
        if (parent.One(name) is not { } element)
            return [];
        var inner = new ElementFields(element);
        var list = Listed(inner);
        parent.TakeList(element, inner);
        return list;
    }

    private static IReadOnlyList<ViewComponent> Listed(ElementFields parent) =>
        [.. parent.All("Component").ToList().Select(e => Component(parent.Take(e)))];

    private static ViewComponent Component(XElement e) => Component(new ElementFields(e));

    private static ViewComponent Component(ElementFields f)
    {
        var component = new ViewComponent(
            f.Attribute("IfcGuid"),
            f.Text("OriginatingSystem"),
            f.Text("AuthoringToolId")
        );
        return component with { Extras = f.Rest() };
    }

    private static IReadOnlyList<ViewColour> Colouring(ElementFields c)
    {
        if (c.One("Coloring") is not { } element)
            return [];
        var colours = new List<ViewColour>();
        var inner = new ElementFields(element);
        foreach (var e in inner.All("Color").ToList())
        {
            var colour = new ElementFields(inner.Take(e));
            colours.Add(new ViewColour(colour.Attribute("Color"), [.. Listed(colour), .. Named(colour, "Components")]));
        }

        c.TakeList(element, inner);
        return colours;
    }

    private static ViewCamera? Camera(ElementFields v, string name, string extent)
    {
        if (v.One(name) is not { } element)
            return null;
        var c = new ElementFields(element);
        if (
            c.Point("CameraViewPoint") is not { } at
            || c.Point("CameraDirection") is not { } direction
            || c.Point("CameraUpVector") is not { } up
            || c.Number(extent) is not { } size
        )
            return null;
        v.Take(element);
        var camera = new ViewCamera(at, direction, up, size, c.Number("AspectRatio"));
        return camera with { Extras = c.Rest() };
    }

    private static IReadOnlyList<(Vec3, Vec3)> Pairs(
        ElementFields v,
        string name,
        string entry,
        string first,
        string second
    )
    {
        if (v.One(name) is not { } element)
            return [];
        var pairs = new List<(Vec3, Vec3)>();
        var inner = new ElementFields(element);
        foreach (var e in inner.All(entry).ToList())
        {
            var p = new ElementFields(e);
            if (p.Point(first) is not { } a || p.Point(second) is not { } b)
                continue;
            inner.Take(e);
            pairs.Add((a, b));
        }

        v.TakeList(element, inner);
        return pairs;
    }

    // 2.1 calls each picture Bitmap and its format Bitmap again; 3.0 has a list, and Format.
    private static IReadOnlyList<ViewBitmap> Bitmaps(ElementFields v)
    {
        var found = new List<ViewBitmap>();
        Read(v, v.All("Bitmap"));
        foreach (var list in v.All("Bitmaps").ToList())
        {
            // 2.0 repeats Bitmaps without a list.
            if (list.Elements("Bitmap").Any(e => !e.HasElements))
            {
                Read(v, [list]);
                continue;
            }

            var inner = new ElementFields(list);
            Read(inner, inner.All("Bitmap"));
            v.TakeList(list, inner);
        }

        return found;

        void Read(ElementFields parent, IEnumerable<XElement> elements)
        {
            foreach (var e in elements.ToList())
            {
                var b = new ElementFields(e);
                if (
                    (b.Text("Format") ?? b.Text("Bitmap")) is not { } format
                    || b.Point("Location") is not { } at
                    || b.Point("Normal") is not { } normal
                    || b.Point("Up") is not { } up
                    || b.Number("Height") is not { } height
                )
                    continue;
                parent.Take(e);
                var bitmap = new ViewBitmap(format.ToLowerInvariant(), b.Text("Reference"), at, normal, up, height);
                found.Add(bitmap with { Extras = b.Rest() });
            }
        }
    }
}

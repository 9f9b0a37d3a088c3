using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>Makes extruded elements longer or shorter at either end: a beam along its axis, a wall upwards.</summary>
/// <remarks>The extrusion stays one (ISO 16739-1, IfcExtrudedAreaSolid): its depth changes, and its position where it begins elsewhere.
/// Openings stay where they are, and so at their distance from the end that stays.</remarks>
/// <param name="editor">The model.</param>
/// <param name="places">Writes points.</param>
internal sealed class LengthAmender(ModelEditor editor, PlaceAmender places)
{
    private readonly IfcModel _model = editor.Model;

    /// <summary>Lengthens an element.</summary>
    public void Apply(int element, Amendment by)
    {
        int solid = SolidOf(editor.Snapshot, element, out string? why);
        if (solid < 0)
            throw new AmendmentException(why!);
        double metres = editor.Snapshot.Units.Metres,
            start = (by.Start ?? 0) / metres,
            end = (by.End ?? 0) / metres,
            depth = _model.Get(solid, "Depth").Real + start + end;
        if (!(depth > 0))
            throw new AmendmentException(
                FormattableString.Invariant(
                    $"It is {_model.Get(solid, "Depth").Real * metres:0.###} m long; nothing would be left of it."
                )
            );
        var (axes, direction) = Placed(editor.Snapshot, solid);
        var text = editor.Text(solid);
        text["Depth"] = StepNumber.Format(StepNumber.Rounded(depth));
        if (start != 0)
            text["Position"] = Position(solid, axes.Origin * (1 / metres) - (direction * start));
        Axis(element, direction, start, end);
    }

    /// <summary>The one extrusion that a body is.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="element">The element.</param>
    /// <param name="why">Why there is none; null where there is one.</param>
    /// <returns>The instance; -1 for none.</returns>
    internal static int SolidOf(ModelSnapshot snapshot, int element, out string? why)
    {
        var model = snapshot.Model;
        int body = snapshot.Shapes.BodyRepresentation(element);
        int[] items = model.Refs(body, "Items");
        why =
            body < 0 || items.Length == 0 ? "It has no body, so there is nothing to lengthen."
            : items.Length > 1
                ? $"Its body is made of {items.Length} solids; only a single extrusion can be lengthened."
            : model.Is(items[0], "IfcMappedItem")
                ? "Its shape is that of its type, which other elements have too; it cannot be lengthened alone."
            : model.ClassName(items[0]) != "IfcExtrudedAreaSolid"
                ? $"Its body is an {model.ClassName(items[0])}; only an extrusion (IfcExtrudedAreaSolid) can be lengthened."
            : model.OfType("IfcShapeModel").Any(r => r != body && model.Refs(r, "Items").Contains(items[0]))
                ? "Other elements have the same solid; it cannot be lengthened alone."
            : null;
        return why is null ? items[0] : -1;
    }

    /// <summary>Where an extrusion begins in the element's own frame, metres, and the unit direction it runs in.</summary>
    internal static (Frame Axes, Vec3 Direction) Placed(ModelSnapshot snapshot, int solid)
    {
        var model = snapshot.Model;
        var axes = snapshot.Shapes.Placements.Axes(model.Ref(solid, "Position"));
        return (
            axes,
            axes.Direction(snapshot.Shapes.Placements.Direction(model.Ref(solid, "ExtrudedDirection"), Vec3.AxisZ))
                .Unit()
        );
    }

    private string Position(int solid, Vec3 location)
    {
        var text = editor.Blank("IfcAxis2Placement3D");
        int before = _model.Ref(solid, "Position");
        text["Location"] = places.Point(location);
        if (before >= 0)
            (text["Axis"], text["RefDirection"]) = (editor.Peek(before, "Axis"), editor.Peek(before, "RefDirection"));
        return editor.Add(text);
    }

    // The axis of a beam or column ends where its body does.
    private void Axis(int element, Vec3 direction, double start, double end)
    {
        foreach (int representation in _model.Refs(_model.Ref(element, "Representation"), "Representations"))
        {
            if (_model.Text(representation, "RepresentationIdentifier") != "Axis")
                continue;
            foreach (int line in _model.Refs(representation, "Items").Where(i => _model.Is(i, "IfcPolyline")))
                Line(line, direction, start, end);
        }
    }

    private void Line(int line, Vec3 direction, double start, double end)
    {
        int[] points = _model.Refs(line, "Points");
        if (points.Length != 2 || _model.OfType("IfcShapeModel").Count(r => _model.Refs(r, "Items").Contains(line)) > 1)
            return;
        double metres = editor.Snapshot.Units.Metres;
        var placements = editor.Snapshot.Shapes.Placements;
        Vec3 a = placements.Point(points[0]) * (1 / metres),
            b = placements.Point(points[1]) * (1 / metres);
        double along = (b - a).Length > 0 ? (b - a).Unit().Dot(direction) : 0;
        // The axis of a wall runs across its extrusion and stays.
        if (Math.Abs(along) < 0.999)
            return;
        var (first, last) = along > 0 ? (start, end) : (end, start);
        var unit = (b - a).Unit();
        editor.Text(line)["Points"] = $"({places.Point(a - (unit * first))},{places.Point(b + (unit * last))})";
    }
}

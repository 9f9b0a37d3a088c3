using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Findings about shapes and where they lie, gathered while shapes are built.</summary>
internal sealed class ShapeFindings(ModelSnapshot snapshot, FindingList findings)
{
    public Box Bounds { get; private set; } = Box.Empty;

    public long Triangles { get; private set; }

    private int _shaped;

    public void Add(ModelElement element, Shape? shape, ShapeFacts? facts)
    {
        if (shape is null)
            return;
        foreach (string problem in shape.Problems)
            findings.Add(
                "IFC-SHAPE-FAILED",
                Severity.Warning,
                n =>
                    $"{n} shapes could not be built in full; the elements are stored, their pictures and volumes are not complete.",
                StructureFindings.About(snapshot.Model, element.Index, problem)
            );
        if (facts is null)
            return;
        _shaped++;
        Triangles += facts.Triangles;
        Bounds = Bounds.Add(facts.Box);
    }

    public void Finish()
    {
        if (_shaped == 0 && snapshot.Elements.Count > 0)
            findings.Add(
                "IFC-SHAPE-NONE",
                Severity.Error,
                _ => "No element has a shape; the file carries data only. Ask for an export with geometry.",
                null
            );
        if (!Bounds.IsEmpty && Largest(Bounds) > SinglePrecision.Far)
            findings.Add(
                "IFC-FAR-FROM-ORIGIN",
                Severity.Warning,
                _ =>
                    FormattableString.Invariant(
                        $"The model reaches {SinglePrecision.Reach(Largest(Bounds))} from zero; programs with single precision round there to {SinglePrecision.SpacingText(Largest(Bounds))}. Set it out near the job origin before handing over."
                    ),
                null
            );
        foreach (int texture in snapshot.Model.OfType("IfcSurfaceTexture"))
            findings.Add(
                "IFC-TEXTURE",
                Severity.Note,
                n => $"{n} textures are not shown; surfaces have their colour. A hand-over as IFC keeps them.",
                StructureFindings.About(snapshot.Model, texture, "")
            );
    }

    private static double Largest(Box box) =>
        new[] { box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z }.Max(Math.Abs);
}

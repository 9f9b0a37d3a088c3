using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>One layer of an element's body.</summary>
/// <param name="Material">The layer's material, thickness and name.</param>
/// <param name="Mesh">Its part of the body, in the product's frame, metres.</param>
public sealed record LayerBody(MaterialUse Material, Mesh Mesh);

/// <summary>Cuts bodies into the layers that an IfcMaterialLayerSetUsage places (ISO 16739-1, IfcMaterialLayerSetUsage: from the reference
/// line by the offset, then layer by layer in the direction of the sense).</summary>
public static class LayerSlices
{
    /// <summary>The layers of a product with a shape; none when no usage places its layers.</summary>
    /// <param name="model">The model.</param>
    /// <param name="relations">Its relationships.</param>
    /// <param name="units">Its units.</param>
    /// <param name="product">Its position among the instances of the file.</param>
    /// <param name="shape">The product's.</param>
    /// <exception cref="ShapeException">The body cannot be cut.</exception>
    public static IReadOnlyList<LayerBody> Of(
        IfcModel model,
        IfcRelations relations,
        IfcUnits units,
        int product,
        Shape shape
    )
    {
        int usage = Usage(model, relations, product);
        if (usage < 0 || shape.Parts.Count == 0)
            return [];
        var body = Mesh.Join([.. shape.Parts.Select(p => p.Mesh.Map(p.Frame))]);
        var across = model.Get(usage, "LayerSetDirection").Enumeration switch
        {
            "AXIS1" => Vec3.AxisX,
            "AXIS3" => Vec3.AxisZ,
            _ => Vec3.AxisY,
        };
        if (model.Get(usage, "DirectionSense").Enumeration == "NEGATIVE")
            across = -across;
        double at = model.Get(usage, "OffsetFromReferenceLine").Real * units.Metres;
        // The offset is measured along the axis itself, whatever the sense.
        if (model.Get(usage, "DirectionSense").Enumeration == "NEGATIVE")
            at = -at;
        if (!double.IsFinite(at))
            return [];
        var layers = new List<LayerBody>();
        foreach (int layer in model.Refs(model.Ref(usage, "ForLayerSet"), "MaterialLayers"))
        {
            double thickness = model.Get(layer, "LayerThickness").Real * units.Metres;
            if (!(thickness > 0))
                continue;
            string material = model.Ref(layer, "Material") is >= 0 and var named ? model.Name(named) : "";
            layers.Add(
                new LayerBody(
                    new MaterialUse(material, thickness, model.Text(layer, "Name") ?? ""),
                    Solids.Intersect(body, Slab(body.Bounds(), across, at, thickness))
                )
            );
            at += thickness;
        }

        return layers;
    }

    private static int Usage(IfcModel model, IfcRelations relations, int product)
    {
        foreach (int select in relations.Material[product])
            if (model.Is(select, "IfcMaterialLayerSetUsage"))
                return select;
        return -1;
    }

    private static Mesh Slab(Box reach, Vec3 across, double from, double thickness)
    {
        var frame = Frame.FromAxes(across * from, across, Math.Abs(across.X) > 0.5 ? Vec3.AxisY : Vec3.AxisX);
        double size = (2 * reach.Size.Length) + 1;
        var centre = frame.Inverse().Point(reach.Centre) with { Z = 0 };
        return Prism
            .Box(
                frame.Point(centre - new Vec3(size, size, 0)),
                frame.X * (2 * size),
                frame.Y * (2 * size),
                frame.Z * thickness
            )
            .ToMesh();
    }
}

using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Bare triangles: glTF for those who look, OBJ and STL for those who print.</summary>
public sealed class TriangleTarget : Target
{
    /// <summary>The unit of a file: glTF is in metres, whatever the order says.</summary>
    internal static double Metres(HandoverOrder order) =>
        order.Format == HandoverFormat.Glb ? 1 : order.Unit?.Metres ?? 1;

    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => shaped ? null : DrawingTarget.NoShape;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan plan) => new TriangleLedger(plan);

    /// <inheritdoc/>
    internal override IReadOnlyList<WrittenFile> Write(
        HandoverPlan plan,
        FileNames names,
        string timeStamp,
        IFileSet files,
        Reconciler reconciler,
        CancellationToken cancel
    )
    {
        var written = new List<WrittenFile>();
        string extension = plan.Order.Format switch
        {
            HandoverFormat.Glb => ".glb",
            HandoverFormat.Obj => ".obj",
            _ => ".stl",
        };
        foreach (var group in FileGroups.Of(plan, false))
        {
            var elements = new List<WrittenElement>();
            var scene = new GlbScene();
            var meshes = new List<(string, Mesh)>();
            foreach (var part in group.Parts)
            {
                PlacedShapes.ForEach(
                    plan,
                    part.Source,
                    part.Elements,
                    (element, shape) =>
                    {
                        bool any = shape is { Parts.Count: > 0 } && shape.Parts.Any(p => p.Mesh.TriangleCount > 0);
                        if (!any)
                            reconciler.LeaveOut(part.Source, element, DrawingTarget.NoShape);
                        else
                        {
                            if (plan.Order.Format == HandoverFormat.Glb)
                                scene.Add(element, shape!);
                            else
                                meshes.Add((element.GlobalId, InUnit(shape!, plan.Order)));
                            elements.Add(new WrittenElement(part.Source, element, 0, element.GlobalId));
                        }
                    },
                    cancel
                );
            }

            if (elements.Count == 0)
                continue;
            string name = names.Next(group.Name, extension);
            using (var stream = files.Create(name))
            {
                if (plan.Order.Format == HandoverFormat.Glb)
                    scene.Save(stream);
                else
                    TriangleFile.Write(plan.Order.Format, meshes, stream);
            }

            written.Add(new WrittenFile(name, elements, [], new MadeInstances()));
        }

        return written;
    }

    private static Mesh InUnit(Shape shape, HandoverOrder order)
    {
        double scale = 1 / Metres(order);
        return shape
            .ToWorld()
            .Map(Frame.Identity with { X = Vec3.AxisX * scale, Y = Vec3.AxisY * scale, Z = Vec3.AxisZ * scale });
    }
}

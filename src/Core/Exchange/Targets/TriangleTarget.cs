using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>How bare triangles are written.</summary>
internal enum TriangleKind
{
    /// <summary>glTF 2.0, binary, with colours.</summary>
    Glb,

    /// <summary>Wavefront OBJ.</summary>
    Obj,

    /// <summary>Binary STL.</summary>
    Stl,

    /// <summary>STL as text.</summary>
    StlText,
}

/// <summary>Bare triangles: glTF for those who look, OBJ and STL for those who print.</summary>
public sealed class TriangleTarget : Target
{
    /// <summary>Writes triangles.</summary>
    internal TriangleTarget(TriangleKind kind) => Kind = kind;

    /// <summary>How they are written.</summary>
    internal TriangleKind Kind { get; }

    private string File => Kind is TriangleKind.Stl or TriangleKind.StlText ? "stl" : Name.ToLowerInvariant();

    private string Name => Kind.ToString();

    /// <inheritdoc/>
    public override string Family => File;

    /// <inheritdoc/>
    public override IReadOnlyDictionary<string, string> Files => new Dictionary<string, string> { [File] = "." + File };

    /// <inheritdoc/>
    public override IReadOnlyList<string> Contents =>
        Kind switch
        {
            TriangleKind.Stl => ["binary"],
            TriangleKind.StlText => ["text"],
            _ => [],
        };

    /// <inheritdoc/>
    public override bool IsUsual => Kind != TriangleKind.StlText;

    /// <inheritdoc/>
    public override IReadOnlyList<FormChoice> Choices
    {
        get
        {
            var (word, label) = Kind switch
            {
                TriangleKind.Glb => ("glb", "glTF, to look at"),
                TriangleKind.Obj => ("obj", "OBJ"),
                TriangleKind.Stl => ("stl", "STL, binary"),
                _ => ("stl-text", "STL, text"),
            };
            var into = new OrderInto { File = File, As = Kind == TriangleKind.StlText ? Contents[0] : null };
            return [new FormChoice(word, label, "Triangles", label, into)];
        }
    }

    /// <inheritdoc/>
    public override FormOptions Takes => FormOptions.Boxes;

    /// <summary>The unit of a file: glTF is in metres, whatever the order says.</summary>
    internal static double Metres(HandoverOrder order) =>
        order.Into is TriangleTarget { Kind: TriangleKind.Glb } ? 1 : order.Unit?.Metres ?? 1;

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
                            if (Kind == TriangleKind.Glb)
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
            string name = names.Next(group.Name, Files[File]);
            using (var stream = files.Create(name))
            {
                if (Kind == TriangleKind.Glb)
                    scene.Save(stream);
                else
                    TriangleFile.Write(Kind, meshes, stream);
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

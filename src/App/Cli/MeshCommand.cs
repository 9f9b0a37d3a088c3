using System.CommandLine;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Cli;

/// <summary><c>lintel mesh FILE [--json] [--glb OUT] [--types] [--by-layers]</c>: every product's shape, measured.</summary>
internal static class MeshCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("FILE") { Description = "An .ifc or .ifczip file." };
        var json = new Option<bool>("--json") { Description = "One JSON object a line for each product with a shape." };
        var glb = new Option<string?>("--glb")
        {
            Description = "Write the shapes as a binary glTF file (Y up, metres).",
        };
        var threads = new Option<int>("--threads") { Description = "How many threads shape; 0 for all cores." };
        var types = new Option<bool>("--types")
        {
            Description = "The shapes of type objects instead, each at its own origin.",
        };
        var layers = new Option<bool>("--by-layers")
        {
            Description = "With --json: the volume of each material layer where a layer set is placed.",
        };
        var chord = new Option<double>("--chord")
        {
            Description = "How far a chord may stand off its arc, metres.",
            DefaultValueFactory = _ => Tolerance.Default.Chord,
        };
        var sides = new Option<int>("--sides")
        {
            Description = "The fewest sides of a full circle.",
            DefaultValueFactory = _ => Tolerance.Default.FullCircle,
        };
        var command = new Command("mesh", "Shapes every product and measures it.")
        {
            file,
            json,
            glb,
            threads,
            types,
            layers,
            chord,
            sides,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
                Run(
                    parsed.GetValue(file)!,
                    parsed.GetValue(json),
                    parsed.GetValue(glb),
                    parsed.GetValue(threads),
                    parsed.GetValue(types),
                    parsed.GetValue(layers),
                    Fineness(parsed.GetValue(chord), parsed.GetValue(sides))
                )
            )
        );
        return command;
    }

    private static Tolerance Fineness(double chord, int sides) =>
        chord is > 0 and < 1000 && sides is >= 4 and <= 1024
            ? new Tolerance(chord, sides)
            : throw new OrderException("--chord takes a length above 0 in metres and --sides a number from 4 to 1024.");

    private static int Run(
        string path,
        bool json,
        string? glb,
        int threads,
        bool types,
        bool layers,
        Tolerance tolerance
    )
    {
        using var delivered = DeliveredFile.Open(path);
        var snapshot = ModelSnapshot.Open(delivered.Bytes, default, tolerance);
        if (types)
            return Types(snapshot, json);
        var model = snapshot.Model;
        // Products that are no elements, such as openings, have shapes too.
        var products = model
            .OfType("IfcProduct")
            .Order()
            .Select((p, n) => new ModelElement(snapshot, n, p, snapshot.Structure.StoreyOf(p)))
            .ToList();
        var scene = glb is null ? null : new GlbScene();
        int shaped = 0,
            failed = 0;
        long triangles = 0;
        snapshot.ForEachShape(
            products,
            (product, shape) =>
            {
                if (shape is null)
                    return;
                failed += shape.Problems.Count > 0 ? 1 : 0;
                if (shape.Parts.Count == 0)
                    return;
                shaped++;
                triangles += shape.Parts.Sum(p => p.Mesh.TriangleCount);
                if (json)
                    Output.WriteLine(Line(snapshot, product, shape, layers));
                if (!model.Is(product.Index, "IfcFeatureElementSubtraction"))
                    scene?.Add(product, shape);
            },
            threads
        );
        if (glb is not null)
        {
            using var file = File.Create(glb);
            scene!.Save(file);
        }

        if (!json)
            Console.Out.WriteLine($"{shaped} products shaped, {failed} with problems, {triangles} triangles");
        return ExitCodes.Done;
    }

    private static int Types(ModelSnapshot snapshot, bool json)
    {
        int shaped = 0,
            failed = 0;
        foreach (int type in snapshot.Model.OfType("IfcTypeProduct").Order())
        {
            if (snapshot.Shapes.ReadType(type) is not { } shape)
                continue;
            failed += shape.Problems.Count > 0 ? 1 : 0;
            if (shape.Parts.Count == 0)
                continue;
            shaped++;
            if (json)
                Output.WriteLine(Line(snapshot, new ModelElement(snapshot, shaped, type, -1), shape, false));
        }

        if (!json)
            Console.Out.WriteLine($"{shaped} types shaped, {failed} with problems");
        return ExitCodes.Done;
    }

    private static Dictionary<string, object?> Line(
        ModelSnapshot snapshot,
        ModelElement product,
        Shape shape,
        bool layers
    )
    {
        var mass = shape.Measure();
        var line = new Dictionary<string, object?>
        {
            ["id"] = snapshot.Model.File.Id(product.Index),
            ["globalId"] = product.GlobalId,
            ["class"] = product.Class,
            ["storey"] = product.Storey < 0 ? null : snapshot.StoreyName(product.Storey),
            ["volume"] = Math.Round(mass.Volume, 9),
            ["area"] = Math.Round(mass.Area, 9),
            ["triangles"] = shape.Parts.Sum(p => p.Mesh.TriangleCount),
            ["closed"] = mass.Closed,
            ["min"] = Output.Numbers(mass.Bounds.Min),
            ["max"] = Output.Numbers(mass.Bounds.Max),
        };
        if (layers)
            line["layers"] = Layers(snapshot, product, shape);
        return line;
    }

    private static List<object> Layers(ModelSnapshot snapshot, ModelElement product, Shape shape)
    {
        try
        {
            return
            [
                .. LayerSlices
                    .Of(snapshot.Model, snapshot.Relations, snapshot.Units, product.Index, shape)
                    .Select(l =>
                        (object)
                            new
                            {
                                Material = l.Material.Name,
                                l.Material.Thickness,
                                Volume = Math.Round(MassProperties.Of(l.Mesh).Volume, 9),
                            }
                    ),
            ];
        }
        catch (ShapeException)
        {
            // A body that cannot be cut has no layers to tell of; its own line is.
            return [];
        }
    }
}

using System.CommandLine;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;

namespace SteadyLintel.Cli;

/// <summary><c>lintel mesh FILE [--json] [--glb OUT]</c>: every product's shape, measured.</summary>
internal static class MeshCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("FILE") { Description = "An .ifc or .ifczip file." };
        var json = new Option<bool>("--json") { Description = "One JSON object a line for each product with a shape." };
        var glb = new Option<string?>("--glb") { Description = "Write the shapes as a binary glTF file (Y up, metres)." };
        var threads = new Option<int>("--threads") { Description = "How many threads shape; 0 for all cores." };
        var command = new Command("mesh", "Shapes every product and measures it.") { file, json, glb, threads };
        command.SetAction(parsed => Output.Guard(() => Run(parsed.GetValue(file)!, parsed.GetValue(json), parsed.GetValue(glb), parsed.GetValue(threads))));
        return command;
    }

    private static int Run(string path, bool json, string? glb, int threads)
    {
        using var delivered = DeliveredFile.Open(path);
        var snapshot = ModelSnapshot.Open(delivered.Bytes);
        var model = snapshot.Model;
        // Products that are no elements, such as openings, have shapes too.
        var products = model.OfType("IfcProduct").Order().Select((p, n) => new ModelElement(snapshot, n, p, snapshot.Structure.StoreyOf(p))).ToList();
        var scene = glb is null ? null : new GlbScene();
        int shaped = 0, failed = 0;
        long triangles = 0;
        snapshot.ForEachShape(products, (product, shape) =>
        {
            if (shape is null) return;
            failed += shape.Problems.Count > 0 ? 1 : 0;
            if (shape.Parts.Count == 0) return;
            shaped++;
            triangles += shape.Parts.Sum(p => p.Mesh.TriangleCount);
            if (json) Output.WriteLine(Line(snapshot, product, shape));
            if (!model.Is(product.Index, "IfcFeatureElementSubtraction")) scene?.Add(product, shape);
        }, threads);
        if (glb is not null) scene!.Save(glb);
        if (!json) Console.Out.WriteLine($"{shaped} products shaped, {failed} with problems, {triangles} triangles");
        return ExitCodes.Done;
    }

    private static object Line(ModelSnapshot snapshot, ModelElement product, Shape shape)
    {
        var mass = shape.Measure();
        return new
        {
            Id = snapshot.Model.File.Id(product.Index),
            GlobalId = product.GlobalId,
            product.Class,
            Storey = product.Storey < 0 ? null : snapshot.StoreyName(product.Storey),
            Volume = Math.Round(mass.Volume, 9),
            Area = Math.Round(mass.Area, 9),
            Triangles = shape.Parts.Sum(p => p.Mesh.TriangleCount),
            mass.Closed,
            Min = Output.Numbers(mass.Bounds.Min),
            Max = Output.Numbers(mass.Bounds.Max),
        };
    }
}

using System.Globalization;
using System.Text.Json.Nodes;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary>What <c>lintel inspect</c> tells of a drawing.</summary>
internal static class DrawingInspection
{
    /// <summary>Whether a file begins like a drawing.</summary>
    public static bool IsDrawing(string path)
    {
        using var stream = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read);
        byte[] head = new byte[FileRecognition.HeadLength];
        return CadFile.Looks(head.AsSpan(0, stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false)));
    }

    /// <summary>Reads a drawing and prints its report.</summary>
    public static int Run(string path, bool json)
    {
        var (drawing, form) = CadFile.Read(File.ReadAllBytes(path));
        var report = DrawingIntake.Read(drawing, form);
        if (json)
            Output.WritePage(Machine(path, report));
        else
            Human(path, report);
        return ExitCodes.Done;
    }

    // Where nothing is said of a place there is none among the answers.
    private static JsonObject Machine(string path, DrawingReport r)
    {
        var page = Output.Object(Whole(path, r));
        if (r.Place is { } p)
            page.Add(
                "place",
                Output.Object(
                    new
                    {
                        p.System,
                        Design = Output.Numbers(p.Design),
                        Reference = Output.Numbers(p.Reference),
                        p.North,
                    }
                )
            );
        return page;
    }

    private static object Whole(string path, DrawingReport r) =>
        new
        {
            File = Path.GetFileName(path),
            r.Format,
            r.Version,
            LengthUnit = new { Name = r.Unit, r.Metres },
            Extents = r.Extents.IsEmpty
                ? null
                : new { Min = Output.Numbers(r.Extents.Min), Max = Output.Numbers(r.Extents.Max) },
            Layers = r.Layers.Select(l => new
            {
                l.Name,
                Color = $"#{l.Rgb:X6}",
                l.On,
                l.Frozen,
                l.Locked,
                l.Count,
            }),
            Entities = r.Entities.Select(e => new { Type = e.Name, e.Count }),
            Blocks = r.Blocks.Select(b => new
            {
                b.Name,
                b.Entities,
                b.Inserts,
            }),
            Layouts = r.Layouts.Select(l => new
            {
                l.Name,
                Paper = new[] { l.PaperWidth, l.PaperHeight },
                Viewports = l.ViewportScales.Select(s => new { Scale = s }),
            }),
            ExternalReferences = r.ExternalReferences.Select(x => new
            {
                x.Name,
                x.Path,
                x.Loaded,
            }),
            r.Texts,
            Findings = r.Findings.Select(f => new
            {
                f.Code,
                Severity = f.Severity.ToString().ToLowerInvariant(),
                f.Message,
                f.Count,
            }),
        };

    private static void Human(string path, DrawingReport r)
    {
        var o = Console.Out;
        o.WriteLine($"{Path.GetFileName(path)}: {r.Format} {r.Version}, {r.Unit}");
        if (!r.Extents.IsEmpty)
            o.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {r.Extents.Size.X:G6} × {r.Extents.Size.Y:G6} units, {r.Texts} texts"
                )
            );
        if (r.Place is { } p)
            o.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {p.Design.X:G9}, {p.Design.Y:G9} is {p.Reference.X:G12}, {p.Reference.Y:G12} in {(p.System.Length > 0 ? p.System : "a system not named")}; north at {p.North:0.###}°"
                )
            );
        foreach (var e in r.Entities)
            o.WriteLine($"  {e.Count, 7} {e.Name}");
        foreach (var l in r.Layers)
            o.WriteLine(
                $"  {l.Count, 7} on {l.Name}{(l.On ? "" : ", off")}{(l.Frozen ? ", frozen" : "")}{(l.Locked ? ", locked" : "")}"
            );
        foreach (var l in r.Layouts)
            o.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  layout {l.Name}: {l.PaperWidth:G5} × {l.PaperHeight:G5} mm, {l.ViewportScales.Count} viewports"
                )
            );
        foreach (var x in r.ExternalReferences)
            o.WriteLine($"  draws on {x.Path}{(x.Loaded ? "" : ", missing")}");
        foreach (var f in r.Findings)
            o.WriteLine($"  {f.Severity.ToString().ToLowerInvariant(), -8} {f.Code, -24} {f.Message}");
    }
}

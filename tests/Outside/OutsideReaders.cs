using System.Diagnostics;
using System.Text.Json;

namespace SteadyLintel.Tests;

/// <summary>Runs readers that nobody here wrote; <c>./test</c> installs them.</summary>
internal static class OutsideReaders
{
    private static readonly string Folder = Path.Combine(Root(), "tests", "Outside");

    /// <summary>web-ifc 0.0.78 under Node: a line an element.</summary>
    public static List<JsonElement> WebIfc(string ifc) => WebIfc([ifc])[0];

    /// <summary>The same of several files, in one process.</summary>
    public static IReadOnlyList<List<JsonElement>> WebIfc(IReadOnlyList<string> files)
    {
        Run("node", [Path.Combine(Folder, "node", "read-ifc.mjs"), .. files]);
        return
        [
            .. files.Select(f => File.ReadLines(f + ".jsonl").Select(l => JsonDocument.Parse(l).RootElement).ToList()),
        ];
    }

    /// <summary>bcf-js 0.2.6 under Node, of one version: <c>2.1</c> or <c>3.0</c>.</summary>
    public static JsonElement Bcf(string version, string file) =>
        JsonDocument.Parse(Run("node", Path.Combine(Folder, "node", "read-bcf.mjs"), version, file)).RootElement;

    /// <summary>ezdxf of Debian's packages, with its auditor.</summary>
    public static JsonElement Ezdxf(string dxf, bool boxes = false) =>
        JsonDocument
            .Parse(
                Run("/usr/bin/python3", [Path.Combine(Folder, "read-dxf.py"), dxf, .. boxes ? (string[])["boxes"] : []])
            )
            .RootElement;

    /// <summary>Makes a drawing with ezdxf that has what offices use.</summary>
    /// <param name="version">Its version: <c>R2000</c> and so on.</param>
    /// <param name="dxf">Where it is put.</param>
    /// <returns>The same path.</returns>
    public static string MakeDxf(string version, string dxf)
    {
        Run("/usr/bin/python3", Path.Combine(Folder, "make-dxf.py"), version, dxf);
        return dxf;
    }

    /// <summary>The drawing that comes with three-dxf.</summary>
    public static string SampleOfThreeDxf =>
        Path.Combine(Folder, "node", "node_modules", "three-dxf", "sample", "data", "demo.dxf");

    /// <summary>ezdxf's colours of the numbers, 0xRRGGBB.</summary>
    public static int[] EzdxfColours() =>
        JsonSerializer.Deserialize<int[]>(
            Run(
                "/usr/bin/python3",
                "-c",
                "import json; from ezdxf import colors; print(json.dumps(list(colors.DXF_DEFAULT_COLORS)))"
            )
        )!;

    /// <summary>libredwg-web and libdxfrw-web under Node (compiled quickly rather than well: they are large); the first also writes the
    /// drawing as DXF.</summary>
    public static JsonElement Dwg(string dwg, string dxf) =>
        JsonDocument
            .Parse(Run("node", "--liftoff-only", Path.Combine(Folder, "node", "read-dwg.mjs"), dwg, dxf))
            .RootElement;

    /// <summary>libredwg-web alone: its error; the drawing as DXF beside it.</summary>
    public static int Redwg(string dwg, string dxf) =>
        JsonDocument
            .Parse(Run("node", "--liftoff-only", Path.Combine(Folder, "node", "read-dwg.mjs"), dwg, dxf, "first"))
            .RootElement.GetProperty("error")
            .GetInt32();

    /// <summary>dxf-parser under Node.</summary>
    public static JsonElement DxfParser(string dxf) =>
        JsonDocument.Parse(Run("node", Path.Combine(Folder, "node", "parse-dxf.mjs"), dxf)).RootElement;

    /// <summary>Every entity of model space with its kind, layer and box, inserts taken apart by ezdxf.</summary>
    public static List<(string Type, string Layer, double[] Box)> Decomposed(string dxf) =>
        [
            .. JsonDocument
                .Parse(Run("/usr/bin/python3", Path.Combine(Folder, "decompose-dxf.py"), dxf))
                .RootElement.EnumerateArray()
                .Select(e =>
                    (
                        e[0].GetString()!,
                        e[1].GetString()!,
                        e[2].ValueKind == JsonValueKind.Null
                            ? []
                            : e[2].EnumerateArray().Select(v => v.GetDouble()).ToArray()
                    )
                ),
        ];

    /// <summary>What ezdxf makes of the 3DSOLIDs of a DXF.</summary>
    public static JsonElement Solids(string dxf) =>
        JsonDocument.Parse(Run("/usr/bin/python3", Path.Combine(Folder, "read-solids.py"), dxf)).RootElement;

    /// <summary>The rows of a table: read-excel-file for XLSX, papaparse for CSV.</summary>
    public static JsonElement Table(string file) =>
        JsonDocument.Parse(Run("node", Path.Combine(Folder, "node", "read-table.mjs"), file)).RootElement;

    /// <summary>What gltf-validator of the Khronos group says of a GLB.</summary>
    public static JsonElement Gltf(string file) =>
        JsonDocument.Parse(Run("node", Path.Combine(Folder, "node", "check-glb.mjs"), file)).RootElement;

    private static string Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var error = process.StandardError.ReadToEndAsync();
        string output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return process.ExitCode == 0
            ? output
            : throw new InvalidOperationException($"{program} {arguments[0]}: {error.Result}");
    }

    private static string Root()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }
}

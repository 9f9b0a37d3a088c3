using System.CommandLine;
using System.Globalization;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary>The options of <c>lintel handover</c>.</summary>
internal static class HandoverOptions
{
    public static readonly Option<string[]> From = new("--from")
    {
        Description = "The models, and drawings (.dwg, .dxf) that go beside them.",
        Required = true,
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string?> OrderFile = new("--order")
    {
        Description = "The order as a document (docs/order.schema.json); no other word of an order then.",
    };
    public static readonly Option<string?> As = new("--as")
    {
        Description = $"{OrderOptions.File.Listed}; none when drawings go alone.",
    };
    public static readonly Option<string?> Drawings = new("--drawings")
    {
        Description =
            "prepared (after their steps, in the order's unit and frame; the default) or received (byte for byte).",
    };
    public static readonly Option<string?> DrawingFile = new("--drawing-file")
    {
        Description = "dwg or dxf, of prepared drawings; the kind that came when not given.",
    };
    public static readonly Option<string?> DrawingVersion = new("--drawing-version")
    {
        Description = "With --drawing-file: the version, as for --version.",
    };
    public static readonly Option<string[]> RenameDrawingLayer = new("--rename-drawing-layer")
    {
        Description = "OLD=NEW, may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<bool> KeepReferences = new("--keep-references")
    {
        Description =
            "References of drawings stay references; else those given with --from become part of what refers to them.",
    };
    public static readonly Option<string[]> Placed = new("--placed")
    {
        Description =
            "NAME=SETTING.json: where a model or a drawing is placed (docs/setting-out.schema.json), may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string?> Levels = new("--levels")
    {
        Description =
            "The level schedule, as JSON (docs/levels.schema.json); its sources are called by the names of their files. Otherwise the storeys of the models are matched.",
    };
    public static readonly Option<string[]> Prepared = new("--prepared")
    {
        Description = "NAME=STEPS.json: how a drawing is prepared (docs/preparation.schema.json), may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<bool> Plan = new("--plan")
    {
        Description = "With dxf or dwg: a plan of each storey, cut 1.2 m above its level.",
    };
    public static readonly Option<bool> Solids = new("--solids")
    {
        Description = "With dxf or dwg: closed bodies as 3DSOLID.",
    };
    public static readonly Option<string?> FileVersion = new("--version")
    {
        Description =
            "With dxf or dwg: AC1015, AC1018, AC1024, AC1027 or AC1032 (dxf also AC1021); AC1027 for dxf and AC1024 for dwg when not given.",
    };

    /// <summary>For each field of rules that has a plural, only those and without those.</summary>
    public static readonly IReadOnlyList<(string Verb, RuleField Field, Option<string?> Option)> Rules =
    [
        .. RuleField
            .All.Where(f => f.Plural is not null)
            .SelectMany(f =>
                ((string Verb, RuleField Field, Option<string?> Option)[])
                    [
                        (
                            "only",
                            f,
                            Names($"--{f.Plural}", $"Only these {f.Plural}{Subtypes(f)}, separated by commas.")
                        ),
                        ("without", f, Names($"--without-{f.Plural}", $"Leave these {f.Plural}{Subtypes(f)} out.")),
                    ]
            ),
    ];

    public static readonly Option<string> Split = new("--split")
    {
        Description = $"{OrderOptions.Split.Listed}; several joined by +.",
        DefaultValueFactory = _ => "none",
    };
    public static readonly Option<string?> Unit = new("--unit")
    {
        Description = $"{OrderOptions.Unit.Listed}; the source's own when not given.",
    };
    public static readonly Option<string?> Schema = new("--schema")
    {
        Description = $"With ifc: {OrderOptions.Schema.Listed}; the source's own when not given.",
    };
    public static readonly Option<string?> Setting = new("--setting")
    {
        Description =
            "With --frame party: the receiver's setting-out as a file; the sources are assumed to be in the job's frame.",
    };
    public static readonly Option<string> Frame = new("--frame")
    {
        Description =
            "With ifc: source; job (the first source's, through map conversions); party (the receiver's, see --setting); map (eastings and northings, with a map conversion); local (near the origin); or x,y,z,deg (metres, degrees counter-clockwise).",
        DefaultValueFactory = _ => "source",
    };
    public static readonly Option<bool> Merge = new("--merge")
    {
        Description = "With ifc: all sources in one file under one project.",
    };
    public static readonly Option<string[]> RenameStorey = new("--rename-storey")
    {
        Description = "OLD=NEW, may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> MoveLayer = new("--move-layer")
    {
        Description = "OLD=NEW, may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> ChangeClass = new("--change-class")
    {
        Description = "OLD=NEW, IfcBuildingElementProxy=IfcRailing; may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> SetProperty = new("--set-property")
    {
        Description = "CLASS:SET.PROPERTY=VALUE, IfcWall:Pset_WallCommon.FireRating=EI 60; may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> Detail = PrepareCommand.Details();
    public static readonly Option<string[]> Amend = new("--amend")
    {
        Description =
            "NAME=AMENDMENTS.json: amendments of the model of that file name (docs/amendments.schema.json), may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> Table = new("--table")
    {
        Description =
            "NAME=FILE.csv or .xlsx: a mapping table that the order names, recognised by its headings; may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> KeptSet = new("--set")
    {
        Description = "NAME=FILE.json: a set that the order names; may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string[]> KeptView = new("--view")
    {
        Description = "NAME=FILE.json: a view that the order names; may be repeated.",
        AllowMultipleArgumentsPerToken = true,
    };
    public static readonly Option<string> Job = new("--job")
    {
        Description = "The job's code, for names.",
        DefaultValueFactory = _ => "",
    };
    public static readonly Option<string> Name = new("--name")
    {
        Description = "File names: " + string.Join(" ", NameTemplate.Words.Select(w => $"{{{w}}}")) + ".",
        DefaultValueFactory = _ => "{source}-{storey}",
    };
    public static readonly Option<string> Out = new("--out")
    {
        Description = "The folder to write to.",
        Required = true,
    };
    public static readonly Option<string> Time = new("--time")
    {
        Description = "The time stamp to write in headers (ISO 8601).",
        DefaultValueFactory = _ => DateTime.UtcNow.ToString("s", CultureInfo.InvariantCulture),
    };
    public static readonly Option<bool> Json = new("--json") { Description = "Machine output." };

    private static Option<string?> Names(string name, string description) => new(name) { Description = description };

    private static string Subtypes(RuleField field) => field.Kind == RuleFieldKind.Class ? " and their subtypes" : "";
}

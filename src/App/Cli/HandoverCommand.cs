using System.CommandLine;
using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel handover</c>: runs an order and prints its balance sheet.</summary>
internal static class HandoverCommand
{
    private static readonly Option<string[]> From = new("--from") { Description = "The models.", Required = true, AllowMultipleArgumentsPerToken = true };
    private static readonly Option<string> As = new("--as") { Description = "ifc, dxf or dwg.", Required = true };
    private static readonly Option<bool> Plan = new("--plan") { Description = "With dxf or dwg: a plan of each storey, cut 1.2 m above its level." };
    private static readonly Option<bool> Solids = new("--solids") { Description = "With dxf or dwg: closed bodies as 3DSOLID." };
    private static readonly Option<string?> Version = new("--version") { Description = "With dxf or dwg: AC1015, AC1018, AC1024, AC1027 or AC1032 (dxf also AC1021); AC1027 for dxf and AC1024 for dwg when not given." };
    private static readonly Option<string?> Storeys = new("--storeys") { Description = "Only these storeys, by name, separated by commas." };
    private static readonly Option<string?> Classes = new("--classes") { Description = "Only these classes and their subtypes." };
    private static readonly Option<string?> Without = new("--without-classes") { Description = "Leave these classes and their subtypes out." };
    private static readonly Option<string?> Layers = new("--layers") { Description = "Only elements on these layers." };
    private static readonly Option<string> Split = new("--split") { Description = "storey or none.", DefaultValueFactory = _ => "none" };
    private static readonly Option<string?> Unit = new("--unit") { Description = "mm, m or ft; the source's own when not given." };
    private static readonly Option<string?> Schema = new("--schema") { Description = "With ifc: IFC2X3, IFC4 or IFC4X3; the source's own when not given." };
    private static readonly Option<string> Frame = new("--frame") { Description = "With ifc: source; job (the first source's, through map conversions); local (near the origin); or x,y,z,deg (metres, degrees counter-clockwise).", DefaultValueFactory = _ => "source" };
    private static readonly Option<bool> Merge = new("--merge") { Description = "With ifc: all sources in one file under one project." };
    private static readonly Option<string[]> RenameStorey = new("--rename-storey") { Description = "OLD=NEW, may be repeated.", AllowMultipleArgumentsPerToken = true };
    private static readonly Option<string[]> MoveLayer = new("--move-layer") { Description = "OLD=NEW, may be repeated.", AllowMultipleArgumentsPerToken = true };
    private static readonly Option<string[]> ChangeClass = new("--change-class") { Description = "OLD=NEW, IfcBuildingElementProxy=IfcRailing; may be repeated.", AllowMultipleArgumentsPerToken = true };
    private static readonly Option<string[]> SetProperty = new("--set-property") { Description = "CLASS:SET.PROPERTY=VALUE, IfcWall:Pset_WallCommon.FireRating=EI 60; may be repeated.", AllowMultipleArgumentsPerToken = true };
    private static readonly Option<string> Name = new("--name") { Description = "File names: {job} {party} {source} {storey} {unit}.", DefaultValueFactory = _ => "{source}-{storey}" };
    private static readonly Option<string> Out = new("--out") { Description = "The folder to write to.", Required = true };
    private static readonly Option<string> Time = new("--time") { Description = "The time stamp to write in headers (ISO 8601).", DefaultValueFactory = _ => DateTime.UtcNow.ToString("s", CultureInfo.InvariantCulture) };
    private static readonly Option<bool> Json = new("--json") { Description = "Machine output." };

    public static Command Create()
    {
        var command = new Command("handover", "Writes a chosen part of models for another party and proves that nothing was lost.") { From, As, Plan, Solids, Version, Storeys, Classes, Without, Layers, Split, Unit, Schema, Frame, Merge, RenameStorey, MoveLayer, ChangeClass, SetProperty, Name, Out, Time, Json };
        command.SetAction(parsed => Output.Guard(() => Run(parsed)));
        return command;
    }

    private static int Run(ParseResult parsed)
    {
        var order = Order(parsed);
        string folder = parsed.GetValue(Out)!;
        Directory.CreateDirectory(folder);
        var delivered = parsed.GetValue(From)!.Select(path => (Path: path, File: DeliveredFile.Open(path))).ToList();
        using var files = new FolderFileSet(folder);
        try
        {
            var sources = delivered.Select(d => new HandoverSource(Path.GetFileNameWithoutExtension(d.Path), Path.GetFileNameWithoutExtension(d.Path), ModelSnapshot.Open(d.File.Bytes))).ToList();
            var result = HandoverRunner.Run(order, sources, "", parsed.GetValue(Time)!, files);
            if (parsed.GetValue(Json)) Output.WritePage(Machine(result));
            else Human(result);
            return result.Reconciliation.Balanced ? ExitCodes.Done : ExitCodes.NotBalanced;
        }
        finally
        {
            foreach (var d in delivered) d.File.Dispose();
        }
    }

    private static HandoverOrder Order(ParseResult parsed)
    {
        var format = (parsed.GetValue(As), parsed.GetValue(Plan)) switch
        {
            ("ifc", false) => HandoverFormat.Ifc,
            ("dxf" or "dwg", false) => HandoverFormat.DrawingMeshes,
            ("dxf" or "dwg", true) => HandoverFormat.DrawingPlan,
            ("ifc", true) => throw new OrderException("--plan goes with --as dxf or dwg."),
            var (other, _) => throw new OrderException($"--as takes ifc, dxf or dwg, not '{other}'."),
        };
        if (parsed.GetValue(Split) is not ("storey" or "none") and var split) throw new OrderException($"--split takes storey or none, not '{split}'.");
        LengthUnit? unit = parsed.GetValue(Unit) is { } code ? LengthUnit.Find(code) ?? throw new OrderException($"--unit takes mm, m or ft, not '{code}'.") : null;
        var rules = new List<SelectionRule>();
        AddRule(rules, SelectionField.Storey, parsed.GetValue(Storeys), true);
        AddRule(rules, SelectionField.Class, parsed.GetValue(Classes), true);
        AddRule(rules, SelectionField.Class, parsed.GetValue(Without), false);
        AddRule(rules, SelectionField.Layer, parsed.GetValue(Layers), true);
        string? schema = parsed.GetValue(Schema);
        if (schema is not (null or "IFC2X3" or "IFC4" or "IFC4X3")) throw new OrderException($"--schema takes IFC2X3, IFC4 or IFC4X3, not '{schema}'.");
        var frame = FrameChoice.Parse(parsed.GetValue(Frame)!) ?? throw new OrderException($"--frame takes source, job, local or x,y,z,deg, not '{parsed.GetValue(Frame)}'.");
        var form = DrawingForm.Parse(parsed.GetValue(As) == "dwg", parsed.GetValue(Version), false);
        if (format == HandoverFormat.Ifc && parsed.GetValue(Version) is not null) throw new OrderException("--version goes with --as dxf or dwg.");
        var edits = Edits(parsed);
        if (format != HandoverFormat.Ifc && (schema is not null || frame.Kind != FrameKind.Source || parsed.GetValue(Merge) || edits.Count > 0)) throw new OrderException("--schema, --frame, --merge and edits go with --as ifc.");
        return new HandoverOrder(new Selection(rules), format, parsed.GetValue(Split) == "storey", unit, parsed.GetValue(Name)!) { Schema = schema, Frame = frame, Merge = parsed.GetValue(Merge), Edits = edits, Form = form, Solids = parsed.GetValue(Solids) };
    }

    private static List<ModelEdit> Edits(ParseResult parsed)
    {
        var edits = new List<ModelEdit>();
        foreach (var (option, kind) in new[] { (RenameStorey, EditKind.RenameStorey), (MoveLayer, EditKind.MoveLayer), (ChangeClass, EditKind.ChangeClass) })
        {
            foreach (string pair in parsed.GetValue(option) ?? [])
            {
                var (from, to) = Halves(pair, '=', option.Name);
                edits.Add(new ModelEdit(kind, from, to));
            }
        }

        foreach (string text in parsed.GetValue(SetProperty) ?? [])
        {
            var (place, value) = Halves(text, '=', SetProperty.Name);
            var (about, path) = Halves(place, ':', SetProperty.Name);
            var (set, property) = Halves(path, '.', SetProperty.Name);
            edits.Add(new ModelEdit(EditKind.SetProperty, about, value, set, property));
        }

        return edits;
    }

    private static (string, string) Halves(string text, char sign, string option)
    {
        int at = text.IndexOf(sign, StringComparison.Ordinal);
        return at > 0 && at < text.Length - 1 ? (text[..at].Trim(), text[(at + 1)..].Trim()) : throw new OrderException($"{option} cannot read '{text}': a '{sign}' is missing.");
    }

    private static void AddRule(List<SelectionRule> rules, SelectionField field, string? list, bool keep)
    {
        if (list is not null) rules.Add(new SelectionRule(field, list.Split(',', StringSplitOptions.TrimEntries), keep));
    }

    private static object Machine(HandoverResult result) => new
    {
        Files = result.Files.Select(f => new { f.Name, f.Bytes, f.Sha256, f.Elements }),
        Rows = result.Reconciliation.Rows.Select(r => new { r.Storey, r.Class, r.In, r.LeftOut, r.Written, r.Found, r.Unaccounted, r.Reasons }),
        Checks = result.Reconciliation.Checks.Select(c => new { c.Name, c.Same, c.Differ, Largest = Math.Round(c.Largest, 6) }),
        result.Reconciliation.Differences,
        NotCarried = result.Reconciliation.NotCarried.Select(n => new { n.What, n.Count }),
        Ledger = result.Reconciliation.Ledger.Select(Output.Line),
        result.Reconciliation.Unaccounted,
        result.Reconciliation.Balanced,
    };

    private static void Human(HandoverResult result)
    {
        foreach (var f in result.Files) Console.Out.WriteLine($"{f.Name}: {f.Elements} elements, {f.Bytes} bytes");
        var r = result.Reconciliation;
        Console.Out.WriteLine($"in {r.Rows.Sum(x => x.In)}, left out {r.Rows.Sum(x => x.LeftOut)}, written {r.Rows.Sum(x => x.Written)}, found again {r.Rows.Sum(x => x.Found)}, unaccounted {r.Unaccounted}: {(r.Balanced ? "balanced" : "NOT BALANCED")}");
        foreach (var l in r.Ledger.Where(l => l.Unaccounted > 0 || l.NotCarried.Count > 0))
            Console.Out.WriteLine($"  {l.Kind}: {l.Things} things, {l.Same} the same, {l.Changed.Values.Sum()} changed, {l.LeftOut.Values.Sum()} left out, {l.NotCarried.Values.Sum()} not carried, {l.Unaccounted} unaccounted");
        foreach (var n in r.NotCarried) Console.Out.WriteLine($"  not carried, {n.Count} ×: {n.What}");
        foreach (string difference in r.Differences.Take(20)) Console.Out.WriteLine("  " + difference);
    }
}

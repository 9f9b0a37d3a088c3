using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What a drawing of a model shows.</summary>
internal enum DrawnAs
{
    /// <summary>Elements as bodies.</summary>
    Bodies,

    /// <summary>A plan of each storey.</summary>
    Plan,

    /// <summary>Sections or elevations.</summary>
    Section,
}

/// <summary>Drawings: all sources in one, or split as the order says; elements as bodies, as the lines of a plan, or of sections, each of
/// which is a file.</summary>
public sealed class DrawingTarget : Target
{
    /// <summary>The reason an element without a shape stays when drawings are made.</summary>
    public const string NoShape = "no shape";

    /// <summary>The reason an element cannot go into a plan or section.</summary>
    public const string NoLine = "nothing of it is seen in the view";

    private readonly DrawnAs _shows;

    /// <summary>Makes drawings.</summary>
    internal DrawingTarget(DrawnAs shows)
    {
        _shows = shows;
        Choices = [.. Contents.SelectMany(ChoicesOf)];
    }

    /// <inheritdoc/>
    public override string Family => "drawings";

    /// <inheritdoc/>
    public override IReadOnlyDictionary<string, string> Files { get; } =
        new Dictionary<string, string> { ["dxf"] = ".dxf", ["dwg"] = ".dwg" };

    /// <inheritdoc/>
    public override IReadOnlyList<string> Contents =>
        _shows switch
        {
            DrawnAs.Plan => ["plan"],
            DrawnAs.Section => ["section"],
            _ => [Meshes, Solids, Skins],
        };

    /// <inheritdoc/>
    public override bool IsUsual => _shows == DrawnAs.Bodies;

    /// <inheritdoc/>
    public override bool HasVersions => true;

    /// <inheritdoc/>
    public override bool DrawsLines => _shows != DrawnAs.Bodies;

    /// <summary>Whether plans are drawn, which show some elements that have no body.</summary>
    internal bool IsPlan => _shows == DrawnAs.Plan;

    /// <inheritdoc/>
    public override IReadOnlyList<FormChoice> Choices { get; }

    /// <inheritdoc/>
    public override FormOptions Takes =>
        FormOptions.Sheets
        | FormOptions.Attributes
        | FormOptions.LayerTable
        | (
            _shows switch
            {
                DrawnAs.Plan => FormOptions.None,
                DrawnAs.Section => FormOptions.SectionLines,
                _ => FormOptions.Solids | FormOptions.Boxes,
            }
        );

    private const string Meshes = "meshes",
        Solids = "solids",
        Skins = "skins";

    /// <inheritdoc/>
    internal override HandoverOrder Read(OrderInto into, HandoverOrder order) =>
        order with
        {
            Form = FormOf(into),
            Solids = into.As == Solids,
            Skins = into.As == Skins,
        };

    /// <inheritdoc/>
    internal override string? Problem(HandoverOrder order)
    {
        if (_shows == DrawnAs.Section)
            return SectionProblem(order);
        return order.Sheet is not null && IsPlan && !order.SplitByStorey
            ? "Sheets of plans need one file a storey: plans of several storeys would overlap."
            : null;
    }

    private static string? SectionProblem(HandoverOrder order)
    {
        if (order.LineWork.Lines.Count == 0)
            return "Sections need lines to run along: say where each begins and ends.";
        if (order.Together)
            return "Sections are files of their own; 'together' is for models, bodies and plans.";
        return
            order.LineWork.Lines.Count > 1
            && !order.NameTemplate.Contains("{section}", StringComparison.Ordinal)
            && !order.NameTemplate.Contains("{n}", StringComparison.Ordinal)
            ? "Several sections need {section} in the name template, so that their files have names of their own."
            : null;
    }

    /// <inheritdoc/>
    internal override bool Means(FormChoice choice, OrderInto into) =>
        choice.Into.File == into.File
        && choice.Into.As == (into.As ?? Meshes)
        && (into.File == "dxf" || choice.Into.Version == (into.Version ?? UsualDwg.ToString()));

    private const CadVersion UsualDwg = CadVersion.AC1024;

    private static CadForm FormOf(OrderInto into)
    {
        bool dwg = into.File == "dwg";
        var form = new CadForm(dwg, dwg ? UsualDwg : CadForm.Default.Version);
        if (into.Version is null)
            return form;
        return Enum.TryParse(into.Version, out CadVersion version) && form.Versions.Contains(version)
            ? form with
            {
                Version = version,
            }
            : throw new OrderException(
                $"version takes {string.Join(", ", form.Versions)} for {into.File}, not '{into.Version}'."
            );
    }

    // DXF in the version that everybody reads; with solids that of 2010, where they are text.
    private static IEnumerable<FormChoice> ChoicesOf(string content)
    {
        var dxf = content == Solids ? new CadForm(false, ModelerEntity.LastText) : CadForm.Default;
        yield return ChoiceOf($"dxf-{content}", content, dxf);
        foreach (var version in DwgWriter.Versions)
            yield return ChoiceOf($"dwg-{content}-{DrawingFiles.Year(version)}", content, new CadForm(true, version));
    }

    private static FormChoice ChoiceOf(string word, string content, CadForm form)
    {
        string file = DrawingFiles.Name(form),
            heading = content switch
            {
                "plan" => "Plans",
                "section" => "Sections",
                Solids => "Solids",
                Skins => "Outer surfaces only",
                _ => "Meshes",
            };
        return new FormChoice(
            word,
            file,
            heading,
            $"{file}, {heading.ToLowerInvariant()}",
            new OrderInto
            {
                File = form.Dwg ? "dwg" : "dxf",
                Version = form.Version.ToString(),
                As = content,
            }
        );
    }

    /// <inheritdoc/>
    public override string? CannotHold(bool shaped, bool drawn) => shaped || (drawn && IsPlan) ? null : NoShape;

    /// <inheritdoc/>
    internal override ILedger NewLedger(HandoverPlan plan) => new DrawnLedger(plan);

    /// <summary>The unit of an order's drawings: what it says, else the nearest to the first source's.</summary>
    internal static LengthUnit UnitOf(HandoverPlan plan) =>
        plan.Order.Unit ?? LengthUnit.Nearest(plan.Sources.Count > 0 ? plan.Sources[0].Snapshot.Units.Metres : 1);

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
        var unit = UnitOf(plan);
        var written = new List<WrittenFile>();
        var layers = new DrawingLayerNames(plan);
        var missing = new List<(int Source, ModelElement Element, string Reason)>();
        var sheets = new List<DrawnSheet>();
        IReadOnlyList<SectionLine?> sections = _shows == DrawnAs.Section ? [.. plan.Order.LineWork.Lines] : [null];
        foreach (var group in FileGroups.Of(plan, false))
        foreach (var line in sections)
        {
            var views = DrawsLines ? FileViews.Of(plan, group.Parts, line, cancel) : null;
            var builder = new DrawingBuilder(plan, unit, layers, views);
            foreach (var part in group.Parts)
                builder.Add(part.Source, part.Elements, cancel);
            missing.AddRange(builder.Missing);
            if (builder.Written.Count == 0)
                continue;
            if (views is not null)
                builder.AddMarks(views.Marks);
            var drawing = builder.Finish();
            var values = group.Name with { Section = line?.Name ?? "" };
            string name = names.Next(values, plan.Order.Form.Extension);
            var own = SheetSet.Of(plan, values, name, timeStamp, drawing, unit);
            sheets.AddRange(own);
            if (plan.Order.Sheet is { References: false })
                foreach (var sheet in own)
                    sheet.Put(drawing, unit.Metres, []);
            using (var stream = files.Create(name))
                CadFile.Write(drawing, stream, plan.Order.Form, cancel);
            written.Add(
                new WrittenFile(name, builder.Written, [], new MadeInstances())
                {
                    Drawn = new DrawnFile(group.Parts, line, plan.Order.Sheet is { References: false } ? own : []),
                }
            );
        }

        if (plan.Order.Sheet is { References: true } && sheets.Count > 0)
            written.Add(SheetSet.Write(plan, sheets, names, files, unit, cancel));
        // What one section misses another may show.
        var gone = written.SelectMany(w => w.Elements).Select(e => (e.Source, e.Element.Number)).ToHashSet();
        foreach (var (source, element, reason) in missing)
            if (!gone.Contains((source, element.Number)))
                reconciler.LeaveOut(source, element, reason);
        return written;
    }
}

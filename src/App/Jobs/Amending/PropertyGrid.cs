using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Which elements a grid of properties shows.</summary>
public sealed record GridWish
{
    /// <summary>The template whose properties are the columns.</summary>
    public string Template { get; init; } = "";

    /// <summary>The storey of the job, its place in the schedule; null for all.</summary>
    public int? Storey { get; init; }

    /// <summary>A saved set; null for all elements.</summary>
    public string? Set { get; init; }

    /// <summary>Further rules, in the words of orders.</summary>
    public IReadOnlyList<OrderRule> Rules { get; init; } = [];

    /// <summary>Whether only elements are shown that lack a required value, or have one that is not allowed.</summary>
    public bool Faulty { get; init; }

    /// <summary>Whether only elements are shown whose amendments wait for a decision.</summary>
    public bool Contradicting { get; init; }

    /// <summary>What the rows are sorted by: <c>storey</c>, <c>name</c>, or <c>Set.Property</c>.</summary>
    public string Sort { get; init; } = "storey";
}

/// <summary>A cell of a grid of properties.</summary>
/// <param name="File">What the file says.</param>
/// <param name="Ours">What is said beside it; null where nothing is.</param>
/// <param name="Fault">What is wrong with what holds, by the template; null where nothing is.</param>
public sealed record GridCell(FileStatement File, ShownAmendment? Ours, string? Fault)
{
    /// <summary>Whether ours and the file's wait for a decision.</summary>
    public bool Contradicts => Ours?.Step == AmendmentStep.Contradicts;
}

/// <summary>A row of a grid of properties.</summary>
/// <param name="Source">The source, as the job's state has it.</param>
/// <param name="Revision">Its newest revision.</param>
/// <param name="Number">The element's number in it.</param>
/// <param name="GlobalId">Its GlobalId.</param>
/// <param name="Name">Its name.</param>
/// <param name="Class">Its class.</param>
/// <param name="Type">The name of its type.</param>
/// <param name="Storey">The name of its storey.</param>
/// <param name="Cells">A cell for each column that applies to it; null for those that do not.</param>
public sealed record GridRow(
    SourceState Source,
    Guid Revision,
    int Number,
    string GlobalId,
    string Name,
    string Class,
    string Type,
    string Storey,
    IReadOnlyList<GridCell?> Cells
)
{
    /// <summary>The middle of its box in the job's frame, metres; null without a shape.</summary>
    public Geometry.Vec3? Middle { get; init; }

    /// <summary>The place of its storey in the job's schedule; -1 for none.</summary>
    public int Rung { get; init; } = -1;

    /// <summary>Its volume, surface and longest side; m³, m², m; 0 without a shape.</summary>
    public (double Volume, double Area, double Length) Measures { get; init; }
}

/// <summary>Elements by properties.</summary>
/// <param name="Template">The template.</param>
/// <param name="Columns">Its properties, in order.</param>
/// <param name="Rows">The elements.</param>
/// <param name="Total">How many elements there are in all.</param>
public sealed record PropertyGrid(
    TemplateDocument Template,
    IReadOnlyList<(PropertySetTemplate Set, PropertyTemplate Property)> Columns,
    IReadOnlyList<GridRow> Rows,
    int Total
)
{
    /// <summary>The most rows of a grid.</summary>
    public const int Most = 5000;

    /// <summary>How many required values are missing or blank in the rows.</summary>
    public int Missing => Rows.Sum(r => r.Cells.Count(c => c?.Fault is TemplateCheck.Missing or TemplateCheck.Blank));

    /// <summary>How many cells wait for a decision.</summary>
    public int Contradicting => Rows.Sum(r => r.Cells.Count(c => c?.Contradicts == true));
}

/// <summary>Loads grids of properties.</summary>
/// <param name="db">The database.</param>
/// <param name="library">The job's templates, sets and views.</param>
/// <param name="amendments">What is said beside the files.</param>
public sealed class PropertyGridQuery(LintelDb db, JobLibrary library, AmendmentQuery amendments)
{
    /// <summary>A template of the job; null where it has none of the name.</summary>
    public async Task<TemplateDocument?> TemplateAsync(Guid job, string name, CancellationToken cancel) =>
        await library.ContentAsync(job, LibraryKind.Template, name, cancel) is { } content
            ? TemplateDocument.Read(Encoding.UTF8.GetString(content))
            : null;

    /// <summary>The property sets that a source's newest model has, as a template; null where it has no model.</summary>
    public async Task<TemplateDocument?> OfSourceAsync(JobState state, Guid source, CancellationToken cancel) =>
        state.Sources.FirstOrDefault(s => s.Source.Id == source)?.Latest is { } latest
            ? await new StoredStatements(db).TemplateAsync(latest.Id, cancel)
            : null;

    /// <summary>Loads a grid.</summary>
    /// <exception cref="OrderException">A rule is wrong, or names what is not there.</exception>
    public async Task<PropertyGrid> LoadAsync(
        JobState state,
        TemplateDocument template,
        GridWish wish,
        CancellationToken cancel
    )
    {
        List<(PropertySetTemplate Set, PropertyTemplate Property)> columns =
        [
            .. template.Sets.SelectMany(s => s.Properties.Select(p => (s, p))),
        ];
        var document = new OrderDocument { Rules = RulesOf(state, wish) };
        var order = document.ToOrder(await library.LoadAsync(state.Job, document, cancel));
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        var rows = new List<GridRow>();
        int total = 0;
        foreach (var revision in await OrderPreview.RevisionsAsync(db, state, document, cancel))
        {
            var chosen = (await new ElementQuery(db).EachAsync(revision, selection, null, null, int.MaxValue, cancel))
                .Where(e => selection.Judge(n => e.Matches[n]).Reason is null)
                .Select(e => e.Id)
                .ToHashSet();
            var classes = await ClassesAsync(revision, template, cancel);
            var elements = (
                await db
                    .Elements.AsNoTracking()
                    .Where(e => e.RevisionId == revision.Id && classes.Contains(e.Class))
                    .OrderBy(e => e.Number)
                    .Select(e => new ElementRow
                    {
                        Number = e.Number,
                        GlobalId = e.GlobalId,
                        Name = e.Name,
                        Class = e.Class,
                        Predefined = e.Predefined,
                        TypeName = e.TypeName,
                        Storey = e.Storey,
                        Sets = e.Sets,
                        Box = e.Box,
                        Volume = e.Volume,
                        Area = e.Area,
                        Size = e.Size,
                    })
                    .ToListAsync(cancel)
            ).FindAll(e => chosen.Contains(e.GlobalId) && template.For(revision.Schema, e.Class, e.Predefined).Any());
            total += elements.Count;
            rows.AddRange(
                await RowsAsync(state, revision, template, columns, elements.Take(PropertyGrid.Most).ToList(), cancel)
            );
        }

        IEnumerable<GridRow> shown = rows;
        if (wish.Faulty)
            shown = shown.Where(r => r.Cells.Any(c => c?.Fault is not null));
        if (wish.Contradicting)
            shown = shown.Where(r => r.Cells.Any(c => c?.Contradicts == true));
        return new PropertyGrid(
            template,
            columns,
            [.. Sorted(shown, columns, wish.Sort).Take(PropertyGrid.Most)],
            total
        );
    }

    private static List<OrderRule> RulesOf(JobState state, GridWish wish)
    {
        var rules = new List<OrderRule>();
        if (wish.Storey is { } rung && rung >= 0 && rung < state.Schedule.Rungs.Count)
            rules.Add(
                new OrderRule
                {
                    Do = "only",
                    What = RuleField.Storey.Word,
                    Are = [state.Schedule.Rungs[rung].Name],
                }
            );
        if (wish.Set is { Length: > 0 } set)
            rules.Add(
                new OrderRule
                {
                    Do = "only",
                    What = RuleField.Set.Word,
                    Are = [set],
                }
            );
        rules.AddRange(wish.Rules);
        return rules;
    }

    private async Task<List<string>> ClassesAsync(
        QueriedRevision revision,
        TemplateDocument template,
        CancellationToken cancel
    )
    {
        var all = await db
            .Facets.Where(f => f.RevisionId == revision.Id)
            .Select(f => f.Class)
            .Distinct()
            .ToListAsync(cancel);
        // A predefined type is asked of each element.
        var wide = new TemplateDocument
        {
            Sets = [.. template.Sets.Select(s => s with { Classes = [.. s.Classes.Select(c => c.Split('.')[0])] })],
        };
        return all.FindAll(c => wide.For(revision.Schema, c, "").Any());
    }

    private async Task<List<GridRow>> RowsAsync(
        JobState state,
        QueriedRevision revision,
        TemplateDocument template,
        IReadOnlyList<(PropertySetTemplate Set, PropertyTemplate Property)> columns,
        List<ElementRow> elements,
        CancellationToken cancel
    )
    {
        var source = state.Sources[revision.Source];
        var statements = await new StoredStatements(db).OfAsync(
            revision.Id,
            elements.ConvertAll(e => (e.Number, e.Sets)),
            [.. template.Sets.Select(s => s.Name)],
            cancel
        );
        var ours = await amendments.OfElementsAsync(
            source.Source.Id,
            elements.Select(e => e.GlobalId).ToHashSet(),
            cancel
        );
        var rows = new List<GridRow>();
        foreach (var e in elements)
        {
            var said = ours[e.GlobalId]
                .Where(a => a.Amendment.Kind is AmendmentKind.Property or AmendmentKind.RemoveProperty)
                .DistinctBy(a => (a.Amendment.Set, a.Amendment.Name))
                .ToDictionary(a => (a.Amendment.Set!, a.Amendment.Name!));
            var applies = template.For(revision.Schema, e.Class, e.Predefined).ToHashSet();
            rows.Add(
                new GridRow(
                    source,
                    revision.Id,
                    e.Number,
                    e.GlobalId,
                    e.Name,
                    e.Class,
                    e.TypeName,
                    state.StoreyName(revision.Source, e.Storey),
                    [
                        .. columns.Select(c =>
                            applies.Contains(c.Set)
                                ? Cell(
                                    c.Property,
                                    statements[e.Number].GetValueOrDefault((c.Set.Name, c.Property.Name)),
                                    said.GetValueOrDefault((c.Set.Name, c.Property.Name))
                                )
                                : null
                        ),
                    ]
                )
                {
                    Middle = e.Box is { } b
                        ? source.Frame.Point(new((b[0] + b[3]) / 2, (b[1] + b[4]) / 2, (b[2] + b[5]) / 2))
                        : null,
                    Rung = state.Schedule.RungOf(revision.Source, e.Storey),
                    Measures = (e.Volume, e.Area, e.Size ?? 0),
                }
            );
        }

        return rows;
    }

    // What is stored is the file's, or ours once the revision was read with it.
    private static GridCell Cell(PropertyTemplate template, FileStatement? stored, ShownAmendment? ours)
    {
        var file = ours is null
            ? stored ?? FileStatement.None
            : ours.File ?? ours.Amendment.Was ?? stored ?? FileStatement.None;
        string? holds = ours is { Step: AmendmentStep.Holds }
            ? ours.Amendment.Kind == AmendmentKind.RemoveProperty
                ? null
                : ours.Amendment.Value
            : file.Is == FileStatement.Missing
                ? null
                : file.Text;
        return new GridCell(file, ours, FaultOf(template, holds));
    }

    private static string? FaultOf(PropertyTemplate template, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return !template.Required ? null
                : text is null ? TemplateCheck.Missing
                : TemplateCheck.Blank;
        try
        {
            template.Read(template.Several ? text.Replace(", ", "; ", StringComparison.Ordinal) : text);
            return null;
        }
        catch (FormatException e)
        {
            return e.Message;
        }
    }

    private static IEnumerable<GridRow> Sorted(
        IEnumerable<GridRow> rows,
        IReadOnlyList<(PropertySetTemplate Set, PropertyTemplate Property)> columns,
        string sort
    )
    {
        int column = columns.ToList().FindIndex(c => $"{c.Set.Name}.{c.Property.Name}" == sort);
        if (column >= 0)
            return rows.OrderBy(r => Text(r.Cells[column]).Length == 0)
                .ThenBy(r => Number(Text(r.Cells[column])))
                .ThenBy(r => Text(r.Cells[column]), StringComparer.OrdinalIgnoreCase)
                .ThenBy(r => r.Name, NaturalOrder);
        return sort == "name"
            ? rows.OrderBy(r => r.Name, NaturalOrder).ThenBy(r => r.Number)
            : rows.OrderByDescending(r => r.Rung).ThenBy(r => r.Name, NaturalOrder).ThenBy(r => r.Number);
    }

    private static string Text(GridCell? cell) =>
        cell is null ? ""
        : cell.Ours is { Step: AmendmentStep.Holds } ours ? ours.Amendment.Value ?? ""
        : cell.File.Text;

    private static double Number(string text) =>
        double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out double n) ? n : double.MaxValue;

    /// <summary>Names as people sort them: <c>D-2</c> before <c>D-10</c>.</summary>
    internal static readonly IComparer<string> NaturalOrder = Comparer<string>.Create(
        (a, b) => string.Compare(Padded(a), Padded(b), StringComparison.OrdinalIgnoreCase)
    );

    private static string Padded(string text) =>
        System.Text.RegularExpressions.Regex.Replace(text, "[0-9]+", m => m.Value.PadLeft(10, '0'));
}

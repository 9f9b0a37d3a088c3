using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>What an order would give of a storey.</summary>
/// <param name="Storey">The storey's name.</param>
/// <param name="In">How many there are.</param>
/// <param name="Out">How many a rule leaves out.</param>
public sealed record PreviewRow(string Storey, int In, int Out);

/// <summary>What an order does with an element.</summary>
/// <param name="Source">The source's label.</param>
/// <param name="Class">The element's class.</param>
/// <param name="Name">Its name.</param>
/// <param name="Verdict">What becomes of it, and which rule decided.</param>
public sealed record ElementVerdict(string Source, string Class, string Name, Verdict Verdict);

/// <summary>The live preview of an order: counted over stored elements, decided by Core's rules.</summary>
/// <param name="Rows">By storey, highest first.</param>
/// <param name="Reasons">Left out, by rule.</param>
/// <param name="Problem">What is wrong with the order, null when nothing is.</param>
public sealed record OrderPreview(IReadOnlyList<PreviewRow> Rows, IReadOnlyList<NamedCount> Reasons, string? Problem)
{
    /// <summary>How many elements each rule decides, in the order of the rules.</summary>
    public IReadOnlyList<int> Decided { get; init; } = [];

    /// <summary>What is included: elements (with a body), annotations (without) and rooms, as everywhere in figures.</summary>
    public KindCounts Included { get; init; }

    /// <summary>The drawings that would go.</summary>
    public IReadOnlyList<SourceState> Drawings { get; init; } = [];

    /// <summary>The drawings that an order gives.</summary>
    public static IReadOnlyList<SourceState> DrawingsOf(JobState state, OrderDocument document) =>
        [.. Of(state.Drawings, state.Model.DrawingsOf(document))];

    /// <summary>The sources, models and drawings, that an order would give from if all of them had a revision.</summary>
    public static IEnumerable<SourceState> SourcesOf(JobState state, OrderDocument document) =>
        state
            .Sources.Concat(state.Drawings)
            .Where(s =>
                document.Sources.Concat(document.Drawings?.Sources ?? []).ToList() is var named
                && (named.Count == 0 || named.Contains(s.Source.Id.ToString()))
            );

    /// <summary>The models that an order gives.</summary>
    public static IEnumerable<SourceState> ModelsOf(JobState state, OrderDocument document) =>
        Of(state.Sources, state.Model.ModelsOf(document));

    private static IEnumerable<SourceState> Of(IReadOnlyList<SourceState> sources, IEnumerable<JobSource> chosen)
    {
        var ids = chosen.Select(c => c.Id).ToHashSet();
        return sources.Where(s => ids.Contains(s.Source.Id));
    }

    /// <summary>Counts what an order gives and leaves.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="document">The order.</param>
    /// <param name="cancel">Stops it.</param>
    public static async Task<OrderPreview> OfAsync(
        LintelDb db,
        JobState state,
        OrderDocument document,
        CancellationToken cancel
    )
    {
        var (order, wrong) = Read(document, await new JobLibrary(db).LoadAsync(state.Job, document, cancel));
        if (order is null)
            return new OrderPreview([], [], wrong);

        var target = Target.Of(order);
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        bool parts = ModelsOf(state, document).Any(s => s.Latest!.HasParts);
        var further = new FurtherRules(order, selection);
        bool byFacets = further.All.Rules.All(r => IsOfFacets(r, parts));
        var rows = new Dictionary<int, (int In, int Out)>();
        var reasons = new SortedDictionary<string, int>(StringComparer.Ordinal);
        int[] decided = new int[selection.Rules.Count];
        var included = default(KindCounts);
        var files = new OrderFiles(state, order);
        foreach (var revision in await RevisionsAsync(db, state, document, cancel))
        {
            int s = revision.Source;
            // Facets do not tell what an amendment leaves out.
            if (byFacets && !(order.Amendments && await LeavesOutAsync(db, revision, cancel)))
            {
                foreach (var facet in state.Facets[s])
                {
                    var subject = new SelectionSubject(
                        revision.Schema,
                        state.StoreyName(s, facet.Storey),
                        facet.Class,
                        facet.Layer.Length == 0 ? [] : facet.Layer.Split('\n'),
                        ""
                    )
                    {
                        Source = s,
                        StoreyNumber = facet.Storey,
                        Party = revision.Party,
                        SourceName = revision.Name,
                    };
                    Count(
                        s,
                        facet.Storey,
                        further.Judge(n => further.All.Rules[n].Matches(subject), facet.Class, revision.Schema),
                        target.CannotHold(facet.Shaped, facet.Drawn),
                        facet.Class,
                        facet.Shaped,
                        facet.Count
                    );
                }
            }
            else
            {
                foreach (var group in await new ElementQuery(db).GroupsAsync(revision, further.All, cancel))
                    Count(
                        s,
                        group.Storey,
                        further.Judge(n => group.Matches[n], group.Class, revision.Schema),
                        group.LeftOut && order.Amendments
                            ? AmendedModel.LeftOutRule
                            : target.CannotHold(group.Shaped, false),
                        group.Class,
                        group.Shaped,
                        group.Count
                    );
            }
        }

        var drawings = DrawingsOf(state, document);
        var loose = order.PlacesDrawings ? drawings.FirstOrDefault(d => d.SetOut is null) : null;
        string job = await db.Jobs.Where(j => j.Id == state.Job).Select(j => j.Code).FirstAsync(cancel);
        string? problem = wrong
            ?? Unusable(state, document, order)
            ?? (loose is not null ? DrawingHandover.NotPlaced(loose.Source.Name) : null)
            ?? (
                document.Drawings is not null && drawings.Count == 0
                    ? "There is no drawing to give; take drawings out of the sentence."
                    : null
            )
            ?? (
                rows.Count > 0 && rows.Values.Sum(r => r.In - r.Out) == 0
                    ? "Nothing is left to give; loosen a word of the sentence."
                    : null
            )
            ?? (files.Tells ? NamePreview.Problem(order, job, "2000-01-01", files.Names()) : null);
        return new OrderPreview(
            [
                .. rows.OrderByDescending(r => r.Key)
                    .Select(r => new PreviewRow(
                        r.Key < 0 ? "In no storey" : state.Schedule.Rungs[r.Key].Name,
                        r.Value.In,
                        r.Value.Out
                    )),
            ],
            [.. reasons.Select(r => new NamedCount(r.Key, r.Value))],
            problem
        )
        {
            Drawings = drawings,
            Decided = decided,
            Included = included,
        };

        void Count(int source, int storey, Verdict verdict, string? cannot, string type, bool shaped, int count)
        {
            string? reason = verdict.Reason ?? cannot;
            int rung = state.Schedule.RungOf(source, storey);
            var (all, left) = rows.GetValueOrDefault(rung);
            rows[rung] = (all + count, left + (reason is null ? 0 : count));
            if (reason is not null)
                reasons[reason] = reasons.GetValueOrDefault(reason) + count;
            if (verdict.Rule >= 0 && verdict.Rule < decided.Length)
                decided[verdict.Rule] += count;
            if (reason is not null)
                return;
            files.Add(source, storey, type);
            included = included.With(type, shaped, count);
        }
    }

    /// <summary>Says what an order does with one element, and why.</summary>
    /// <param name="db">The database.</param>
    /// <param name="state">What the job holds.</param>
    /// <param name="document">The order.</param>
    /// <param name="id">The element's GlobalId.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="OrderException">The order cannot be read.</exception>
    public static async Task<IReadOnlyList<ElementVerdict>> WhyAsync(
        LintelDb db,
        JobState state,
        OrderDocument document,
        string id,
        CancellationToken cancel
    )
    {
        var order = document.ToOrder(await new JobLibrary(db).LoadAsync(state.Job, document, cancel));
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        var verdicts = new List<ElementVerdict>();
        foreach (var revision in await RevisionsAsync(db, state, document, cancel))
            if (
                await new ElementQuery(db).OneAsync(revision, selection, id.Trim(), cancel) is var (type, name, matches)
            )
                verdicts.Add(
                    new ElementVerdict(
                        state.Sources[revision.Source].Label,
                        type,
                        name,
                        selection.Judge(n => matches[n])
                    )
                );
        return verdicts;
    }

    private static Task<bool> LeavesOutAsync(LintelDb db, QueriedRevision revision, CancellationToken cancel) =>
        db.Elements.AnyAsync(e => e.RevisionId == revision.Id && e.LeftOut, cancel);

    // Facets tell storey, class and layers of elements that are alike; other rules ask the elements themselves.
    private static bool IsOfFacets(SelectionRule rule, bool parts) =>
        !(parts && rule.ChoosesParts)
        && rule.Field.Kind switch
        {
            RuleFieldKind.Class => !rule.Values.Any(v => v.Contains('.', StringComparison.Ordinal)),
            RuleFieldKind.Saved => rule.Inside?.Rules.All(r => IsOfFacets(r, parts)) == true,
            RuleFieldKind.Names => true,
            RuleFieldKind.Name => StoredField.Of(rule.Field) is null,
            _ => false,
        };

    // A source that was taken out of use, or that is not set out where the frame asks for it.
    private static string? Unusable(JobState state, OrderDocument document, HandoverOrder order)
    {
        foreach (string named in document.Sources.Concat(document.Drawings?.Sources ?? []))
        {
            var source = state.Sources.Concat(state.Drawings).FirstOrDefault(s => s.Source.Id.ToString() == named);
            if (source is null)
                return "The order names a source that the job does not have any more; choose its sources again.";
            if (source.Source.RetiredAt is not null)
                return $"{source.Title} was taken out of use; remove it from the order, or restore it under Settings.";
        }

        if (
            ModelsOf(state, document)
                .Concat(DrawingsOf(state, document))
                .FirstOrDefault(s => s.Latest!.Derived < IntakeStore.Derived) is
            { } old
        )
            return $"{old.Title} r{old.Latest!.Number} was read by an older version of the program and is being read again; wait until that is done.";
        if (order.Frame.Kind is not (FrameKind.Job or FrameKind.Party) || !order.Models)
            return null;
        var models = ModelsOf(state, document).ToList();
        return models.Find(s => s.SetOut is null && models.Exists(m => m.SetOut is not null)) is { } loose
            ? $"{loose.Title} is not set out, and the order asks for {(order.Frame.Kind == FrameKind.Job ? "the job's" : "the receiver's")} frame. Set it out, or take another frame."
            : null;
    }

    internal static async Task<IReadOnlyList<QueriedRevision>> RevisionsAsync(
        LintelDb db,
        JobState state,
        OrderDocument document,
        CancellationToken cancel
    )
    {
        var schemas = await SchemasAsync(db, state, cancel);
        var models = ModelsOf(state, document).ToHashSet();
        return
        [
            .. state
                .Sources.Select((s, n) => (State: s, Number: n))
                .Where(p => models.Contains(p.State))
                .Select(p => new QueriedRevision(
                    p.State.Latest!.Id,
                    p.Number,
                    p.State.Source.Party.Code,
                    p.State.Source.Name,
                    IfcSchema.For(schemas.GetValueOrDefault(p.State.Latest.Id, "")) ?? IfcSchema.For("IFC4")!,
                    p.State.SetOut?.Frame,
                    p.State.Latest.HasParts
                )),
        ];
    }

    // What goes can be counted while a name is still being typed.
    private static (HandoverOrder? Order, string? Problem) Read(OrderDocument document, OrderLibrary library)
    {
        if (NameTemplate.Problem(document.Name) is { } problem)
            return (Read(document with { Name = new OrderDocument().Name }, library).Order, problem);
        try
        {
            return (document.ToOrder(library), null);
        }
        catch (OrderException e)
        {
            return (null, e.Message);
        }
    }

    private static async Task<Dictionary<Guid, string>> SchemasAsync(
        LintelDb db,
        JobState state,
        CancellationToken cancel
    )
    {
        var ids = state.Sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        return await db
            .Database.SqlQuery<SchemaOf>($"SELECT id, report->>'schema' AS schema FROM revisions WHERE id = ANY({ids})")
            .ToDictionaryAsync(s => s.Id, s => s.Schema, cancel);
    }

    private sealed record SchemaOf(Guid Id, string Schema);
}

using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>One order: the sentence, its preview, and its transmittals.</summary>
public sealed partial class OrderModel(
    JobAccess access,
    Orders orders,
    JobLibrary library,
    TransmittalIssue handing,
    TransmittalArchive archive,
    OrderQuery query
) : JobPage(access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "handover";

    /// <summary>The order.</summary>
    public OrderRow Order { get; private set; } = null!;

    /// <summary>The order's words.</summary>
    public OrderSentence Spec { get; private set; } = new();

    /// <summary>The order itself.</summary>
    public OrderDocument Document { get; private set; } = Orders.Everything;

    /// <summary>Why the stored order cannot be read; null where it can. The page then begins with an order for everything.</summary>
    public string? Unreadable { get; private set; }

    /// <summary>What the job holds.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>What the order would give.</summary>
    public OrderPreview Preview { get; private set; } = null!;

    /// <summary>Its newest runs in full, newest first.</summary>
    public IReadOnlyList<Transmittal> Transmittals { get; private set; } = [];

    /// <summary>The runs before those, without their files and what came of them.</summary>
    public IReadOnlyList<Transmittal> Older { get; private set; } = [];

    /// <summary>The finished runs before a run, newest first.</summary>
    public IEnumerable<Transmittal> Before(Transmittal run) =>
        Transmittals.Concat(Older).Where(t => t.Number < run.Number && t.State == TransmittalState.Done);

    /// <summary>How a run ended or how far it is, in words and as a colour.</summary>
    public static (string Words, string Colour) Outcome(Transmittal run) =>
        run.State switch
        {
            TransmittalState.Done when run.Balanced => ("Balanced", "ok"),
            TransmittalState.Done => (
                run.SignedBy is null ? "Not balanced, not released" : "Not balanced, signed",
                "error"
            ),
            TransmittalState.Failed => ("Failed", "error"),
            TransmittalState.Cancelled => ("Cancelled", ""),
            _ => (run.Sentence.Length > 0 ? run.Sentence : "waiting", ""),
        };

    /// <summary>Names of who ran them.</summary>
    public IReadOnlyDictionary<Guid, string> People { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>What has changed since the last run, a few words each.</summary>
    public IReadOnlyList<string> Stale { get; private set; } = [];

    /// <summary>What the order can name.</summary>
    public IReadOnlyList<KeptItem> Kept { get; private set; } = [];

    /// <summary>What the order does with an element that was asked about; null while none was.</summary>
    public IReadOnlyList<ElementVerdict>? Why { get; private set; }

    /// <summary>The combined view of the elements that a figure of a balance counts.</summary>
    public string ViewOf(Transmittal run, BalanceFigure figure) =>
        $"/jobs/{Job.Code}/combine?run={run.Id}&account={figure.Account}"
        + (figure.Storey is null ? "" : $"&storey={Uri.EscapeDataString(figure.Storey)}")
        + (figure.Class is null ? "" : $"&type={Uri.EscapeDataString(figure.Class)}");

    /// <summary>Names of kept things of a kind.</summary>
    public IEnumerable<string> KeptOf(LibraryKind kind) => Kept.Where(k => k.Kind == kind).Select(k => k.Name);

    /// <summary>How many rules are before those of the list: those that the sentence has words for.</summary>
    public int WordRules => Document.Rules.Count - Spec.Rules.Count;

    /// <summary>How many elements a rule of the list decides.</summary>
    public int Decided(int line) => Preview.Decided.Count > WordRules + line ? Preview.Decided[WordRules + line] : 0;

    /// <summary>Classes to choose from.</summary>
    public IReadOnlyList<NamedCount> Classes => Counted(f => [f.Class]);

    /// <summary>Layers to choose from.</summary>
    public IReadOnlyList<NamedCount> Layers => Counted(f => f.Layer.Length == 0 ? [] : f.Layer.Split('\n'));

    /// <summary>The changeable words of the sentence, by field.</summary>
    public IReadOnlyDictionary<string, string> SentenceWords => OrderWords.Of(Spec, Document, State);

    /// <summary>What was left out, by rule.</summary>
    public static IEnumerable<NamedCount> Reasons(Reconciliation r) =>
        r.Rows.SelectMany(x => x.Reasons).GroupBy(x => x.Key).Select(g => new NamedCount(g.Key, g.Sum(x => x.Value)));

    /// <summary>A check in a sentence.</summary>
    public static string CheckWords(ReconciliationCheck c)
    {
        string size =
            c.Name.EndsWith("(mm)", StringComparison.Ordinal) ? $" within {c.Largest:0.###} mm"
            : c.Name.EndsWith("(%)", StringComparison.Ordinal) ? $" within {c.Largest:0.####} %"
            : "";
        string name = c.Name.Split(" (")[0];
        if (
            name is "level marks" or "sheets" or "all in one: items"
            || name.StartsWith("cells ", StringComparison.Ordinal)
        )
            return c.Differ == 0 ? $"{DisplayText.Number(c.Same)} {name} the same." : $"{c.Differ} {name} differ.";
        return c.Differ == 0
            ? $"{char.ToUpperInvariant(name[0])}{name[1..]} of {DisplayText.Number(c.Same)} elements the same{size}."
            : $"{c.Differ} {name} differ{size}.";
    }

    /// <inheritdoc/>
    public override async Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        await base.OnPageHandlerExecutionAsync(context, async () =>
        {
            int number = Convert.ToInt32(RouteData.Values["number"], System.Globalization.CultureInfo.InvariantCulture);
            var order = await query.FindAsync(Job.Id, number, HttpContext.RequestAborted);
            if (order is null)
            {
                context.Result = new NotFoundResult();
                return new PageHandlerExecutedContext(
                    PageContext,
                    context.Filters,
                    context.HandlerMethod,
                    context.HandlerInstance
                );
            }

            Order = order;
            (Document, Unreadable) = StoredOrder.Read(order.Spec);
            Spec = OrderSentence.Of(Document);
            return await next();
        });
    }

    /// <summary>Shows the order.</summary>
    public async Task OnGetAsync()
    {
        await LoadAsync();
        await PreviewAsync();
    }

    /// <summary>The transmittals alone.</summary>
    public async Task<IActionResult> OnGetRunsAsync()
    {
        await LoadAsync();
        return Partial("_Runs", this);
    }

    /// <summary>The preview of words not yet saved.</summary>
    public async Task<IActionResult> OnPostPreviewAsync([FromForm] OrderSentence sentence)
    {
        await TakeAsync(sentence);
        return Partial("_PreviewWithWords", this);
    }

    /// <summary>Adds, moves or removes a rule of words not yet saved.</summary>
    /// <param name="sentence">The words.</param>
    /// <param name="act"><c>add</c>, <c>up</c>, <c>down</c> or <c>remove</c>.</param>
    /// <param name="line">The rule's place in the list.</param>
    public async Task<IActionResult> OnPostRulesAsync([FromForm] OrderSentence sentence, string? act, int line)
    {
        var rules = sentence.Rules;
        if (act == "add")
            rules.Add(
                new RuleLine
                {
                    Do = rules.Count == 0 ? "without" : rules[^1].Do,
                    What = "class",
                    Are = "",
                }
            );
        else if (act == "remove" && line >= 0 && line < rules.Count)
            rules.RemoveAt(line);
        else if (
            act is "up" or "down"
            && (line, act == "up" ? line - 1 : line + 1) is var (a, b)
            && a >= 0
            && b >= 0
            && a < rules.Count
            && b < rules.Count
        )
            (rules[a], rules[b]) = (rules[b], rules[a]);
        await TakeAsync(sentence);
        return Partial("_RulesWithPreview", this);
    }

    /// <summary>Lines of elevations around what the job holds, and of two sections through its middle.</summary>
    public async Task<IActionResult> OnPostLinesAsync([FromForm] OrderSentence sentence)
    {
        State = await StateAsync();
        var lines = await query.SectionLinesAsync(State, HttpContext.RequestAborted);
        return Partial(
            "_SectionLines",
            lines.Count == 0 ? sentence.Drawn.Lines ?? "" : string.Join('\n', lines.Select(DrawnSentence.Write))
        );
    }

    /// <summary>What a rule can be given: the values that the newest revisions have, with plain names and counts.</summary>
    /// <param name="what">What the rule looks at.</param>
    /// <param name="line">The rule's place in the list.</param>
    public async Task<IActionResult> OnGetValuesAsync(string? what, int line)
    {
        State = await StateAsync();
        return Partial(
            "_RuleValues",
            new RuleValues(
                line,
                what switch
                {
                    "class" => [.. Classes.Select(c => new NamedCount(ClassNames.Plain(c.Name), c.Count))],
                    "storey" => [.. State.Schedule.Rungs.Reverse().Select(r => new NamedCount(r.Name, Count(r)))],
                    "layer" => Layers,
                    "party" =>
                    [
                        .. State
                            .Sources.GroupBy(s => s.Source.Party.Code)
                            .Select(g => new NamedCount(g.Key, g.Sum(s => s.Latest?.Bodies ?? 0))),
                    ],
                    "source" => [.. State.Sources.Select(s => new NamedCount(s.Source.Name, s.Latest?.Bodies ?? 0))],
                    _ => await query.ValuesAsync(State, what, HttpContext.RequestAborted),
                }
            )
        );
    }

    private int Count(Rung rung) =>
        State.Facets.Sum(g =>
            g.Where(f => rung.Storeys.Any(s => s.Source == g.Key && s.Number == f.Storey)).Sum(f => f.Count)
        );

    /// <summary>Says which rule decides about an element.</summary>
    public async Task<IActionResult> OnPostWhyAsync([FromForm] OrderSentence sentence, string? element)
    {
        await TakeAsync(sentence);
        try
        {
            Why = await query.WhyAsync(State, Document, element ?? "", HttpContext.RequestAborted);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
        }

        return Partial("_Why", this);
    }

    private async Task TakeAsync(OrderSentence sentence)
    {
        (Spec, Document) = (sentence, sentence.In(Document));
        State = await StateAsync();
        Kept = await library.ListAsync(Job.Id, HttpContext.RequestAborted);
        await PreviewAsync();
    }

    /// <summary>Saves the words.</summary>
    public async Task<IActionResult> OnPostSaveAsync([FromForm] OrderSentence sentence)
    {
        if (!MayHandOver)
            return StatusCode(403);
        return await TryAsync(
            () => SaveAsync(sentence),
            "Saved.",
            () => ShowAsync(sentence),
            $"/jobs/{Job.Code}/handover/{Order.Number}"
        );
    }

    /// <summary>Saves the words and runs them.</summary>
    public async Task<IActionResult> OnPostRunAsync([FromForm] OrderSentence sentence)
    {
        if (!MayHandOver)
            return StatusCode(403);
        return await TryAsync(
            async () =>
            {
                await SaveAsync(sentence);
                await orders.RunAsync(Order, Actor, HttpContext.RequestAborted);
            },
            "Saved; the run has started.",
            () => ShowAsync(sentence),
            $"/jobs/{Job.Code}/handover/{Order.Number}"
        );
    }

    /// <summary>Makes another order with the same words and opens it.</summary>
    public async Task<IActionResult> OnPostCopyAsync() =>
        !MayHandOver
            ? StatusCode(403)
            : Redirect($"/jobs/{Job.Code}/handover/{await orders.CopyAsync(Order, Actor, HttpContext.RequestAborted)}");

    /// <summary>Deletes the order; the list offers to undo it.</summary>
    public async Task<IActionResult> OnPostDeleteAsync()
    {
        if (!MayHandOver)
            return StatusCode(403);
        return await TryAsync(
            async () =>
            {
                await orders.DeleteAsync(Job.Id, Order.Number, false, Actor, HttpContext.RequestAborted);
                TempData["Deleted"] = Order.Number;
            },
            $"Order {Order.Number} {Order.Title} is deleted. Files that were handed over stay with their recipients.",
            OnGetAsync,
            $"/jobs/{Job.Code}/handover"
        );
    }

    // What somebody else saved meanwhile is not shown over the person's own words.
    private async Task ShowAsync(OrderSentence sentence)
    {
        Order = await query.SavedAsync(Order.Id, HttpContext.RequestAborted);
        (Spec, Document) = (sentence, sentence.In(Document));
        Order.Title = sentence.Title ?? Order.Title;
        await OnGetAsync();
    }

    private async Task SaveAsync(OrderSentence sentence)
    {
        (Spec, Document) = (sentence, sentence.In(Document));
        await orders.SaveAsync(
            Order,
            sentence.Title ?? "",
            Document,
            Actor,
            HttpContext.RequestAborted,
            sentence.Version
        );
    }

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Kept = await library.ListAsync(Job.Id, HttpContext.RequestAborted);
        Stale = await query.StaleAsync(State, Order.Id, HttpContext.RequestAborted);
        (Transmittals, Older, People) = await query.RunsAsync(Order.Id, HttpContext.RequestAborted);
    }

    private async Task PreviewAsync() =>
        Preview = await query.PreviewAsync(State, Document, HttpContext.RequestAborted);

    private List<NamedCount> Counted(Func<FacetRow, IEnumerable<string>> names) =>
        [
            .. State
                .Facets.SelectMany(g => g.SelectMany(f => names(f).Select(n => (Name: n, f.Count))))
                .GroupBy(x => x.Name)
                .Select(g => new NamedCount(g.Key, g.Sum(x => x.Count)))
                .OrderBy(c => DisplayText.Class(c.Name), StringComparer.Ordinal),
        ];
}

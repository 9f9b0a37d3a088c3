using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Web.Views;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>A value that elements can be shown or hidden by.</summary>
public sealed record ChipValue(int Index, string Name, int Count);

/// <summary>All sources in one picture.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
public sealed partial class CombineModel(
    JobAccess access,
    Details details,
    JobLibrary library,
    CombinedView view,
    KeptViews kept,
    SettingOutQuery settings,
    DrawingDesk desk,
    AmendmentQuery amendments,
    AmendmentEditing editing,
    TopicQuery topics,
    CombinedPictures pictures
) : JobPage(access)
{
    /// <summary>The modules of the page that others name, by their addresses.</summary>
    public static IReadOnlyList<string> Modules { get; } =
    [
        "/lib/three.core.js",
        "/lib/three.module.js",
        "/lib/OrbitControls.js",
        "/js/combine/scene.js",
        "/js/combine/material.js",
        "/js/combine/batch.js",
        "/js/combine/loading.js",
    ];

    /// <summary>What the job holds.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Chips with their values: storey, class, layer.</summary>
    public IReadOnlyList<(string Name, string Kind, IReadOnlyList<ChipValue> Values)> Chips { get; private set; } = [];

    /// <summary>Sources that nobody has set out and that lie so far away that they and the others cannot be seen in one picture.</summary>
    public IReadOnlyList<(SourceState Source, double Metres)> Far { get; private set; } = [];

    /// <summary>The source whose changes are drawn; null for none.</summary>
    public SourceState? Changed { get; private set; }

    /// <summary>The older revision that they are drawn against.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Old { get; set; }

    /// <summary>The figure of a balance whose elements are shown, in words; null for none.</summary>
    public string? Figure { get; private set; }

    /// <summary>Shows the page.</summary>
    /// <param name="changes">The source whose changes are drawn.</param>
    /// <param name="named">The kept view that is shown.</param>
    /// <param name="run">The transmittal of whose balance a figure is shown.</param>
    /// <param name="storey">The figure's storey.</param>
    /// <param name="type">The figure's class.</param>
    /// <param name="account">What the figure counts.</param>
    /// <param name="topic">The topic that is answered here.</param>
    public async Task OnGetAsync(
        Guid? changes,
        [FromQuery(Name = "kept")] string? named,
        Guid? run,
        string? storey,
        string? type,
        string? account,
        int? topic
    )
    {
        if (Permissions.MayWriteTopics)
            Board = await topics.BoardAsync(Job.Id, HttpContext.RequestAborted);
        if (topic is { } number)
            Topic = await topics.OneAsync(Job.Id, Permissions, number, HttpContext.RequestAborted);
        Views =
        [
            .. (await library.ListAsync(Job.Id, HttpContext.RequestAborted))
                .Where(i => i.Kind == LibraryKind.View)
                .Select(i => i.Name),
        ];
        if (
            named is not null
            && await library.ContentAsync(Job.Id, LibraryKind.View, named, HttpContext.RequestAborted) is { } content
        )
            KeptAddress = await kept.AddressAsync(
                Job.Id,
                ViewDocument.Read(System.Text.Encoding.UTF8.GetString(content)),
                HttpContext.RequestAborted
            );
        State = await StateAsync();
        // An empty storey is a storey: that of elements in none.
        if (run is { } id)
            await ShowFigureAsync(
                id,
                new BalanceFigure(Request.Query.ContainsKey("storey") ? storey ?? "" : null, type, account ?? "in")
            );
        if (Old is not null)
            Changed = State.Sources.FirstOrDefault(s => s.Source.Id == changes && s.Latest is not null);
        Far = await FarAsync(State);
        var index = new ViewIndex(State);
        Chips =
        [
            ("Storey", "storey", Counted(f => [index.Rung(f.Source, f.Facet.Storey)], index.RungNames, reversed: true)),
            (
                "Class",
                "class",
                Counted(f => [index.Class(f.Facet.Class)], [.. index.Classes.Select(DisplayText.Class)])
            ),
            ("Layer", "layer", Counted(f => [index.Layer(f.Facet.Layer)], index.Layers)),
        ];
    }

    private async Task ShowFigureAsync(Guid id, BalanceFigure figure)
    {
        try
        {
            if (
                await view.FigureAsync(State, id, figure, HttpContext.RequestAborted)
                is not var (transmittal, ids, more)
            )
                return;
            KeptAddress = await kept.AddressAsync(
                Job.Id,
                new ViewDocument
                {
                    Only = ids,
                    Off = new ViewOff { Class = [""] },
                },
                HttpContext.RequestAborted
            );
            Figure =
                $"Order {transmittal.Order.Number}, transmittal {transmittal.Number}: {FigureWords(figure)}, {DisplayText.Count(ids.Count, "element", "elements")} of the newest revisions"
                + (
                    more
                        ? $"; not all, since of a source no more than {DisplayText.Number(BalanceFigure.MostElements)} are looked at"
                        : ""
                );
        }
        catch (OrderException e)
        {
            Figure = e.Message;
        }
    }

    private static string FigureWords(BalanceFigure figure) =>
        (figure.Class is null ? "" : DisplayText.Classes(figure.Class) + " ")
        + (
            figure.Account switch
            {
                "left" => "left out",
                "written" => "that went",
                "unaccounted" => "unaccounted",
                _ => "in all",
            }
        )
        + (
            figure.Storey is null ? ""
            : figure.Storey.Length == 0 ? " in no storey"
            : $" of {figure.Storey}"
        );

    /// <summary>The names of the views that are kept.</summary>
    public IReadOnlyList<string> Views { get; private set; } = [];

    /// <summary>The kept view that is asked for, as the address of what it shows; null for none.</summary>
    public string? KeptAddress { get; private set; }

    /// <summary>Keeps what the browser shows, as a view; or its shown elements, as a set.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="what"><c>view</c>, or <c>set</c> for the elements that are hidden, isolated or picked one by one.</param>
    /// <param name="shown">The view as the browser has it; its elements as <c>revision.number</c>.</param>
    public async Task<IActionResult> OnPostKeepAsync(
        string? name,
        string? what,
        [FromForm(Name = "view")] string? shown
    )
    {
        if (!MayHandOver)
            return StatusCode(403);
        try
        {
            var (document, elements) = await kept.ReadAsync(Job.Id, shown ?? "", HttpContext.RequestAborted);
            if (what == "set" && elements.Count == 0)
                throw new RefusedException(RefusalKind.Wrong, "Isolate or pick the elements of the set first.");
            int version =
                what == "set"
                    ? await library.KeepAsync(
                        Job.Id,
                        LibraryKind.Set,
                        name,
                        Bytes(SetDocument.Of(elements).Write()),
                        Actor,
                        HttpContext.RequestAborted
                    )
                    : await library.KeepAsync(
                        Job.Id,
                        LibraryKind.View,
                        name,
                        Bytes(document.Write()),
                        Actor,
                        HttpContext.RequestAborted
                    );
            return Content($"{name!.Trim()} is saved as version {version}.");
        }
        catch (RefusedException e)
        {
            return new ContentResult { StatusCode = Status(e.Kind), Content = e.Message };
        }
        catch (OrderException e)
        {
            return new ContentResult { StatusCode = 400, Content = e.Message };
        }
    }

    private static byte[] Bytes(string text) => System.Text.Encoding.UTF8.GetBytes(text);

    /// <summary>The slip of a picked element.</summary>
    public async Task<IActionResult> OnGetFactsAsync(Guid id, int number)
    {
        return
            await DeliveryAsync(id) is { } delivery
            && await view.ElementAsync(delivery, number, HttpContext.RequestAborted) is { } picked
            ? await SlipAsync(picked)
            : NotFound();
    }

    /// <summary>Sets a property of a picked element, and shows its slip again.</summary>
    /// <param name="id">The delivery.</param>
    /// <param name="number">The element.</param>
    /// <param name="set">The property set.</param>
    /// <param name="name">The property.</param>
    /// <param name="value">The value; empty for blank.</param>
    /// <param name="why">Why.</param>
    public async Task<IActionResult> OnPostAmendAsync(
        Guid id,
        int number,
        string? set,
        string? name,
        string? value,
        string? why
    )
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        if (
            await DeliveryAsync(id) is not { } delivery
            || await view.ElementAsync(delivery, number, HttpContext.RequestAborted) is not { } picked
        )
            return NotFound();
        var amendment = new Amendment
        {
            Element = picked.Facts.GlobalId,
            Set = set?.Trim(),
            Name = name?.Trim(),
            Value = value ?? "",
        };
        try
        {
            var known = await amendments.InForceAsync(delivery.SourceId, HttpContext.RequestAborted);
            await editing.SaveAsync(
                Job.Id,
                Permissions,
                [
                    new AmendmentWish(
                        delivery.SourceId,
                        amendment,
                        known.TryGetValue(amendment.Subject, out var over) ? over : null
                    ),
                ],
                null,
                why,
                Actor,
                false,
                HttpContext.RequestAborted
            );
        }
        catch (RefusedException e)
        {
            ViewData["Problem"] = e.Message;
        }

        return await SlipAsync(picked);
    }

    private async Task<IActionResult> SlipAsync(PickedElement picked) =>
        Partial(
            "_Slip",
            picked with
            {
                Amendments =
                [
                    .. (
                        await amendments.OfElementsAsync(
                            picked.Delivery.SourceId,
                            [picked.Facts.GlobalId],
                            HttpContext.RequestAborted
                        )
                    )[picked.Facts.GlobalId],
                ],
            }
        );

    /// <summary>Shows what is amended alone.</summary>
    public async Task<IActionResult> OnGetAmendedAsync()
    {
        var ids = await amendments.ElementsAsync(Job.Id, HttpContext.RequestAborted);
        string address = await kept.AddressAsync(Job.Id, new ViewDocument { Only = ids }, HttpContext.RequestAborted);
        return Redirect($"/jobs/{Job.Code}/combine#{address.TrimStart('#')}");
    }

    private static IEnumerable<SourceState> Placed(JobState state) => state.Drawings.Where(d => d.SetOut is not null);

    // The drawings that are placed, with the storeys that each is shown with.
    private static List<object> Sheets(JobState state, ViewIndex index) =>
        [
            .. Placed(state)
                .Select(d =>
                    (object)
                        new
                        {
                            id = d.SetOutId,
                            revision = d.Latest!.Id,
                            label = ViewIndex.NameOf(d),
                            colour = d.Source.Party.Colour,
                            upright = d.SetOut!.Upright == true,
                            storeys = (int[])
                                [
                                    .. (d.SetOut!.ShownWith ?? [])
                                        .Select(l => (int?)l)
                                        .Append(d.SetOut.Level)
                                        .Select(l => index.RungOf(l))
                                        .Distinct(),
                                ],
                        }
                ),
        ];

    private async Task<List<(SourceState Source, double Metres)>> FarAsync(JobState state)
    {
        if (state.Sources.All(s => s.Latest is null || s.SetOut is not null))
            return [];
        var facts = await settings.FactsAsync(state, HttpContext.RequestAborted);
        return
        [
            .. state
                .Sources.Where(s =>
                    s is { Latest: not null, SetOut: null }
                    && facts.TryGetValue(s.Source.Id, out var f)
                    && f.FromZero > Geometry.SinglePrecision.Far
                )
                .Select(s => (s, facts[s.Source.Id].FromZero)),
        ];
    }

    // The axes as columns, then the origin; doubles, so that the large part is taken off before the graphics card sees it.
    private static double[] Numbers(Geometry.Frame f) =>
        [f.X.X, f.X.Y, f.X.Z, f.Y.X, f.Y.Y, f.Y.Z, f.Z.X, f.Z.Y, f.Z.Z, f.Origin.X, f.Origin.Y, f.Origin.Z];

    private List<ChipValue> Counted(
        Func<(int Source, FacetRow Facet), IEnumerable<int>> indexes,
        IReadOnlyList<string> names,
        bool reversed = false
    )
    {
        var counts = new int[names.Count];
        foreach (var group in State.Facets)
        foreach (var facet in group)
        foreach (int i in indexes((group.Key, facet)))
            counts[i] += facet.Count;
        var values = names.Select((n, i) => new ChipValue(i, n, counts[i])).Where(v => v.Count > 0);
        return
        [
            .. reversed
                ? values.OrderByDescending(v => v.Index == names.Count - 1 ? -1 : v.Index)
                : values.OrderByDescending(v => v.Count),
        ];
    }
}

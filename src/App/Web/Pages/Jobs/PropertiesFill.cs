using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

// Filling in for all rows at once: numbers in a row, and what is computed from shapes.
public sealed partial class PropertiesModel
{
    /// <summary>The names or marks that a numbering rule gives; null where none was run.</summary>
    public IReadOnlyList<(GridRow Row, string Name)>? Numbered { get; private set; }

    /// <summary>Shows what a numbering rule gives.</summary>
    public async Task<IActionResult> OnGetNumberAsync(NumberingRule rule)
    {
        await LoadAsync();
        Numbered = Run(rule);
        return Partial("_Numbering", this);
    }

    /// <summary>Saves what a numbering rule gives as names or marks.</summary>
    /// <param name="rule">The rule.</param>
    /// <param name="what"><c>name</c> or <c>mark</c>.</param>
    public async Task<IActionResult> OnPostNumberAsync(NumberingRule rule, string? what)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        await LoadAsync();
        string kind = what == "mark" ? "mark" : "name";
        return await AllAsync(
            Run(rule)
                .Select(n =>
                    (
                        n.Row,
                        new Amendment
                        {
                            Element = n.Row.GlobalId,
                            Do = kind,
                            Value = n.Name,
                        }
                    )
                ),
            "numbered by a rule",
            false
        );
    }

    /// <summary>Fills a quantity of all rows in, computed from their shapes.</summary>
    /// <param name="what"><c>volume</c>, <c>area</c>, <c>length</c> or <c>weight</c>.</param>
    /// <param name="density">With a weight: kilograms in a cubic metre.</param>
    public async Task<IActionResult> OnPostComputeAsync(string? what, double? density)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        await LoadAsync();
        if (what == "weight" && density is not (> 0 and < 100_000))
            return Refused("A weight needs a density, kilograms in a cubic metre.");
        return await AllAsync(
            (Grid?.Rows ?? [])
                .Where(r => r.Measures.Volume + r.Measures.Length > 0)
                .Select(r => (r, Computed(r, what ?? "", density ?? 0)))
                .Where(r => r.Item2 is not null)
                .Select(r => (r.r, r.Item2!)),
            what == "weight"
                ? FormattableString.Invariant($"computed from the shape with {density} kg/m³")
                : "computed from the shape",
            false
        );
    }

    /// <summary>Amends all rows alike.</summary>
    public async Task<IActionResult> OnPostAllAsync(Amendment amendment, string? why, bool ask)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        await LoadAsync();
        return await AllAsync((Grid?.Rows ?? []).Select(r => (r, amendment with { Element = r.GlobalId })), why, ask);
    }

    private IReadOnlyList<(GridRow Row, string Name)> Run(NumberingRule rule)
    {
        var rows = (Grid?.Rows ?? []).GroupBy(r => r.GlobalId).ToDictionary(g => g.Key, g => g.First());
        return
        [
            .. rule.Run([.. rows.Values.Select(r => new NumberedElement(r.GlobalId, r.Rung, r.Type, r.Middle))])
                .Select(n => (rows[n.Key], n.Name)),
        ];
    }

    private static Amendment? Computed(GridRow row, string what, double density)
    {
        (string Name, string Type, double Value)? of = what switch
        {
            "volume" => ("NetVolume", "IfcVolumeMeasure", row.Measures.Volume),
            "area" => ("OuterSurfaceArea", "IfcAreaMeasure", row.Measures.Area),
            "length" => ("Length", "IfcLengthMeasure", row.Measures.Length),
            "weight" => ("NetWeight", "IfcMassMeasure", row.Measures.Volume * density),
            _ => null,
        };
        return of is not { Value: > 0 } quantity
            ? null
            : new Amendment
            {
                Element = row.GlobalId,
                Set = $"Qto_{row.Class[3..]}BaseQuantities",
                Name = quantity.Name,
                Value = Math.Round(quantity.Value, 6).ToString("R", System.Globalization.CultureInfo.InvariantCulture),
                Type = quantity.Type,
                Unit = what switch
                {
                    "volume" => "m³",
                    "area" => "m²",
                    "length" => "m",
                    _ => "kg",
                },
            };
    }

    private async Task<IActionResult> AllAsync(
        IEnumerable<(GridRow Row, Amendment Amendment)> all,
        string? why,
        bool ask
    )
    {
        var wishes = new List<AmendmentWish>();
        foreach (var group in all.GroupBy(a => a.Row.Source.Source.Id))
        {
            var known = await amendments.InForceAsync(group.Key, HttpContext.RequestAborted);
            wishes.AddRange(
                group.Select(a => new AmendmentWish(
                    group.Key,
                    a.Amendment,
                    known.TryGetValue(a.Amendment.Subject, out var id) ? id : null
                ))
            );
        }

        (int made, int asked) = (0, 0);
        return await TryAsync(
            async () =>
                (made, asked) = await editing.SaveAsync(
                    Job.Id,
                    Permissions,
                    wishes,
                    await TemplateAsync(),
                    why,
                    Actor,
                    ask,
                    HttpContext.RequestAborted
                ),
            "",
            LoadAsync,
            With("template", Template),
            () =>
                asked > 0
                    ? $"{DisplayText.Count(asked, "amendment is", "amendments are")} requested, {made} in force."
                    : $"{DisplayText.Count(made, "amendment is", "amendments are")} in force."
        );
    }

    private IActionResult Refused(string why)
    {
        (Problem, Response.StatusCode) = (why, 400);
        return Page();
    }
}

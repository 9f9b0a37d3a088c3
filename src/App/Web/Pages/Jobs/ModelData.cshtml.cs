using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What a model says of itself: project, site, building and file; and what is said beside it.</summary>
public sealed class ModelDataModel(
    JobAccess access,
    DeliveryQuery deliveries,
    AmendmentQuery query,
    AmendmentEditing editing
) : JobPage(access)
{
    /// <summary>The source.</summary>
    public SourceState Of { get; private set; } = null!;

    /// <summary>What its newest model says.</summary>
    public IReadOnlyList<ModelDatum> Data { get; private set; } = [];

    /// <summary>What is said beside it, by element and name.</summary>
    public IReadOnlyDictionary<(string Element, string Name), ShownAmendment> Ours { get; private set; } =
        new Dictionary<(string, string), ShownAmendment>();

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync(Guid id) => await LoadAsync(id) ? Page() : NotFound();

    /// <summary>Amends it.</summary>
    /// <param name="id">The source.</param>
    /// <param name="element">The GlobalId of the project, site or building; <c>file</c>.</param>
    /// <param name="name">What.</param>
    /// <param name="value">The value.</param>
    /// <param name="why">Why.</param>
    public async Task<IActionResult> OnPostAsync(Guid id, string? element, string? name, string? value, string? why)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        if (!await LoadAsync(id))
            return NotFound();
        var known = await query.InForceAsync(id, HttpContext.RequestAborted);
        var amendment = new Amendment
        {
            Element = element ?? "",
            Do = AmendmentKind.Model.Word(),
            Name = name,
            Value = value ?? "",
            Was = Data.FirstOrDefault(d => d.Element == element && d.Name == name)?.Statement,
        };
        return await TryAsync(
            () =>
                editing.SaveAsync(
                    Job.Id,
                    Permissions,
                    [
                        new AmendmentWish(
                            id,
                            amendment,
                            known.TryGetValue(amendment.Subject, out var over) ? over : null
                        ),
                    ],
                    null,
                    why,
                    Actor,
                    false,
                    HttpContext.RequestAborted
                ),
            "The amendment is in force.",
            () => LoadAsync(id)
        );
    }

    private async Task<bool> LoadAsync(Guid id)
    {
        var state = await StateAsync();
        if (state.Sources.FirstOrDefault(s => s.Source.Id == id && s.Latest is not null) is not { } of)
            return false;
        Of = of;
        Data = await deliveries.ModelDataAsync(of.Latest!.Id, HttpContext.RequestAborted);
        Ours = (await query.HoldingAsync(Job.Id, id, HttpContext.RequestAborted))
            .Where(a => a.Amendment.Kind == AmendmentKind.Model)
            .ToDictionary(a => (a.Amendment.Element, a.Amendment.Name!));
        return true;
    }
}

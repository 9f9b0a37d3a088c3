using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Elements by properties: what the files say, and what is said beside them.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
[RequestSizeLimit(32 << 20)]
public sealed partial class PropertiesModel(
    JobAccess access,
    PropertyGridQuery grids,
    AmendmentQuery amendments,
    AmendmentEditing editing,
    JobLibrary library,
    OrderQuery orders
) : JobPage(access)
{
    /// <summary>How many rows are shown at once.</summary>
    public const int PageRows = 200;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The names of the job's templates.</summary>
    public IReadOnlyList<string> Templates { get; private set; } = [];

    /// <summary>The names of the job's saved sets.</summary>
    public IReadOnlyList<string> Sets { get; private set; } = [];

    /// <summary>The grid; null while there is no template.</summary>
    public PropertyGrid? Grid { get; private set; }

    /// <summary>The template that is shown.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Template { get; set; }

    /// <summary>The storey, its place in the schedule; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Storey { get; set; }

    /// <summary>A saved set; null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Set { get; set; }

    /// <summary>Rules that choose elements, in the words of orders.</summary>
    [BindProperty(SupportsGet = true)]
    public List<RuleLine> Rules { get; set; } = [];

    /// <summary>The rules that say something, and an empty one to fill in.</summary>
    public IEnumerable<RuleLine> Lines => Rules.Where(r => !r.IsEmpty).Append(new RuleLine { What = "property" });

    /// <summary><c>faulty</c>, <c>contradicting</c>, or nothing for all.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Only { get; set; }

    /// <summary>What the rows are sorted by.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Sort { get; set; }

    /// <summary>The orders of the job: title, and whether they carry amendments.</summary>
    public IReadOnlyList<(int Number, string Title, bool Carries)> Orders { get; private set; } = [];

    /// <summary>What an imported table changes; null where none was imported.</summary>
    public (IReadOnlyList<GridEdit> Edits, IReadOnlyList<string> Problems)? Imported { get; private set; }

    /// <summary>The imported changes as the page sends them back.</summary>
    public string ImportedJson => JsonSerializer.Serialize(Imported?.Edits ?? [], JsonSerializerOptions.Web);

    /// <summary>The address of the grid as it is shown, with something else.</summary>
    public string With(string name, string? value)
    {
        var all = new Dictionary<string, string?>
        {
            ["template"] = Template,
            ["storey"] = Storey?.ToString(System.Globalization.CultureInfo.InvariantCulture),
            ["set"] = Set,
            ["only"] = Only,
            ["sort"] = Sort,
            [name] = value,
        };
        foreach (var (n, rule) in Rules.Where(r => !r.IsEmpty).Index())
            (
                all[$"Rules[{n}].Do"],
                all[$"Rules[{n}].What"],
                all[$"Rules[{n}].Is"],
                all[$"Rules[{n}].Key"],
                all[$"Rules[{n}].Are"]
            ) = (rule.Do, rule.What, rule.Is, rule.Key, rule.Are);
        return $"/jobs/{Job.Code}/properties"
            + QueryString.Create(
                all.Where(a => !string.IsNullOrEmpty(a.Value)).Select(a => KeyValuePair.Create(a.Key, a.Value))
            );
    }

    /// <summary>Shows the grid.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>The grid as a file.</summary>
    /// <param name="into"><c>csv</c> or <c>xlsx</c>.</param>
    public async Task<IActionResult> OnGetFileAsync(string? into)
    {
        await LoadAsync();
        if (Grid is null)
            return NotFound();
        string name = LayerNames.Clean($"{Job.Code}-{Template}");
        return into == "xlsx"
            ? File(
                TableFile.WriteXlsx(GridTable.Rows(Grid), Template!),
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                name + ".xlsx"
            )
            : File(TableFile.WriteCsv(GridTable.Rows(Grid)), "text/csv", name + ".csv");
    }

    /// <summary>Says what is wrong with typed values.</summary>
    /// <param name="edits">The values.</param>
    public async Task<IActionResult> OnPostCheckAsync([FromBody] List<GridEdit>? edits)
    {
        if (edits is null)
            return BadRequest();
        var template = await TemplateAsync();
        return new JsonResult(
            edits.Take(AmendmentEditing.Most).Select(e => AmendmentEditing.ProblemOf(e.ToWish().Amendment, template))
        );
    }

    /// <summary>Saves changes of cells, all or none.</summary>
    /// <param name="save">What is saved.</param>
    public async Task<IActionResult> OnPostSaveAsync([FromBody] GridSave? save)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        if (save is null)
            return BadRequest();
        try
        {
            var (made, asked) = await editing.SaveAsync(
                Job.Id,
                Permissions,
                [.. save.Edits.Select(e => e.ToWish())],
                await TemplateAsync(),
                save.Why,
                Actor,
                save.Ask,
                HttpContext.RequestAborted
            );
            Done =
                asked == 0
                    ? $"{DisplayText.Count(made, "value is", "values are")} saved beside the files."
                    : $"{DisplayText.Count(asked, "value is", "values are")} requested from the owning party{(made > 0 ? $", {made} saved" : "")}.";
            return new JsonResult(new { made, asked });
        }
        catch (RefusedException e)
        {
            return new ContentResult { StatusCode = Status(e.Kind), Content = e.Message };
        }
    }

    /// <summary>Shows what an edited table changes.</summary>
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        await LoadAsync();
        if (Grid is null || file is null)
        {
            Problem = "Choose the file to import.";
            Response.StatusCode = 400;
            return Page();
        }

        try
        {
            using var bytes = new MemoryStream();
            await file.CopyToAsync(bytes, HttpContext.RequestAborted);
            Imported = GridTable.Differences(Grid, TableFile.Read(bytes.ToArray()));
        }
        catch (OrderException e)
        {
            Problem = e.Message;
            Response.StatusCode = 400;
        }

        return Page();
    }

    /// <summary>Accepts the changes of an imported table.</summary>
    /// <param name="edits">The changes as JSON.</param>
    /// <param name="why">Why.</param>
    public async Task<IActionResult> OnPostAcceptAsync(string? edits, string? why)
    {
        if (!Permissions.MayAskForAmendments)
            return StatusCode(403);
        int made = 0;
        return await TryAsync(
            async () =>
            {
                List<GridEdit>? list;
                try
                {
                    list = JsonSerializer.Deserialize<List<GridEdit>>(edits ?? "[]", JsonSerializerOptions.Web);
                }
                catch (JsonException)
                {
                    throw new RefusedException(RefusalKind.Wrong, "Import the table again.");
                }

                (made, _) = await editing.SaveAsync(
                    Job.Id,
                    Permissions,
                    [.. (list ?? []).Select(e => e.ToWish())],
                    await TemplateAsync(),
                    why,
                    Actor,
                    false,
                    HttpContext.RequestAborted
                );
            },
            "",
            LoadAsync,
            With("template", Template),
            () => $"{DisplayText.Count(made, "value is", "values are")} saved beside the files."
        );
    }

    private async Task<TemplateDocument?> TemplateAsync() =>
        Template is null ? null : await grids.TemplateAsync(Job.Id, Template, HttpContext.RequestAborted);

    private async Task LoadAsync()
    {
        State = await StateAsync();
        var items = await library.ListAsync(Job.Id, HttpContext.RequestAborted);
        Templates = [.. items.Where(i => i.Kind == LibraryKind.Template).Select(i => i.Name)];
        Sets = [.. items.Where(i => i.Kind == LibraryKind.Set).Select(i => i.Name)];
        Template ??= Templates.FirstOrDefault();
        if (await TemplateAsync() is not { } template)
            return;
        try
        {
            Grid = await grids.LoadAsync(State, template, Wish(), HttpContext.RequestAborted);
            Orders = await orders.CarryingAsync(Job.Id, HttpContext.RequestAborted);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
        }
    }

    private GridWish Wish() =>
        new()
        {
            Template = Template ?? "",
            Storey = Storey,
            Set = string.IsNullOrWhiteSpace(Set) ? null : Set,
            Rules = [.. Rules.Where(r => !r.IsEmpty).Select(r => r.ToRule())],
            Faulty = Only == "faulty",
            Contradicting = Only == "contradicting",
            Sort = Sort ?? "storey",
        };
}

/// <summary>Changes of cells that are saved together.</summary>
public sealed record GridSave
{
    /// <summary>The changes.</summary>
    public IReadOnlyList<GridEdit> Edits { get; init; } = [];

    /// <summary>Why.</summary>
    public string? Why { get; init; }

    /// <summary>Whether what may not be made is asked for.</summary>
    public bool Ask { get; init; }
}

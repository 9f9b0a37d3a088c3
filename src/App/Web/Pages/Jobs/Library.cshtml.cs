using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What the job's orders can name: mapping tables as files, kept sets and views; and the matching of names.</summary>
[EnableRateLimiting(Security.ComputingLimit)]
[RequestSizeLimit(JobLibrary.MostBytes + (1 << 20))]
public sealed partial class LibraryModel(
    JobAccess access,
    JobLibrary library,
    NameMatching matching,
    PropertyGridQuery grids
) : JobPage(access)
{
    /// <inheritdoc/>
    protected override string? ChangeScope => "handover";

    /// <summary>What is kept.</summary>
    public IReadOnlyList<KeptItem> Items { get; private set; } = [];

    /// <summary>The sources with a model.</summary>
    public IReadOnlyList<SourceState> Models { get; private set; } = [];

    /// <summary>The name table whose names are matched; null for none.</summary>
    public string? Matched { get; private set; }

    /// <summary>The names that it does not match.</summary>
    public IReadOnlyList<UnmatchedRow> Unmatched { get; private set; } = [];

    /// <summary>The receiver's names that it has, by kind.</summary>
    public ILookup<NameKind, string> Receivers { get; private set; } =
        Array.Empty<(NameKind, string)>().ToLookup(p => p.Item1, p => p.Item2);

    /// <summary>Whether the person may change what is kept.</summary>
    public bool MayChange => Permissions.MayChangeLibrary;

    /// <summary>Shows what is kept.</summary>
    /// <param name="match">The name table to match.</param>
    public Task OnGetAsync(string? match) => LoadAsync(match);

    /// <summary>One of them as a file.</summary>
    /// <param name="kind">What it is.</param>
    /// <param name="name">Its name.</param>
    /// <param name="into"><c>csv</c> or <c>xlsx</c> of a table; sets and views are JSON.</param>
    public async Task<IActionResult> OnGetFileAsync(LibraryKind kind, string name, string? into)
    {
        if (
            kind == LibraryKind.Detail
            || await library.ContentAsync(Job.Id, kind, name, HttpContext.RequestAborted) is not { } content
        )
            return NotFound();
        // The version in the file's name tells, when it is imported again, whether somebody else saved another one meanwhile.
        var kept = (await library.ListAsync(Job.Id, HttpContext.RequestAborted)).FirstOrDefault(i =>
            i.Kind == kind && i.Name == name
        );
        string file = $"{LayerNames.Clean(name)}-v{kept?.Version}";
        if (kind == LibraryKind.Template)
            return TemplateFile(TemplateDocument.Read(System.Text.Encoding.UTF8.GetString(content)), name, file, into);
        if (!LibraryKinds.Tables.ContainsKey(kind))
            return File(content, "application/json", file + ".json");
        var table = TableFile.Read(content);
        IEnumerable<IReadOnlyList<object?>> rows =
        [
            [.. table.Headings],
            .. table.Rows.Select(r => (IReadOnlyList<object?>)[.. r.Cells]),
        ];
        return into == "xlsx"
            ? File(
                TableFile.WriteXlsx(rows, name),
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                file + ".xlsx"
            )
            : File(TableFile.WriteCsv(rows), "text/csv", file + ".csv");
    }

    private IActionResult TemplateFile(TemplateDocument template, string name, string file, string? into)
    {
        switch (into)
        {
            case "csv":
                return File(TableFile.WriteCsv(TemplateTable.Write(template)), "text/csv", file + ".csv");
            case "xlsx":
                return File(
                    TableFile.WriteXlsx(TemplateTable.Write(template), name),
                    "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
                    file + ".xlsx"
                );
            case "ifc4" or "ifc4x3":
                using (var stream = new MemoryStream())
                {
                    TemplateModel.Write(template, into.ToUpperInvariant(), name, "2000-01-01T00:00:00", stream);
                    return File(stream.ToArray(), "application/x-step", file + ".ifc");
                }

            default:
                return File(System.Text.Encoding.UTF8.GetBytes(template.Write()), "application/json", file + ".json");
        }
    }

    // Templates are kept as documents, in whatever form they come.
    private static byte[] ReadTemplate(byte[] bytes, string fileName)
    {
        try
        {
            return System.Text.Encoding.UTF8.GetBytes(
                Path.GetExtension(fileName).ToLowerInvariant() switch
                {
                    ".json" => System.Text.Encoding.UTF8.GetString(bytes),
                    ".ifc" => TemplateModel.Read(Ifc.IfcModel.Open(bytes)).Write(),
                    _ => TemplateTable.Read(TableFile.Read(bytes)).Write(),
                }
            );
        }
        catch (Exception e) when (e is OrderException or Step.StepFormatException)
        {
            throw new RefusedException(RefusalKind.Wrong, $"Nothing was saved. {e.Message}");
        }
    }

    /// <summary>Keeps a template to start from: the sets of the standard for the classes of the job's models.</summary>
    /// <param name="classes">The classes, separated by semicolons; empty for all that the newest models have.</param>
    /// <param name="name">The name of the template.</param>
    /// <param name="source">The source whose own property sets are taken instead; null for those of the standard.</param>
    public async Task<IActionResult> OnPostStandardAsync(string? classes, string? name, Guid? source)
    {
        if (!MayChange)
            return StatusCode(403);
        var state = await StateAsync();
        string[] wanted =
        [
            .. string.IsNullOrWhiteSpace(classes)
                ? state.Facets.SelectMany(f => f).Where(f => f.IsElement).Select(f => f.Class).Distinct()
                : classes.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries),
        ];
        return await TryAsync(
            async () =>
            {
                var template = source is { } of
                    ? await grids.OfSourceAsync(state, of, HttpContext.RequestAborted)
                        ?? throw new RefusedException(RefusalKind.Unknown, "The job has no such source with a model.")
                    : TemplateStarters.OfStandard("IFC4X3", wanted);
                if (source is not null)
                    template = template with { Sets = [.. template.Sets.Where(s => s.Classes.Any(wanted.Contains))] };
                if (template.Sets.Count == 0)
                    throw new RefusedException(
                        RefusalKind.Wrong,
                        source is not null
                            ? "The source has no property sets for these classes."
                            : $"The standard has no property set for {string.Join(", ", wanted)}; write classes as the standard spells them, such as IfcDoor."
                    );
                await library.KeepAsync(
                    Job.Id,
                    LibraryKind.Template,
                    name,
                    System.Text.Encoding.UTF8.GetBytes(template.Write()),
                    Actor,
                    HttpContext.RequestAborted
                );
            },
            $"{name} is saved: download it as a table, keep the properties that you need, and import it again.",
            () => LoadAsync(null)
        );
    }

    /// <summary>Imports a table, a set or a view as its next version, or as a new one.</summary>
    /// <param name="kind">What it is.</param>
    /// <param name="name">Its name; that of the file when empty.</param>
    /// <param name="file">The file; the version that it was made from is in its name as it was downloaded.</param>
    /// <param name="replace">Whether it becomes the next version even if somebody saved another one since it was downloaded.</param>
    public async Task<IActionResult> OnPostKeepAsync(LibraryKind kind, string? name, IFormFile? file, bool replace)
    {
        if (!MayChange)
            return StatusCode(403);
        return await TryAsync(
            async () =>
            {
                if (file is null || kind == LibraryKind.Detail)
                    throw new RefusedException(RefusalKind.Wrong, "Choose the file to import.");
                using var bytes = new MemoryStream();
                await file.CopyToAsync(bytes, HttpContext.RequestAborted);
                var from = Downloaded().Match(Path.GetFileNameWithoutExtension(file.FileName));
                string title = string.IsNullOrWhiteSpace(name) ? from.Groups["name"].Value : name;
                int version = await library.KeepAsync(
                    Job.Id,
                    kind,
                    title,
                    kind == LibraryKind.Template ? ReadTemplate(bytes.ToArray(), file.FileName) : bytes.ToArray(),
                    Actor,
                    HttpContext.RequestAborted,
                    !replace && from.Groups["version"].Success
                        ? int.Parse(from.Groups["version"].Value, CultureInfo.InvariantCulture)
                        : null
                );
                Kept = $"{title.Trim()} is saved as version {version}.";
            },
            "",
            () => LoadAsync(null),
            null,
            () => Kept
        );
    }

    /// <summary>Keeps a table to begin with.</summary>
    public async Task<IActionResult> OnPostStartAsync(string? key)
    {
        if (!MayChange)
            return StatusCode(403);
        if (StarterTables.All.FirstOrDefault(t => t.Key == key) is not { } starter)
            return NotFound();
        return await TryAsync(
            () =>
                library.KeepAsync(
                    Job.Id,
                    starter.Kind,
                    starter.Name,
                    starter.ToCsv(),
                    Actor,
                    HttpContext.RequestAborted
                ),
            $"{starter.Name} is saved in this job: download it, change it, import it again.",
            () => LoadAsync(null)
        );
    }

    /// <summary>Removes one with all its versions.</summary>
    public async Task<IActionResult> OnPostRemoveAsync(LibraryKind kind, string name) =>
        !MayChange
            ? StatusCode(403)
            : await TryAsync(
                () => library.RemoveAsync(Job.Id, kind, name, Actor, HttpContext.RequestAborted),
                $"{name} is removed.",
                () => LoadAsync(null)
            );

    /// <summary>Takes ticked matches into a name table; or all whose score is above a limit.</summary>
    /// <param name="table">The name table.</param>
    /// <param name="pair">The ticked ones, by their place in the list.</param>
    /// <param name="to">For each place in the list the receiver's name as it is written there.</param>
    /// <param name="above">Take all of at least this score, per cent; null for the ticked ones.</param>
    public async Task<IActionResult> OnPostMatchAsync(string table, List<int> pair, List<string?> to, int? above)
    {
        if (!MayChange)
            return StatusCode(403);
        await LoadAsync(table);
        var chosen = Unmatched
            .Select(
                (u, n) =>
                    (
                        Row: u,
                        Number: n,
                        To: n < to.Count && !string.IsNullOrWhiteSpace(to[n]) ? to[n]!.Trim() : u.Best?.Receiver
                    )
            )
            .Where(c =>
                c.To is not null
                && (above is { } limit ? c.Row.Best is { } best && best.Score * 100 >= limit : pair.Contains(c.Number))
            )
            .Select(c => (c.Row.Kind, c.Row.Name, c.To!))
            .ToList();
        string at = $"/jobs/{Job.Code}/library?match={Uri.EscapeDataString(table)}";
        return await TryAsync(
            () => matching.ConfirmAsync(Job.Id, table, chosen, Actor, HttpContext.RequestAborted),
            $"{DisplayText.Count(chosen.Count, "name is", "names are")} matched.",
            () => LoadAsync(table),
            at
        );
    }

    // A browser that has a file of the name already puts a number behind it.
    [GeneratedRegex(@"^(?<name>.+?)(?:-v(?<version>[0-9]{1,6}))?(?: \([0-9]+\))?$")]
    private static partial Regex Downloaded();

    private string Kept { get; set; } = "";

    private async Task LoadAsync(string? match)
    {
        Items = await library.ListAsync(Job.Id, HttpContext.RequestAborted);
        Models = [.. (await StateAsync()).Sources.Where(s => s.Latest is not null)];
        if (
            match is null
            || await library.ContentAsync(Job.Id, LibraryKind.Names, match, HttpContext.RequestAborted)
                is not { } content
        )
            return;
        var table = NameTable.Read(TableFile.Read(content));
        Matched = match;
        Receivers = table
            .Rows.Where(r => r.To.Length > 0)
            .Select(r => (r.Kind, r.To))
            .Distinct()
            .ToLookup(p => p.Kind, p => p.To);
        Unmatched = await matching.OpenAsync(await StateAsync(), table, HttpContext.RequestAborted);
    }
}

using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;
using SteadyLintel.Files;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Topics: storey by storey and party by party, or as a list.</summary>
[RequestSizeLimit(TopicExchange.LargestFile)]
[RequestFormLimits(MultipartBodyLengthLimit = TopicExchange.LargestFile)]
public sealed class ResolveModel(
    JobAccess access,
    TopicQuery query,
    TopicExchange exchange,
    TopicEditing editing,
    CalendarKeys calendar
) : JobPage(access)
{
    /// <summary>So many topics a cell of the matrix shows; more are behind a link.</summary>
    public const int CellTopics = 2;

    private const int MostInMatrix = 20_000;

    private IReadOnlyList<(Guid Id, int? Level, Guid? OwedBy)> _places = [];
    private IReadOnlyDictionary<Guid, ShownTopic> _shown = new Dictionary<Guid, ShownTopic>();

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Words, parties and people.</summary>
    public TopicBoard Board { get; private set; } = null!;

    /// <summary>The topics of the list.</summary>
    public IReadOnlyList<ShownTopic> Topics { get; private set; } = [];

    /// <summary>How many there are of them in all.</summary>
    public int All { get; private set; }

    /// <summary>How many the reader has to do with.</summary>
    public TopicCounts Counts { get; private set; } = new(0, 0, 0, 0, 0);

    /// <summary>Which topics are shown.</summary>
    public TopicFilter Filter { get; private set; } = new();

    /// <summary><c>list</c> for a list, else the matrix.</summary>
    [BindProperty(SupportsGet = true, Name = "as")]
    public string? As { get; set; }

    /// <summary>The level whose topics are listed; −1 for topics of no storey, null for all.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Storey { get; set; }

    /// <summary>What the list is grouped by: <c>storey</c>, <c>owes</c>, <c>status</c>, <c>type</c>, <c>priority</c>; null for
    /// nothing.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Group { get; set; }

    /// <summary>What lists can be grouped by, in words.</summary>
    public static readonly IReadOnlyDictionary<string, string> Groups = new Dictionary<string, string>
    {
        ["storey"] = "storey",
        ["owes"] = "who owes it",
        ["status"] = "status",
        ["type"] = "type",
        ["priority"] = "priority",
    };

    /// <summary>The topics of the list in groups, each with its heading; one group without a heading where nothing groups them.</summary>
    public IEnumerable<(string? Heading, IReadOnlyList<ShownTopic> Topics)> Grouped =>
        Group is null || !Groups.ContainsKey(Group)
            ? [(null, Topics)]
            : Topics
                .GroupBy(HeadingOf)
                .OrderBy(g => Group == "storey" ? RankOf(g.First()) : 0)
                .ThenBy(g => g.Key, StringComparer.Ordinal)
                .Select(g => ((string?)g.Key, (IReadOnlyList<ShownTopic>)[.. g]));

    private string HeadingOf(ShownTopic t) =>
        Group switch
        {
            "storey" => State.Schedule.Rungs.FirstOrDefault(r => r.Level is not null && r.Level == t.Level)?.Name
                ?? "No storey",
            "owes" => t.Assigned.Length == 0 ? "Coordinators" : DisplayText.PersonName(Board, t.Assigned),
            "status" => t.Status.Length == 0 ? "No status" : t.Status,
            "type" => t.Type.Length == 0 ? "No type" : t.Type,
            _ => t.Priority.Length == 0 ? "No priority" : t.Priority,
        };

    // The highest storey first, as in the matrix.
    private int RankOf(ShownTopic t) => -State.Schedule.Rungs.ToList().FindIndex(r => r.Level == t.Level);

    /// <summary>What the address chooses, as a stored filter has it; empty where all open topics are shown.</summary>
    public string Query =>
        QueryString
            .Create(
                Request
                    .Query.Where(q => Filtering.Contains(q.Key) && q.Value.ToString().Length is > 0 and <= 200)
                    .OrderBy(q => q.Key, StringComparer.Ordinal)
                    .Select(q => KeyValuePair.Create(q.Key, (string?)q.Value.ToString()))
            )
            .Value!.TrimStart('?');

    private static readonly string[] Filtering =
    [
        "as",
        "down",
        "due",
        "element",
        "group",
        "label",
        "mine",
        "owes",
        "priority",
        "sort",
        "state",
        "status",
        "storey",
        "text",
        "type",
    ];

    /// <summary>Stores what is shown under a name.</summary>
    public Task<IActionResult> OnPostStoreAsync(string? name) =>
        TryAsync(
            () => editing.SaveFilterAsync(Job.Id, Permissions, name, Query, Actor, HttpContext.RequestAborted),
            "The filter is stored for everybody in this job.",
            LoadAsync,
            Request.Path + "?" + Query
        );

    /// <summary>Removes a stored filter.</summary>
    public Task<IActionResult> OnPostRemoveAsync(string? name) =>
        TryAsync(
            () => editing.RemoveFilterAsync(Job.Id, Permissions, name, Actor, HttpContext.RequestAborted),
            "The filter is removed.",
            LoadAsync
        );

    /// <summary>Says when the reader gets mails about topics.</summary>
    public Task<IActionResult> OnPostMailsAsync(TopicMails when) =>
        TryAsync(() => editing.MailsAsync(Job.Id, when, Actor, HttpContext.RequestAborted), "Saved.", LoadAsync);

    /// <summary>Whether topics are shown as a list.</summary>
    public bool IsList => As == "list";

    /// <summary>Shows the page.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Downloads the topics that are shown as a topic file.</summary>
    /// <param name="version">2.1 or 3.0.</param>
    /// <param name="frame">The frame of the views: <c>auto</c>, <c>job</c> or a source.</param>
    /// <param name="ids">Numbers of topics; none for those of the filter.</param>
    public async Task<IActionResult> OnGetFileAsync(string? version, string? frame, List<int> ids)
    {
        State = await StateAsync();
        var filter = ReadFilter();
        var chosen = await query.IdsAsync(
            Job.Id,
            Permissions,
            ids.Count > 0 ? new TopicFilter { State = "all" } : filter,
            ids.Count > 0 ? ids : null,
            HttpContext.RequestAborted
        );
        var stream = TemporaryFile.Open();
        await exchange.ExportAsync(
            State,
            Permissions,
            chosen,
            version == "2.1" ? TopicVersion.V21 : TopicVersion.V30,
            TopicFrame.Read(frame),
            stream,
            HttpContext.RequestAborted
        );
        stream.Position = 0;
        return File(stream, "application/zip", $"{Job.Code}-topics.bcf");
    }

    /// <summary>Says when a topic of the job changes, as server-sent events.</summary>
    public Task<IActionResult> OnGetLiveAsync() =>
        TopicLive.WriteAsync(HttpContext, () =>
            query.StampAsync(Job.Id, Permissions, null, HttpContext.RequestAborted)
        );

    /// <summary>Uploads a topic file, to look at what importing it would do.</summary>
    public async Task<IActionResult> OnPostImportAsync(IFormFile? file)
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        Guid id = default;
        var done = await TryAsync(
            async () =>
            {
                if (file is null)
                    throw new RefusedException(RefusalKind.Wrong, "Choose the topic file to import.");
                await using var stream = file.OpenReadStream();
                id = await exchange.UploadAsync(
                    Job.Id,
                    Permissions,
                    file.FileName,
                    stream,
                    Actor,
                    HttpContext.RequestAborted
                );
            },
            "",
            LoadAsync
        );
        return id == default ? done : Redirect($"/jobs/{Job.Code}/topics/import/{id}");
    }

    /// <summary>The address of the reader's calendar of due dates.</summary>
    public string Calendar => $"/jobs/{Job.Code}/calendar/{calendar.Of(Job.Id, Caller.Id(User))}.ics";

    /// <summary>The address of a report of what is shown.</summary>
    public string ReportOf(string? handler)
    {
        var words = Request
            .Query.Where(q => q.Key is not ("handler" or "ids" or "as" or "group"))
            .ToDictionary(q => q.Key, q => (string?)q.Value.ToString());
        if (handler is not null)
            words["handler"] = handler;
        return QueryHelpers.AddQueryString($"/jobs/{Job.Code}/topics/report", words);
    }

    /// <summary>The address of this page with one word of its filter changed.</summary>
    public string With(string name, string? value)
    {
        var words = Request
            .Query.Where(q => q.Key != name && q.Key is not ("handler" or "ids"))
            .ToDictionary(q => q.Key, q => q.Value.ToString());
        if (!string.IsNullOrEmpty(value))
            words[name] = value;
        return QueryHelpers.AddQueryString($"/jobs/{Job.Code}/resolve", words!);
    }

    /// <summary>The columns of the matrix: the parties, and null for the coordinators.</summary>
    public IEnumerable<Guid?> Columns => Board.Parties.Select(p => (Guid?)p.Id).Append(null);

    /// <summary>The rows of the matrix, the highest first: a level, its name and its height; null for topics of no storey.</summary>
    public IEnumerable<(int? Level, string Name, string Height)> Rows
    {
        get
        {
            foreach (var rung in State.Schedule.Rungs.Reverse())
                yield return (rung.Level, rung.Name, DisplayText.Height(rung.Elevation));
            var levels = State.Schedule.Rungs.Select(r => r.Level).ToHashSet();
            if (_places.Any(t => t.Level is null || !levels.Contains(t.Level)))
                yield return (null, "No storey", "");
        }
    }

    /// <summary>The first topics of a cell, and how many more it has.</summary>
    public (IReadOnlyList<ShownTopic> Topics, int More) Cell(int? level, Guid? party)
    {
        var cell = Cells[(Known(level), party)].ToList();
        return (
            [.. cell.Take(CellTopics).Where(_shown.ContainsKey).Select(id => _shown[id])],
            Math.Max(0, cell.Count - CellTopics)
        );
    }

    /// <summary>How many topics a column has.</summary>
    public int Owes(Guid? party) => Cells.Where(c => c.Key.Party == party).Sum(c => c.Count());

    private ILookup<(int? Level, Guid? Party), Guid> Cells =>
        field ??= _places.ToLookup(t => (Known(t.Level), PartyOf(t.OwedBy)), t => t.Id);

    private int? Known(int? level) => State.Schedule.Rungs.Any(r => r.Level == level) ? level : null;

    // What a party owed that is no longer in the job is the coordinators'.
    private Guid? PartyOf(Guid? owes) => Board.PartyOf(owes)?.Id;

    private TopicFilter ReadFilter() => ReadFilter(Request.Query);

    /// <summary>The filter that an address asks for.</summary>
    internal static TopicFilter ReadFilter(IQueryCollection query)
    {
        string? Word(string name) => query[name].ToString() is { Length: > 0 and <= 200 } word ? word : null;
        return new TopicFilter
        {
            State = Word("state") ?? "open",
            Text = Word("text"),
            Mine = Word("mine") is not null,
            Due = Word("due"),
            Type = Word("type"),
            Status = Word("status"),
            Priority = Word("priority"),
            Label = Word("label"),
            Owes = Word("owes"),
            Element = Word("element"),
            Storey = int.TryParse(
                Word("storey"),
                NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture,
                out int n
            )
                ? n
                : null,
            Sort = Word("sort") ?? "number",
            Down = Word("down") is not null,
        };
    }

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Board = await query.BoardAsync(Job.Id, HttpContext.RequestAborted);
        Filter = ReadFilter();
        if (IsList)
            (Topics, All) = await query.ListAsync(
                Job.Id,
                Permissions,
                Filter,
                TopicQuery.Most,
                HttpContext.RequestAborted
            );
        else
            await LoadMatrixAsync();
        Counts = await query.CountsAsync(Job.Id, Permissions, HttpContext.RequestAborted);
    }

    // Ten thousand topics are places; only those that are seen are read.
    private async Task LoadMatrixAsync()
    {
        _places = await query.PlacesAsync(Job.Id, Permissions, Filter, MostInMatrix, HttpContext.RequestAborted);
        All = _places.Count;
        _shown = await query.ShownAsync(
            Job.Id,
            Permissions,
            [.. Cells.SelectMany(c => c.Take(CellTopics))],
            HttpContext.RequestAborted
        );
    }
}

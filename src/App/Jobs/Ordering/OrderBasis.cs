using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A revision that an order rests on.</summary>
/// <param name="Source">The source.</param>
/// <param name="Title">What to call it: the party's code, with the source's name where the party has several.</param>
/// <param name="Number">The revision's number.</param>
/// <param name="SettingOut">The setting-out that holds for it, where the order uses it; null for none.</param>
public sealed record BasisRevision(Guid Source, string Title, int Number, Guid? SettingOut);

/// <summary>Something of the library that an order rests on.</summary>
public sealed record BasisItem(LibraryKind Kind, string Name, int Version);

/// <summary>A drawing of the job that others may refer to.</summary>
/// <param name="Source">The source.</param>
/// <param name="Title">What to call it.</param>
/// <param name="Number">The revision's number.</param>
/// <param name="File">The name of its file, as <see cref="DrawingReferences.NameOf"/> has it.</param>
public sealed record BasisSheet(Guid Source, string Title, int Number, string File);

/// <summary>What a run of an order rests on beside its own words: kept with the transmittal, so that what has changed can be named
/// since.</summary>
public sealed record OrderBasis
{
    /// <summary>The revisions, models first.</summary>
    public IReadOnlyList<BasisRevision> Revisions { get; init; } = [];

    /// <summary>The newest drawings of the job, where the order binds what its drawings refer to.</summary>
    public IReadOnlyList<BasisSheet> Sheets { get; init; } = [];

    /// <summary>The names of files that its drawings refer to; known once it has run.</summary>
    public IReadOnlyList<string> Referred { get; init; } = [];

    /// <summary>The tables, sets and views, and the details that the steps of its drawings place.</summary>
    public IReadOnlyList<BasisItem> Items { get; init; } = [];

    /// <summary>A hash of the level schedule, where the order uses it; empty where it does not.</summary>
    public string Levels { get; init; } = "";

    /// <summary>The settings-out of the whole job, where the frame of the order rests on those of sources that it does not give: the
    /// receiver's, or the map's; empty where it does not.</summary>
    public string Frames { get; init; } = "";

    /// <summary>When the newest of it came, with the order's own words; the time that files carry, so that the same gives the same
    /// bytes.</summary>
    public DateTime Newest { get; init; }

    /// <summary>What orders of a job rest on now, asked once for all of them.</summary>
    /// <param name="Items">The library.</param>
    /// <param name="Details">The details of drawings.</param>
    /// <param name="Times">When each newest delivery came and each setting-out was accepted.</param>
    /// <param name="Files">The names of the files of the newest deliveries.</param>
    public sealed record Inputs(
        IReadOnlyList<KeptItem> Items,
        IReadOnlyList<KeptDetail> Details,
        IReadOnlyDictionary<Guid, DateTime> Times,
        IReadOnlyDictionary<Guid, string> Files
    )
    {
        /// <summary>Asks for them.</summary>
        public static async Task<Inputs> LoadAsync(LintelDb db, JobState state, CancellationToken cancel)
        {
            var sources = state.Sources.Concat(state.Drawings).Where(s => s.Latest is not null).ToList();
            var deliveries = sources.ConvertAll(s => s.Latest!.Id);
            var held = sources.ConvertAll(s => s.SetOutId);
            var came = await db
                .Deliveries.Where(d => deliveries.Contains(d.Id))
                .Select(d => new
                {
                    d.Id,
                    d.ReceivedAt,
                    d.FileName,
                })
                .ToListAsync(cancel);
            var times = await db
                .SettingOuts.Where(s => held.Contains(s.Id))
                .ToDictionaryAsync(s => s.Id, s => s.AcceptedAt, cancel);
            foreach (var delivery in came)
                times[delivery.Id] = delivery.ReceivedAt;
            return new Inputs(
                await new JobLibrary(db).ListAsync(state.Job, cancel),
                await new Details(db).ListAsync(state.Job, cancel),
                times,
                came.ToDictionary(d => d.Id, d => d.FileName)
            );
        }
    }

    /// <summary>What an order rests on now.</summary>
    public static async Task<OrderBasis> OfAsync(
        LintelDb db,
        JobState state,
        OrderRow order,
        CancellationToken cancel
    ) => Of(await Inputs.LoadAsync(db, state, cancel), state, order);

    /// <summary>What an order rests on now.</summary>
    public static OrderBasis Of(Inputs inputs, JobState state, OrderRow order)
    {
        var document = StoredOrder.Read(order.Spec).Document;
        var sources = OrderPreview.ModelsOf(state, document).Concat(OrderPreview.DrawingsOf(state, document)).ToList();
        var items = ItemsOf(inputs, document, sources).ToList();
        bool set = UsesPlaces(document);
        var times = sources.Select(s => inputs.Times[s.Latest!.Id]).ToList();
        if (set)
            times.AddRange(sources.Select(s => s.SetOutId).OfType<Guid>().Select(id => inputs.Times[id]));
        return new OrderBasis
        {
            Revisions =
            [
                .. sources.Select(s => new BasisRevision(
                    s.Source.Id,
                    s.Title,
                    s.Latest!.Number,
                    set ? s.SetOutId : null
                )),
            ],
            Sheets = document.Drawings is { As: "prepared", References: "bind" } ? SheetsOf(inputs, state) : [],
            Items = [.. items.Select(i => i.Item)],
            Levels = UsesLevels(document) ? LevelsOf(state) : "",
            Frames = document.Frame is "party" or "map"
                ? Hash(
                    string.Join(
                        '\n',
                        state
                            .Sources.Concat(state.Drawings)
                            .Select(s => $"{s.Source.Id}:{s.SetOutId}")
                            .Order(StringComparer.Ordinal)
                    )
                )
                : "",
            Newest = times.Concat(items.Select(i => i.MadeAt)).Append(order.SavedAt).Max(),
        };
    }

    // What an order names of the library, and the details that the steps of its drawings place.
    private static IEnumerable<(BasisItem Item, DateTime MadeAt)> ItemsOf(
        Inputs inputs,
        OrderDocument document,
        IEnumerable<SourceState> sources
    )
    {
        foreach (var item in JobLibrary.Used(inputs.Items, document))
            yield return (new(item.Kind, item.Name, item.Version), item.MadeAt);
        if (document.Drawings is not { As: "prepared" })
            yield break;
        var placed = sources
            .Where(s => s.Latest!.Kind == RevisionKind.Drawing)
            .SelectMany(s => new PreparationDocument { Steps = s.SetOut?.Steps ?? [] }.DetailNames)
            .ToHashSet(StringComparer.Ordinal);
        foreach (var detail in inputs.Details.Where(d => placed.Contains(d.Name)))
            yield return (new(LibraryKind.Detail, detail.Name, detail.Version), detail.MadeAt);
    }

    private static List<BasisSheet> SheetsOf(Inputs inputs, JobState state) =>
        [
            .. state
                .Drawings.Where(d => d.Latest is not null && d.Source.RetiredAt is null)
                .Select(d => new BasisSheet(
                    d.Source.Id,
                    d.Title,
                    d.Latest!.Number,
                    DrawingReferences.NameOf(inputs.Files[d.Latest.Id])
                )),
        ];

    /// <summary>Reads what a transmittal kept; null for transmittals from before it was kept.</summary>
    public static OrderBasis? Read(string? json) =>
        json is null ? null : JsonSerializer.Deserialize<OrderBasis>(json, JsonSerializerOptions.Web);

    /// <summary>As it is kept.</summary>
    public string Write() => JsonSerializer.Serialize(this, JsonSerializerOptions.Web);

    /// <summary>What has changed since, a few words each; none where nothing has.</summary>
    /// <param name="now">What the order rests on now.</param>
    public IReadOnlyList<string> ChangesTo(OrderBasis now)
    {
        var words = new List<string>();
        foreach (var revision in now.Revisions)
        {
            if (Revisions.FirstOrDefault(r => r.Source == revision.Source) is not { } before)
                words.Add($"{revision.Title} is new");
            else if (before.Title != revision.Title)
                words.Add($"{before.Title} is called {revision.Title} now");
            else if (before.Number > revision.Number)
                words.Add($"{revision.Title} r{before.Number} was withdrawn; r{revision.Number} is in use again");
            else if (before.Number != revision.Number)
                words.Add($"{revision.Title} r{revision.Number} came");
            else if (before.SettingOut != revision.SettingOut)
                words.Add(
                    revision.SettingOut is null
                        ? $"the setting-out of {revision.Title} was undone"
                        : $"{revision.Title} was set out again"
                );
        }

        foreach (string file in Referred)
            words.AddRange(ReferenceChanges(file, now));
        words.AddRange(
            Revisions.Where(r => !now.Revisions.Any(n => n.Source == r.Source)).Select(r => $"{r.Title} is gone")
        );
        foreach (var item in now.Items)
            if (!Items.Contains(item))
                words.Add($"the {JobLibrary.Word(item.Kind)} {item.Name} changed");
        words.AddRange(
            Items
                .Where(i => !now.Items.Any(n => n.Kind == i.Kind && n.Name == i.Name))
                .Select(i => $"the {JobLibrary.Word(i.Kind)} {i.Name} is gone")
        );
        if (Levels != now.Levels)
            words.Add("the level schedule changed");
        if (Frames != now.Frames && words.Count == 0)
            words.Add("a setting-out of the job changed");
        return words;
    }

    // Whichever of several drawings of a name is bound, another among them may be bound next time. What is given itself is said already.
    private IEnumerable<string> ReferenceChanges(string file, OrderBasis now)
    {
        var before = Sheets.Where(s => s.File == file && !Gives(s)).ToList();
        var after = now.Sheets.Where(s => s.File == file && !now.Gives(s)).ToList();
        foreach (var sheet in after.Where(a => !before.Any(b => (b.Source, b.Number) == (a.Source, a.Number))))
            yield return $"{sheet.Title} r{sheet.Number}, which a drawing refers to, came";
        foreach (var sheet in before.Where(b => !after.Any(a => a.Source == b.Source)))
            yield return $"{sheet.Title}, which a drawing refers to, is gone";
    }

    private bool Gives(BasisSheet sheet) => Revisions.Any(r => r.Source == sheet.Source);

    // A frame other than each source's own, and what is recognised by heights and directions, rest on settings-out.
    private static bool UsesPlaces(OrderDocument document) =>
        document.Frame != "source"
        || document.Drawings is not null
        || document.Rules.Any(r => RuleField.Find(r.What)?.RestsOnFrames == true);

    private static bool UsesLevels(OrderDocument document) =>
        document.Split.Contains("storey", StringComparison.Ordinal)
        || document.Storeys == "job"
        || document.Rules.Any(r => RuleField.Find(r.What)?.RestsOnLevels == true);

    private static string LevelsOf(JobState state)
    {
        string text = string.Join(
            '\n',
            state.Schedule.Rungs.Select(r =>
                FormattableString.Invariant(
                    $"{r.Name}|{r.Elevation:R}|{string.Join(',', r.Storeys.Where(s => s.Source < state.Sources.Count).Select(s => $"{state.Sources[s.Source].Source.Id}:{s.Name}").Order(StringComparer.Ordinal))}"
                )
            )
        );
        return Hash(text);
    }

    private static string Hash(string text) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..16];
}

using System.Text.Json;

namespace SteadyLintel.Exchange;

/// <summary>A revision that an order rests on.</summary>
/// <param name="Source">The source.</param>
/// <param name="Title">What to call it: the party's code, with the source's name where the party has several.</param>
/// <param name="Number">The revision's number.</param>
/// <param name="SettingOut">The setting-out that holds for it, where the order uses it; null for none.</param>
public sealed record BasisRevision(Guid Source, string Title, int Number, Guid? SettingOut)
{
    /// <summary>The count of its amendments (<see cref="JobSource.Amendments"/>), where the order carries them; 0 where it does
    /// not.</summary>
    public int Amendments { get; init; }

    /// <summary>Of a drawing that is set out: a hash of its preparation; null where nobody noted it.</summary>
    public string? Preparation { get; init; }
}

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

    /// <summary>What an order rests on now.</summary>
    /// <param name="job">The job as it is.</param>
    /// <param name="order">The order.</param>
    /// <param name="savedAt">When the order's own words were saved.</param>
    public static OrderBasis Of(JobModel job, OrderDocument order, DateTime savedAt)
    {
        var sources = job.ModelsOf(order).Concat(job.DrawingsOf(order)).ToList();
        var items = job.ItemsOf(order).Concat(PlacedDetails(job, order, sources)).ToList();
        bool places = UsesPlaces(order);
        var times = sources.Select(s => s.Newest!.CameAt).ToList();
        times.AddRange(sources.Where(s => Carries(order, s)).Select(s => s.AmendedAt).OfType<DateTime>());
        if (places)
            times.AddRange(sources.Select(s => s.Place).OfType<AcceptedPlace>().Select(p => p.AcceptedAt));
        return new OrderBasis
        {
            Revisions =
            [
                .. sources.Select(s => new BasisRevision(s.Id, s.Title, s.Newest!.Number, places ? s.Place?.Id : null)
                {
                    Amendments = Carries(order, s) ? s.Amendments : 0,
                    Preparation = places && s is { IsDrawing: true, Place: { } place } ? place.Preparation.Hash : null,
                }),
            ],
            Sheets = order.Drawings is { As: "prepared", References: "bind" } ? SheetsOf(job) : [],
            Items = [.. items.Select(i => new BasisItem(i.Kind, i.Name, i.Version))],
            Levels = UsesLevels(order) ? job.HashOf(JobPart.Levels) : "",
            Frames = order.Frame is "party" or "map" ? job.HashOf(JobPart.Places) : "",
            Newest = times.Concat(items.Select(i => i.MadeAt)).Append(savedAt).Max(),
        };
    }

    private static bool Carries(OrderDocument order, JobSource source) =>
        order.Amendments != false && !source.IsDrawing;

    // The details that the steps of its drawings place.
    private static IEnumerable<JobItem> PlacedDetails(JobModel job, OrderDocument order, IEnumerable<JobSource> sources)
    {
        if (order.Drawings is not { As: "prepared" })
            return [];
        var placed = sources
            .Where(s => s.IsDrawing)
            .SelectMany(s => s.Place?.Preparation.DetailNames ?? [])
            .ToHashSet(StringComparer.Ordinal);
        return job.Items.Where(i => i.Kind == LibraryKind.Detail && placed.Contains(i.Name));
    }

    private static List<BasisSheet> SheetsOf(JobModel job) =>
        [
            .. job
                .Drawings.Where(d => d is { Newest: not null, IsRetired: false })
                .Select(d => new BasisSheet(d.Id, d.Title, d.Newest!.Number, DrawingReferences.NameOf(d.Newest.File))),
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
                words.Add(PlaceChange(before, revision));
            else if (before.Amendments != revision.Amendments)
                words.Add($"the amendments of {revision.Title} changed");
        }

        foreach (string file in Referred)
            words.AddRange(ReferenceChanges(file, now));
        words.AddRange(
            Revisions.Where(r => !now.Revisions.Any(n => n.Source == r.Source)).Select(r => $"{r.Title} is gone")
        );
        foreach (var item in now.Items)
            if (!Items.Contains(item))
                words.Add($"the {item.Kind.Word()} {item.Name} changed");
        words.AddRange(
            Items
                .Where(i => !now.Items.Any(n => n.Kind == i.Kind && n.Name == i.Name))
                .Select(i => $"the {i.Kind.Word()} {i.Name} is gone")
        );
        if (Levels != now.Levels)
            words.Add("the level schedule changed");
        if (Frames != now.Frames && words.Count == 0)
            words.Add("a setting-out of the job changed");
        return words;
    }

    private static string PlaceChange(BasisRevision before, BasisRevision now) =>
        now.SettingOut is null ? $"the setting-out of {now.Title} was undone"
        : before.Preparation is { } was && was != now.Preparation ? $"the preparation of {now.Title} changed"
        : $"{now.Title} was set out again";

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
}

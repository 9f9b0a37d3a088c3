using System.Text;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Files;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>An element in a revision.</summary>
/// <param name="Source">Its source.</param>
/// <param name="Number">The revision's number.</param>
/// <param name="CameAt">When the revision came.</param>
/// <param name="InUse">Whether the revision is in use.</param>
/// <param name="What">What was other than in the revision before; none where nothing was, or it was new.</param>
/// <param name="IsFirst">Whether it is the first revision that has it.</param>
public sealed record ElementRevision(
    Guid Source,
    int Number,
    DateTime CameAt,
    bool InUse,
    IReadOnlyList<string> What,
    bool IsFirst
);

/// <summary>Where an element was in a transmittal.</summary>
/// <param name="Order">The order's number.</param>
/// <param name="Title">The order's title.</param>
/// <param name="Number">The transmittal's number.</param>
/// <param name="RanAt">When it ran.</param>
/// <param name="Revision">The revision it was given from.</param>
/// <param name="LeftOut">Why it was left out; null where it was included.</param>
public sealed record ElementTransmittal(
    int Order,
    string Title,
    int Number,
    DateTime RanAt,
    int Revision,
    string? LeftOut
);

/// <summary>What the file of an element says that is not stored: read from the file when it is asked for.</summary>
/// <param name="Line">The line of its instance.</param>
/// <param name="Owner">Who owns and who changed it, a line each; none where the file does not say.</param>
public sealed record ElementFile(int Line, IReadOnlyList<string> Owner);

/// <summary>One element through its life: its revisions, and the transmittals that it went out with.</summary>
/// <param name="db">The database.</param>
public sealed class ElementLife(LintelDb db)
{
    /// <summary>A larger file is not opened for a page, bytes.</summary>
    public const long MaxFile = 64L << 20;

    private const int MaxTransmittals = 50;

    /// <summary>Where the newest revisions of the job have an element of a GlobalId.</summary>
    public async Task<IReadOnlyList<(SourceState Source, int Number)>> FindAsync(
        JobState state,
        string globalId,
        CancellationToken cancel
    )
    {
        var ids = state.Sources.Where(s => s.Latest is not null).Select(s => s.Latest!.Id).ToList();
        var found = await db
            .Elements.AsNoTracking()
            .Where(e => ids.Contains(e.RevisionId) && e.GlobalId == globalId)
            .Select(e => new { e.RevisionId, e.Number })
            .ToListAsync(cancel);
        return [.. found.Select(f => (state.Sources.First(s => s.Latest?.Id == f.RevisionId), f.Number))];
    }

    /// <summary>The revisions that have an element, the oldest first.</summary>
    public async Task<IReadOnlyList<ElementRevision>> RevisionsAsync(
        Guid job,
        string globalId,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Revisions.IgnoreQueryFilters([LintelDb.InUse])
            .AsNoTracking()
            .Where(r => r.Delivery.Source.JobId == job && r.Number > 0)
            .Join(
                db.Elements.Where(e => e.GlobalId == globalId),
                r => r.Id,
                e => e.RevisionId,
                (r, e) =>
                    new
                    {
                        r.SourceId,
                        r.Number,
                        r.InUse,
                        r.Delivery.ReceivedAt,
                        e.Name,
                        e.Class,
                        e.TypeName,
                        e.Layer,
                        Storey = db
                            .Levels.Where(l => l.RevisionId == e.RevisionId && l.Number == e.Storey)
                            .Select(l => l.Name)
                            .FirstOrDefault(),
                        e.Place,
                        e.Volume,
                    }
            )
            .OrderBy(r => r.SourceId)
            .ThenBy(r => r.Number)
            .ToListAsync(cancel);
        var life = new List<ElementRevision>();
        for (int n = 0; n < rows.Count; n++)
        {
            var now = rows[n];
            var before = n > 0 && rows[n - 1].SourceId == now.SourceId ? rows[n - 1] : null;
            var what = new List<string>();
            void Other(string word, string was, string has)
            {
                if (was != has)
                    what.Add($"{word} {(was.Length > 0 ? was : "none")} → {(has.Length > 0 ? has : "none")}");
            }

            if (before is not null)
            {
                Other("name", before.Name, now.Name);
                Other("class", before.Class, now.Class);
                Other("type", before.TypeName, now.TypeName);
                Other("layer", before.Layer, now.Layer);
                Other("storey", before.Storey ?? "", now.Storey ?? "");
                if (!Same(before.Place, now.Place))
                    what.Add("moved");
                if (Math.Abs(before.Volume - now.Volume) > 1e-6 * Math.Max(1, now.Volume))
                    what.Add("shape changed");
            }

            life.Add(new ElementRevision(now.SourceId, now.Number, now.ReceivedAt, now.InUse, what, before is null));
        }

        return life;
    }

    /// <summary>The transmittals of revisions that have an element, the newest first.</summary>
    public async Task<IReadOnlyList<ElementTransmittal>> TransmittalsAsync(
        JobState state,
        string globalId,
        CancellationToken cancel
    )
    {
        var revisions = await db
            .Revisions.IgnoreQueryFilters([LintelDb.InUse])
            .AsNoTracking()
            .Where(r =>
                r.Delivery.Source.JobId == state.Job
                && db.Elements.Any(e => e.RevisionId == r.Id && e.GlobalId == globalId)
            )
            .Select(r => new
            {
                r.Id,
                r.Number,
                r.SourceId,
                r.HasParts,
            })
            .ToListAsync(cancel);
        var ids = revisions.ConvertAll(r => r.Id);
        var runs = await db
            .Transmittals.AsNoTracking()
            .Include(t => t.Order)
            .Where(t =>
                t.Order.JobId == state.Job && t.State == TransmittalState.Done && t.Revisions.Any(r => ids.Contains(r))
            )
            .OrderByDescending(t => t.RanAt)
            .Take(MaxTransmittals)
            .ToListAsync(cancel);
        var found = new List<ElementTransmittal>();
        foreach (var run in runs)
        foreach (var revision in revisions.Where(r => run.Revisions.Contains(r.Id)))
            found.Add(
                new ElementTransmittal(
                    run.Order.Number,
                    run.Order.Title,
                    run.Number,
                    run.RanAt,
                    revision.Number,
                    await ReasonAsync(state, run, revision.Id, revision.SourceId, revision.HasParts, globalId, cancel)
                )
            );
        return found;
    }

    /// <summary>What the file says of an element that is not stored; null where the file is too large to be opened for a page.</summary>
    public async Task<ElementFile?> FileAsync(Guid revision, string globalId, CancellationToken cancel)
    {
        var original = await db
            .Deliveries.AsNoTracking()
            .Where(d => d.Id == revision)
            .Select(d => new { d.BlobId, d.Length })
            .FirstAsync(cancel);
        if (original.Length > MaxFile)
            return null;
        string path = Path.GetTempFileName();
        try
        {
            await using (var file = File.Create(path))
                await db.Blobs.CopyToAsync(original.BlobId, file, cancel);
            using var delivered = DeliveredFile.Open(path, UploadLimits.MaxBytes, cancel);
            var model = IfcModel.Open(delivered.Bytes, cancel);
            foreach (int product in model.OfType("IfcProduct"))
                if (model.GlobalId(product) == globalId)
                    return new ElementFile(model.File.Line(product), Owner(model, model.Ref(product, "OwnerHistory")));
            return new ElementFile(0, []);
        }
        finally
        {
            File.Delete(path);
        }
    }

    private static List<string> Owner(IfcModel model, int history)
    {
        var lines = new List<string>();
        if (history < 0)
            return lines;
        void Add(string word, string user, string application, string date)
        {
            int person = model.Ref(history, user),
                program = model.Ref(history, application);
            var text = new StringBuilder();
            if (person >= 0)
                text.Append(Name(model, person));
            if (program >= 0)
                text.Append(text.Length > 0 ? ", " : "").Append(model.Text(program, "ApplicationFullName"));
            if (model.Get(history, date).Integer is > 0 and var seconds)
                text.Append(text.Length > 0 ? ", " : "")
                    .Append(
                        DateTime
                            .UnixEpoch.AddSeconds(seconds)
                            .ToString("d MMM yyyy HH:mm", System.Globalization.CultureInfo.InvariantCulture)
                    );
            if (text.Length > 0)
                lines.Add($"{word}: {text}");
        }

        Add("owned by", "OwningUser", "OwningApplication", "CreationDate");
        Add("changed by", "LastModifyingUser", "LastModifyingApplication", "LastModifiedDate");
        return lines;
    }

    private static string Name(IfcModel model, int user)
    {
        int person = model.Ref(user, "ThePerson"),
            organisation = model.Ref(user, "TheOrganization");
        return string.Join(
            ", ",
            new[]
            {
                $"{model.Text(person, "GivenName")} {model.Text(person, "FamilyName")}".Trim(),
                organisation < 0 ? "" : model.Name(organisation),
            }
                .Where(t => t.Length > 0)
                .Distinct()
        );
    }

    private async Task<string?> ReasonAsync(
        JobState state,
        Transmittal run,
        Guid revision,
        Guid source,
        bool parts,
        string globalId,
        CancellationToken cancel
    )
    {
        int at = state.Sources.ToList().FindIndex(s => s.Source.Id == source);
        if (at < 0 || StoredOrder.Read(run.Spec) is not { Problem: null, Document: var document })
            return null;
        try
        {
            var order = document.ToOrder(await new JobLibrary(db).LoadAsync(state.Job, document, cancel));
            var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
            var asked = new QueriedRevision(
                revision,
                at,
                state.Sources[at].Source.Party.Code,
                state.Sources[at].Source.Name,
                IfcSchema.Named("IFC4X3"),
                state.Sources[at].SetOut?.Frame,
                parts
            );
            if (await new ElementQuery(db).OneAsync(asked, selection, globalId, cancel) is not var (_, _, matches))
                return null;
            if (selection.Judge(n => matches[n]).Reason is { } reason)
                return reason;
            return TransmittalResult.Of(run)?.Reconciliation.Unruled.Contains(globalId) == true
                ? "the form of the files has no place for it"
                : null;
        }
        catch (OrderException)
        {
            return null;
        }
    }

    private static bool Same(double[]? a, double[]? b) =>
        a is null || b is null || a.Length != b.Length || !a.Where((v, n) => Math.Abs(v - b[n]) > 1e-4).Any();
}

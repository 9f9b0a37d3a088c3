using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The browser's view and the kept one: the browser names elements by revision and number, what is kept by GlobalId.</summary>
/// <param name="db">The database.</param>
public sealed class KeptViews(LintelDb db)
{
    private const int MostElements = 20_000;

    /// <summary>Reads what the browser shows.</summary>
    /// <param name="job">The job.</param>
    /// <param name="json">The view (view-state.js, ViewDocument).</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The view as it is kept, and the elements that are isolated, or picked where none is.</returns>
    /// <exception cref="OrderException">It is no view.</exception>
    public async Task<(ViewDocument Document, IReadOnlyList<string> Elements)> ReadAsync(
        Guid job,
        string json,
        CancellationToken cancel
    )
    {
        BrowserView view;
        try
        {
            view = JsonSerializer.Deserialize<BrowserView>(json, JsonSerializerOptions.Web)
                ?? throw new OrderException("There is no view to keep.");
        }
        catch (JsonException)
        {
            throw new OrderException("The view cannot be read; load the page again.");
        }

        var hidden = await IdsAsync(job, view.Hidden ?? [], cancel);
        var only = view.Only is null ? null : await IdsAsync(job, view.Only, cancel);
        var picked = view.Picked is null ? [] : await IdsAsync(job, [view.Picked], cancel);
        var colours = new List<ViewPaint>();
        foreach (var c in view.Colours ?? [])
            colours.Add(new ViewPaint(c.Colour ?? "", await IdsAsync(job, c.Elements ?? [], cancel)));
        var off = view.Off ?? new Dictionary<string, string[]>();
        string[] Off(string kind) => off.GetValueOrDefault(kind, []);
        return (
            new ViewDocument
            {
                Eye = view.Camera?.Eye,
                At = view.Camera?.At,
                Up = view.Camera?.Up,
                Degrees = view.Camera?.Degrees,
                Height = view.Camera?.Height,
                Planes = view.Planes ?? [],
                Picked = view.Marked is null ? [] : await IdsAsync(job, view.Marked, cancel),
                Colours = colours,
                Cut = view.Cut,
                Off = new ViewOff
                {
                    Source = Off("source"),
                    Storey = Off("storey"),
                    Class = Off("class"),
                    Layer = Off("layer"),
                    Sheet = Off("sheet"),
                },
                Hidden = hidden,
                Only = only,
            },
            only is { Count: > 0 } ? only : picked
        );
    }

    /// <summary>The address of a kept view over the newest revisions: the part behind <c>#</c>, as view-state.js writes it.</summary>
    public async Task<string> AddressAsync(Guid job, ViewDocument view, CancellationToken cancel)
    {
        var words = new List<(string Name, string Value)>();
        // As view-state.js writes them: a tenth of a millimetre, and no negative zero.
        string Fixed(IEnumerable<double> numbers) =>
            string.Join(
                ',',
                numbers.Select(n => (Math.Round(n, 4) + 0.0).ToString("0.####", CultureInfo.InvariantCulture))
            );
        if (view is { Eye: { } eye, At: { } at })
        {
            words.Add(("eye", Fixed(eye)));
            words.Add(("at", Fixed(at)));
            if (view.Up is { } up)
                words.Add(("up", Fixed(up)));
            if (view.Degrees is { } degrees)
                words.Add(("fov", Fixed([degrees])));
            if (view.Height is { } height)
                words.Add(("high", Fixed([height])));
        }

        words.AddRange(view.Planes.Select(p => ("plane", Fixed(p))));

        if (view.Cut is { } cut)
            words.Add(("cut", Fixed(cut)));
        foreach (
            var (kind, names) in new[]
            {
                ("source", view.Off.Source),
                ("storey", view.Off.Storey),
                ("class", view.Off.Class),
                ("layer", view.Off.Layer),
                ("sheet", view.Off.Sheet),
            }
        )
            words.AddRange((names.Count == 0 && kind == "class" ? [""] : names).Select(n => (kind, n)));
        if (view.Hidden.Count > 0)
            words.Add(("hide", string.Join('_', await NamesAsync(job, view.Hidden, cancel))));
        if (view.Only is { } only)
            words.Add(("only", string.Join('_', await NamesAsync(job, only, cancel))));
        if (view.Picked.Count > 0)
            words.Add(("mark", string.Join('_', await NamesAsync(job, view.Picked, cancel))));
        foreach (var paint in view.Colours)
            words.Add(("paint", $"{paint.Colour}_{string.Join('_', await NamesAsync(job, paint.Elements, cancel))}"));
        return string.Join('&', words.Select(w => $"{w.Name}={Uri.EscapeDataString(w.Value)}"));
    }

    private async Task<IReadOnlyList<string>> IdsAsync(Guid job, IReadOnlyList<string> names, CancellationToken cancel)
    {
        if (names.Count > MostElements)
            throw new OrderException($"A view can name {MostElements} elements; switch classes or storeys instead.");
        var parts = names
            .Select(n => n.Split('.'))
            .Where(p => p.Length == 2 && Guid.TryParse(p[0], out _) && int.TryParse(p[1], out _))
            .Select(p => (Revision: Guid.Parse(p[0]), Number: int.Parse(p[1], CultureInfo.InvariantCulture)))
            .ToList();
        var ids = new List<string>();
        foreach (var group in parts.GroupBy(p => p.Revision))
        {
            int[] numbers = [.. group.Select(g => g.Number)];
            ids.AddRange(
                await db
                    .Elements.AsNoTracking()
                    .Where(e =>
                        e.RevisionId == group.Key
                        && numbers.Contains(e.Number)
                        && db.Revisions.Any(r => r.Id == e.RevisionId && r.Delivery.Source.JobId == job)
                    )
                    .OrderBy(e => e.Number)
                    .Select(e => e.GlobalId)
                    .ToListAsync(cancel)
            );
        }

        return ids;
    }

    private async Task<IReadOnlyList<string>> NamesAsync(Guid job, IReadOnlyList<string> ids, CancellationToken cancel)
    {
        var newest = (await JobState.LoadAsync(db, job, cancel)).Newest.ToList();
        return
        [
            .. (
                await db
                    .Elements.AsNoTracking()
                    .Where(e => newest.Contains(e.RevisionId) && ids.Contains(e.GlobalId))
                    .Select(e => new { e.RevisionId, e.Number })
                    .ToListAsync(cancel)
            ).Select(e => $"{e.RevisionId}.{e.Number}"),
        ];
    }

    private sealed record BrowserCamera(double[]? Eye, double[]? At, double[]? Up, double? Degrees, double? Height);

    private sealed record BrowserPaint(string? Colour, string[]? Elements);

    private sealed record BrowserView(
        BrowserCamera? Camera,
        double[]? Cut,
        Dictionary<string, string[]>? Off,
        string[]? Hidden,
        string[]? Only,
        string? Picked,
        string[]? Marked,
        double[][]? Planes,
        BrowserPaint[]? Colours
    );
}

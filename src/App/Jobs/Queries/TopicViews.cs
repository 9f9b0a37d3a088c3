using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>What the browser shows as a viewpoint, and a viewpoint as an address of the combined view.</summary>
/// <param name="db">The database.</param>
/// <param name="kept">Names elements for the browser.</param>
public sealed class TopicViews(LintelDb db, KeptViews kept)
{
    private const string Rooms = "IfcSpace";

    /// <summary>The viewpoint that the browser shows, in the job's frame.</summary>
    /// <param name="state">The job.</param>
    /// <param name="shown">The view as the browser has it (view-state.js).</param>
    /// <param name="aspect">Width of the picture by its height.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="RefusedException">It is no view.</exception>
    public async Task<ViewInfo> ReadAsync(JobState state, string shown, double? aspect, CancellationToken cancel)
    {
        try
        {
            var (view, elements) = await kept.ReadAsync(state.Job, shown, cancel);
            if (view.Eye is null || view.At is null)
                throw new RefusedException(RefusalKind.Wrong, "The view has no camera; load the page again.");
            var (all, exceptions) = await VisibleAsync(state, view, cancel);
            return ViewTranslation.FromDocument(
                Guid.NewGuid().ToString(),
                view.Picked.Count > 0 ? view : view with { Picked = elements },
                all,
                exceptions,
                aspect is > 0.05 and < 20 ? aspect : null
            );
        }
        catch (OrderException e)
        {
            throw new RefusedException(RefusalKind.Wrong, e.Message);
        }
    }

    /// <summary>The part of an address of the combined view that shows a viewpoint.</summary>
    /// <param name="job">The job.</param>
    /// <param name="view">The viewpoint.</param>
    /// <param name="frame">From its frame into the job's.</param>
    /// <param name="cancel">Stops it.</param>
    public Task<string> AddressAsync(Guid job, ViewInfo view, Frame frame, CancellationToken cancel) =>
        kept.AddressAsync(job, ViewTranslation.ToDocument(ViewMove.Into(view, frame)), cancel);

    /// <summary>Those of some elements that the newest revisions do not have.</summary>
    public async Task<IReadOnlyList<string>> GoneAsync(
        JobState state,
        IReadOnlyCollection<string> ids,
        CancellationToken cancel
    )
    {
        var newest = state.Newest.ToList();
        var here = await db
            .Elements.Where(e => newest.Contains(e.RevisionId) && ids.Contains(e.GlobalId))
            .Select(e => e.GlobalId)
            .Distinct()
            .ToListAsync(cancel);
        return [.. ids.Except(here)];
    }

    // What is switched off is named element by element: another program knows neither our storeys nor our sources. Of those that are
    // shown and those that are not, the fewer.
    private async Task<(bool All, IReadOnlyList<string> Exceptions)> VisibleAsync(
        JobState state,
        ViewDocument view,
        CancellationToken cancel
    )
    {
        if (view.Only is { } only)
            return (false, only);
        var off = view.Off with { Class = [.. view.Off.Class.Where(c => c != Rooms)] };
        if (off.Source.Count + off.Storey.Count + off.Class.Count + off.Layer.Count == 0)
            return (true, view.Hidden);
        var document = new OrderDocument { Rules = (view with { Off = off, Cut = null }).Rules() };
        var order = document.ToOrder(await new JobLibrary(db).LoadAsync(state.Job, document, cancel));
        var selection = order.Selection.On(state.Schedule, state.Storeys, state.Sources.Count);
        List<string> shown = [],
            hidden = [];
        foreach (var revision in await OrderPreview.RevisionsAsync(db, state, document, cancel))
        foreach (
            var (id, matches) in await new ElementQuery(db).EachAsync(
                revision,
                selection,
                null,
                null,
                int.MaxValue,
                cancel
            )
        )
            (selection.Judge(n => matches[n]).Reason is null ? shown : hidden).Add(id);
        return shown.Count < hidden.Count ? (false, shown) : (true, hidden);
    }
}

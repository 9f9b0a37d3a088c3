using System.Buffers.Binary;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Web.Views;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>What the picture of the combined view is made of.</summary>
public sealed partial class CombineModel
{
    /// <summary>What there is to draw: sources, storeys, chunks.</summary>
    public async Task<IActionResult> OnGetSceneAsync()
    {
        var state = await StateAsync();
        var index = new ViewIndex(state);
        var far = (await FarAsync(state)).Select(f => f.Source.Source.Id).ToHashSet();
        var ids = state
            .Sources.Select(s => far.Contains(s.Source.Id) ? Guid.Empty : s.Latest?.Id ?? Guid.Empty)
            .ToList();
        var chunks = await view.ChunksAsync(ids, HttpContext.RequestAborted);
        var versions = chunks
            .GroupBy(c => c.RevisionId)
            .ToDictionary(g => g.Key, g => CombinedView.PictureVersion(g.Select(c => c.Hash)));
        return new JsonResult(
            new
            {
                sources = state.Sources.Select(s => new
                {
                    id = s.Latest?.Id,
                    label = s.Label,
                    colour = s.Source.Party.Colour,
                    elements = s.Latest?.Elements ?? 0,
                    frame = Numbers(s.Frame),
                    picture = versions.GetValueOrDefault(s.Latest?.Id ?? Guid.Empty),
                }),
                rungs = state.Schedule.Rungs.Select(r => new { r.Name, r.Elevation }),
                chunks = chunks.Select(c => new
                {
                    source = ids.IndexOf(c.RevisionId),
                    hash = c.Hash,
                    triangles = c.Triangles,
                    storey = index.Rung(ids.IndexOf(c.RevisionId), c.Storey),
                    @class = index.Class(c.Class),
                }),
                names = new
                {
                    source = index.Sources,
                    storey = index.RungNames,
                    @class = index.Classes,
                    layer = index.Layers,
                    sheet = Placed(state).Select(d => ViewIndex.NameOf(d)),
                },
                notation = ReaderUnit.Word,
                topics = await TopicsAsync(),
                sheets = Sheets(state, index),
                spaces = index.Class("IfcSpace"),
            }
        );
    }

    /// <summary>Changes in a source since an older revision: numbers of elements of its newest, and the older revision itself for what
    /// was removed.</summary>
    public async Task<IActionResult> OnGetChangesAsync(Guid changes, int old)
    {
        var state = await StateAsync();
        int source = state.Sources.ToList().FindIndex(s => s.Source.Id == changes);
        if (
            source < 0
            || state.Sources[source].Latest is not { } latest
            || await view.ChangesAsync(Job.Id, changes, latest.Id, old, HttpContext.RequestAborted) is not { } since
        )
            return NotFound();
        var index = new ViewIndex(state);
        var cells = since.Removed.Select(r => (r.Storey, r.Class)).ToHashSet();
        return new JsonResult(
            new
            {
                source,
                since.Picture.Added,
                since.Picture.Changed,
                removed = since.Removed.Select(r =>
                    new[]
                    {
                        r.Number,
                        index.Rung(source, since.Storeys.GetValueOrDefault(r.Storey, -1)),
                        index.ClassOrFirst(r.Class),
                        index.LayerOrFirst(r.Layer),
                    }
                ),
                old = new
                {
                    id = since.Older,
                    label = $"{state.Sources[source].Title} r{old}",
                    colour = "#b3261e",
                    elements = since.Elements,
                    frame = Numbers(since.Frame),
                },
                chunks = since
                    .Chunks.Where(c => cells.Contains((c.Storey, c.Class)))
                    .Select(c => new
                    {
                        source = state.Sources.Count,
                        hash = c.Hash,
                        triangles = c.Triangles,
                        storey = 0,
                        @class = index.ClassOrFirst(c.Class),
                    }),
            }
        );
    }

    /// <summary>For every element of a source, three numbers of two bytes: its storey, class and layer in the chips.</summary>
    public async Task<IActionResult> OnGetElementsAsync(int source)
    {
        var state = await StateAsync();
        if (source < 0 || source >= state.Sources.Count || state.Sources[source].Latest is not { } latest)
            return NotFound();
        var index = new ViewIndex(state);
        var bytes = new byte[latest.Elements * 6];
        await foreach (var e in view.PlacesAsync(latest.Id).WithCancellation(HttpContext.RequestAborted))
        {
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan(e.Number * 6), (ushort)index.Rung(source, e.Storey));
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan((e.Number * 6) + 2), (ushort)index.Class(e.Class));
            BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan((e.Number * 6) + 4), (ushort)index.Layer(e.Layer));
        }

        return File(bytes, "application/octet-stream");
    }

    /// <summary>All pieces of a revision's picture in one answer, but for rooms.</summary>
    /// <param name="id">The revision.</param>
    /// <param name="version">As the scene names it.</param>
    public async Task<IActionResult> OnGetPictureAsync(Guid id, string version)
    {
        if (version != await view.PictureVersionAsync(Job.Id, id, HttpContext.RequestAborted))
            return NotFound();
        await pictures.WriteAsync(view, id, version, Response, HttpContext.RequestAborted);
        return new EmptyResult();
    }

    /// <summary>A chunk's content; its address never changes meaning, so it may be kept for ever.</summary>
    public async Task<IActionResult> OnGetChunkAsync(string hash)
    {
        var bytes = await view.ChunkAsync(Job.Id, hash, HttpContext.RequestAborted);
        if (bytes is null)
            return NotFound();
        Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        Response.Headers.ContentEncoding = "br";
        return File(bytes, "model/vnd.steady-lintel.chunk");
    }
}

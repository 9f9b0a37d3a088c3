using System.Globalization;
using System.Runtime.InteropServices;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

// What the page computes: the drawing as prepared, its scale, what was picked, and its place.
public sealed partial class DeskModel
{
    private async Task<bool> FindAsync(Guid id)
    {
        var cancel = HttpContext.RequestAborted;
        State = await StateAsync();
        if (
            State.Drawings.FirstOrDefault(s => s.Source.Id == id) is not { Latest: not null } source
            || !MaySeeFiles(source.Source.PartyId)
        )
            return false;
        Source = source;
        History = await query.HistoryAsync(id, cancel);
        return true;
    }

    private async Task<Drawing> PreparedAsync()
    {
        var drawing = await ReadAsync();
        if (await TryStepsAsync() is { } steps)
            await Task.Run(
                () => DrawingPreparation.Run(drawing, steps, HttpContext.RequestAborted),
                HttpContext.RequestAborted
            );
        return drawing;
    }

    private async Task<Drawing> ReadAsync()
    {
        var (drawing, open) = await desk.ReadAsync(Job.Id, Source, MaySeeFiles, HttpContext.RequestAborted);
        OpenReferences = open;
        return drawing;
    }

    // The steps with what the pressed button does to them; a step that makes no sense becomes a sentence, and the list stays.
    private PreparationDocument? TrySteps()
    {
        try
        {
            return PreparationDocument.Read(Form.Steps);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
            return null;
        }
    }

    private async Task<PreparationDocument?> TryStepsAsync() =>
        TrySteps() is { } steps ? await library.WithAsync(Job.Id, steps, HttpContext.RequestAborted) : null;

    private async Task RunAsync(Drawing drawing)
    {
        if (await TryStepsAsync() is { } steps)
            Results = (
                await Task.Run(
                    () => DrawingPreparation.Run(drawing, steps, HttpContext.RequestAborted),
                    HttpContext.RequestAborted
                )
            ).Steps;
    }

    private async Task WorkAsync()
    {
        var cancel = HttpContext.RequestAborted;
        Details = await library.ListAsync(Job.Id, cancel);
        var drawing = await ReadAsync();
        var known = new List<KnownLength>();
        try
        {
            known.AddRange(
                (Form.Known ?? "")
                    .Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                    .Select(KnownLength.Read)
            );
        }
        catch (OrderException e)
        {
            Problem = e.Message;
        }

        Scale = await Task.Run(() => ScaleReader.Read(drawing, known), cancel);
        string? before = Form.Steps;
        bool windowed = Form.Act == "window";
        Act();
        int came = drawing.Model.Entities.Count;
        await RunAsync(drawing);
        if (windowed && Problem is null && came > 0 && drawing.Model.Entities.Count == 0)
        {
            Problem = "The window holds nothing, so it was not added. Draw it around what you want to have.";
            Form = Form with { Steps = before };
            drawing = await ReadAsync();
            await RunAsync(drawing);
        }

        Count = (came, drawing.Model.Entities.Count);
        Layers =
        [
            .. drawing
                .Model.Entities.CountBy(e => drawing.LayerName(e.Layer))
                .OrderByDescending(l => l.Value)
                .Select(l => (l.Key, l.Value)),
        ];
        Kinds =
        [
            .. drawing
                .Model.Entities.CountBy(e => e.Type)
                .OrderByDescending(k => k.Value)
                .Select(k => (k.Key, k.Value)),
        ];
        Colours =
        [
            .. drawing
                .Model.Entities.CountBy(e => DrawingPreparation.ColourOf(drawing, e))
                .OrderByDescending(c => c.Value)
                .Select(c => (c.Key, c.Value)),
        ];
        Pick(drawing);
        if (Metres is { } metres)
            await PlaceAsync(drawing, metres, cancel);
    }

    // What the pressed button does to the steps.
    private void Act()
    {
        try
        {
            Form = Form.Acted(DetailScale);
        }
        catch (OrderException e)
        {
            Problem = e.Message;
            Form = Form with { Act = null };
        }
    }

    // Units of this drawing in a unit of a detail: both know how long theirs is.
    private double DetailScale(string name) =>
        Details.FirstOrDefault(d => d.Name == name) is not { } detail
            ? throw new OrderException("Choose a detail of the library first.")
            : detail.Facts.MetresPerUnit
                / (
                    Metres
                    ?? throw new OrderException(
                        "Nothing says how long a unit of this drawing is, so a detail has no size in it: measure one known length first."
                    )
                );

    private void Pick(Drawing drawing)
    {
        if (Form.At is [var x, var y] && Form.Act == "pick")
            Form = Form with
            {
                Picked = SnapPoints
                    .Nearest(drawing, new Vec2(x, y))
                    ?.Handle.Value.ToString("X", CultureInfo.InvariantCulture),
            };
        if (
            drawing.Model.Entities.FirstOrDefault(e =>
                e.Handle.Value.ToString("X", CultureInfo.InvariantCulture) == Form.Picked
            )
            is not { } entity
        )
            return;
        PickedEntity = $"{entity.Type} {Form.Picked} on {drawing.LayerName(entity.Layer)}";
        PickedColour = $"#{DrawingPreparation.ColourOf(drawing, entity):x6}";
        PickedHatch = entity is Hatch;
        PickedText = entity switch
        {
            TextEntity t => t.Value,
            MText t => t.Value,
            _ => null,
        };
    }

    private async Task PlaceAsync(Drawing drawing, double metres, CancellationToken cancel)
    {
        try
        {
            Placing = Form.Way switch
            {
                "grids" => SheetPlacing.ByGrids(metres, DrawingGrids.Of(drawing, metres), await AxesAsync(cancel)),
                "points" => SheetPlacing.ByPoints(metres, Form.Pairs()),
                "upright" => await UprightAsync(drawing, metres, cancel),
                "typed" => SheetPlacing.Typed(metres, new Vec2(Length(Form.X), Length(Form.Y)), Form.Degrees()),
                _ => SheetPlacing.Typed(metres, default, 0),
            };
        }
        catch (Exception e) when (e is FormatException or OrderException)
        {
            Problem = e.Message;
        }

        double Length(string? text) => string.IsNullOrWhiteSpace(text) ? 0 : LengthText.Read(text, ReaderUnit.Notation);
    }

    // Along a typed line, or along an axis of the chosen model.
    private async Task<SheetPlacing> UprightAsync(Drawing drawing, double metres, CancellationToken cancel)
    {
        var marks = await Task.Run(() => LevelMarks.Of(drawing), cancel);
        string line = (Form.Line ?? "").Trim();
        if (Form.LineEnds() is ({ } from, { } to))
            return SheetPlacing.Upright(metres, from, to, marks, State.Schedule);
        var axes = (await AxesAsync(cancel)).Where(a => a.Centre is null).ToList();
        var axis = axes.FirstOrDefault(a => a.Key == PlanAxis.KeyOf(line))
            ?? throw new OrderException(
                axes.Count == 0
                    ? "Write the line as x, y, x, y in the job, metres: where the drawing's zero is, then a point in the direction of its x."
                    : $"Write the line as x, y, x, y in the job, metres, or name an axis: {string.Join(", ", axes.Select(a => a.Tag).Take(20))}."
            );
        return SheetPlacing.Upright(metres, axis.Start, axis.End, marks, State.Schedule);
    }

    // The axes of the chosen model, else of the first that has some.
    private async Task<IReadOnlyList<PlanAxis>> AxesAsync(CancellationToken cancel)
    {
        var facts = await query.FactsAsync(State, cancel);
        var on = Models
            .Where(m => facts.TryGetValue(m.Source.Id, out var f) && f.Axes.Count > 1)
            .OrderByDescending(m => m.Source.Id == Form.On)
            .ThenByDescending(m => m.SetOut is not null)
            .FirstOrDefault();
        return on is null ? [] : [.. facts[on.Source.Id].Axes.Select(a => a.In(on.Frame))];
    }
}

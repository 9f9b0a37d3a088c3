using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A part of a drawing kept by itself: what lies in a window, with its insertion point at zero and nothing that it does not
/// use. Nothing is cut.</summary>
public static class DetailCut
{
    /// <summary>Cuts a detail out.</summary>
    /// <param name="drawing">The drawing, prepared; changed in place.</param>
    /// <param name="window">Two opposite corners, or a polygon, drawing units.</param>
    /// <param name="insertion">What becomes its zero.</param>
    /// <param name="crossing">Whether what crosses the window's edge is kept too, whole; else only what lies within the window's
    /// box.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>A DXF file of the newest version.</returns>
    /// <exception cref="OrderException">The window is none, or nothing lies in it.</exception>
    public static byte[] Of(
        Drawing drawing,
        IReadOnlyList<double[]> window,
        double[] insertion,
        bool crossing = false,
        CancellationToken cancel = default
    )
    {
        var steps = PreparationDocument.Read(
            new PreparationDocument
            {
                Steps =
                [
                    new PreparationStep { Do = "window", Corners = window },
                    new PreparationStep { Do = "origin", At = insertion },
                    new PreparationStep { Do = "purge" },
                ],
            }.Write()
        );
        // Sheets are no part of a detail; only the viewport that is the paper itself stays.
        foreach (var sheet in drawing.Blocks.Where(b => b.IsPaper))
            sheet.Entities.RemoveAll(e => e is not Viewport { Id: 1 });
        if (!crossing)
            DropCrossing(drawing, steps.Steps[0].Corners!);
        DrawingPreparation.Run(drawing, steps, cancel);
        if (drawing.Model.Entities.Count == 0)
            throw new OrderException("There is nothing in this window; draw it around what is to be saved.");
        using var stream = new MemoryStream();
        CadFile.Write(drawing, stream, new CadForm(false, CadVersion.AC1032), cancel);
        return stream.ToArray();
    }

    private static void DropCrossing(Drawing drawing, IReadOnlyList<double[]> corners)
    {
        double left = corners.Min(c => c[0]),
            right = corners.Max(c => c[0]),
            low = corners.Min(c => c[1]),
            high = corners.Max(c => c[1]);
        // What has no box stays here; the window's own test decides on it.
        var crosses = drawing
            .Model.Entities.Zip(drawing.ExtentsOf(drawing.Model.Entities))
            .Where(p =>
                !p.Second.IsEmpty
                && (p.Second.Min.X < left || p.Second.Max.X > right || p.Second.Min.Y < low || p.Second.Max.Y > high)
            )
            .Select(p => p.First)
            .ToHashSet();
        drawing.Model.Entities.RemoveAll(crosses.Contains);
    }
}

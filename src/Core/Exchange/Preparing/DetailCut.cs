using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A part of a drawing kept by itself: what touches a window, with its insertion point at zero and nothing that it does not
/// use.</summary>
public static class DetailCut
{
    /// <summary>Cuts a detail out.</summary>
    /// <param name="drawing">The drawing, prepared; changed in place.</param>
    /// <param name="window">Two opposite corners, or a polygon, drawing units.</param>
    /// <param name="insertion">What becomes its zero.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>A DXF file of the newest version.</returns>
    /// <exception cref="OrderException">The window is none, or nothing lies in it.</exception>
    public static byte[] Of(Drawing drawing, IReadOnlyList<double[]> window, double[] insertion, CancellationToken cancel = default)
    {
        var steps = PreparationDocument.Read(new PreparationDocument
        {
            Steps = [new PreparationStep { Do = "window", Corners = window }, new PreparationStep { Do = "origin", At = insertion },
                new PreparationStep { Do = "purge" }],
        }.Write());
        // Sheets are no part of a detail; only the viewport that is the paper itself stays.
        foreach (var sheet in drawing.Blocks.Where(b => b.IsPaper)) sheet.Entities.RemoveAll(e => e is not Viewport { Id: 1 });
        DrawingPreparation.Run(drawing, steps, cancel);
        if (drawing.Model.Entities.Count == 0) throw new OrderException("Nothing lies in this window; draw it round what is to be kept.");
        using var stream = new MemoryStream();
        CadFile.Write(drawing, stream, new CadForm(false, CadVersion.AC1032), cancel);
        return stream.ToArray();
    }
}

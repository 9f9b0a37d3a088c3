using System.Globalization;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A detail for a sheet.</summary>
/// <param name="Name">Its name, which is written below it.</param>
/// <param name="Bytes">Its drawing, zero at its insertion point.</param>
/// <param name="MetresPerUnit">How long its unit is.</param>
public sealed record SheetDetail(string Name, byte[] Bytes, double MetresPerUnit);

/// <summary>Details side by side on paper, in rows, each at one scale with its name below.</summary>
/// <remarks>The drawing is in millimetres of the paper; each detail is a block, inserted at the scale, and stays what it is.</remarks>
public static class DetailSheet
{
    private const double Gap = 20,
        Letters = 3.5,
        Margin = 10;

    /// <summary>Draws a sheet.</summary>
    /// <param name="details">What is on it, in this order.</param>
    /// <param name="scale">n of 1:n.</param>
    /// <param name="width">How wide the paper is, millimetres; a detail that is wider has a row for itself.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="CadFormatException">A detail cannot be read.</exception>
    public static Drawing Of(
        IReadOnlyList<SheetDetail> details,
        double scale,
        double width,
        CancellationToken cancel = default
    )
    {
        var sheet = new Drawing();
        sheet.Complete();
        sheet.Units = LengthUnit.Millimetre.DxfUnits;
        var names = sheet.AddLayer("DETAIL-NAMES");
        double x = Margin,
            top = 0,
            lowest = 0;
        foreach (var detail in details)
        {
            var drawing = CadFile.Read(detail.Bytes, cancel).Drawing;
            var box = drawing.Extents();
            double factor = detail.MetresPerUnit * 1000 / scale,
                wide = Math.Max(box.Size.X * factor, Letters * detail.Name.Length),
                high = box.Size.Y * factor;
            if (x > Margin && x + wide > width - Margin)
                (x, top) = (Margin, lowest - Gap);
            var (block, _) = ReferenceBinder.Insert(sheet, detail.Name, drawing, cancel);
            sheet.Add(
                new Insert
                {
                    Block = block.Handle,
                    Location = new Vec3(x - (box.Min.X * factor), top - high - (box.Min.Y * factor), 0),
                    Scale = new Vec3(factor, factor, factor),
                }
            );
            double below = top - high - (2 * Letters);
            sheet.Add(
                new Text
                {
                    Layer = names.Handle,
                    Value = string.Create(CultureInfo.InvariantCulture, $"{detail.Name}  1:{scale:0.###}"),
                    Height = Letters,
                    Insertion = new Vec3(x, below, 0),
                }
            );
            (x, lowest) = (x + wide + Gap, Math.Min(lowest, below));
        }

        return sheet;
    }
}

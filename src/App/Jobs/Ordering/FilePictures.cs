using SkiaSharp;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Jobs;

/// <summary>Pictures of written files, made from the files themselves: who receives them sees what they hold, and nothing else of the
/// job.</summary>
public static class FilePictures
{
    /// <summary>How many files of a transmittal get one.</summary>
    public const int Most = 6;

    // Larger files would hold up their transmittal; a larger SVG, the page.
    private const long LongestFile = 128 << 20;
    private const int LongestPicture = 1 << 20,
        Width = 640,
        Height = 360;

    /// <summary>The picture of a file.</summary>
    /// <param name="path">The file: IFC, DXF or DWG.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>PNG, or SVG of a drawing; null where the file shows nothing, is of another kind, or is too large.</returns>
    public static byte[]? Of(string path, CancellationToken cancel)
    {
        if (new FileInfo(path).Length > LongestFile)
            return null;
        string kind = Path.GetExtension(path).ToUpperInvariant();
        if (kind is ".DXF" or ".DWG")
            return OfDrawing(CadFile.Read(File.ReadAllBytes(path), cancel).Drawing, cancel);
        if (kind != ".IFC")
            return null;
        using var file = DeliveredFile.Open(path, LongestFile, cancel);
        return ModelPicture.Of(ModelSnapshot.Open(file.Bytes, cancel), Width, Height, cancel) is { } raster
            ? Png(raster)
            : null;
    }

    /// <summary>What kind of picture it is, for a browser.</summary>
    public static string TypeOf(byte[] picture) =>
        picture.Length > 0 && picture[0] == (byte)'<' ? "image/svg+xml" : "image/png";

    // A drawing of bodies from outside, one of lines from above.
    private static byte[]? OfDrawing(Drawing drawing, CancellationToken cancel)
    {
        if (ModelPicture.Of(drawing, Width, Height, cancel) is { } raster)
            return Png(raster);
        return
            PlanPicture.Of(drawing, lines: Lines) is { Length: <= LongestPicture } svg
            && svg.Contains("<path", StringComparison.Ordinal)
            ? System.Text.Encoding.UTF8.GetBytes(svg)
            : null;
    }

    // Lines that are meant for a whole screen would be too thin in a small picture.
    private const int Lines = 400;

    /// <summary>A picture as PNG.</summary>
    public static byte[] Png(Raster raster)
    {
        using var bitmap = new SKBitmap(
            new SKImageInfo(raster.Width, raster.Height, SKColorType.Rgb888x, SKAlphaType.Opaque)
        );
        var pixels = new byte[raster.Width * raster.Height * 4];
        for (int n = 0; n < raster.Width * raster.Height; n++)
        {
            raster.Rgb.AsSpan(3 * n, 3).CopyTo(pixels.AsSpan(4 * n));
            pixels[(4 * n) + 3] = 255;
        }

        System.Runtime.InteropServices.Marshal.Copy(pixels, 0, bitmap.GetPixels(), pixels.Length);
        using var data = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }
}

using SkiaSharp;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>Pictures of topics for pages: what a stranger sent is shown only where it is a picture, and small where that is
/// enough.</summary>
public sealed class TopicPictures
{
    // Twice the size on the page, for fine screens.
    private const int SmallWidth = 160;

    private const long MostPixels = 40_000_000,
        MostBytes = 64 << 20;

    /// <summary>A part as a picture: its bytes and their media type; null where it is none.</summary>
    public (byte[] Bytes, string Type)? Of(TopicPart part, bool small, CancellationToken cancel)
    {
        if (!part.IsPicture || part.Length > MostBytes)
            return null;
        byte[] bytes = part.Bytes(cancel);
        string type = bytes[0] == 0xFF ? "image/jpeg" : "image/png";
        return small ? Small(bytes) : (bytes, type);
    }

    private static (byte[], string)? Small(byte[] bytes)
    {
        using var codec = SKCodec.Create(new SKMemoryStream(bytes));
        if (codec is null || (long)codec.Info.Width * codec.Info.Height > MostPixels)
            return null;
        using var whole = SKBitmap.Decode(codec);
        if (whole is null || whole.Width == 0 || whole.Height == 0)
            return null;
        int width = Math.Min(SmallWidth, whole.Width),
            height = Math.Max(1, (int)Math.Round((double)whole.Height * width / whole.Width));
        using var scaled = whole.Resize(
            new SKImageInfo(width, height),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        if (scaled is null)
            return null;
        using var image = SKImage.FromBitmap(scaled);
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return (data.ToArray(), "image/png");
    }
}

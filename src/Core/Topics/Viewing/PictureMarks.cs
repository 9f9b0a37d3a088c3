using System.Text.Json;
using System.Text.RegularExpressions;
using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>What somebody drew on the picture of a view: arrows, clouds and texts, as lines over the picture.</summary>
/// <remarks>A file of the topic beside the picture without them, <c>marks-GUID.json</c>; other programs show the picture that has them
/// drawn in.</remarks>
/// <param name="Width">Width of the picture, points.</param>
/// <param name="Height">Its height, points.</param>
/// <param name="Marks">The marks, in the order they were drawn.</param>
public sealed partial record PictureMarks(int Width, int Height, IReadOnlyList<PictureMark> Marks)
{
    private const int Most = 200,
        LongestPath = 20_000,
        LongestText = 200,
        Largest = 10_000;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { MaxDepth = 8 };

    /// <summary>Reads marks.</summary>
    /// <exception cref="OrderException">They are none, or too many.</exception>
    public static PictureMarks Read(string json)
    {
        PictureMarks? marks;
        try
        {
            marks = JsonSerializer.Deserialize<PictureMarks>(json, Json);
        }
        catch (JsonException)
        {
            throw Wrong();
        }

        if (marks is not { Marks: { Count: <= Most } list, Width: > 0 and <= Largest, Height: > 0 and <= Largest })
            throw Wrong();
        foreach (var mark in list)
            if (mark is null || !IsSound(mark))
                throw Wrong();
        return marks;
    }

    /// <summary>The marks as text.</summary>
    public string Write() => JsonSerializer.Serialize(this, Json);

    // A path of SVG 2, 9.3, and nothing else; a text with its place.
    private static bool IsSound(PictureMark mark) =>
        mark.Text is null
            ? mark.Path is { Length: > 0 and <= LongestPath } path && PathData().IsMatch(path)
            : mark.Text.Length is > 0 and <= LongestText && double.IsFinite(mark.X) && double.IsFinite(mark.Y);

    private static OrderException Wrong() => new("What was drawn on the picture cannot be read; draw it again.");

    [GeneratedRegex(@"^[MLAQCZ0-9 .,\-]+$")]
    private static partial Regex PathData();
}

/// <summary>A mark: a path, or a text at a place.</summary>
/// <param name="Path">Path data of SVG, points of the picture; null for a text.</param>
/// <param name="Text">The text; null for a path.</param>
/// <param name="X">Where the text begins, from the left.</param>
/// <param name="Y">Its line, from above.</param>
public sealed record PictureMark(string? Path, string? Text, double X, double Y);

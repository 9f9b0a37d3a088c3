using PdfSharp.Pdf;

namespace SteadyLintel.Web;

/// <summary>A topic of a printed report.</summary>
/// <param name="Title">Number and title.</param>
/// <param name="Facts">What it says of itself, in one line.</param>
/// <param name="Question">What is asked.</param>
/// <param name="Thread">The comments, a text each.</param>
/// <param name="Picture">PNG or JPEG; null for none.</param>
public sealed record TopicPdfEntry(
    string Title,
    string Facts,
    string Question,
    IReadOnlyList<string> Thread,
    byte[]? Picture
);

/// <summary>Prints a report of topics as PDF, A4 upright.</summary>
public static class TopicPdf
{
    private const double PictureHeight = 200;

    /// <summary>Writes it.</summary>
    /// <param name="title">The title.</param>
    /// <param name="topics">The topics.</param>
    public static byte[] Write(string title, IEnumerable<TopicPdfEntry> topics)
    {
        using var document = new PdfDocument();
        document.Info.Title = title;
        document.Info.Creator = "Steady Lintel";
        var printer = new PdfPrinter(document, title);
        printer.Text(title, 15, true);
        foreach (var topic in topics)
        {
            printer.Gap(14);
            printer.Room(topic.Picture is null ? 60 : PictureHeight + 60);
            printer.Text(topic.Title, 11.5, true);
            printer.Text(topic.Facts, 8.5, false);
            if (topic.Picture is { } picture)
                printer.Picture(picture, PictureHeight);
            foreach (string line in topic.Question.Split('\n'))
                printer.Text(line, 9.5, false);
            foreach (string said in topic.Thread.SelectMany(t => t.Split('\n')))
                printer.Text(said, 9, false);
        }

        printer.End();
        using var stream = new MemoryStream();
        document.Save(stream, false);
        return stream.ToArray();
    }
}

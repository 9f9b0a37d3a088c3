using PdfSharp.Drawing;
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
    private const double Margin = 42,
        PictureHeight = 200;

    /// <summary>Writes it.</summary>
    /// <param name="title">The title.</param>
    /// <param name="topics">The topics.</param>
    public static byte[] Write(string title, IEnumerable<TopicPdfEntry> topics)
    {
        using var document = new PdfDocument();
        document.Info.Title = title;
        document.Info.Creator = "Steady Lintel";
        var printer = new Printer(document);
        printer.Text(title, 15, true);
        foreach (var topic in topics)
        {
            printer.Gap(14);
            printer.Keep(topic.Picture is null ? 60 : PictureHeight + 60);
            printer.Text(topic.Title, 11.5, true);
            printer.Text(topic.Facts, 8.5, false);
            if (topic.Picture is { } picture)
                printer.Picture(picture);
            printer.Text(topic.Question, 9.5, false);
            foreach (string said in topic.Thread)
                printer.Text(said, 9, false);
        }

        printer.End();
        using var stream = new MemoryStream();
        document.Save(stream, false);
        return stream.ToArray();
    }

    private sealed class Printer(PdfDocument document)
    {
        private XGraphics? _graphics;
        private PdfPage _page = null!;
        private double _y = double.MaxValue;

        private double Width => _page.Width.Point - (2 * Margin);

        public void Gap(double points) => _y += points;

        public void End() => _graphics?.Dispose();

        // A new page where so much does not fit.
        public void Keep(double height)
        {
            if (_graphics is not null && _y + height <= _page.Height.Point - Margin)
                return;
            _graphics?.Dispose();
            _page = document.AddPage();
            _page.Size = PdfSharp.PageSize.A4;
            _graphics = XGraphics.FromPdfPage(_page);
            _y = Margin;
        }

        public void Text(string text, double size, bool bold)
        {
            if (text.Length == 0)
                return;
            var font = new XFont("Sheet", size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);
            foreach (string paragraph in text.Split('\n'))
            foreach (string line in Lines(paragraph, font))
            {
                Keep(size * 1.5);
                _graphics!.DrawString(line, font, XBrushes.Black, Margin, _y + size);
                _y += size * 1.4;
            }
        }

        public void Picture(byte[] bytes)
        {
            XImage image;
            try
            {
                image = XImage.FromStream(new MemoryStream(bytes));
            }
            catch (Exception e)
                when (e is InvalidOperationException or ArgumentException or NotSupportedException or IOException)
            {
                // What a stranger called a picture.
                Text("The picture cannot be read.", 8.5, false);
                return;
            }

            using (image)
            {
                Keep(PictureHeight + 8);
                double scale = Math.Min(Width / image.PixelWidth, PictureHeight / image.PixelHeight);
                _graphics!.DrawImage(image, Margin, _y + 4, image.PixelWidth * scale, image.PixelHeight * scale);
                _y += (image.PixelHeight * scale) + 10;
            }
        }

        private IEnumerable<string> Lines(string paragraph, XFont font)
        {
            Keep(font.Size * 1.5);
            string line = "";
            foreach (string word in paragraph.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                string wider = line.Length == 0 ? word : $"{line} {word}";
                if (line.Length > 0 && _graphics!.MeasureString(wider, font).Width > Width)
                {
                    yield return line;
                    wider = word;
                }

                line = wider;
            }

            if (line.Length > 0)
                yield return line;
        }
    }
}

using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace SteadyLintel.Web;

/// <summary>Prints texts, tables and pictures on pages of A4, upright, with title and number at the foot of each.</summary>
/// <param name="document">Gets the pages.</param>
/// <param name="title">What is at the foot of each page.</param>
internal sealed class PdfPrinter(PdfDocument document, string title)
{
    private const double Margin = 42,
        Line = 12.5;
    private const string Family = SheetPdf.Family;

    private static readonly XFont Small = new(Family, 8),
        Head = new(Family, 8, XFontStyleEx.Bold);
    private XGraphics? _graphics;
    private PdfPage _page = null!;
    private double _y = double.MaxValue;
    private int _number;

    private double Width => _page.Width.Point - (2 * Margin);

    public void Gap(double points) => _y += points;

    public void Text(string text, double size, bool bold)
    {
        var font = new XFont(Family, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);
        foreach (string line in Wrapped(text, font, () => Width))
        {
            Room(size * 1.5);
            _graphics!.DrawString(line, font, XBrushes.Black, Margin, _y + size);
            _y += size * 1.45;
        }
    }

    public void Pair(string name, string value)
    {
        Room(Line);
        _graphics!.DrawString(name, Head, XBrushes.Black, Margin, _y + 8);
        foreach (string line in Wrapped(value, Small, () => Width - 80))
        {
            Room(Line);
            _graphics!.DrawString(line, Small, XBrushes.Black, Margin + 80, _y + 8);
            _y += Line;
        }
    }

    public void Table(SheetTable table)
    {
        Room(Line * 4);
        _y += 12;
        _graphics!.DrawString(table.Title, new XFont(Family, 10, XFontStyleEx.Bold), XBrushes.Black, Margin, _y + 8);
        _y += 16;
        double[] widths = Widths(table);
        Row(table, [.. table.Headings], widths, Head);
        foreach (string[] row in table.Rows)
            Row(table, row, widths, Small);
    }

    public void End() => _graphics?.Dispose();

    private void Row(SheetTable table, string[] cells, double[] widths, XFont font)
    {
        var lines = cells.Select((c, n) => Wrapped(c, font, () => widths[n] - 6).ToList()).ToList();
        int height = lines.Max(l => l.Count);
        Room(height * 10.5);
        double x = Margin;
        for (int c = 0; c < cells.Length; c++)
        {
            for (int l = 0; l < lines[c].Count; l++)
            {
                double at = table.IsFigures(c)
                    ? x + widths[c] - 6 - _graphics!.MeasureString(lines[c][l], font).Width
                    : x;
                _graphics!.DrawString(lines[c][l], font, XBrushes.Black, at, _y + 8 + (l * 10.5));
            }

            x += widths[c];
        }

        _y += (height * 10.5) + 2;
        _graphics!.DrawLine(new XPen(XColors.LightGray, 0.5), Margin, _y - 1, Margin + Width, _y - 1);
    }

    // As wide as the widest cell, and no column wider than what is left for all.
    private double[] Widths(SheetTable table)
    {
        double[] wanted =
        [
            .. table.Headings.Select(
                (h, c) => 10 + table.Rows.Select(r => r[c]).Append(h).Max(t => _graphics!.MeasureString(t, Head).Width)
            ),
        ];
        double all = wanted.Sum();
        if (all <= Width)
            return wanted;
        double widest = Width / table.Headings.Count;
        double fixedSum = wanted.Where(w => w <= widest).Sum(),
            rest = wanted.Where(w => w > widest).Sum();
        return [.. wanted.Select(w => w <= widest ? w : w * (Width - fixedSum) / rest)];
    }

    // Words, and pieces of words that are longer than the line.
    private IEnumerable<string> Wrapped(string text, XFont font, Func<double> width)
    {
        if (_graphics is null)
            NewPage();
        double most = width();
        string line = "";
        foreach (string word in text.Split(' '))
        {
            string next = line.Length == 0 ? word : $"{line} {word}";
            if (_graphics!.MeasureString(next, font).Width <= most)
            {
                line = next;
                continue;
            }

            if (line.Length > 0)
                yield return line;
            line = word;
            while (_graphics.MeasureString(line, font).Width > most && line.Length > 1)
            {
                int fits = line.Length;
                while (fits > 1 && _graphics.MeasureString(line[..fits], font).Width > most)
                    fits--;
                yield return line[..fits];
                line = line[fits..];
            }
        }

        yield return line;
    }

    /// <summary>A picture, as wide as the page or as high as is said; a sentence where its bytes are none.</summary>
    public void Picture(byte[] bytes, double height)
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
            Room(height + 8);
            double scale = Math.Min(Width / image.PixelWidth, height / image.PixelHeight);
            _graphics!.DrawImage(image, Margin, _y + 4, image.PixelWidth * scale, image.PixelHeight * scale);
            _y += (image.PixelHeight * scale) + 10;
        }
    }

    /// <summary>Goes to the next page where so much does not fit on this one.</summary>
    public void Room(double points)
    {
        if (_graphics is null || _y + points > _page.Height.Point - Margin)
            NewPage();
    }

    private void NewPage()
    {
        _graphics?.Dispose();
        _page = document.AddPage();
        _page.Size = PdfSharp.PageSize.A4;
        _graphics = XGraphics.FromPdfPage(_page);
        _y = Margin;
        _number++;
        _graphics.DrawString(
            $"{title} · page {_number}",
            new XFont(Family, 7),
            XBrushes.Gray,
            Margin,
            _page.Height.Point - 20
        );
    }
}

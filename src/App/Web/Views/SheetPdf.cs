using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace SteadyLintel.Web;

/// <summary>Prints a sheet as PDF, A4 upright.</summary>
public static class SheetPdf
{
    private const double Margin = 42,
        Line = 12.5;
    private const string Family = "Sheet";

    /// <summary>Says where the font lies that ships with the application.</summary>
    /// <param name="files">The files of the web root.</param>
    public static void UseFonts(Microsoft.Extensions.FileProviders.IFileProvider files) =>
        GlobalFontSettings.FontResolver ??= new Fonts(files);

    /// <summary>Writes a sheet.</summary>
    public static byte[] Write(TransmittalSheet sheet)
    {
        using var document = new PdfDocument();
        document.Info.Title = sheet.Title;
        document.Info.Creator = "Steady Lintel";
        var page = new Printer(document, sheet.Title);
        page.Text(sheet.Title, 15, true);
        page.Text(sheet.Verdict, 10.5, true);
        page.Gap(4);
        foreach (var (name, value) in sheet.Facts)
            page.Pair(name, value);
        foreach (var table in sheet.Tables)
            page.Table(table);
        page.End();
        using var stream = new MemoryStream();
        document.Save(stream, false);
        return stream.ToArray();
    }

    private sealed class Printer(PdfDocument document, string title)
    {
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
            _graphics!.DrawString(
                table.Title,
                new XFont(Family, 10, XFontStyleEx.Bold),
                XBrushes.Black,
                Margin,
                _y + 8
            );
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
                    (h, c) =>
                        10 + table.Rows.Select(r => r[c]).Append(h).Max(t => _graphics!.MeasureString(t, Head).Width)
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

        private void Room(double points)
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

    private sealed class Fonts(Microsoft.Extensions.FileProviders.IFileProvider files) : IFontResolver
    {
        public FontResolverInfo ResolveTypeface(string familyName, bool bold, bool italic) =>
            new(bold ? "DejaVuSansCondensed-Bold" : "DejaVuSansCondensed");

        public byte[] GetFont(string faceName)
        {
            using var stream = files.GetFileInfo($"lib/{faceName}.ttf").CreateReadStream();
            using var bytes = new MemoryStream();
            stream.CopyTo(bytes);
            return bytes.ToArray();
        }
    }
}

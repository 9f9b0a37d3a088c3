using System.Globalization;
using System.IO.Compression;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace SteadyLintel.Exchange;

/// <summary>A workbook with one sheet (ECMA-376 part 1, SpreadsheetML).</summary>
internal static class Workbook
{
    private const long MaxUnpacked = 256L << 20;
    private const int MaxParts = 1000;

    /// <summary>Reads the first sheet.</summary>
    /// <exception cref="OrderException">It is no workbook, or too large.</exception>
    public static List<(int Number, IReadOnlyList<string> Cells)> Read(
        ReadOnlyMemory<byte> bytes,
        int maxRows,
        int maxColumns
    )
    {
        try
        {
            CheckSize(bytes);
            using var document = SpreadsheetDocument.Open(new MemoryStream(bytes.ToArray(), false), false);
            var book = document.WorkbookPart ?? throw new OrderException("The file is no workbook.");
            var sheet = book.Workbook?.Descendants<Sheet>().FirstOrDefault()
                ?? throw new OrderException("The workbook has no sheet.");
            string[] shared =
            [
                .. book.SharedStringTablePart?.SharedStringTable?.Elements<SharedStringItem>().Select(s => s.InnerText)
                    ?? [],
            ];
            var part = (WorksheetPart)book.GetPartById(sheet.Id!.Value!);
            var rows = new List<(int, IReadOnlyList<string>)>();
            using var reader = OpenXmlReader.Create(part);
            while (reader.Read())
            {
                if (reader.ElementType != typeof(Row) || !reader.IsStartElement)
                    continue;
                var row = (Row)reader.LoadCurrentElement()!;
                if (rows.Count > maxRows)
                    throw new OrderException($"The table has more than {maxRows} rows; split it.");
                rows.Add(((int)(row.RowIndex?.Value ?? (uint)rows.Count + 1), Cells(row, shared, maxColumns)));
            }

            return rows;
        }
        catch (Exception e)
            when (e
                    is InvalidDataException
                        or OpenXmlPackageException
                        or FormatException
                        or System.Xml.XmlException
                        or InvalidCastException
                        or ArgumentException
                        or KeyNotFoundException
                        or FileFormatException
                        or InvalidOperationException
                        or NotSupportedException
                        or NullReferenceException
                        or IOException
            )
        {
            // The package's reader stumbles over parts that a damaged package lacks.
            throw new OrderException(
                "The file begins like a workbook and cannot be read as one; export the table again as XLSX or CSV."
            );
        }
    }

    /// <summary>Writes rows.</summary>
    public static byte[] Write(IEnumerable<IReadOnlyList<object?>> rows, string sheet)
    {
        using var stream = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(stream, SpreadsheetDocumentType.Workbook))
        {
            var book = document.AddNewPart<WorkbookPart>(
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml",
                "rId1"
            );
            var part = book.AddNewPart<WorksheetPart>("rId1");
            using (var writer = OpenXmlWriter.Create(part))
            {
                writer.WriteStartElement(new Worksheet());
                writer.WriteStartElement(new SheetData());
                uint number = 0;
                foreach (var row in rows)
                    WriteRow(writer, row, ++number);
                writer.WriteEndElement();
                writer.WriteEndElement();
            }

            book.Workbook = new DocumentFormat.OpenXml.Spreadsheet.Workbook(
                new Sheets(
                    new Sheet
                    {
                        Id = "rId1",
                        SheetId = 1,
                        Name = SheetName(sheet),
                    }
                )
            );
        }

        return Timeless(stream.ToArray());
    }

    private static void WriteRow(OpenXmlWriter writer, IReadOnlyList<object?> row, uint number)
    {
        writer.WriteStartElement(new Row { RowIndex = number });
        for (int c = 0; c < row.Count; c++)
        {
            if (row[c] is null or "")
                continue;
            var cell = new Cell { CellReference = Column(c) + number.ToString(CultureInfo.InvariantCulture) };
            switch (row[c])
            {
                case bool truth:
                    cell.DataType = CellValues.Boolean;
                    cell.CellValue = new CellValue(truth ? "1" : "0");
                    break;
                case double or int or long:
                    cell.CellValue = new CellValue(TableFile.Text(row[c]));
                    break;
                default:
                    cell.DataType = CellValues.InlineString;
                    cell.InlineString = new InlineString(
                        new Text(Printable(TableFile.Text(row[c]))) { Space = SpaceProcessingModeValues.Preserve }
                    );
                    break;
            }

            writer.WriteElement(cell);
        }

        writer.WriteEndElement();
    }

    private static string[] Cells(Row row, string[] shared, int maxColumns)
    {
        var cells = new List<string>();
        foreach (var cell in row.Elements<Cell>())
        {
            int column = cell.CellReference?.Value is { } reference ? Column(reference) : cells.Count;
            if (column < 0 || column >= maxColumns)
                throw new OrderException($"Row {row.RowIndex} has more than {maxColumns} columns.");
            while (cells.Count <= column)
                cells.Add("");
            cells[column] = Value(cell, shared);
        }

        return [.. cells];
    }

    private static string Value(Cell cell, string[] shared)
    {
        string raw = cell.CellValue?.InnerText ?? "";
        if (cell.DataType is null)
            return raw;
        if (cell.DataType.Value == CellValues.SharedString)
            return int.TryParse(raw, NumberStyles.None, CultureInfo.InvariantCulture, out int n) && n < shared.Length
                ? shared[n]
                : "";
        if (cell.DataType.Value == CellValues.InlineString)
            return cell.InlineString?.InnerText ?? "";
        return cell.DataType.Value == CellValues.Boolean
            ? raw == "1"
                ? "True"
                : "False"
            : raw;
    }

    // Columns count A … Z, AA …
    private static int Column(string reference)
    {
        int column = 0;
        foreach (char c in reference.TakeWhile(char.IsAsciiLetter))
            column = Math.Min((column * 26) + (char.ToUpperInvariant(c) - 'A' + 1), 1 << 20);
        return column - 1;
    }

    private static string Column(int number)
    {
        string name = "";
        for (int n = number + 1; n > 0; n = (n - 1) / 26)
            name = (char)('A' + ((n - 1) % 26)) + name;
        return name;
    }

    // ECMA-376: 31 letters, none of these.
    private static string SheetName(string name)
    {
        string clean = string.Concat(name.Select(c => "[]:*?/\\".Contains(c, StringComparison.Ordinal) ? '_' : c));
        return clean.Length == 0 ? "Table" : clean[..Math.Min(31, clean.Length)];
    }

    // What XML cannot hold is left out.
    private static string Printable(string text) =>
        string.Concat(text.Where(c => c is '\t' or '\n' or '\r' || (c >= ' ' && c < 0xFFFE)));

    private static void CheckSize(ReadOnlyMemory<byte> bytes)
    {
        using var zip = new ZipArchive(new MemoryStream(bytes.ToArray(), false), ZipArchiveMode.Read);
        if (zip.Entries.Count > MaxParts || zip.Entries.Sum(e => e.Length) > MaxUnpacked)
            throw new OrderException("The workbook is too large; export the table alone, as XLSX or CSV.");
    }

    // The parts of a package carry the time they were written; here they all carry the same.
    private static byte[] Timeless(byte[] package)
    {
        using var from = new ZipArchive(new MemoryStream(package), ZipArchiveMode.Read);
        using var stream = new MemoryStream();
        using (var to = new ZipArchive(stream, ZipArchiveMode.Create, true))
        {
            foreach (var entry in from.Entries.OrderBy(e => e.FullName, StringComparer.Ordinal))
            {
                var copy = to.CreateEntry(entry.FullName, CompressionLevel.Optimal);
                copy.LastWriteTime = new DateTimeOffset(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);
                using var source = entry.Open();
                using var target = copy.Open();
                source.CopyTo(target);
            }
        }

        return stream.ToArray();
    }
}

using System.Globalization;
using System.IO.Compression;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace SteadyLintel.Exchange;

/// <summary>Tables as files: CSV (RFC 4180) and XLSX (ECMA-376). Both hold the same rows.</summary>
public static class TableFile
{
    /// <summary>The most rows that are read.</summary>
    public const int MaxRows = 200_000;

    private const int MaxColumns = 256,
        MaxCell = 32_767;
    private const string Formula = "=+@\t\r";

    /// <summary>Reads a file of either kind, recognised by its first bytes.</summary>
    /// <exception cref="OrderException">It is no table, or too large.</exception>
    public static TableRows Read(ReadOnlyMemory<byte> bytes)
    {
        var rows = bytes.Span.StartsWith("PK"u8) ? Workbook.Read(bytes, MaxRows, MaxColumns) : ReadCsv(bytes);
        if (rows.Count == 0 || rows[0].Cells.All(string.IsNullOrWhiteSpace))
            throw new OrderException("The table is empty: its first row has to hold the headings.");
        return new TableRows(
            rows[0].Cells,
            [
                .. rows.Skip(1)
                    .Where(r => r.Cells.Any(c => !string.IsNullOrWhiteSpace(c)))
                    .Select(r => (r.Number, (IReadOnlyList<string>)[.. r.Cells.Select(Plain)])),
            ]
        );
    }

    /// <summary>Writes CSV: UTF-8 with its mark. A text that a spreadsheet would take for a formula gets an apostrophe in front.</summary>
    public static byte[] WriteCsv(IEnumerable<IReadOnlyList<object?>> rows)
    {
        using var stream = new MemoryStream();
        using (var csv = new CsvWriter(new StreamWriter(stream, new UTF8Encoding(true)), CultureInfo.InvariantCulture))
        {
            foreach (var row in rows)
            {
                foreach (var cell in row)
                    csv.WriteField(cell is string text ? Safe(text) : Text(cell));
                csv.NextRecord();
            }
        }

        return stream.ToArray();
    }

    /// <summary>Writes XLSX: numbers as numbers, booleans as booleans, texts as texts. The same rows always give the same bytes.</summary>
    public static byte[] WriteXlsx(IEnumerable<IReadOnlyList<object?>> rows, string sheet) =>
        Workbook.Write(rows, sheet);

    /// <summary>A cell as text, numbers with a point.</summary>
    internal static string Text(object? cell) =>
        cell switch
        {
            null => "",
            bool truth => truth ? "True" : "False",
            double number => number.ToString("R", CultureInfo.InvariantCulture),
            IFormattable value => value.ToString(null, CultureInfo.InvariantCulture),
            _ => cell.ToString() ?? "",
        };

    // What was escaped when it was written is plain again.
    private static string Plain(string cell) =>
        cell.Length > 1 && cell[0] == '\'' && IsFormula(cell[1..]) ? cell[1..] : cell;

    /// <summary>A text with an apostrophe in front where a spreadsheet would take it for a formula.</summary>
    public static string Safe(string text) => IsFormula(text) ? "'" + text : text;

    // A dash that begins a number is no formula.
    private static bool IsFormula(string text) =>
        text.Length > 0
        && (
            Formula.Contains(text[0], StringComparison.Ordinal)
            || (text[0] == '-' && !double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out _))
        );

    private static List<(int Number, IReadOnlyList<string> Cells)> ReadCsv(ReadOnlyMemory<byte> bytes)
    {
        string text = TextEncodings.Read(bytes.Span);
        if (text.Contains('\0', StringComparison.Ordinal))
            throw new OrderException("The file is neither CSV nor XLSX; export the table as one of them.");
        // Where a comma is the decimal sign, spreadsheets part columns by semicolons.
        string first = text.Split('\n', 2)[0];
        string delimiter =
            first.Contains(';', StringComparison.Ordinal) && !first.Contains(',', StringComparison.Ordinal) ? ";"
            : first.Contains('\t', StringComparison.Ordinal) ? "\t"
            : ",";
        using var parser = new CsvParser(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = delimiter,
                BadDataFound = null,
                IgnoreBlankLines = false,
            }
        );
        var rows = new List<(int, IReadOnlyList<string>)>();
        while (parser.Read())
        {
            if (rows.Count > MaxRows)
                throw new OrderException($"The table has more than {MaxRows} rows; split it.");
            string[] cells = parser.Record ?? [];
            if (cells.Length > MaxColumns)
                throw new OrderException($"Row {parser.Row} has more than {MaxColumns} columns.");
            if (cells.Any(c => c.Length > MaxCell))
                throw new OrderException($"Row {parser.Row} has a cell of more than {MaxCell} letters.");
            rows.Add((parser.Row, cells));
        }

        return rows;
    }
}

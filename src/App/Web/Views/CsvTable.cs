using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using CsvHelper.TypeConversion;
using SteadyLintel.Exchange;

namespace SteadyLintel.Web;

/// <summary>Tables as CSV (RFC 4180), UTF-8 with its mark, numbers with a point.</summary>
public static class CsvTable
{
    /// <summary>Writes rows, a column for each of their properties. Texts that a spreadsheet would take for a formula get an apostrophe;
    /// numbers stay numbers.</summary>
    public static byte[] Write<T>(IEnumerable<T> rows)
    {
        using var stream = new MemoryStream();
        using (var csv = new CsvWriter(new StreamWriter(stream, new UTF8Encoding(true)), CultureInfo.InvariantCulture))
        {
            csv.Context.TypeConverterCache.AddConverter<string>(new SafeText());
            csv.WriteRecords(rows);
        }

        return stream.ToArray();
    }

    // CsvHelper's own option escapes negative numbers too.
    private sealed class SafeText : StringConverter
    {
        public override string? ConvertToString(object? value, IWriterRow row, MemberMapData memberMapData) =>
            value is string text ? TableFile.Safe(text) : null;
    }
}

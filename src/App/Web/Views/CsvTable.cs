using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace SteadyLintel.Web;

/// <summary>Tables as CSV (RFC 4180), UTF-8 with its mark, numbers with a point.</summary>
public static class CsvTable
{
    /// <summary>Writes rows, a column for each of their properties. Cells that a spreadsheet would take for a formula are
    /// escaped.</summary>
    public static byte[] Write<T>(IEnumerable<T> rows)
    {
        using var stream = new MemoryStream();
        using (var csv = new CsvWriter(new StreamWriter(stream, new UTF8Encoding(true)),
            new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape })) csv.WriteRecords(rows);
        return stream.ToArray();
    }
}

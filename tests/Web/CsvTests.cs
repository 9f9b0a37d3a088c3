using System.Text;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

/// <summary>Tables for spreadsheets: what they would run is escaped, and numbers stay numbers.</summary>
public class CsvTests
{
    private sealed record Row(string Name, double Height, int Count);

    [Fact]
    public void A_formula_is_escaped_and_a_negative_number_stays_one()
    {
        string text = Encoding.UTF8.GetString(CsvTable.Write([new Row("=1+1", -0.4, -2), new Row("a,b", 4.5, 0)]));
        Assert.Equal("\uFEFFName,Height,Count\r\n'=1+1,-0.4,-2\r\n\"a,b\",4.5,0\r\n", text);
    }
}

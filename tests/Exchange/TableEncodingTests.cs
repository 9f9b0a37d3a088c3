using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Tables in whatever encoding a spreadsheet saves them; words that are none; rows that never decide.</summary>
public class TableEncodingTests
{
    private const string Text = "kind,from,to\nstorey,Erdgeschoß,WÄNDE\nlayer,Gelände,É–1\n";

    public static TheoryData<string> Encodings =>
        ["utf-8", "utf-8 with mark", "utf-16", "utf-16 without mark", "utf-16BE", "windows-1252"];

    private static byte[] Bytes(string encoding)
    {
        Encoding of = encoding switch
        {
            "utf-8" or "utf-8 with mark" => new UTF8Encoding(false),
            "utf-16" or "utf-16 without mark" => new UnicodeEncoding(false, true),
            "utf-16BE" => new UnicodeEncoding(true, true),
            _ => CodePagesEncodingProvider.Instance.GetEncoding(1252)!,
        };
        byte[] mark = encoding switch
        {
            "utf-8 with mark" => [0xEF, 0xBB, 0xBF],
            "utf-16" => [0xFF, 0xFE],
            "utf-16BE" => [0xFE, 0xFF],
            _ => [],
        };
        return [.. mark, .. of.GetBytes(Text)];
    }

    [Theory]
    [MemberData(nameof(Encodings))]
    public void A_table_reads_the_same_in_every_encoding_that_can_be_told(string encoding)
    {
        var table = NameTable.Read(TableFile.Read(Bytes(encoding)));
        Assert.Equal(
            [new NameRow(NameKind.Storey, "Erdgeschoß", "WÄNDE"), new NameRow(NameKind.Layer, "Gelände", "É–1")],
            table.Rows
        );
    }

    // In code page 850 Ä is 8E, which in Windows-1252 is Ž; ü is 81, which is nothing there.
    [Theory]
    [InlineData(850)]
    [InlineData(437)]
    public void An_encoding_that_cannot_be_told_is_asked_about(int page)
    {
        byte[] bytes = CodePagesEncodingProvider
            .Instance.GetEncoding(page)!
            .GetBytes("kind,from,to\nstorey,WÄNDE,Wände\n");
        string message = Assert.Throws<OrderException>(() => TableFile.Read(bytes)).Message;
        Assert.Contains("Line 2", message, StringComparison.Ordinal);
        Assert.Contains("UTF-8", message, StringComparison.Ordinal);
    }

    private static string ProblemOf(Func<TableRows, object> read, params string[] lines) =>
        Assert
            .Throws<TableException>(() => read(TableFile.Read(Encoding.UTF8.GetBytes(string.Join("\n", lines)))))
            .Message;

    [Fact]
    public void A_misspelt_class_is_refused_with_the_nearest()
    {
        string problem = ProblemOf(ClassTable.Read, "class,to", "IfcFurnitur,do not send");
        Assert.Contains("Row 2", problem, StringComparison.Ordinal);
        Assert.Contains("'IfcFurniture'", problem, StringComparison.Ordinal);
        Assert.Contains(
            "'IfcColumn'",
            ProblemOf(ClassTable.Read, "class,to", "IfcBeam,IfcColum"),
            StringComparison.Ordinal
        );
        Assert.Contains("IfcWal", ProblemOf(LayerTable.Read, "class,layer", "IfcWal,A"), StringComparison.Ordinal);
        // A class of a newer schema is one.
        Assert.NotEmpty(ClassTable.Read(TableFile.Read("class,to\nIfcBuiltElement,do not send\n"u8.ToArray())).Rows);
    }

    [Theory]
    [InlineData("class", "*,,,,do not send", "IfcWall,,,,IfcCovering")]
    [InlineData("class", "IfcBuildingElement,,,,do not send", "IfcWall,,,,IfcCovering")]
    [InlineData("class", "IfcWall,,A.B,F*,IfcCovering", "IfcWall,,A.B,F30,do not send")]
    [InlineData("list", "*,*,,", "Pset_WallCommon,FireRating,Fire,")]
    [InlineData("list", "Pset_*,*,,", "Pset_Wall*,Fire*,,")]
    public void A_row_that_another_takes_everything_from_is_refused(string kind, string first, string second)
    {
        string problem =
            kind == "class"
                ? ProblemOf(ClassTable.Read, "class,predefined type,property,value,to", first, second)
                : ProblemOf(PropertyList.Read, "set,property,as set,as", first, second);
        Assert.Contains("Row 3 never matches: row 2", problem, StringComparison.Ordinal);
        // The other way round both decide.
        string[] lines =
        [
            kind == "class" ? "class,predefined type,property,value,to" : "set,property,as set,as",
            second,
            first,
        ];
        byte[] bytes = Encoding.UTF8.GetBytes(string.Join("\n", lines));
        if (kind == "class")
            Assert.Equal(2, ClassTable.Read(TableFile.Read(bytes)).Rows.Count);
        else
            Assert.Equal(2, PropertyList.Read(TableFile.Read(bytes)).Rows.Count);
    }
}

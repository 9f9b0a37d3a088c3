using System.IO.Compression;
using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Mapping tables as files: what they say, and what is wrong with them, row by row.</summary>
public class MappingTableTests
{
    private static byte[] Csv(params string[] lines) => Encoding.UTF8.GetBytes(string.Join("\r\n", lines) + "\r\n");

    private static string Problem<T>(Func<TableRows, T> read, params string[] lines) =>
        Assert.Throws<TableException>(() => read(TableFile.Read(Csv(lines)))).Message;

    private static SelectionSubject Subject(
        string name,
        string predefined = "",
        params (string Key, string Value)[] values
    ) =>
        new(IfcSchema.For("IFC4")!, "", name, [], "")
        {
            Predefined = predefined,
            Property = key => [.. values.Where(v => v.Key == key).Select(v => new PropertyText(v.Value, ""))],
        };

    [Fact]
    public void The_first_row_that_holds_gives_the_layer()
    {
        var table = LayerTable.Read(
            TableFile.Read(
                Csv(
                    "class,predefined type,property,value,layer,colour,line type,weight",
                    "IfcWall,,Pset_WallCommon.IsExternal,True,A-WALL-EXT,1,,0.5",
                    "IfcWall,PARTITIONING,,,A-WALL-PRTN,#80c040,HIDDEN,0.18",
                    "IfcWall,,,,A-WALL,,,",
                    "*,,,,A-OTHR,,,"
                )
            )
        );
        Assert.Equal(
            "A-WALL-EXT",
            table.Find(Subject("IfcWallStandardCase", "", ("Pset_WallCommon.IsExternal", "True")))!.Layer
        );
        var inner = table.Find(Subject("IfcWall", "PARTITIONING", ("Pset_WallCommon.IsExternal", "False")))!;
        Assert.Equal(
            ("A-WALL-PRTN", 0x80c040, "HIDDEN", 0.18),
            (inner.Layer, inner.Colour!.Value.Rgb!.Value, inner.LineType, inner.Weight!.Value)
        );
        Assert.Equal("A-WALL", table.Find(Subject("IfcWall"))!.Layer);
        Assert.Equal("A-OTHR", table.Find(Subject("IfcSlab"))!.Layer);
        // Out as a file and in again, in both forms.
        Assert.Equal(table.Rows, LayerTable.Read(TableFile.Read(TableFile.WriteCsv(table.ToRows()))).Rows);
        Assert.Equal(table.Rows, LayerTable.Read(TableFile.Read(TableFile.WriteXlsx(table.ToRows(), "Layers"))).Rows);
    }

    [Theory]
    [InlineData("Row 3 says the same as row 2", "IfcWall,A", "IfcWall,A")]
    [InlineData("Row 3 puts IfcWall on 'B', row 2 on 'A'", "IfcWall,A", "IfcWall,B")]
    [InlineData("Row 2 names no layer", "IfcWall,")]
    [InlineData("Row 2 names no class", ",A")]
    [InlineData("Row 2 has the layer 'A|B'", "IfcWall,A|B")]
    public void Doubled_empty_and_contradicting_rows_are_told_by_their_number(string words, params string[] rows) =>
        Assert.Contains(words, Problem(LayerTable.Read, ["class,layer", .. rows]), StringComparison.Ordinal);

    [Theory]
    [InlineData("class,lajer", "IfcWall,A", "Row 1 has no column 'layer'")]
    [InlineData("class,layer,color", "IfcWall,A,1", "'colour'")]
    [InlineData("class,layer,colour", "IfcWall,A,256", "Row 2 has the colour '256'")]
    [InlineData("class,layer,line type", "IfcWall,A,DASHD", "'DASHED'")]
    [InlineData("class,layer,weight", "IfcWall,A,0.22", "Row 2 has the weight '0.22'")]
    [InlineData("class,layer,property", "IfcWall,A,External", "Set.Property")]
    [InlineData("class,layer", "", "no row")]
    public void What_a_layer_table_cannot_mean_is_told(string headings, string row, string words) =>
        Assert.Contains(words, Problem(LayerTable.Read, headings, row), StringComparison.Ordinal);

    [Fact]
    public void One_layer_cannot_have_two_colours() =>
        Assert.Contains(
            "a layer has one of each",
            Problem(LayerTable.Read, "class,layer,colour", "IfcWall,A,1", "IfcSlab,a,2"),
            StringComparison.Ordinal
        );

    [Fact]
    public void Names_lists_and_classes_are_read_and_refused_alike()
    {
        var names = NameTable.Read(
            TableFile.Read(Csv("kind;from;to", "storey;Level 1;01", "Material;C30/37;Concrete C30", "storey;;02"))
        );
        Assert.Equal("01", names.Find(NameKind.Storey, "level 1"));
        Assert.Null(names.Find(NameKind.Material, "Level 1"));
        Assert.Equal(["01", "02"], names.Receivers(NameKind.Storey));
        Assert.Contains(
            "row 2 calls it '01'",
            Problem(NameTable.Read, "kind,from,to", "storey,A,01", "storey,a,02"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "has the kind 'stories'",
            Problem(NameTable.Read, "kind,from,to", "stories,A,01"),
            StringComparison.Ordinal
        );
        var classes = ClassTable.Read(
            TableFile.Read(Csv("class,to", "IfcFurniture,do not send", "IfcBuildingElementProxy,IfcRailing.HANDRAIL"))
        );
        Assert.Null(classes.Find(Subject("IfcFurniture"))!.To);
        Assert.Equal(("IfcRailing", "HANDRAIL"), (classes.Rows[1].To, classes.Rows[1].Predefined));
        var list = PropertyList.Read(
            TableFile.Read(
                Csv("set,property,as set,as,blanks", "Pset_WallCommon,FireRating,Fire,Rating,out", "Pset_*,Is*,,,keep")
            )
        );
        Assert.Equal("Rating", list.Find("Pset_WallCommon", "FireRating")!.As);
        Assert.True(list.Find("Pset_SlabCommon", "IsExternal")!.Blanks);
        Assert.Null(list.Find("Pset_SlabCommon", "Reference"));
        Assert.Contains(
            "two would be one",
            Problem(PropertyList.Read, "set,property,as set,as", "A,X,S,N", "B,Y,S,N"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "many properties one name",
            Problem(PropertyList.Read, "set,property,as", "A,*,N"),
            StringComparison.Ordinal
        );
    }

    // Jaro-Winkler scores "Level 01" and "Level 10" 0.98; their numbers are what tells storeys apart.
    [Theory]
    [InlineData("Level 01", "Level 1")]
    [InlineData("HEA 200", "HEA200")]
    [InlineData("Concrete C30/37", "concrete C 30/37")]
    [InlineData("Galery", "Gallery")]
    public void The_best_match_of_a_name_minds_its_numbers(string name, string best)
    {
        var match = NameMatch
            .Best(name, ["Level 10", "Level 1", "HEA 220", "HEA200", "concrete C 30/37", "Concrete C35/45", "Gallery"])!
            .Value;
        Assert.Equal(best, match.Receiver);
        Assert.True(match.Score > 0.9, $"{match.Score}");
        Assert.Null(NameMatch.Best("qqq", ["Level 1"]));
    }

    [Fact]
    public void Cells_that_look_like_formulas_come_back_as_texts_and_numbers_stay_numbers()
    {
        object?[][] rows =
        [
            ["a", "b", "c"],
            ["=1+1", -1.5, true],
            ["-x", "'quoted", null],
            ["@me", "a,\"b\"\nc", 12],
        ];
        string csv = Encoding.UTF8.GetString(TableFile.WriteCsv(rows));
        Assert.Contains("'=1+1,-1.5,True", csv, StringComparison.Ordinal);
        foreach (byte[] file in (byte[][])[TableFile.WriteCsv(rows), TableFile.WriteXlsx(rows, "Sheet: 1/2")])
        {
            var read = TableFile.Read(file);
            Assert.Equal(["=1+1", "-1.5", "True"], read.Rows[0].Cells);
            Assert.Equal(["-x", "'quoted"], read.Rows[1].Cells.Take(2));
            Assert.Equal(["@me", "a,\"b\"\nc", "12"], read.Rows[2].Cells);
            Assert.Equal([2, 3, 4], read.Rows.Select(r => r.Number).Distinct().Take(3));
        }

        Assert.Equal(TableFile.WriteXlsx(rows, "S"), TableFile.WriteXlsx(rows, "S"));
    }

    [Fact]
    public void A_file_that_is_no_table_is_refused()
    {
        Assert.Contains(
            "empty",
            Assert.Throws<OrderException>(() => TableFile.Read(Array.Empty<byte>())).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "neither CSV",
            Assert.Throws<OrderException>(() => TableFile.Read(new byte[] { 1, 0, 2 })).Message,
            StringComparison.Ordinal
        );
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, true))
            zip.CreateEntry("x.txt");
        Assert.Contains(
            "no workbook",
            Assert.Throws<OrderException>(() => TableFile.Read(stream.ToArray())).Message,
            StringComparison.Ordinal
        );
        var random = new Random(3);
        byte[] good = TableFile.WriteXlsx(
            [
                ["class", "layer"],
                ["IfcWall", "A"],
            ],
            "S"
        );
        // Whatever is damaged in a workbook, it is a table or it is refused.
        for (int n = 0; n < 300; n++)
        {
            byte[] bad = [.. good];
            for (int k = random.Next(1, 6); k > 0; k--)
                bad[random.Next(4, bad.Length)] = (byte)random.Next(256);
            try
            {
                TableFile.Read(bad);
            }
            catch (OrderException)
            {
                continue;
            }
        }
    }
}

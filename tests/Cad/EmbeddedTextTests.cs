using System.Text;
using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>DXF of 2018: texts that embed an object behind their own groups (101), and header strings in UTF-8.</summary>
public class EmbeddedTextTests
{
    private const string Before =
        "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1032\n9\n$DIMSTYLE\n2\nMaß_梁\n9\n$CLAYER\n8\nWände\n9\n$STYLESHEET\n1\nBüro.ctb\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
    private const string After = "0\nENDSEC\n0\nEOF\n";

    // The order of the embedded groups is that of the independent library ezdxf (mtext.py, export_embedded_object).
    private const string Text =
        "0\nMTEXT\n5\n10\n330\n1F\n100\nAcDbEntity\n8\n0\n100\nAcDbMText\n10\n100.0\n20\n50.0\n30\n0.0\n40\n2.5\n41\n80.0\n71\n1\n72\n5\n1\nfirst\\Psecond\n11\n0.0\n21\n1.0\n31\n0.0\n42\n75.0\n43\n12.0\n"
        + "101\nEmbedded Object\n70\n1\n10\n0.0\n20\n1.0\n30\n0.0\n11\n100.0\n21\n50.0\n31\n0.0\n40\n80.0\n41\n20.0\n42\n75.0\n43\n12.0\n71\n1\n72\n2\n44\n35.0\n45\n5.0\n73\n0\n74\n0\n46\n20.0\n46\n0.0\n"
        + "1001\nACAD\n1000\nafter\n";

    private const string Attribute =
        "0\nATTDEF\n5\n11\n330\n1F\n100\nAcDbEntity\n8\n0\n100\nAcDbText\n10\n7.0\n20\n8.0\n30\n0.0\n40\n2.5\n1\nfirst line\n100\nAcDbAttributeDefinition\n280\n0\n3\nNote?\n2\nNOTE\n70\n0\n"
        + "101\nEmbedded Object\n70\n1\n10\n1.0\n20\n0.0\n30\n0.0\n11\n7.0\n21\n8.0\n31\n0.0\n40\n30.0\n1\nfirst line\\Psecond line\n71\n0\n";

    private static Drawing Read(string text) => DxfReader.Read(Encoding.UTF8.GetBytes(text));

    [Fact]
    public void What_a_text_embeds_is_not_taken_for_its_own_groups()
    {
        var text = Assert.Single(Read(Before + Text + After).Model.Entities.OfType<MText>());
        Assert.Equal((new Vec3(100, 50, 0), new Vec3(0, 1, 0)), (text.Insertion, text.Direction));
        Assert.Equal((80, 1, (75, 12)), (text.Width, text.Attachment, text.Seen));
        Assert.Equal(
            (1, 2, 35.0, 5.0),
            (text.Columns!.Kind, text.Columns.Count, text.Columns.Width, text.Columns.Gutter)
        );
        Assert.Equal([20.0, 0.0], text.Columns.Heights);
        Assert.Equal("after", Assert.Single(Assert.Single(text.Extras.Data).Groups).Text);
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Columns_of_texts_come_back(bool dwg)
    {
        var drawing = Read(Before + Text + After);
        using var stream = new MemoryStream();
        CadFile.Write(drawing, stream, new CadForm(dwg, CadVersion.AC1032));
        var again = Assert.Single(CadFile.Read(stream.ToArray()).Drawing.Model.Entities.OfType<MText>());
        Assert.Equal(
            (1, 2, 35.0, 5.0, false),
            (
                again.Columns!.Kind,
                again.Columns.Count,
                again.Columns.Width,
                again.Columns.Gutter,
                again.Columns.AutoHeight
            )
        );
        Assert.Equal([20.0, 0.0], again.Columns.Heights);
        Assert.Equal((new Vec3(100, 50, 0), new Vec3(0, 1, 0)), (again.Insertion, again.Direction));
    }

    [Fact]
    public void Attributes_of_several_lines_keep_all_of_them()
    {
        var drawing = Read(Before + Attribute + After);
        var attribute = Assert.Single(drawing.Model.Entities.OfType<AttributeDefinition>());
        Assert.Equal(
            (new Vec3(7, 8, 0), "first line", "first line\\Psecond line", "NOTE"),
            (attribute.Insertion, attribute.Value, attribute.Paragraphs, attribute.Tag)
        );
        using var stream = new MemoryStream();
        DxfWriter.Write(drawing, stream, CadVersion.AC1032);
        Assert.Equal(
            "first line\\Psecond line",
            Assert.Single(DxfReader.Read(stream.ToArray()).Model.Entities.OfType<AttributeDefinition>()).Paragraphs
        );
    }

    [Fact]
    public void Strings_of_the_header_are_decoded_by_its_version()
    {
        var header = Read(Before + After).Header;
        Assert.Equal(
            ("Maß_梁", "Wände", "Büro.ctb"),
            (header.Text("$DIMSTYLE"), header.Text("$CLAYER"), header.Text("$STYLESHEET"))
        );
    }
}

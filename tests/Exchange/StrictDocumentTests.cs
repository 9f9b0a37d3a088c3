using System.IO.Compression;
using System.Text;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;

namespace SteadyLintel.Tests;

/// <summary>Documents with nothing where something must be, archives that look like what they hold, curves without points.</summary>
public class StrictDocumentTests
{
    [Theory]
    [InlineData("OrderDocument", "{\"version\":1,\"rules\":[null]}")]
    [InlineData("OrderDocument", "{\"version\":1,\"sources\":[null]}")]
    [InlineData("OrderDocument", "{\"version\":1,\"rules\":[{\"do\":\"only\",\"what\":\"class\",\"are\":[null]}]}")]
    [InlineData("SetDocument", "{\"version\":1,\"elements\":[null]}")]
    [InlineData("ViewDocument", "{\"version\":1,\"hidden\":[null]}")]
    [InlineData("ViewDocument", "{\"version\":1,\"off\":{\"source\":[null]}}")]
    [InlineData("PreparationDocument", "{\"version\":1,\"steps\":[null]}")]
    [InlineData("SettingOutDocument", "{\"version\":1,\"shift\":[0,0,0],\"points\":[null]}")]
    [InlineData("SettingOutDocument", "{\"version\":1,\"shift\":null}")]
    [InlineData("LevelDocument", "{\"version\":1,\"levels\":[null]}")]
    [InlineData("LevelDocument", "{\"version\":1,\"matches\":null}")]
    [InlineData("LevelDocument", "[")]
    public void Nothing_in_a_list_is_refused_when_it_is_read(string kind, string json) =>
        Assert.Throws<OrderException>(() =>
            kind switch
            {
                nameof(OrderDocument) => (object)OrderDocument.Read(json),
                nameof(SetDocument) => SetDocument.Read(json),
                nameof(ViewDocument) => ViewDocument.Read(json),
                nameof(PreparationDocument) => PreparationDocument.Read(json),
                nameof(SettingOutDocument) => SettingOutDocument.Read(json),
                _ => LevelDocument.Read(json),
            }
        );

    [Fact]
    public void An_empty_entry_is_named_with_its_line()
    {
        var wrong = Assert.Throws<OrderException>(() =>
            OrderDocument.Read("{\n\"version\": 1,\n\"sources\": [\"a\",\n null]\n}")
        );
        Assert.Contains("line 4", wrong.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void An_archive_that_stores_its_model_as_it_is_is_an_archive()
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        using (var entry = zip.CreateEntry("a.ifc", CompressionLevel.NoCompression).Open())
            entry.Write("ISO-10303-21;\nHEADER;\n"u8);
        Assert.Equal(DeliveredKind.Zip, FileRecognition.Recognise(memory.ToArray()).Kind);
    }

    [Theory]
    [InlineData("IFCPOLYLINE(())")]
    [InlineData("IFCPOLYLINE($)")]
    [InlineData("IFCPOLYLINE((#999))")]
    [InlineData("IFCTRIMMEDCURVE($,$,$,.T.,.CARTESIAN.)")]
    [InlineData("IFCCOMPOSITECURVE((),.F.)")]
    [InlineData("IFCINDEXEDPOLYCURVE($,$,$)")]
    [InlineData("IFCBSPLINECURVEWITHKNOTS(3,(),.UNSPECIFIED.,.F.,.F.,(),(),.UNSPECIFIED.)")]
    public void A_grid_axis_without_points_takes_no_model_with_it(string curve)
    {
        string text = Encoding
            .ASCII.GetString(ModelSink.Bytes())
            .Replace(
                "ENDSEC;\nEND-ISO",
                $"#9001={curve};\n#9002=IFCGRIDAXIS('A',#9001,.T.);\n#9003=IFCGRID('0000000000000000009003',$,'Grid',$,$,$,$,(#9002),(#9002),$,$);\nENDSEC;\nEND-ISO",
                StringComparison.Ordinal
            );
        Assert.Contains("#9003=", text, StringComparison.Ordinal);
        var snapshot = ModelSnapshot.Open(IfcModel.Open(Encoding.ASCII.GetBytes(text)));
        var report = IntakeReader.Read(snapshot);
        Assert.True(report.Elements > 1);
        Assert.Empty(PlanAxis.Of(snapshot));
        Assert.True(snapshot.Shapes.ForPlan(snapshot.Model.OfType("IfcGrid").Last()).IsEmpty);
    }
}

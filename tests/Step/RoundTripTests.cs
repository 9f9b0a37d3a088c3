using CsCheck;
using SteadyLintel.Step;

namespace SteadyLintel.Tests;

public class RoundTripTests
{
    private static readonly Gen<string> Leaf = Gen.OneOf(
        Gen.Const("$"),
        Gen.Const("*"),
        Gen.Const(".T."),
        Gen.Int[1, 500].Select(i => "#" + i),
        Gen.Double[-1e9, 1e9].Select(StepNumber.Format),
        Gen.String[Gen.Char[' ', '\u04FF'], 0, 12].Select(StepWriter.String),
        Gen.Int[-9, 9].Select(i => $"IFCINTEGER({i})")
    );

    private static readonly Gen<string> Parameter = Gen.OneOf(
        Leaf,
        Leaf.Array[0, 4].Select(a => $"({string.Join(",", a)})"),
        Leaf.Array[1, 3].Select(a => $"(({string.Join(",", a)}))")
    );

    [Fact]
    public void What_is_written_is_read_the_same() =>
        Parameter
            .Array[0, 6]
            .Array[1, 30]
            .Sample(
                instances =>
                {
                    using var stream = new MemoryStream();
                    var writer = new StepWriter(stream);
                    writer.Begin(
                        new StepHeader
                        {
                            Schema = "IFC4",
                            Name = "it's",
                            Description = ["ü"],
                        }
                    );
                    for (int i = 0; i < instances.Length; i++)
                        writer.Instance(i + 1, "THING" + (i % 3), string.Join(",", instances[i]));
                    writer.End();
                    var file = StepFile.Read(stream.ToArray());
                    Assert.Empty(file.Problems);
                    Assert.Equal(instances.Length, file.Count);
                    Assert.Equal(("it's", "ü"), (file.Header.Name, file.Header.Description[0]));
                    for (int i = 0; i < instances.Length; i++)
                    {
                        var record = file.Record(i);
                        Assert.Equal(instances[i].Length, record.Count);
                        for (int p = 0; p < instances[i].Length; p++)
                            Assert.Equal(instances[i][p], System.Text.Encoding.ASCII.GetString(record[p].Raw));
                    }
                },
                iter: 200
            );

    [Fact]
    public void Copied_instances_keep_every_byte()
    {
        var source = StepFile.Read(
            "ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;#7 = T( 'a' , /*c*/ 1. ) ;ENDSEC;END-ISO-10303-21;"u8.ToArray()
        );
        using var stream = new MemoryStream();
        var writer = new StepWriter(stream);
        writer.Begin(source.Header);
        writer.Copy(source.Raw(0));
        writer.End();
        Assert.Contains("#7 = T( 'a' , /*c*/ 1. ) ;", System.Text.Encoding.ASCII.GetString(stream.ToArray()));
    }
}

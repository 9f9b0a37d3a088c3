using System.IO.Compression;
using System.Text;
using CsCheck;
using SteadyLintel.Exchange;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Files of strangers: they end in a sentence, never in a crash, and never leave their archive.</summary>
public class TopicAttackTests
{
    private static string Markup(string text) => $"""<Markup><Topic Guid="t"><Title>x</Title>{text}</Topic></Markup>""";

    private static TopicArchive One(string markup) =>
        TopicSamples.Read(
            TopicSamples.Zip(("bcf.version", """<Version VersionId="2.1"/>"""), ("t/markup.bcf", markup))
        );

    [Fact]
    public void Entities_and_document_types_are_not_read()
    {
        var archive = One(
            """<!DOCTYPE m [<!ENTITY a "aaaa"><!ENTITY b SYSTEM "file:///etc/passwd">]>"""
                + Markup("<Description>&b;</Description>")
        );
        Assert.Empty(archive.Topics);
        Assert.Equal("BCF-MARKUP-DAMAGED", archive.Findings.Single().Code);
    }

    [Fact]
    public void Elements_a_hundred_thousand_deep_are_not_read()
    {
        string deep =
            string.Concat(Enumerable.Repeat("<a>", 100_000)) + string.Concat(Enumerable.Repeat("</a>", 100_000));
        Assert.Equal("BCF-MARKUP-DAMAGED", One(Markup(deep)).Findings.Single().Code);
    }

    [Theory]
    [InlineData("../outside.txt")]
    [InlineData("t/../../outside.txt")]
    [InlineData("/etc/passwd")]
    [InlineData("C:\\windows\\system.ini")]
    [InlineData("t\\..\\..\\x")]
    public void Names_that_lead_out_of_the_archive_are_left_out(string name)
    {
        var archive = TopicSamples.Read(
            TopicSamples.Zip(
                ("bcf.version", """<Version VersionId="2.1"/>"""),
                ("t/markup.bcf", Markup("")),
                (name, "x")
            )
        );
        Assert.Equal("BCF-NAME-WRONG", archive.Findings.First(f => f.Severity == Severity.Error).Code);
        using var zip = new ZipArchive(new MemoryStream(TopicSamples.Write(archive)));
        Assert.DoesNotContain(zip.Entries, e =>
            e.FullName.Contains("..") || e.FullName.StartsWith('/') || e.FullName.Contains(':')
        );
    }

    [Fact]
    public void A_bomb_is_not_unpacked()
    {
        byte[] zip = TopicSamples.Zip(
            ("bcf.version", """<Version VersionId="2.1"/>"""),
            ("t/markup.bcf", Markup("<Description>" + new string('a', 30_000_000) + "</Description>"))
        );
        Assert.True(zip.Length < 100_000);
        Assert.Equal("BCF-MARKUP-DAMAGED", TopicSamples.Read(zip).Findings.Single().Code);
        Assert.Throws<DeliveryException>(() => TopicSamples.Read(zip, new TopicLimits(MaxBytes: 1_000_000)));
        Assert.Throws<DeliveryException>(() => TopicSamples.Read(zip, new TopicLimits(MaxEntries: 1)));
    }

    [Fact]
    public void What_is_no_topic_file_is_refused()
    {
        Assert.Contains(
            "no BCF file",
            Assert.Throws<DeliveryException>(() => TopicSamples.Read([1, 2, 3])).Message,
            StringComparison.Ordinal
        );
        Assert.Throws<DeliveryException>(() => TopicSamples.Read(TopicSamples.Zip(("model.ifc", "ISO-10303-21;"))));
    }

    [Fact]
    public void A_file_with_any_bytes_changed_ends_in_topics_or_in_a_sentence()
    {
        byte[] file = TopicSamples.File21();
        byte[] markup = Encoding.UTF8.GetBytes(TopicSamples.Entry(file, $"{TopicSamples.Topic}/markup.bcf"));
        Gen.Select(Gen.Int[0, file.Length - 1], Gen.Byte, Gen.Int[0, markup.Length - 1], Gen.Byte)
            .Sample(
                (at, value, within, other) =>
                {
                    byte[] damaged = [.. file];
                    damaged[at] = value;
                    Survives(damaged);
                    byte[] text = [.. markup];
                    text[within] = other;
                    Survives(
                        TopicSamples.Zip([
                            ("bcf.version", """<Version VersionId="2.1"/>"""u8.ToArray()),
                            ("t/markup.bcf", text),
                        ])
                    );
                },
                iter: 1500
            );
    }

    // What can be read can be written, and reads the same again.
    private static void Survives(byte[] zip)
    {
        TopicArchive read;
        byte[] written;
        try
        {
            read = TopicSamples.Read(zip);
            written = TopicSamples.Write(TopicConversion.To(read, TopicVersion.V21));
        }
        catch (DeliveryException)
        {
            return;
        }

        var again = TopicSamples.Read(written);
        if (read.Version != TopicVersion.V21)
            return;
        // A folder whose name was hit holds files of no topic; written, the topic's folder may be theirs.
        Assert.Equal(
            read.Topics.Select(t => TopicText.Of(t with { Viewpoints = [], Parts = [] })),
            again.Topics.Select(t => TopicText.Of(t with { Viewpoints = [], Parts = [] }))
        );
    }
}

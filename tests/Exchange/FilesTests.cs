using System.IO.Compression;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Tests;

/// <summary>Files on disk: mapped, told apart by their content, written under plain names only.</summary>
public sealed class FilesTests : IDisposable
{
    // Told apart from all other files there are in the folder of temporary ones.
    private static readonly string Mark = Guid.NewGuid().ToString();
    private static readonly string Step =
        $"ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('{Mark}','',(''),(''),'','','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n";
    private readonly string _folder = Directory.CreateTempSubdirectory("lintel-files").FullName;

    public void Dispose() => Directory.Delete(_folder, true);

    // Copies of the model that lie about, looked for while other tests write there too.
    private static int Copies() =>
        Directory
            .GetFiles(Path.GetTempPath())
            .Count(path =>
            {
                try
                {
                    return new FileInfo(path).Length is > 0 and < 200_000
                        && File.ReadAllText(path).Contains(Mark, StringComparison.Ordinal);
                }
                catch (IOException)
                {
                    return false;
                }
            });

    private string Put(string name, byte[] bytes)
    {
        string path = Path.Combine(_folder, name);
        File.WriteAllBytes(path, bytes);
        return path;
    }

    private static byte[] Zip(params (string Name, string Text)[] entries)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create))
            foreach (var (name, text) in entries)
            {
                using var writer = new StreamWriter(archive.CreateEntry(name).Open());
                writer.Write(text);
            }

        return stream.ToArray();
    }

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(100_000)]
    public void A_mapped_file_has_its_bytes(int size)
    {
        byte[] bytes = [.. Enumerable.Range(0, size).Select(i => (byte)(i * 7))];
        using var mapped = (IDisposable)MappedBytes.Open(Put("m", bytes));
        Assert.Equal(bytes, ((MappedBytes)mapped).Memory.ToArray());
    }

    [Fact]
    public void A_model_is_opened_by_its_content_not_its_name()
    {
        using var model = DeliveredFile.Open(Put("model.dwg", System.Text.Encoding.ASCII.GetBytes(Step)));
        Assert.Equal(("ifc", Step), (model.Format, System.Text.Encoding.ASCII.GetString(model.Bytes.Span)));
    }

    [Fact]
    public void A_model_in_an_archive_is_unpacked_and_the_copy_goes_again()
    {
        using (var model = DeliveredFile.Open(Put("model.ifczip", Zip(("model.ifc", Step)))))
        {
            Assert.Equal(("ifczip", Step), (model.Format, System.Text.Encoding.ASCII.GetString(model.Bytes.Span)));
            Assert.Equal(1, Copies());
        }

        Assert.Equal(0, Copies());
    }

    [Fact]
    public void What_is_no_model_is_refused_with_a_sentence()
    {
        Assert.Contains(
            "drawing",
            Assert
                .Throws<DeliveryException>(() =>
                    DeliveredFile.Open(
                        Put("a.ifc", System.Text.Encoding.ASCII.GetBytes("AC1024" + new string('x', 200)))
                    )
                )
                .Message
        );
        Assert.NotEmpty(
            Assert.Throws<DeliveryException>(() => DeliveredFile.Open(Put("b.ifc", [1, 2, 3, 4, 5, 6, 7, 8]))).Message
        );
        Assert.NotEmpty(
            Assert
                .Throws<DeliveryException>(() =>
                    DeliveredFile.Open(Put("c.ifczip", Zip(("readme.txt", "nothing here"))))
                )
                .Message
        );
    }

    [Fact]
    public void An_archive_larger_than_the_limit_is_refused_and_leaves_nothing()
    {
        string path = Put("large.ifczip", Zip(("model.ifc", Step + new string(' ', 100_000))));
        Assert.NotEmpty(Assert.Throws<DeliveryException>(() => DeliveredFile.Open(path, 10_000)).Message);
        Assert.Equal(0, Copies());
    }

    [Theory]
    [InlineData("../out.ifc")]
    [InlineData("/tmp/out.ifc")]
    [InlineData("sub/out.ifc")]
    public void Names_that_lead_elsewhere_are_refused(string name)
    {
        using var files = new FolderFileSet(_folder);
        Assert.Throws<IOException>(() => files.Create(name));
        Assert.Throws<IOException>(() => files.Read(name));
    }

    [Fact]
    public void What_is_written_is_read_again()
    {
        using var files = new FolderFileSet(_folder);
        using (var stream = files.Create("a.txt"))
            stream.Write("lintel"u8);
        Assert.Equal("lintel"u8.ToArray(), files.Read("a.txt").ToArray());
        Assert.True(files.Read("a.txt").Equals(files.Read("a.txt")));
    }
}

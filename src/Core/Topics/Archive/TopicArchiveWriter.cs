using System.IO.Compression;
using System.Text;
using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>Writes topics as a BCF file, in the version the archive says.</summary>
public static class TopicArchiveWriter
{
    // What does not depend on the clock is the same file each time.
    private static readonly DateTimeOffset Written = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>Writes an archive.</summary>
    /// <param name="archive">What is written; <see cref="TopicConversion"/> brings it into its version.</param>
    /// <param name="target">Gets the bytes; not closed.</param>
    /// <param name="cancel">Stops between files.</param>
    /// <exception cref="Exchange.DeliveryException">A part of the archive it comes from is damaged.</exception>
    public static void Write(TopicArchive archive, Stream target, CancellationToken cancel = default)
    {
        if (archive.Version == TopicVersion.V20)
            throw new ArgumentException("2.0 is read, not written.", nameof(archive));
        using var zip = new ZipArchive(target, ZipArchiveMode.Create, true, Encoding.UTF8);
        var entries = new Entries(zip, cancel);
        entries.Add("bcf.version", Version(archive.Version));
        entries.Add("project.bcfp", Project(archive));
        if (archive.Version == TopicVersion.V30)
            entries.Add("extensions.xml", ExtensionsFile.Write(archive.Extensions ?? new TopicExtensions()));
        else if (archive.Extensions is { } words)
            entries.Add("extensions.xsd", ExtensionsFile.WriteSchema(words));
        if (archive.Documents.Count > 0)
            entries.Add("documents.xml", Documents(archive.Documents));
        foreach (var topic in archive.Topics)
            Add(entries, topic, archive.Version);
        foreach (var part in archive.Parts)
            entries.Add(part.Name, part);
    }

    private static XElement Version(TopicVersion version)
    {
        var element = new XElement("Version", new XAttribute("VersionId", version.Text()));
        if (version == TopicVersion.V21)
            element.Add(new XElement("DetailedVersion", version.Text()));
        return element;
    }

    private static XElement Project(TopicArchive archive)
    {
        bool v3 = archive.Version == TopicVersion.V30;
        var root = new ElementBuilder(v3 ? "ProjectInfo" : "ProjectExtension", archive.ProjectExtras);
        // 3.0 asks for a project.
        if (v3 || archive.ProjectId is not null || archive.ProjectName is not null)
            root.Add(
                new ElementBuilder("Project", Extras.None)
                    .Attribute("ProjectId", archive.ProjectId ?? (v3 ? "" : null))
                    .Text("Name", archive.ProjectName)
                    .Element()
            );
        if (!v3)
            root.Text("ExtensionSchema", archive.Extensions is null ? "" : "extensions.xsd");
        return root.Element();
    }

    private static XElement Documents(IReadOnlyList<TopicDocument> documents) =>
        new(
            "DocumentInfo",
            new XElement(
                "Documents",
                documents.Select(d =>
                    new ElementBuilder("Document", Extras.None)
                        .Attribute("Guid", d.Guid)
                        .Text("Filename", d.Filename)
                        .Text("Description", d.Description)
                        .Element()
                )
            )
        );

    private static void Add(Entries entries, Topic topic, TopicVersion version)
    {
        var named = topic with { Viewpoints = [.. topic.Viewpoints.Select(Named)] };
        entries.Add($"{topic.Guid}/markup.bcf", new MarkupWriter(version).Write(named));
        var views = new ViewInfoWriter(version);
        // Two viewpoints that name one file show the same.
        foreach (var v in named.Viewpoints.Where(v => v.Info is not null).DistinctBy(v => v.File))
            entries.Add($"{topic.Guid}/{v.File}", views.Write(v.Info!, v.Guid));
        foreach (var part in topic.Parts)
            entries.Add($"{topic.Guid}/{part.Name}", part);
    }

    // A view without the name of a file would not be found again.
    private static Viewpoint Named(Viewpoint v, int number) =>
        v.Info is null ? v
        : v.File is { Length: > 0 } file ? v with { File = file.Replace('\\', '/') }
        : v with
        {
            File = v.Guid.All(c => char.IsAsciiLetterOrDigit(c) || c == '-')
                ? $"{v.Guid}.bcfv"
                : $"viewpoint-{number}.bcfv",
        };

    // A damaged file that is carried may have the name of one that is written.
    private sealed class Entries(ZipArchive zip, CancellationToken cancel)
    {
        private readonly HashSet<string> _names = new(StringComparer.OrdinalIgnoreCase);

        public void Add(string name, XElement root)
        {
            using var entry = Entry(name, CompressionLevel.Optimal).Open();
            entry.Write(SafeXml.Write(root));
        }

        public void Add(string name, TopicPart part)
        {
            // A picture does not get smaller.
            var level = part.IsPicture ? CompressionLevel.NoCompression : CompressionLevel.Optimal;
            using var entry = Entry(name, level).Open();
            part.CopyTo(entry, cancel);
        }

        private ZipArchiveEntry Entry(string name, CompressionLevel level)
        {
            cancel.ThrowIfCancellationRequested();
            string free = name;
            for (int n = 2; !_names.Add(free); n++)
                free = $"{name}-{n}";
            var entry = zip.CreateEntry(free, level);
            entry.LastWriteTime = Written;
            return entry;
        }
    }
}

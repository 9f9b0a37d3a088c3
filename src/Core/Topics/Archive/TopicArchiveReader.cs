using System.IO.Compression;
using System.Text;
using System.Xml;
using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>Reads <c>.bcf</c> and <c>.bcfzip</c> files of 2.0, 2.1 and 3.0. The archive must stay open as long as parts are
/// copied.</summary>
public static class TopicArchiveReader
{
    /// <summary>Reads an archive.</summary>
    /// <param name="zip">The archive.</param>
    /// <param name="limits">Limits; null for the usual ones.</param>
    /// <param name="cancel">Stops between files.</param>
    /// <exception cref="DeliveryException">It is no BCF file, is damaged, or a limit is exceeded.</exception>
    public static TopicArchive Read(ZipArchive zip, TopicLimits? limits = null, CancellationToken cancel = default)
    {
        try
        {
            return new Reading(zip, limits ?? new TopicLimits(), cancel).Run();
        }
        catch (InvalidDataException)
        {
            throw new DeliveryException("The topic file is damaged; ask for it to be sent again.");
        }
    }

    /// <summary>Opens an archive; it is the caller's to dispose.</summary>
    /// <param name="stream">A seekable stream.</param>
    /// <exception cref="DeliveryException">It is no ZIP archive.</exception>
    public static ZipArchive Open(Stream stream)
    {
        try
        {
            return new ZipArchive(stream, ZipArchiveMode.Read, leaveOpen: false, Encoding.UTF8);
        }
        catch (InvalidDataException)
        {
            throw new DeliveryException("This is no BCF file: topics come as .bcf or .bcfzip, a ZIP archive.");
        }
    }

    private sealed class Reading(ZipArchive zip, TopicLimits limits, CancellationToken cancel)
    {
        private readonly FindingList _findings = new();
        private readonly Dictionary<string, ZipArchiveEntry> _root = new(StringComparer.OrdinalIgnoreCase);
        private readonly Dictionary<string, Dictionary<string, ZipArchiveEntry>> _folders = [];

        // Folders in the order of the archive: the order of the topics.
        private readonly List<string> _order = [];
        private readonly List<TopicPart> _parts = [];

        public TopicArchive Run()
        {
            Sort();
            if (!_root.ContainsKey("bcf.version") && !_folders.Values.Any(f => f.ContainsKey("markup.bcf")))
                throw new DeliveryException(
                    "This is no BCF file: it has neither bcf.version nor a folder with markup.bcf."
                );
            var version = Version();
            var archive = Project(new TopicArchive { Version = version });
            var topics = Topics();
            foreach (string name in _root.Keys.Order(StringComparer.Ordinal))
                _parts.Add(Part(_root[name], name));
            archive = archive with { Topics = topics, Parts = _parts };
            TopicChecks.Add(archive, _findings);
            return archive with { Findings = _findings.ToList() };
        }

        private void Sort()
        {
            if (zip.Entries.Count > limits.MaxEntries)
                throw new DeliveryException($"The topic file holds more than {limits.MaxEntries} files.");
            if (zip.Entries.Sum(e => e.Length) > limits.MaxBytes)
                throw new DeliveryException($"The topic file unpacks to more than {limits.MaxBytes / 1_000_000} MB.");
            foreach (var entry in zip.Entries)
                Sort(entry);
        }

        private void Sort(ZipArchiveEntry entry)
        {
            string name = entry.FullName.Replace('\\', '/');
            if (name.EndsWith('/'))
                return;
            string[] steps = name.Split('/');
            if (steps.Any(s => s is "" or "." or "..") || name.Any(c => c < ' ' || c == ':'))
            {
                _findings.Add(
                    "BCF-NAME-WRONG",
                    Severity.Error,
                    n => $"{n} files of the archive have names that lead out of it; they are left out.",
                    Place(entry.FullName)
                );
                return;
            }

            string folder = steps.Length == 1 || IsDocument(steps) ? "" : steps[0];
            var entries = _root;
            if (folder.Length > 0 && !_folders.TryGetValue(folder, out entries))
            {
                _folders[folder] = entries = new(StringComparer.OrdinalIgnoreCase);
                _order.Add(folder);
            }

            if (!entries!.TryAdd(folder.Length == 0 ? name : name[(folder.Length + 1)..], entry))
                _findings.Add(
                    "BCF-NAME-DUPLICATE",
                    Severity.Warning,
                    n => $"{n} files of the archive have the name of another; the first of each was read.",
                    Place(name)
                );
        }

        private static bool IsDocument(string[] steps) =>
            steps[0].Equals("documents", StringComparison.OrdinalIgnoreCase);

        private TopicVersion Version()
        {
            string? text = Xml("bcf.version") is { } root
                ? root.Attribute("VersionId")?.Value ?? root.Element("DetailedVersion")?.Value
                : null;
            if (TopicVersions.Read(text) is { } version)
                return version;
            _findings.Add(
                "BCF-VERSION-UNKNOWN",
                Severity.Warning,
                _ =>
                    $"The file says {(text is null ? "no version" : $"version '{text}'")}; it was read as what its files look like.",
                null
            );
            return _root.ContainsKey("extensions.xml") ? TopicVersion.V30 : TopicVersion.V21;
        }

        private TopicArchive Project(TopicArchive archive)
        {
            string schema = "extensions.xsd";
            if (Xml("project.bcfp") is { } root)
            {
                var fields = new ElementFields(root);
                if (fields.One("Project") is { } project)
                {
                    var inner = new ElementFields(project);
                    archive = archive with
                    {
                        ProjectId = inner.Attribute("ProjectId"),
                        ProjectName = inner.Text("Name"),
                    };
                    fields.TakeList(project, inner);
                }

                schema = fields.Text("ExtensionSchema") is { Length: > 0 } named ? named : schema;
                archive = archive with { ProjectExtras = fields.Rest() };
            }

            if (Xml("extensions.xml") is { } extensions)
                archive = archive with { Extensions = ExtensionsFile.Read(extensions) };
            else if (Xml(schema) is { } words)
                archive = archive with { Extensions = ExtensionsFile.ReadSchema(words) };
            return Xml("documents.xml") is { } documents ? Documents(archive, documents) : archive;
        }

        private static TopicArchive Documents(TopicArchive archive, System.Xml.Linq.XElement root) =>
            archive with
            {
                Documents =
                [
                    .. root.Descendants("Document")
                        .Where(d => d.Attribute("Guid") is not null)
                        .Select(d => new TopicDocument(
                            d.Attribute("Guid")!.Value,
                            d.Element("Filename")?.Value,
                            d.Element("Description")?.Value
                        )),
                ],
            };

        private List<Topic> Topics()
        {
            var topics = new List<Topic>();
            var seen = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            foreach (string folder in _order)
            {
                cancel.ThrowIfCancellationRequested();
                var entries = _folders[folder];
                if (Read(folder, entries) is { } topic && (seen.Add(topic.Guid) || Twice(folder, topic)))
                    topics.Add(topic);
                else
                    foreach (var (name, entry) in entries)
                        _parts.Add(Part(entry, $"{folder}/{name}"));
            }

            return topics;
        }

        // Two folders with the same topic cannot both be a topic: the second is carried as files.
        private bool Twice(string folder, Topic topic)
        {
            _findings.Add(
                "BCF-TOPIC-DUPLICATE",
                Severity.Error,
                n =>
                    $"{n} topics have the GUID of another; the first of each was read, the others are carried as files.",
                Place(folder, topic.Guid)
            );
            return false;
        }

        private Topic? Read(string folder, Dictionary<string, ZipArchiveEntry> entries)
        {
            if (!entries.TryGetValue("markup.bcf", out var markup))
                return null;
            try
            {
                var topic = MarkupReader.Read(SafeXml.Read(Bytes(markup, limits.MaxXmlBytes)));
                var left = new Dictionary<string, ZipArchiveEntry>(entries, entries.Comparer);
                left.Remove("markup.bcf");
                var views = topic.Viewpoints.Select(v => v with { Info = Info(folder, v, entries, left) }).ToList();
                return topic with { Viewpoints = views, Parts = [.. left.Select(e => Part(e.Value, e.Key))] };
            }
            catch (Exception e) when (e is XmlException or DeliveryException)
            {
                _findings.Add(
                    "BCF-MARKUP-DAMAGED",
                    Severity.Error,
                    n => $"{n} topics cannot be read; their folders are carried as files. Ask for them again.",
                    Place($"{folder}/markup.bcf: {e.Message}")
                );
                return null;
            }
        }

        private ViewInfo? Info(
            string folder,
            Viewpoint viewpoint,
            Dictionary<string, ZipArchiveEntry> entries,
            Dictionary<string, ZipArchiveEntry> left
        )
        {
            // 2.0 and 2.1 call it viewpoint.bcfv where the markup does not say.
            string name = viewpoint.File is { Length: > 0 } file ? file.Replace('\\', '/') : "viewpoint.bcfv";
            if (IsMarkup(name) || !entries.TryGetValue(name, out var entry))
                return null;
            try
            {
                var info = ViewInfoReader.Read(SafeXml.Read(Bytes(entry, limits.MaxXmlBytes)));
                left.Remove(name);
                return info;
            }
            catch (Exception e) when (e is XmlException or DeliveryException)
            {
                _findings.Add(
                    "BCF-VIEWPOINT-DAMAGED",
                    Severity.Error,
                    n => $"{n} viewpoints cannot be read; their files are carried as they are.",
                    Place($"{folder}/{name}: {e.Message}")
                );
                return null;
            }
        }

        private static bool IsMarkup(string name) => name.Equals("markup.bcf", StringComparison.OrdinalIgnoreCase);

        // A file of the root as XML; what cannot be read is carried.
        private System.Xml.Linq.XElement? Xml(string name)
        {
            if (!_root.TryGetValue(name, out var entry))
                return null;
            try
            {
                var root = SafeXml.Read(Bytes(entry, limits.MaxXmlBytes));
                _root.Remove(name);
                return root;
            }
            catch (Exception e) when (e is XmlException or DeliveryException)
            {
                _findings.Add(
                    "BCF-FILE-DAMAGED",
                    Severity.Error,
                    n => $"{n} files about the project cannot be read; they are carried as they are.",
                    Place($"{name}: {e.Message}")
                );
                return null;
            }
        }

        private byte[] Bytes(ZipArchiveEntry entry, long max)
        {
            using var stream = new MemoryStream();
            ZipEntries.Copy(entry, stream, max, cancel);
            return stream.ToArray();
        }

        private TopicPart Part(ZipArchiveEntry entry, string name) =>
            new(
                name,
                entry.Length,
                (target, stop) => ZipEntries.Copy(entry, target, Math.Min(entry.Length, limits.MaxPartBytes), stop),
                () => Head(entry)
            );

        private static byte[] Head(ZipArchiveEntry entry)
        {
            byte[] head = new byte[8];
            try
            {
                using var packed = entry.Open();
                return head[..packed.ReadAtLeast(head, head.Length, false)];
            }
            catch (InvalidDataException)
            {
                return [];
            }
        }

        private static FindingElement Place(string detail, string guid = "") => new(guid, 0, "", "", detail);
    }
}
